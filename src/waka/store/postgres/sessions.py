"""Sessions, the browsers that were logged in before, and log-ins that are counted to slow them down."""

from collections.abc import Sequence

from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one

#: A session that no person used for so long has ended.
IDLE_HOURS = 8
#: Tries are forgotten after that.
_FORGOTTEN = "15 minutes"
#: When a session was last used is written down at most so often.
_SEEN_SECONDS = 60


def open_session(conn: Connection, token_hash: bytes, person: int, csrf: str, hours: int) -> int:
    """A new session; its id."""
    row = fetch_one(
        conn,
        "INSERT INTO login_session (token_hash, person, csrf, ends_at) VALUES (%s, %s, %s, now() + make_interval(hours => %s))"
        " RETURNING id",
        [token_hash, person, csrf, hours],
    )
    return int(row["id"]) if row else 0


def session_by_token(conn: Connection, token_hash: bytes) -> Row | None:
    """The session with its person, where it has not ended and the person is active; ``stale``: that it is used was not kept lately."""
    return fetch_one(
        conn,
        """SELECT s.id, s.csrf, s.person, q.name, p.login, p.administrator, s.seen_at < now() - make_interval(secs => %s) AS stale
        FROM login_session s JOIN person p ON p.id = s.person JOIN principal q ON q.id = p.id
        WHERE s.token_hash = %s AND s.ends_at > now() AND s.seen_at > now() - make_interval(hours => %s) AND p.active""",
        [_SEEN_SECONDS, token_hash, IDLE_HOURS],
    )


def see_session(conn: Connection, session: int) -> None:
    """A person has just used the session."""
    execute(conn, "UPDATE login_session SET seen_at = now() WHERE id = %s", [session])


def close_session(conn: Connection, token_hash: bytes) -> None:
    """End a session, and forget those that ended by themselves."""
    execute(
        conn,
        "DELETE FROM login_session WHERE token_hash = %s OR ends_at < now() OR seen_at < now() - make_interval(hours => %s)",
        [token_hash, IDLE_HOURS],
    )


def knows_browser(conn: Connection, token_hash: bytes, person: int | None) -> bool:
    """Whether the person (None: anybody) was logged in with this browser before."""
    row = fetch_one(
        conn,
        "SELECT 1 FROM known_browser WHERE token_hash = %s AND person = coalesce(%s, person) LIMIT 1",
        [token_hash, person],
    )
    return row is not None


def know_browser(conn: Connection, token_hash: bytes, person: int) -> None:
    """The person is logged in with this browser."""
    execute(
        conn,
        """INSERT INTO known_browser (token_hash, person) VALUES (%s, %s)
        ON CONFLICT (token_hash, person) DO UPDATE SET seen_at = now()""",
        [token_hash, person],
    )
    execute(conn, "DELETE FROM known_browser WHERE seen_at < now() - interval '400 days'")


def tries(conn: Connection, counted: Sequence[str]) -> list[Row]:
    """What is counted under these keys, locked until the transaction ends: tries so far, and seconds until one more may be made."""
    execute(
        conn,
        f"""DELETE FROM login_try WHERE counted IN (SELECT counted FROM login_try
            WHERE at < now() - interval '{_FORGOTTEN}' AND free_at < now() FOR UPDATE SKIP LOCKED)""",
    )
    execute(
        conn,
        "INSERT INTO login_try (counted, tries) SELECT k, 0 FROM unnest(%s::text[]) k ORDER BY k ON CONFLICT DO NOTHING",
        [list(counted)],
    )
    return fetch_all(
        conn,
        """SELECT counted, tries, greatest(0, extract(epoch FROM free_at - clock_timestamp()))::float AS wait
        FROM login_try WHERE counted = ANY(%s::text[]) ORDER BY counted FOR UPDATE""",
        [list(counted)],
    )


def count_try(conn: Connection, counted: str, pause_seconds: float) -> None:
    """One more try under a key; the next one may be made after ``pause_seconds``."""
    execute(
        conn,
        """UPDATE login_try SET tries = tries + 1, at = clock_timestamp(),
            free_at = clock_timestamp() + make_interval(secs => %s) WHERE counted = %s""",
        [pause_seconds, counted],
    )


def forget_tries(conn: Connection, counted: Sequence[str]) -> None:
    """A log-in succeeded: what was counted under these keys is forgotten."""
    execute(conn, "DELETE FROM login_try WHERE counted = ANY(%s::text[])", [list(counted)])


def uncount_try(conn: Connection, counted: str) -> None:
    """A try was none that failed."""
    execute(
        conn,
        "UPDATE login_try SET tries = greatest(tries - 1, 0), free_at = clock_timestamp() WHERE counted = %s",
        [counted],
    )
