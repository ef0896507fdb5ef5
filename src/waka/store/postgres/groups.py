"""Groups: who is in them, and what each person acts as for it.

A group may hold groups. ``person_principal`` is derived: a membership that comes or goes changes it for the people below
it only, in the same transaction, under one lock, so that two changes at once cannot make a circle.
"""

from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one


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


def group_by_id(conn: Connection, group: int, *, lock: bool = False) -> Row | None:
    """A group by number; locked until the transaction ends where asked."""
    locking = " FOR UPDATE" if lock else ""
    return fetch_one(
        conn, f"SELECT id, name FROM principal WHERE id = %s AND kind = 'group' AND NOT removed{locking}", [group]
    )


def all_groups(conn: Connection) -> list[Row]:
    """All groups by name, with how many people act as each, themselves or through groups in it."""
    return fetch_all(
        conn,
        """SELECT g.id, g.name, (SELECT count(*) FROM person_principal a JOIN person p ON p.id = a.person AND p.active
            WHERE a.principal = g.id) AS people FROM principal g WHERE g.kind = 'group' AND NOT g.removed ORDER BY lower(g.name), g.id""",
    )


def members_of(conn: Connection, group: int) -> list[Row]:
    """Who and what is in a group directly: groups first, then people, by name; the log-in of people beside the name."""
    return fetch_all(
        conn,
        """SELECT q.id, q.kind, q.name, p.login FROM membership m JOIN principal q ON q.id = m.member LEFT JOIN person p ON p.id = q.id
        WHERE m.group_id = %s ORDER BY q.kind, lower(q.name), q.id""",
        [group],
    )


def groups_of(conn: Connection, member: int) -> list[Row]:
    """The groups that hold a person or a group directly, by name."""
    return fetch_all(
        conn,
        """SELECT g.id, g.name FROM membership m JOIN principal g ON g.id = m.group_id WHERE m.member = %s
        ORDER BY lower(g.name), g.id""",
        [member],
    )


def name_taken(conn: Connection, name: str, *, but: int | None = None) -> bool:
    """Whether another group has this name, whatever the case."""
    return (
        fetch_one(
            conn,
            "SELECT 1 AS yes FROM principal WHERE kind = 'group' AND NOT removed AND lower(name) = lower(%s) AND id IS DISTINCT FROM %s LIMIT 1",
            [name, but],
        )
        is not None
    )


def rename_group(conn: Connection, group: int, name: str) -> None:
    """Give a group another name."""
    execute(conn, "UPDATE principal SET name = %s WHERE id = %s AND kind = 'group'", [name, group])


def remove_group(conn: Connection, group: int) -> None:
    """Take away a group that holds nothing, is held by nothing and was given nothing: see ``uses``. Its name stays in trails."""
    execute(conn, "UPDATE principal SET removed = true WHERE id = %s AND kind = 'group'", [group])


def uses(conn: Connection, group: int) -> Row:
    """How many principals a group holds, how many groups hold it, how often something was given to it."""
    row = fetch_one(
        conn,
        """SELECT (SELECT count(*) FROM membership WHERE group_id = %(g)s) AS members,
            (SELECT count(*) FROM membership WHERE member = %(g)s) AS groups,
            (SELECT count(*) FROM access_grant WHERE principal = %(g)s) AS grants""",
        {"g": group},
    )
    return row or {}


def opened_by(conn: Connection, group: int) -> list[Row]:
    """The restricted folders that whoever is in a group may read for it, with the people who keep them for always."""
    return fetch_all(
        conn,
        """WITH RECURSIVE up(id) AS (SELECT %s::bigint UNION SELECT m.group_id FROM membership m JOIN up ON m.member = up.id)
        SELECT f.id AS folder, e.name, array(SELECT DISTINCT a.person FROM access_grant k
                JOIN person_principal a ON a.principal = k.principal JOIN person p ON p.id = a.person AND p.active
                WHERE k.folder = f.id AND k.level = 4) AS keepers
        FROM folder f JOIN entry e ON e.folder = f.id
        WHERE f.restricted AND EXISTS (SELECT FROM access_grant g JOIN up ON up.id = g.principal WHERE g.folder = f.id) ORDER BY f.id""",
        [group],
    )
