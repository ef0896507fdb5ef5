"""Doing what a checked manifest says: one statement a kind, whatever the number of lines."""

from collections.abc import Sequence

from waka.store.postgres.database import Connection, every, run


def make_folders(conn: Connection, manifest: int, levels: Sequence[Sequence[int]], by: int | None) -> None:
    """The folders that the manifest makes; ``levels`` lists their ids, those with an existing parent first."""
    for folders in levels:
        parameters = {"m": manifest, "ids": list(folders), "by": by}
        run(
            conn,
            """INSERT INTO folder (id, access_class, made_by)
            SELECT l.folder, p.access_class, %(by)s FROM manifest_line l JOIN folder p ON p.id = l.to_parent
            WHERE l.manifest = %(m)s AND l.kind = 'make folder' AND l.folder = ANY(%(ids)s::bigint[])""",
            parameters,
        )
        run(
            conn,
            """INSERT INTO folder_closure
            SELECT c.ancestor, l.folder, c.depth + 1 FROM manifest_line l JOIN folder_closure c ON c.descendant = l.to_parent
            WHERE l.manifest = %(m)s AND l.kind = 'make folder' AND l.folder = ANY(%(ids)s::bigint[])
            UNION ALL SELECT id, id, 0 FROM unnest(%(ids)s::bigint[]) AS id""",
            parameters,
        )


def move_entries(conn: Connection, manifest: int) -> None:
    """All that changes entries: places, discards, returns leave; then adds, restores and new folders come in."""
    m = {"m": manifest}
    run(
        conn,
        """INSERT INTO discarded_entry (id, parent, name, document, home, manifest)
        SELECT e.id, e.parent, e.name, e.document, e.home, l.manifest FROM manifest_line l JOIN entry e ON e.id = l.entry
        WHERE l.manifest = %(m)s AND l.kind = 'discard'""",
        m,
    )
    run(
        conn,
        """DELETE FROM entry USING manifest_line l
        WHERE l.manifest = %(m)s AND l.kind IN ('discard', 'return') AND entry.id = l.entry""",
        m,
    )
    run(
        conn,
        """UPDATE entry SET parent = l.to_parent, name = l.to_name, name_key = l.name_key, sort_key = l.sort_key
        FROM manifest_line l WHERE l.manifest = %(m)s AND l.kind = 'place' AND entry.id = l.entry""",
        m,
    )
    run(
        conn,
        """INSERT INTO entry (id, parent, name, name_key, sort_key, folder, document, home)
        SELECT l.entry, l.to_parent, l.to_name, l.name_key, l.sort_key, l.folder, l.document, coalesce(d.home, true)
        FROM manifest_line l LEFT JOIN discarded_entry d ON d.id = l.entry
        WHERE l.manifest = %(m)s AND l.kind IN ('add', 'restore', 'make folder')""",
        m,
    )
    run(
        conn,
        "DELETE FROM discarded_entry USING manifest_line l WHERE l.manifest = %(m)s AND l.kind = 'restore' AND id = l.entry",
        m,
    )


def set_document_states(conn: Connection, manifest: int, by: int | None) -> None:
    """States of documents and arrivals after adds, returns, discards, restores and versions."""
    m = {"m": manifest, "by": by}
    run(
        conn,
        """UPDATE document SET state = 'filed', filed_at = coalesce(filed_at, now()), filed_by = coalesce(filed_by, %(by)s)
        FROM manifest_line l WHERE l.manifest = %(m)s AND l.kind IN ('add', 'restore') AND document.id = l.document""",
        m,
    )
    run(
        conn,
        """UPDATE document SET state = 'arrived', filed_at = NULL, filed_by = NULL
        FROM manifest_line l WHERE l.manifest = %(m)s AND l.kind = 'return' AND document.id = l.document""",
        m,
    )
    run(
        conn,
        """UPDATE document SET state = 'discarded' FROM manifest_line l
        WHERE l.manifest = %(m)s AND l.kind = 'discard' AND document.id = l.document
          AND NOT EXISTS (SELECT FROM entry e WHERE e.document = document.id)""",
        m,
    )
    run(
        conn,
        """UPDATE arrival SET state = 'filed', claimed_by = NULL, claimed_until = NULL FROM manifest_line l
        WHERE l.manifest = %(m)s AND ((l.kind = 'add' AND arrival.document = l.document)
           OR (l.kind = 'version' AND arrival.document = (l.data ->> 'arrival')::bigint))""",
        m,
    )
    run(
        conn,
        """UPDATE arrival SET state = coalesce((SELECT CASE r.outcome WHEN 'read' THEN 'read' ELSE 'unreadable' END
            FROM version v JOIN reading r ON r.content = v.content WHERE v.document = arrival.document AND v.number = 1), 'read')
        FROM manifest_line l
        WHERE l.manifest = %(m)s AND ((l.kind = 'return' AND arrival.document = l.document)
           OR (l.kind = 'withdraw version' AND arrival.document = (l.data ->> 'arrival')::bigint))""",
        m,
    )


def set_versions(conn: Connection, manifest: int) -> None:
    """New versions from arrivals, and versions withdrawn."""
    m = {"m": manifest}
    run(
        conn,
        """INSERT INTO version (document, number, content, original_name, at, by)
        SELECT l.document, (l.data ->> 'was_head')::int + 1, v.content, v.original_name, v.at, v.by
        FROM manifest_line l JOIN document a ON a.id = (l.data ->> 'arrival')::bigint
        JOIN version v ON v.document = a.id AND v.number = a.head
        WHERE l.manifest = %(m)s AND l.kind = 'version'""",
        m,
    )
    run(
        conn,
        """DELETE FROM version USING manifest_line l WHERE l.manifest = %(m)s AND l.kind = 'withdraw version'
        AND version.document = l.document AND version.number = (l.data ->> 'version')::int""",
        m,
    )
    run(
        conn,
        """UPDATE document SET head = CASE l.kind WHEN 'version' THEN (l.data ->> 'was_head')::int + 1
                                   ELSE (l.data ->> 'version')::int - 1 END
        FROM manifest_line l
        WHERE l.manifest = %(m)s AND l.kind IN ('version', 'withdraw version') AND document.id = l.document""",
        m,
    )
    run(
        conn,
        """UPDATE document SET state = CASE l.kind WHEN 'version' THEN 'absorbed' ELSE 'arrived' END
        FROM manifest_line l
        WHERE l.manifest = %(m)s AND l.kind IN ('version', 'withdraw version')
          AND document.id = (l.data ->> 'arrival')::bigint""",
        m,
    )


def set_facts(conn: Connection, manifest: int) -> None:
    """Facts and tags as the lines say."""
    m = {"m": manifest}
    run(
        conn,
        """DELETE FROM fact USING manifest_line l WHERE l.manifest = %(m)s AND l.kind = 'fact'
        AND l.data -> 'to' = 'null' AND fact.document = l.document AND fact.field = l.data ->> 'field'""",
        m,
    )
    run(
        conn,
        """INSERT INTO fact (document, field, value, source)
        SELECT document, data ->> 'field', data -> 'to', data -> 'source' FROM manifest_line
        WHERE manifest = %(m)s AND kind = 'fact' AND data -> 'to' <> 'null'
        ON CONFLICT (document, field) DO UPDATE SET value = excluded.value, source = excluded.source""",
        m,
    )
    run(
        conn,
        """DELETE FROM document_tag t USING manifest_line l WHERE l.manifest = %(m)s AND l.kind = 'tag'
        AND t.document = l.document AND l.data -> 'remove' ? t.tag""",
        m,
    )
    run(
        conn,
        """INSERT INTO document_tag SELECT l.document, t.value FROM manifest_line l,
        jsonb_array_elements_text(l.data -> 'add') t WHERE l.manifest = %(m)s AND l.kind = 'tag'""",
        m,
    )


def remove_folder(conn: Connection, folder: int, entry: int) -> bool:
    """Remove a folder if nothing is in it; whether it went."""
    if every(conn, "SELECT 1 FROM entry WHERE parent = %s LIMIT 1", [folder]):
        return False
    run(conn, "DELETE FROM entry WHERE id = %s AND folder = %s", [entry, folder])
    run(conn, "DELETE FROM folder WHERE id = %s", [folder])
    return True


def rebuild_closure(conn: Connection, manifest: int) -> None:
    """The closure rows of every folder that moved, and of all below them."""
    m = {"m": manifest}
    run(
        conn,
        """
        WITH moved AS (SELECT folder FROM manifest_line
                       WHERE manifest = %(m)s AND kind = 'place' AND folder IS NOT NULL AND from_parent <> to_parent),
        below AS (SELECT DISTINCT c.descendant FROM folder_closure c JOIN moved ON c.ancestor = moved.folder)
        DELETE FROM folder_closure c USING below WHERE c.descendant = below.descendant AND c.depth > 0
        """,
        m,
    )
    run(
        conn,
        """
        WITH RECURSIVE lost AS (
            SELECT f.id FROM folder f WHERE f.id <> 1
              AND NOT EXISTS (SELECT FROM folder_closure c WHERE c.descendant = f.id AND c.depth > 0)
        ), up AS (
            SELECT lost.id AS descendant, e.parent AS ancestor, 1 AS depth FROM lost JOIN entry e ON e.folder = lost.id
            UNION ALL
            SELECT up.descendant, e.parent, up.depth + 1 FROM up JOIN entry e ON e.folder = up.ancestor
        )
        INSERT INTO folder_closure SELECT ancestor, descendant, depth FROM up
        """,
    )


def check_names_now(conn: Connection) -> None:
    """Check the deferred rule that no two entries of a folder share a key; psycopg's UniqueViolation where they do."""
    run(conn, "SET CONSTRAINTS entry_name IMMEDIATE")


def defer_names(conn: Connection) -> None:
    """Let names clash inside this transaction until check_names_now: swaps and chains pass through such moments."""
    run(conn, "SET CONSTRAINTS entry_name DEFERRED")
