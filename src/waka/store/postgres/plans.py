"""The filing plans of areas, in revisions that are never changed."""

from psycopg.types.json import Jsonb

from waka.core.plan.area_plan import AreaPlan
from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one


def plan_of(conn: Connection, area: int) -> AreaPlan:
    """The newest filing plan of an area; an empty one where it has none."""
    row = fetch_one(conn, "SELECT plan FROM plan_revision WHERE area = %s ORDER BY revision DESC LIMIT 1", [area])
    return AreaPlan.from_json(row["plan"]) if row else AreaPlan()


def add_plan_revision(conn: Connection, area: int, plan: AreaPlan, by: int | None) -> None:
    """A new revision of an area's filing plan."""
    execute(
        conn,
        """INSERT INTO plan_revision (area, revision, plan, by)
        SELECT %(a)s, coalesce(max(revision), 0) + 1, %(p)s, %(by)s FROM plan_revision WHERE area = %(a)s""",
        {"a": area, "p": Jsonb(plan.to_json()), "by": by},
    )


def plan_revisions(conn: Connection, area: int, limit: int = 50) -> list[Row]:
    """The revisions of an area's plan, the newest first: number, when, by whom, the plan."""
    return fetch_all(
        conn,
        """SELECT r.revision, r.at, r.plan, p.name AS by_name FROM plan_revision r LEFT JOIN principal p ON p.id = r.by
        WHERE r.area = %s ORDER BY r.revision DESC LIMIT %s""",
        [area, limit],
    )


def month_first(conn: Connection, area: int | None) -> bool:
    """Whether dates that read two ways are taken as month before day: as the area's plan has it; for none, as all plans have it."""
    row = fetch_one(
        conn,
        """SELECT coalesce(bool_and(coalesce((plan -> 'dates' ->> 'month_first')::bool, false)), false) AS so FROM (
            SELECT DISTINCT ON (area) plan FROM plan_revision JOIN folder ON folder.id = area
            WHERE %(a)s::bigint IS NULL OR area = %(a)s
            ORDER BY area, revision DESC) newest""",
        {"a": area},
    )
    return bool(row and row["so"])


def plan_at(conn: Connection, area: int, revision: int) -> AreaPlan | None:
    """The plan as one revision has it."""
    row = fetch_one(conn, "SELECT plan FROM plan_revision WHERE area = %s AND revision = %s", [area, revision])
    return AreaPlan.from_json(row["plan"]) if row else None


def lock_plan(conn: Connection, area: int) -> Row | None:
    """The newest revision of an area's plan; nobody else changes the plan until the transaction ends."""
    execute(conn, "SELECT 1 FROM folder WHERE id = %s FOR NO KEY UPDATE", [area])
    rows = plan_revisions(conn, area, 1)
    return rows[0] if rows else None
