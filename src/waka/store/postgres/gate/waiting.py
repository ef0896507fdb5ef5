"""What waits to be filed, as the lines of a manifest change it: arrivals leave it, and come (back) to it."""

from waka.store.postgres.database import Connection, execute, fetch_all
from waka.store.postgres.gate.scope import LINES, Scope

#: The arrival of a line is, or was, put away as no record.
_NO_RECORD = "coalesce((l.data ->> 'no_record')::boolean, false)"


def set_waiting(conn: Connection, scope: Scope) -> list[bytes]:
    """Arrivals that leave what waits for those made of them, and that come (back) to it; the contents of those, to be read."""
    m = scope.with_()
    execute(
        conn,
        f"""UPDATE arrival SET state = CASE WHEN {_NO_RECORD} THEN 'discarded' ELSE 'resting' END,
            claimed_by = NULL, claimed_until = NULL FROM manifest_line l
        WHERE {LINES} AND l.kind = 'set aside' AND arrival.document = l.document""",
        m,
    )
    # what was no record for a while is not read again where its facts were found before
    execute(
        conn,
        f"""UPDATE arrival SET state = CASE WHEN arrival.problem IS NULL THEN 'read' ELSE 'unreadable' END FROM manifest_line l
        WHERE {LINES} AND l.kind = 'put in queue' AND {_NO_RECORD} AND arrival.document = l.document
            AND arrival.times_found > 0""",
        m,
    )
    rows = fetch_all(
        conn,
        f"""UPDATE arrival SET state = 'reading', problem = NULL FROM manifest_line l
        JOIN document d ON d.id = l.document JOIN version v ON v.document = d.id AND v.number = d.head
        WHERE {LINES} AND l.kind = 'put in queue' AND arrival.document = l.document AND arrival.state IN ('resting', 'discarded')
        RETURNING v.content""",
        m,
    )
    return [bytes(r["content"]) for r in rows]
