"""What the newest version of a document says otherwise than its facts: a person is asked, and told wherever it is planned with."""

from collections.abc import Sequence

from waka.core.access.permissions import Permissions
from waka.core.facts.sure import SURE
from waka.core.facts.values import Json
from waka.core.names.drive_fields import Editor, editor_of
from waka.store.postgres import contradictions as store
from waka.store.postgres.database import Connection, Row
from waka.work.drive import live_parties


def contradicted(conn: Connection, permissions: Permissions, documents: Sequence[int]) -> dict[int, dict[str, Row]]:
    """By document and field what its newest version says otherwise: the fact's ``value``, what was ``found``, and its ``source``."""
    rows = store.contradictions(conn, documents, SURE)
    if not rows:
        return {}
    live = live_parties(conn, permissions)
    told: dict[int, dict[str, Row]] = {}
    for row in rows:
        if editor_of(row["field"]) is Editor.PARTY and not _another_party(row["value"], row["found"], live):
            continue
        told.setdefault(row["document"], {})[row["field"]] = row
    return told


def _another_party(kept: Json, found: Json, live: dict[int, int]) -> bool:
    """Whether these are two entries of the register; what may not be known, or was merged into the other, is not told."""
    return found["party"] in live and live[found["party"]] != live.get(kept["party"], kept["party"])
