"""The schema's steps, in order; each is applied once, under a lock, and checked by its hash ever after."""

import hashlib
from importlib import resources

import psycopg

from waka.core.names.portable import UNICODE_VERSION

_LOCK = 0x57414B41  # "WAKA"
#: Other texts that a step had while it was worked on, by their hashes: what they do more, a later step does where it is not done.
_ALSO_APPLIED = {
    "0002_structure.sql": {"d6dd52395eac4fe6327f40e430459d9fcf707b273dcd18591e4bb17f9e06bb97"},
    "0004_trail.sql": {"56afcb36489dfade61f6e2065c300072158f74000375cceb0ee3be8f08725080"},
}


class SchemaProblem(RuntimeError):
    """The database does not fit this program: what is wrong and what to do."""


def steps() -> list[tuple[str, str]]:
    """(name, SQL) of every step, in order."""
    files = sorted((f for f in resources.files(__package__).iterdir() if f.name.endswith(".sql")), key=lambda f: f.name)
    return [(f.name, f.read_text(encoding="utf-8")) for f in files]


def apply_schema(conninfo: str) -> list[str]:
    """Bring the database up to this program's schema; the names of the steps applied now.

    Raises SchemaProblem where an applied step was changed since, where the database is newer than the program, or
    where its name keys were made with another Unicode version.
    """
    with psycopg.connect(conninfo) as conn:
        conn.execute("SELECT pg_advisory_xact_lock(%s)", [_LOCK])
        conn.execute(
            "CREATE TABLE IF NOT EXISTS schema_step (name text PRIMARY KEY, sha256 text, at timestamptz DEFAULT now())"
        )
        had: dict[str, str] = dict(conn.execute("SELECT name, sha256 FROM schema_step").fetchall())
        applied = []
        known = steps()
        newer = sorted(set(had) - {name for name, _ in known})
        if newer:
            raise SchemaProblem(
                f"The database was made by a newer Waka (it has the step {newer[-1]}). Start that version, or restore a backup."
            )
        for name, sql in known:
            digest = hashlib.sha256(sql.encode()).hexdigest()
            if name in had:
                if had[name] != digest and had[name] not in _ALSO_APPLIED.get(name, ()):
                    raise SchemaProblem(
                        f"The schema step {name} was changed after it was applied. Put its old text back."
                    )
                continue
            conn.execute(sql.encode())
            conn.execute("INSERT INTO schema_step (name, sha256) VALUES (%s, %s)", [name, digest])
            applied.append(name)
        conn.execute("GRANT SELECT ON schema_step TO waka_app")
        _check_unicode(conn)
        return applied


def _check_unicode(conn: psycopg.Connection) -> None:
    conn.execute(
        "INSERT INTO drive_setting VALUES ('unicode', to_jsonb(%s::text)) ON CONFLICT DO NOTHING",
        [UNICODE_VERSION],
    )
    row = conn.execute("SELECT value #>> '{}' FROM drive_setting WHERE key = 'unicode'").fetchone()
    if row is not None and row[0] != UNICODE_VERSION:
        raise SchemaProblem(
            f"The drive's name keys were made with Unicode {row[0]}, this Python has {UNICODE_VERSION}. "
            "Run Waka with the Python it was installed with."
        )
