"""The trail of the office, for administrators."""

from datetime import date

from waka.store.postgres import office_trail
from waka.store.postgres.database import Row
from waka.work.accounts.office import require_administrator
from waka.work.actor import Actor
from waka.work.drive import Drive


def rows(
    drive: Drive,
    actor: Actor,
    *,
    who: int | None,
    code: str | None,
    since: date | None,
    until: date | None,
    before: int | None,
    limit: int,
) -> list[Row]:
    """Lines of the trail, the newest first: of one person, one code, a span of days (UTC)."""  # fmt: skip
    require_administrator(actor)
    with drive.database.transaction() as conn:
        return office_trail.rows(conn, who=who, code=code, since=since, until=until, before=before, limit=limit)
