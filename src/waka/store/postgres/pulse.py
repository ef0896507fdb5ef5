"""One cheap query that tells whether anything may have changed for a person."""

from hashlib import md5

from waka.store.postgres.access import FILE, Permissions
from waka.store.postgres.arrivals import REACHED, WAITING
from waka.store.postgres.database import Connection, Row, fetch_one


def beat(conn: Connection, permissions: Permissions) -> Row:
    """``stamp`` changes with every manifest that touched something readable and with the arrivals one may see; ``arrivals`` counts those."""
    # who reads more or less than before sees another drive, whether or not anything in it has changed
    reach = md5(repr(sorted(permissions.levels.items())).encode(), usedforsecurity=False).hexdigest()
    row = fetch_one(
        conn,
        f"""
        SELECT count(*) AS arrivals,
               md5(%(reach)s || coalesce((SELECT max(id) FROM outbox WHERE access_class = ANY(%(r)s::bigint[])), 0) || '.'
                   || count(*) || '.' || coalesce(sum(a.slip_revision), 0) || '.'
                   || coalesce(sum(hashtext(a.document || a.state || a.times_found || coalesce(a.claimed_by, 0) || '.' || coalesce((
                       SELECT sum(cardinality(r.awaiting)) FROM version v JOIN reading r ON r.content = v.content
                       WHERE a.state = 'reading' AND v.document = a.document), 0))::bigint), 0)) AS stamp
        FROM arrival a WHERE a.state IN {WAITING} AND {REACHED}
        """,
        {"file": permissions.at_least(FILE), "r": permissions.readable, "reach": reach},
    )
    return row or {"arrivals": 0, "stamp": ""}
