"""Sessions, the browsers that were logged in before, and log-ins that are counted to slow them down."""

from collections.abc import Sequence

from waka.store.postgres.access import TODAY
from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one

#: A session that no person used for so long has ended.
IDLE_HOURS = 8
#: Tries are forgotten after that.
_FORGOTTEN = "15 minutes"
#: When a session was last used is written down at most so often.
_SEEN_SECONDS = 60


#: A session between the password and the second factor is good for so long.
_HALF_MINUTES = 10
#: For so long after the password was asked for it is not asked for again.
_PROVED_MINUTES = 10


def open_session(
    conn: Connection,
    token_hash: bytes,
    person: int,
    csrf: str,
    hours: int,
    *,
    half: bool = False,
    address: str = "",
    browser: str = "",
) -> int:
    """A new session; its id. ``half``: the second factor is still asked for, and it has no right until then."""
    row = fetch_one(
        conn,
        """INSERT INTO login_session (token_hash, person, csrf, ends_at, half, address, browser)
        VALUES (%s, %s, %s, now() + make_interval(hours => %s), %s, %s, %s) RETURNING id""",
        [token_hash, person, csrf, hours, half, address[:60], browser[:200]],
    )
    return int(row["id"]) if row else 0


def session_by_token(conn: Connection, token_hash: bytes, *, half: bool = False) -> Row | None:
    """The session with its person, where it has not ended and the person is there; ``stale``: that it is used was not kept lately.

    ``half``: one that still asks for the second factor, instead of one that is whole.
    """
    idle = f"make_interval(mins => {_HALF_MINUTES})" if half else f"make_interval(hours => {IDLE_HOURS})"
    return fetch_one(
        conn,
        f"""SELECT s.id, s.csrf, s.person, s.address, s.browser, q.name, p.login, p.administrator,
            s.seen_at < now() - make_interval(secs => {_SEEN_SECONDS}) AS stale,
            s.proved_at > now() - make_interval(mins => {_PROVED_MINUTES}) AS proved
        FROM login_session s JOIN person p ON p.id = s.person JOIN principal q ON q.id = p.id
        WHERE s.token_hash = %s AND s.ends_at > now() AND s.seen_at > now() - {idle} AND s.half = %s
            AND p.active AND coalesce(p.ends_on, 'infinity') >= {TODAY}""",
        [token_hash, half],
    )


def renew_session(conn: Connection, session: int, token_hash: bytes, csrf: str) -> None:
    """The session goes on, whole, under another token: whoever knew the one before has nothing by it."""
    execute(
        conn,
        "UPDATE login_session SET token_hash = %s, csrf = %s, half = false, proved_at = now(), seen_at = now() WHERE id = %s",
        [token_hash, csrf, session],
    )


def prove_session(conn: Connection, session: int) -> None:
    """The password was asked for just now."""
    execute(conn, "UPDATE login_session SET proved_at = now() WHERE id = %s", [session])


def sessions_of(conn: Connection, person: int) -> list[Row]:
    """A person's sessions that have not ended, the one used last first."""
    return fetch_all(
        conn,
        f"""SELECT id, created_at, seen_at, address, browser FROM login_session WHERE person = %s AND NOT half
        AND ends_at > now() AND seen_at > now() - make_interval(hours => {IDLE_HOURS}) ORDER BY seen_at DESC, id DESC""",
        [person],
    )


def end_session(conn: Connection, person: int, session: int) -> bool:
    """End one session of a person; False where it is none of theirs."""
    return execute(conn, "DELETE FROM login_session WHERE person = %s AND id = %s", [person, session]) > 0


def end_sessions(conn: Connection, person: int, *, but: int | None = None) -> int:
    """End a person's sessions, but one; browsers that knew them know them no more, where all end. How many sessions."""
    if but is None:
        execute(conn, "DELETE FROM known_browser WHERE person = %s", [person])
    return execute(conn, "DELETE FROM login_session WHERE person = %s AND id IS DISTINCT FROM %s", [person, but])


def see_session(conn: Connection, session: int) -> None:
    """A person has just used the session."""
    execute(
        conn,
        """WITH seen AS (UPDATE login_session SET seen_at = now() WHERE id = %s RETURNING person)
        UPDATE person SET seen_at = now() FROM seen WHERE person.id = seen.person""",
        [session],
    )


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
