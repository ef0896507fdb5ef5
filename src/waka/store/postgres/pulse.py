"""One cheap query that tells whether anything may have changed for a person."""

from hashlib import md5

from waka.core.access.permissions import Permissions
from waka.store.postgres.access import FILE
from waka.store.postgres.arrivals import REACHED, WAITING
from waka.store.postgres.database import Connection, Row, fetch_one

#: The newest change that one may read of. Who reads much finds it among the latest; who reads little has few classes to look in.
_NEWEST = """SELECT coalesce(
    (SELECT id FROM (SELECT id, access_class FROM outbox ORDER BY id DESC LIMIT 2000) late WHERE reached(access_class, %(r)s)
        ORDER BY id DESC LIMIT 1),
    (SELECT max(o.id) FROM unnest(%(r)s::int8multirange) AS span CROSS JOIN generate_series(lower(span), upper(span) - 1) AS class
        CROSS JOIN LATERAL (SELECT id FROM outbox WHERE access_class = class ORDER BY id DESC LIMIT 1) o))"""


def beat(conn: Connection, permissions: Permissions) -> Row:
    """``stamp`` changes with every manifest that touched something readable and with the arrivals one may see; ``arrivals`` counts those."""
    # who reads more or less than before sees another drive, whether or not anything in it has changed
    reach = md5(repr(permissions.spans).encode(), usedforsecurity=False).hexdigest()
    row = fetch_one(
        conn,
        f"""
        SELECT count(*) AS arrivals,
               md5(%(reach)s || coalesce(({_NEWEST}), 0) || '.'
                   || count(*) || '.' || coalesce(sum(a.slip_revision), 0) || '.'
                   || coalesce(sum(hashtext(a.document || a.state || a.times_found || coalesce(a.claimed_by, 0) || '.' || coalesce((
                       SELECT sum(cardinality(r.awaiting)) FROM version v JOIN reading r ON r.content = v.content
                       WHERE a.state = 'reading' AND v.document = a.document), 0))::bigint), 0)) AS stamp
        FROM arrival a WHERE a.state IN {WAITING} AND {REACHED}
        """,
        {"file": permissions.at_least(FILE), "r": permissions.readable, "reach": reach},
    )
    return row or {"arrivals": 0, "stamp": ""}
