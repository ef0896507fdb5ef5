"""What a person has in hand, and giving it to somebody else."""

from waka.store.postgres.database import Connection, execute, fetch_one, jsonb
from waka.words.sentence import Kept

_WAITING = "state IN ('planned', 'checked', 'queued')"


def counts(conn: Connection, person: int) -> dict[str, int]:
    """How many arrivals they have claimed, things in hand, waiting manifests, watched folders."""
    row = fetch_one(
        conn,
        f"""SELECT (SELECT count(*) FROM arrival WHERE claimed_by = %(p)s AND claimed_until > now()) AS claims,
            (SELECT count(*) FROM in_hand WHERE person = %(p)s) AS "in hand",
            (SELECT count(*) FROM manifest WHERE coalesce(ran_by, by) = %(p)s AND {_WAITING}) AS "waiting manifests",
            (SELECT count(*) FROM watched WHERE by = %(p)s) AS "watched folders" """,
        {"p": person},
    )
    return dict(row or {})


def hand_over(conn: Connection, person: int, to: int, why: Kept) -> None:
    """Claims, what is in hand and watched folders are ``to``'s now; waiting manifests are stopped, those that run are asked to stop."""
    both = {"p": person, "to": to, "why": jsonb(why)}
    execute(conn, "UPDATE arrival SET claimed_by = %(to)s WHERE claimed_by = %(p)s", both)
    execute(
        conn,
        "INSERT INTO in_hand SELECT %(to)s, entry, at FROM in_hand WHERE person = %(p)s ON CONFLICT DO NOTHING",
        both,
    )
    execute(conn, "DELETE FROM in_hand WHERE person = %(p)s", both)
    execute(conn, "UPDATE watched SET by = %(to)s WHERE by = %(p)s", both)
    execute(
        conn,
        """INSERT INTO stop_asked SELECT id FROM manifest WHERE coalesce(ran_by, by) = %(p)s AND state IN ('running', 'undoing')
        ON CONFLICT DO NOTHING""",
        both,
    )
    execute(
        conn,
        f"UPDATE manifest SET state = 'stopped', problem = %(why)s, ended_at = now() WHERE coalesce(ran_by, by) = %(p)s AND {_WAITING}",
        both,
    )
