"""Groups: who is in them, and what each person acts as for it.

A group may hold groups. ``person_principal`` is derived: a membership that comes or goes changes it for the people below
it only, in the same transaction, under one lock, so that two changes at once cannot make a circle.
"""

from waka.store.postgres.database import Connection, execute, fetch_all, fetch_one


class Circle(Exception):
    """The group would hold itself, through the group that is to be put into it."""


def add_group(conn: Connection, name: str) -> int:
    """A new group without members; its id as a principal."""
    row = fetch_one(conn, "INSERT INTO principal (kind, name) VALUES ('group', %s) RETURNING id", [name])
    assert row is not None  # noqa: S101 - INSERT … RETURNING gives a row
    return int(row["id"])


def put_in(conn: Connection, group: int, member: int) -> None:
    """Put a person or a group into a group; nothing happens where it is in it. Raises Circle."""
    _lock(conn)
    if member == group or group in _below(conn, member):
        raise Circle(group)
    execute(conn, "INSERT INTO membership (member, group_id) VALUES (%s, %s) ON CONFLICT DO NOTHING", [member, group])
    _derive(conn, member)


def take_out(conn: Connection, group: int, member: int) -> None:
    """Take a person or a group out of a group; nothing happens where it is not in it."""
    _lock(conn)
    execute(conn, "DELETE FROM membership WHERE member = %s AND group_id = %s", [member, group])
    _derive(conn, member)


def _lock(conn: Connection) -> None:
    """One change of memberships at a time, until the transaction ends."""
    execute(conn, "SELECT pg_advisory_xact_lock(hashtext('waka groups'))")


_BELOW = """below(id) AS (
    SELECT %(member)s::bigint UNION SELECT m.member FROM membership m JOIN below b ON m.group_id = b.id
)"""


def _below(conn: Connection, member: int) -> set[int]:
    """A principal and all that it holds, through others too."""
    return {row["id"] for row in fetch_all(conn, f"WITH RECURSIVE {_BELOW} SELECT id FROM below", {"member": member})}


def _derive(conn: Connection, member: int) -> None:
    """Write anew what the people at or below ``member`` act as."""
    execute(
        conn,
        f"""WITH RECURSIVE {_BELOW}, whom AS MATERIALIZED (SELECT p.id FROM person p JOIN below b ON b.id = p.id),
        acts(person, principal) AS (
            SELECT id, id FROM whom UNION SELECT a.person, m.group_id FROM acts a JOIN membership m ON m.member = a.principal
        ), gone AS (
            DELETE FROM person_principal p USING whom w WHERE p.person = w.id
            AND NOT EXISTS (SELECT FROM acts a WHERE a.person = p.person AND a.principal = p.principal)
        )
        INSERT INTO person_principal (person, principal) SELECT person, principal FROM acts ON CONFLICT DO NOTHING""",
        {"member": member},
    )
