"""What must hold before a line of each kind is done, and the words where it does not.

What leaves a place must be where the line says: that is asked for all kinds at once (``checks.stale_lines``).
"""

from waka.core.changes.registry import Effect
from waka.store.postgres.gate.kinds import that
from waka.store.postgres.gate.scope import LINES

LEFT_PLACE = that(Effect.LEAVES)
_NOT_DISCARDED = """SELECT l.line, l.to_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN discarded_entry d ON d.id = l.entry
        WHERE {LINES} AND l.kind = '{kind}' AND d.document IS DISTINCT FROM l.document"""
_TAGGED = """SELECT l.line, t.tag AS told, l.document, l.folder FROM manifest_line l
        CROSS JOIN LATERAL (
            SELECT value #>> '{{}}' AS tag, true AS adds FROM jsonb_array_elements(l.data -> 'add')
            UNION ALL SELECT value #>> '{{}}', false FROM jsonb_array_elements(l.data -> 'remove')) t
        WHERE {LINES} AND l.kind = '{kind}'
          AND t.adds = EXISTS (SELECT FROM {table} x WHERE x.{of} = l.{of} AND x.tag = t.tag)"""
#: A place ``e`` that the manifest does not take away.
_STAYS = """NOT EXISTS (SELECT FROM manifest_line x WHERE x.manifest = l.manifest AND x.entry = e.id AND x.problem IS NULL
                AND x.kind IN ('unplace', 'discard'))"""
#: For each kind of line: what finds the stale ones among them (line, told, document, folder), the code, the words.
EXPECTATIONS: dict[str, tuple[str, str, str]] = {
    "add": (
        f"""SELECT l.line, a.original_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document LEFT JOIN arrival a ON a.document = l.document
        WHERE {LINES} AND l.kind = 'add'
          AND (d.state IS DISTINCT FROM 'arrived' OR a.state NOT IN ('read', 'unreadable'))""",
        "stale",
        "“{told}” waits for filing no longer.",
    ),
    "return": (
        f"""SELECT l.line, l.from_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        WHERE {LINES} AND l.kind = 'return' AND EXISTS (SELECT FROM document_place e WHERE e.document = l.document AND e.id <> l.entry
            AND {_STAYS})""",
        "stale",
        "“{told}” is filed in another place too; take it away there first.",
    ),
    "also file": (
        f"""SELECT l.line, l.to_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document
        WHERE {LINES} AND l.kind = 'also file' AND d.state IS DISTINCT FROM 'filed' AND NOT EXISTS (
            SELECT FROM manifest_line x WHERE x.manifest = l.manifest AND x.document = l.document AND x.kind IN ('add', 'restore')
            AND x.problem IS NULL)""",
        "stale",
        "“{told}” is not filed, so it cannot have another place.",
    ),
    "unplace": (
        f"""SELECT l.line, l.from_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN entry own ON own.id = l.entry
        WHERE {LINES} AND l.kind = 'unplace' AND (own.home OR NOT EXISTS (
            SELECT FROM document_place e WHERE e.document = l.document AND e.id <> l.entry))""",
        "stale",
        "“{told}” is the home or the only place of its document.",
    ),
    "make home": (
        f"""SELECT l.line, coalesce(e.name, '?') AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN entry e ON e.id = l.entry
        WHERE {LINES} AND l.kind = 'make home' AND (e.document IS DISTINCT FROM l.document
            OR e.rank IS DISTINCT FROM (l.data ->> 'was')::int
            OR ((l.data ->> 'to')::int > 0 AND EXISTS (
                SELECT FROM document_place x WHERE x.document = l.document AND x.rank = (l.data ->> 'to')::int)))""",
        "stale",
        "The places of “{told}” changed meanwhile.",
    ),
    "copy": (
        f"""SELECT l.line, l.to_name AS told, (l.data ->> 'of')::bigint AS document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN version v ON v.document = (l.data ->> 'of')::bigint AND v.number = (l.data ->> 'version')::int
        LEFT JOIN document d ON d.id = l.document
        WHERE {LINES} AND l.kind = 'copy' AND (v.number IS NULL OR (d.id IS NOT NULL AND d.state <> 'discarded')
            OR EXISTS (SELECT FROM discarded_entry x WHERE x.document = l.document))""",
        "stale",
        "What “{told}” is copied from has no such version (any more), or the copy is there already.",
    ),
    "remove copy": (
        f"""SELECT l.line, l.from_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        WHERE {LINES} AND l.kind = 'remove copy' AND EXISTS (SELECT FROM document_place e WHERE e.document = l.document AND e.id <> l.entry
            AND {_STAYS})""",
        "stale",
        "The copy “{told}” is filed in another place too; take it away there first.",
    ),
    "revert": (
        f"""SELECT l.line, d.head AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document
        LEFT JOIN version v ON v.document = l.document AND v.number = (l.data ->> 'to')::int
        WHERE {LINES} AND l.kind = 'revert' AND (d.state IS DISTINCT FROM 'filed'
            OR d.head <> (l.data ->> 'was_head')::int OR v.number IS NULL)""",
        "stale",
        "The document has another version now (number {told}).",
    ),
    "undo revert": (
        f"""SELECT l.line, d.head AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document
        WHERE {LINES} AND l.kind = 'undo revert' AND d.head IS DISTINCT FROM (l.data ->> 'version')::int""",
        "stale",
        "A later version stands on the document (number {told}).",
    ),
    "set aside": (
        f"""SELECT l.line, a.original_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        JOIN manifest m ON m.id = l.manifest
        LEFT JOIN document d ON d.id = l.document LEFT JOIN arrival a ON a.document = l.document
        WHERE {LINES} AND l.kind = 'set aside' AND (d.state IS DISTINCT FROM 'arrived'
            OR a.state NOT IN ('reading', 'read', 'unreadable') OR (a.claimed_by <> m.by AND a.claimed_until > now()))""",
        "stale",
        "“{told}” waits for filing no longer, or somebody else has it in hand.",
    ),
    "put in queue": (
        f"""SELECT l.line, a.original_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN arrival a ON a.document = l.document
        WHERE {LINES} AND l.kind = 'put in queue' AND a.state IS DISTINCT FROM 'resting'""",
        "stale",
        "“{told}” is not set aside for others that were made of it.",
    ),
    "version": (
        f"""SELECT l.line, d.head AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document LEFT JOIN document a ON a.id = (l.data ->> 'arrival')::bigint
        LEFT JOIN arrival w ON w.document = a.id
        WHERE {LINES} AND l.kind = 'version'
          AND (d.state IS DISTINCT FROM 'filed' OR d.head <> (l.data ->> 'was_head')::int
               OR a.state IS DISTINCT FROM 'arrived' OR w.state = 'resting')""",
        "stale",
        "The document has another version now (number {told}), or the arrival is used up.",
    ),
    "withdraw version": (
        f"""SELECT l.line, d.head AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document LEFT JOIN document a ON a.id = (l.data ->> 'arrival')::bigint
        WHERE {LINES} AND l.kind = 'withdraw version'
          AND (d.head IS DISTINCT FROM (l.data ->> 'version')::int OR a.state IS DISTINCT FROM 'absorbed')""",
        "stale",
        "A later version stands on the document (number {told}).",
    ),
    "fact": (
        f"""SELECT l.line, l.data ->> 'field' AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN fact f ON f.document = l.document AND f.field = l.data ->> 'field'
        WHERE {LINES} AND l.kind = 'fact' AND coalesce(f.value, 'null') IS DISTINCT FROM l.data -> 'was'""",
        "stale",
        "The fact “{told}” was changed meanwhile.",
    ),
    "tag": (
        _TAGGED.format(LINES=LINES, kind="tag", table="document_tag", of="document"),
        "stale",
        "The tag “{told}” was put on or taken off meanwhile.",
    ),
    "tag folder": (
        _TAGGED.format(LINES=LINES, kind="tag folder", table="folder_tag", of="folder")
        + f""" UNION SELECT l.line, '?', NULL::bigint, l.folder FROM manifest_line l
        WHERE {LINES} AND l.kind = 'tag folder' AND NOT EXISTS (SELECT FROM folder f WHERE f.id = l.folder)""",
        "stale",
        "The tag “{told}” was put on the folder or taken off meanwhile, or the folder is gone.",
    ),
    "restore": (_NOT_DISCARDED.format(LINES=LINES, kind="restore"), "stale", "“{told}” is not among the discards."),
    "absorb": (
        f"""SELECT l.line, coalesce(d.head::text, '?') AS told, (l.data ->> 'into')::bigint AS document, NULL::bigint AS folder
        FROM manifest_line l LEFT JOIN document d ON d.id = (l.data ->> 'into')::bigint
        WHERE {LINES} AND l.kind = 'absorb' AND (d.state IS DISTINCT FROM 'filed' OR d.head <> (l.data ->> 'was_head')::int
          OR d.id = l.document OR EXISTS (SELECT FROM document_place e WHERE e.document = l.document AND e.id <> l.entry)
          OR EXISTS (SELECT FROM manifest_line x WHERE x.manifest = l.manifest AND x.line <> l.line AND x.kind = 'absorb'
              AND x.problem IS NULL AND l.data -> 'into' IN (to_jsonb(x.document), x.data -> 'into')))""",
        "stale",
        "The document has another version now (number {told}), or what is to be its version has another place.",
    ),
    "release": (
        _NOT_DISCARDED.format(LINES=LINES, kind="release")
        + f""" UNION SELECT l.line, l.to_name, (l.data ->> 'into')::bigint, NULL::bigint FROM manifest_line l
        LEFT JOIN document d ON d.id = (l.data ->> 'into')::bigint
        WHERE {LINES} AND l.kind = 'release' AND d.head IS DISTINCT FROM (l.data ->> 'version')::int""",
        "stale",
        "A later version stands on the document that “{told}” became a version of, or “{told}” was restored already.",
    ),
    "remove folder": (
        f"""SELECT l.line, l.from_name AS told, NULL::bigint AS document, l.folder FROM manifest_line l
        WHERE {LINES} AND l.kind = 'remove folder' AND NOT coalesce((l.data ->> 'lenient')::boolean, false)
          AND EXISTS (SELECT FROM entry e WHERE e.parent = l.folder AND e.id NOT IN (
              SELECT x.entry FROM manifest_line x WHERE x.manifest = %(m)s AND x.problem IS NULL AND x.entry IS NOT NULL
              AND x.kind IN {LEFT_PLACE} AND x.to_parent IS DISTINCT FROM x.from_parent))""",
        "not empty",
        "The folder “{told}” is not empty.",
    ),
    "make folder": (
        f"""SELECT l.line, l.to_name AS told, NULL::bigint AS document, l.folder FROM manifest_line l
        WHERE {LINES} AND l.kind = 'make folder' AND EXISTS (SELECT FROM folder f WHERE f.id = l.folder)""",
        "right",
        "The folder “{told}” is there already.",
    ),
}  # fmt: skip
