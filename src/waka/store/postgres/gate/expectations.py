"""What must hold before a line of each kind is done, and the code of why it is not done where it does not hold.

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
#: For each kind of line: what finds the stale ones among them (line, told, document, folder), the code of why.
EXPECTATIONS: dict[str, tuple[str, str]] = {
    "add": (
        f"""SELECT l.line, a.original_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document LEFT JOIN arrival a ON a.document = l.document
        WHERE {LINES} AND l.kind = 'add'
          AND (d.state IS DISTINCT FROM 'arrived' OR a.state NOT IN ('read', 'unreadable'))""",
        "stale:add",
    ),
    "return": (
        f"""SELECT l.line, l.from_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        WHERE {LINES} AND l.kind = 'return' AND EXISTS (SELECT FROM document_place e WHERE e.document = l.document AND e.id <> l.entry
            AND {_STAYS})""",
        "stale:return",
    ),
    "also file": (
        f"""SELECT l.line, l.to_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document
        WHERE {LINES} AND l.kind = 'also file' AND d.state IS DISTINCT FROM 'filed' AND NOT EXISTS (
            SELECT FROM manifest_line x WHERE x.manifest = l.manifest AND x.document = l.document AND x.kind IN ('add', 'restore')
            AND x.problem IS NULL)""",
        "stale:also file",
    ),
    "unplace": (
        f"""SELECT l.line, l.from_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN entry own ON own.id = l.entry
        WHERE {LINES} AND l.kind = 'unplace' AND (own.home OR NOT EXISTS (
            SELECT FROM document_place e WHERE e.document = l.document AND e.id <> l.entry))""",
        "stale:unplace",
    ),
    "make home": (
        f"""SELECT l.line, coalesce(e.name, '?') AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN entry e ON e.id = l.entry
        WHERE {LINES} AND l.kind = 'make home' AND (e.document IS DISTINCT FROM l.document
            OR e.rank IS DISTINCT FROM (l.data ->> 'was')::int
            OR ((l.data ->> 'to')::int > 0 AND EXISTS (
                SELECT FROM document_place x WHERE x.document = l.document AND x.rank = (l.data ->> 'to')::int)))""",
        "stale:make home",
    ),
    "copy": (
        f"""SELECT l.line, l.to_name AS told, (l.data ->> 'of')::bigint AS document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN version v ON v.document = (l.data ->> 'of')::bigint AND v.number = (l.data ->> 'version')::int
        LEFT JOIN document d ON d.id = l.document
        WHERE {LINES} AND l.kind = 'copy' AND (v.number IS NULL OR (d.id IS NOT NULL AND d.state <> 'discarded')
            OR EXISTS (SELECT FROM discarded_entry x WHERE x.document = l.document))""",
        "stale:copy",
    ),
    "remove copy": (
        f"""SELECT l.line, l.from_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        WHERE {LINES} AND l.kind = 'remove copy' AND EXISTS (SELECT FROM document_place e WHERE e.document = l.document AND e.id <> l.entry
            AND {_STAYS})""",
        "stale:remove copy",
    ),
    "revert": (
        f"""SELECT l.line, d.head AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document
        LEFT JOIN version v ON v.document = l.document AND v.number = (l.data ->> 'to')::int
        WHERE {LINES} AND l.kind = 'revert' AND (d.state IS DISTINCT FROM 'filed'
            OR d.head <> (l.data ->> 'was_head')::int OR v.number IS NULL)""",
        "stale:revert",
    ),
    "undo revert": (
        f"""SELECT l.line, d.head AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document
        WHERE {LINES} AND l.kind = 'undo revert' AND d.head IS DISTINCT FROM (l.data ->> 'version')::int""",
        "stale:undo revert",
    ),
    "set aside": (
        f"""SELECT l.line, a.original_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        JOIN manifest m ON m.id = l.manifest
        LEFT JOIN document d ON d.id = l.document LEFT JOIN arrival a ON a.document = l.document
        WHERE {LINES} AND l.kind = 'set aside' AND (d.state IS DISTINCT FROM 'arrived'
            OR a.state NOT IN ('reading', 'read', 'unreadable') OR (a.claimed_by <> m.by AND a.claimed_until > now()))""",
        "stale:set aside",
    ),
    "put in queue": (
        f"""SELECT l.line, a.original_name AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN arrival a ON a.document = l.document
        WHERE {LINES} AND l.kind = 'put in queue'
            AND a.state IS DISTINCT FROM CASE WHEN (l.data ->> 'no_record')::boolean THEN 'discarded' ELSE 'resting' END""",
        "stale:put in queue",
    ),
    "version": (
        f"""SELECT l.line, d.head AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document LEFT JOIN document a ON a.id = (l.data ->> 'arrival')::bigint
        LEFT JOIN arrival w ON w.document = a.id
        WHERE {LINES} AND l.kind = 'version'
          AND (d.state IS DISTINCT FROM 'filed' OR d.head <> (l.data ->> 'was_head')::int
               OR a.state IS DISTINCT FROM 'arrived' OR w.state = 'resting')""",
        "stale:version",
    ),
    "withdraw version": (
        f"""SELECT l.line, d.head AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN document d ON d.id = l.document LEFT JOIN document a ON a.id = (l.data ->> 'arrival')::bigint
        WHERE {LINES} AND l.kind = 'withdraw version'
          AND (d.head IS DISTINCT FROM (l.data ->> 'version')::int OR a.state IS DISTINCT FROM 'absorbed')""",
        "stale:withdraw version",
    ),
    "fact": (
        f"""SELECT l.line, l.data ->> 'field' AS told, l.document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN fact f ON f.document = l.document AND f.field = l.data ->> 'field'
        WHERE {LINES} AND l.kind = 'fact' AND coalesce(f.value, 'null') IS DISTINCT FROM l.data -> 'was'""",
        "stale:fact",
    ),
    "tag": (
        _TAGGED.format(LINES=LINES, kind="tag", table="document_tag", of="document"),
        "stale:tag",
    ),
    "tag folder": (
        _TAGGED.format(LINES=LINES, kind="tag folder", table="folder_tag", of="folder")
        + f""" UNION SELECT l.line, '?', NULL::bigint, l.folder FROM manifest_line l
        WHERE {LINES} AND l.kind = 'tag folder' AND NOT EXISTS (SELECT FROM folder f WHERE f.id = l.folder)""",
        "stale:tag folder",
    ),
    "restore": (_NOT_DISCARDED.format(LINES=LINES, kind="restore"), "stale:restore"),
    "absorb": (
        f"""SELECT l.line, d.head AS told, (l.data ->> 'into')::bigint AS document, NULL::bigint AS folder
        FROM manifest_line l LEFT JOIN document d ON d.id = (l.data ->> 'into')::bigint
        WHERE {LINES} AND l.kind = 'absorb' AND (d.state IS DISTINCT FROM 'filed' OR d.head <> (l.data ->> 'was_head')::int
          OR d.id = l.document OR EXISTS (SELECT FROM document_place e WHERE e.document = l.document AND e.id <> l.entry)
          OR EXISTS (SELECT FROM manifest_line x WHERE x.manifest = l.manifest AND x.line <> l.line AND x.kind = 'absorb'
              AND x.problem IS NULL AND l.data -> 'into' IN (to_jsonb(x.document), x.data -> 'into')))""",
        "stale:absorb",
    ),
    "release": (
        _NOT_DISCARDED.format(LINES=LINES, kind="release")
        + f""" UNION SELECT l.line, l.to_name, (l.data ->> 'into')::bigint, NULL::bigint FROM manifest_line l
        LEFT JOIN document d ON d.id = (l.data ->> 'into')::bigint
        WHERE {LINES} AND l.kind = 'release' AND d.head IS DISTINCT FROM (l.data ->> 'version')::int""",
        "stale:release",
    ),
    "remove folder": (
        f"""SELECT l.line, l.from_name AS told, NULL::bigint AS document, l.folder FROM manifest_line l
        WHERE {LINES} AND l.kind = 'remove folder' AND NOT coalesce((l.data ->> 'lenient')::boolean, false)
          AND EXISTS (SELECT FROM entry e WHERE e.parent = l.folder AND e.id NOT IN (
              SELECT x.entry FROM manifest_line x WHERE x.manifest = %(m)s AND x.problem IS NULL AND x.entry IS NOT NULL
              AND x.kind IN {LEFT_PLACE} AND x.to_parent IS DISTINCT FROM x.from_parent))""",
        "not empty",
    ),
    "grant": (
        f"""SELECT l.line, p.name AS told, NULL::bigint AS document, NULL::bigint AS folder FROM manifest_line l
        LEFT JOIN principal p ON p.id = (l.data ->> 'principal')::bigint
        LEFT JOIN access_grant g ON (g.folder = l.folder OR g.document = l.document) AND g.principal = p.id
        WHERE {LINES} AND l.kind = 'grant' AND l.data -> 'was' IS DISTINCT FROM
            CASE WHEN g.id IS NULL THEN 'null'::jsonb ELSE jsonb_build_object('level', g.level, 'until', g.until) END""",
        "stale:grant",
    ),
    "restrict": (
        f"""SELECT l.line, e.name AS told, NULL::bigint AS document, l.folder FROM manifest_line l
        LEFT JOIN folder f ON f.id = l.folder LEFT JOIN entry e ON e.folder = f.id
        WHERE {LINES} AND l.kind = 'restrict' AND coalesce(f.restricted, false) IS DISTINCT FROM (l.data ->> 'was')::boolean""",
        "stale:restrict",
    ),
    "put in order": (
        f"""SELECT l.line, e.name AS told, NULL::bigint AS document, l.folder FROM manifest_line l
        LEFT JOIN folder f ON f.id = l.folder LEFT JOIN entry e ON e.folder = f.id
        WHERE {LINES} AND l.kind = 'put in order' AND coalesce(f.position, 0) IS DISTINCT FROM (l.data ->> 'was')::int""",
        "stale:put in order",
    ),
    "make folder": (
        f"""SELECT l.line, l.to_name AS told, NULL::bigint AS document, l.folder FROM manifest_line l
        WHERE {LINES} AND l.kind = 'make folder' AND EXISTS (SELECT FROM folder f WHERE f.id = l.folder)""",
        "right:folder",
    ),
}  # fmt: skip
