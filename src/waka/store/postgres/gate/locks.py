"""The locks that a manifest takes before it looks: the structure, then documents, then entries, each in id order."""

from waka.core.changes.registry import Effect
from waka.store.postgres.database import Connection, execute
from waka.store.postgres.gate.kinds import that
from waka.store.postgres.gate.scope import LINES, Scope

_STRUCTURE = 0x57414B42


def lock_structure(conn: Connection, *, exclusive: bool) -> None:
    """The structure lock until the transaction ends; exclusive for whatever moves or removes folders."""
    execute(conn, f"SELECT pg_advisory_xact_lock{'' if exclusive else '_shared'}({_STRUCTURE})")


def lock_documents(conn: Connection, scope: Scope) -> None:
    """The documents whose state, facts, versions or readers the lines change.

    A place that moves between folders of the same readers changes nothing of its document: its entry's lock will do.
    """
    execute(
        conn,
        f"""SELECT count(*) FROM (
            SELECT 1 FROM document WHERE id IN (
                SELECT l.document FROM manifest_line l LEFT JOIN folder f ON f.id = l.from_parent LEFT JOIN folder t ON t.id = l.to_parent
                WHERE {LINES} AND (l.kind <> 'place' OR f.access_class IS DISTINCT FROM t.access_class)
                UNION SELECT coalesce(l.data ->> 'arrival', l.data ->> 'into')::bigint FROM manifest_line l
                    WHERE {LINES} AND l.data ?| '{{arrival,into}}')
            ORDER BY id FOR NO KEY UPDATE) locked""",
        scope.with_(),
    )


def lock_tagged_folders(conn: Connection, scope: Scope) -> None:
    """The folders whose tags the lines change."""
    execute(
        conn,
        f"""SELECT count(*) FROM (
            SELECT 1 FROM folder WHERE id IN (SELECT l.folder FROM manifest_line l WHERE {LINES} AND l.kind IN {that(Effect.FOLDER_TAG)})
            ORDER BY id FOR NO KEY UPDATE) locked""",
        scope.with_(),
    )
