"""What people gave each other below the areas: folders and single documents, with the word that went along."""

from waka.core.access.permissions import Permissions
from waka.store.postgres.access import ROOT, TODAY
from waka.store.postgres.database import Connection, Row, execute, fetch_all
from waka.store.postgres.documents import SHOWN_PLACE

#: A grant on a document, or on a folder below an area's top, which counts today; and the thing as the asker may read it.
_GIVEN = f"""SELECT g.id, g.folder, g.document, g.level, g.until, g.word, g.given_at, g.given_by, b.name AS given_by_name,
        g.principal, w.name AS whom, w.kind AS whom_kind, coalesce(e.name, d.name) AS name, d.parent AS within, s.kind,
        s.issued, x.extension, n.person IS NULL AS fresh
    FROM access_grant g JOIN principal w ON w.id = g.principal LEFT JOIN principal b ON b.id = g.given_by
    LEFT JOIN folder f ON f.id = g.folder LEFT JOIN entry e ON e.folder = g.folder
    LEFT JOIN search_row s ON s.document = g.document LEFT JOIN document x ON x.id = g.document
    LEFT JOIN LATERAL ({SHOWN_PLACE.format(document="g.document")}) d ON g.document IS NOT NULL
    LEFT JOIN grant_seen n ON n.access_grant = g.id AND n.person = %(me)s
    WHERE coalesce(g.until, 'infinity') >= {TODAY} AND reached(coalesce(f.access_class, s.access_class), %(r)s)
      AND (g.document IS NOT NULL OR (g.folder <> {ROOT} AND e.parent <> {ROOT}))"""


def with_me(conn: Connection, permissions: Permissions) -> list[Row]:
    """What others gave to the person, or to a group that they are in, the newest first; ``fresh`` until it was seen."""
    return fetch_all(
        conn,
        f"""{_GIVEN} AND g.given_by IS DISTINCT FROM %(me)s
        AND g.principal IN (SELECT principal FROM person_principal WHERE person = %(me)s) ORDER BY g.given_at DESC, g.id DESC LIMIT 1000""",
        {"me": permissions.person, "r": permissions.readable},
    )


def by_me(conn: Connection, permissions: Permissions) -> list[Row]:
    """What the person gave to others, the newest first."""
    return fetch_all(
        conn,
        f"""{_GIVEN} AND g.given_by = %(me)s AND g.principal <> %(me)s ORDER BY g.given_at DESC, g.id DESC LIMIT 1000""",
        {"me": permissions.person, "r": permissions.readable},
    )


def count_fresh(conn: Connection, permissions: Permissions) -> int:
    """How many things were given to the person that they have not looked at yet."""
    return sum(1 for row in with_me(conn, permissions) if row["fresh"])


def see(conn: Connection, person: int, grants: list[int]) -> None:
    """The person has looked at these."""
    execute(
        conn,
        """INSERT INTO grant_seen SELECT %s, g.id FROM access_grant g WHERE g.id = ANY(%s::bigint[]) ON CONFLICT DO NOTHING""",
        [person, grants],
    )
