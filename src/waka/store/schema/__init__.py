"""The schema's steps, in order; each is applied once, under a lock, and checked by its hash ever after."""

import hashlib
from importlib import resources
from importlib.resources.abc import Traversable

import psycopg

from waka.core.names.portable import UNICODE_VERSION

_LOCK = 0x57414B41  # "WAKA"
#: The first step of drives from before the first release: they are not taken along.
_BEFORE = "0001_frame.sql"


class SchemaProblem(RuntimeError):
    """The database does not fit this program: ``what`` is wrong, and how to ``mend`` it."""

    def __init__(self, what: str, mend: str) -> None:
        super().__init__(f"{what} {mend}")
        self.what, self.mend = what, mend


def steps() -> list[tuple[str, str]]:
    """(name, SQL) of every step, in order. A step is a file, or a folder of files by subject, which are one in their order."""
    found = sorted(resources.files(__package__).iterdir(), key=lambda f: f.name)
    texts = [(f.name, _text(f)) for f in found if f.name[0].isdigit()]
    return [(name, text) for name, text in texts if text]


def _text(step: Traversable) -> str:
    files = [step] if step.is_file() else sorted(step.iterdir(), key=lambda f: f.name)
    return "\n".join(f.read_text(encoding="utf-8") for f in files if f.name.endswith(".sql"))


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
        if _BEFORE in had:
            raise SchemaProblem(
                "The drive was made by a Waka from before its first release, which this one does not open; nothing was changed.",
                "Open it with the Waka that made it, or begin a new home (--home DIR) and bring its documents in.",
            )
        newer = sorted(set(had) - {name for name, _ in known})
        if newer:
            raise SchemaProblem(
                f"The database was made by a newer Waka (it has the step {newer[-1]}).",
                "Start that version, or restore a backup.",
            )
        for name, sql in known:
            digest = hashlib.sha256(sql.encode()).hexdigest()
            if name in had:
                if had[name] != digest:
                    raise SchemaProblem(
                        f"The schema step {name} was changed after it was applied.", "Put its old text back."
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
            f"The drive's name keys were made with Unicode {row[0]}, this Python has {UNICODE_VERSION}.",
            "Run Waka with the Python it was installed with.",
        )
