"""What happened to a document: the lines of manifests that ran and speak of it."""

from waka.core.access.permissions import Permissions
from waka.store.postgres.access import KEEP
from waka.store.postgres.database import Connection, Row, fetch_all, fetch_one
from waka.store.postgres.manifests import RULES_OF


def due(conn: Connection) -> list[int]:
    """The manifests whose trails the worker has still to take in: who asks for lines by document looks into these as well."""
    return [r["manifest"] for r in fetch_all(conn, "SELECT manifest FROM index_due")]


def trail(conn: Connection, document: int, permissions: Permissions) -> list[Row]:
    """What happened to a document, the newest first. Folders that may not be read are left blank.

    Whom it was given to is told to who keeps it, and to whom it concerns.
    """
    own = fetch_one(conn, "SELECT access_class FROM search_row WHERE document = %s", [document])
    keeps = own is not None and permissions.level(own["access_class"]) >= KEEP
    return fetch_all(
        conn,
        f"""
        WITH told AS (
            SELECT manifest, line FROM document_trail WHERE document = %(d)s
            UNION SELECT manifest, line FROM manifest_line WHERE manifest = ANY(%(due)s::bigint[]) AND document = %(d)s
            UNION SELECT manifest, line FROM manifest_line
                WHERE kind IN ('absorb', 'release') AND (data ->> 'into')::bigint = %(d)s)
        SELECT m.id AS manifest, m.title, m.ran_at AS at, m.undo_of, p.name AS by, {RULES_OF}, l.kind, l.data, l.document <> %(d)s AS another,
               CASE WHEN ff.id IS NOT NULL THEN l.from_parent END AS from_parent,
               CASE WHEN ff.id IS NOT NULL THEN l.from_name END AS from_name,
               CASE WHEN tf.id IS NOT NULL THEN l.to_parent END AS to_parent,
               CASE WHEN tf.id IS NOT NULL THEN l.to_name END AS to_name,
               CASE WHEN l.kind = 'copy' THEN (SELECT x.name FROM document_place x JOIN folder xf ON xf.id = x.parent
                   AND reached(xf.access_class, %(r)s) WHERE x.document = (l.data ->> 'of')::bigint
                   ORDER BY x.home DESC, x.id LIMIT 1) END AS of_name,
               CASE WHEN l.kind = 'grant' THEN (SELECT w.name FROM principal w WHERE w.id = (l.data ->> 'principal')::bigint) END AS whom
        FROM told JOIN manifest_line l ON l.manifest = told.manifest AND l.line = told.line
        JOIN manifest m ON m.id = l.manifest LEFT JOIN principal p ON p.id = coalesce(m.ran_by, m.by)
        LEFT JOIN folder ff ON ff.id = l.from_parent AND reached(ff.access_class, %(r)s)
        LEFT JOIN folder tf ON tf.id = l.to_parent AND reached(tf.access_class, %(r)s)
        WHERE m.ran_at IS NOT NULL AND l.problem IS NULL AND (NOT m.partial OR l.line < m.progress)
          AND NOT EXISTS (SELECT FROM line_failure x WHERE x.manifest = l.manifest AND x.line = l.line)
          AND (l.kind <> 'grant' OR %(keeps)s OR (l.data ->> 'principal')::bigint IN (
               SELECT principal FROM person_principal WHERE person = %(me)s))
        ORDER BY m.ran_at DESC, m.id DESC, l.line LIMIT 500
        """,
        {"d": document, "r": permissions.readable, "due": due(conn), "keeps": keeps, "me": permissions.person},
    )
