"""Second factors (sealed secrets, RFC 6238), recovery codes (hashes), and the passwords of programs (keyed hashes)."""

from collections.abc import Sequence

from waka.store.postgres.access import TODAY
from waka.store.postgres.database import Connection, Row, execute, fetch_all, fetch_one


def begin(conn: Connection, person: int, sealed: bytes) -> None:
    """A secret that is not confirmed yet; one that is stays until then. Nothing happens where the person has a confirmed one."""
    execute(
        conn,
        """INSERT INTO second_factor (person, sealed) VALUES (%s, %s)
        ON CONFLICT (person) DO UPDATE SET sealed = excluded.sealed, last_step = 0 WHERE NOT second_factor.confirmed""",
        [person, sealed],
    )


def factor(conn: Connection, person: int, *, confirmed: bool) -> Row | None:
    """The second factor of a person, locked until the transaction ends: so no step is taken twice."""
    return fetch_one(
        conn,
        "SELECT sealed, last_step FROM second_factor WHERE person = %s AND confirmed = %s FOR UPDATE",
        [person, confirmed],
    )


def use_step(conn: Connection, person: int, step: int) -> None:
    """A code of this step was used; with it the factor is confirmed."""
    execute(conn, "UPDATE second_factor SET last_step = %s, confirmed = true WHERE person = %s", [step, person])


def remove(conn: Connection, person: int) -> bool:
    """No second factor and no recovery codes any more; False where there was none."""
    execute(conn, "DELETE FROM recovery_code WHERE person = %s", [person])
    return execute(conn, "DELETE FROM second_factor WHERE person = %s", [person]) > 0


def put_recovery_codes(conn: Connection, person: int, hashes: Sequence[bytes]) -> None:
    """New recovery codes in place of those before."""
    execute(conn, "DELETE FROM recovery_code WHERE person = %s", [person])
    execute(conn, "INSERT INTO recovery_code SELECT h, %s FROM unnest(%s::bytea[]) h", [person, list(hashes)])


def spend_recovery_code(conn: Connection, person: int, code_hash: bytes) -> bool:
    """Use a recovery code up; False where it is none. Of two at once one gets it."""
    return execute(conn, "DELETE FROM recovery_code WHERE person = %s AND code_hash = %s", [person, code_hash]) > 0


def recovery_codes_left(conn: Connection, person: int) -> int:
    """How many recovery codes a person has left."""
    row = fetch_one(conn, "SELECT count(*) AS n FROM recovery_code WHERE person = %s", [person])
    return int(row["n"]) if row else 0


def add_app_password(conn: Connection, person: int, name: str, token_hash: bytes, scope: str) -> int:
    """A program's password; its number."""
    row = fetch_one(
        conn,
        "INSERT INTO app_password (person, name, token_hash, scope) VALUES (%s, %s, %s, %s) RETURNING id",
        [person, name, token_hash, scope],
    )
    return int(row["id"]) if row else 0


def app_passwords(conn: Connection, person: int) -> list[Row]:
    """The programs' passwords of a person, the newest first."""
    return fetch_all(
        conn, "SELECT id, name, scope, made_at, used_at FROM app_password WHERE person = %s ORDER BY id DESC", [person]
    )


def end_app_password(conn: Connection, person: int, which: int) -> str | None:
    """End one; its name, or None where it is none of theirs."""
    row = fetch_one(conn, "DELETE FROM app_password WHERE person = %s AND id = %s RETURNING name", [person, which])
    return row["name"] if row else None


def end_app_passwords(conn: Connection, person: int) -> None:
    """End all of a person's."""
    execute(conn, "DELETE FROM app_password WHERE person = %s", [person])


def by_app_password(conn: Connection, token_hash: bytes) -> Row | None:
    """Whose password it is, with its scope; None where it is nobody's, or theirs who has left. That it was used is kept by minutes."""
    row = fetch_one(
        conn,
        f"""SELECT a.id, a.person, a.scope, q.name, coalesce(a.used_at < now() - interval '1 minute', true) AS stale
        FROM app_password a JOIN person p ON p.id = a.person AND p.active AND coalesce(p.ends_on, 'infinity') >= {TODAY}
        JOIN principal q ON q.id = p.id WHERE a.token_hash = %s""",
        [token_hash],
    )
    if row is not None and row["stale"]:
        execute(conn, "UPDATE app_password SET used_at = now() WHERE id = %s", [row["id"]])
    return row
