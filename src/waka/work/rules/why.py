"""Why: which rule did what with a document, by which tests, and why the others did not; worked out anew from what was kept."""

from dataclasses import dataclass
from datetime import datetime

from waka.core.access.permissions import Permissions
from waka.core.rules.deciding import Decision
from waka.store.postgres import documents, plans, rule_inputs, rule_runs, rulebooks
from waka.store.postgres.database import Connection, Row
from waka.work.acting import acting, require_area
from waka.work.actor import Absent, Actor
from waka.work.drive import Drive, area_settings, known_parties, name_settings
from waka.work.rulebooks import draft_of, ready, seen_from_json
from waka.work.rules.trial import one_document


@dataclass(frozen=True)
class Why:
    """What came of asking about a document the last time: the run, and the decision with the tests that settled each rule.

    ``decision`` None: the area may not be read, or the revision is not there.
    """

    run: Row
    at: datetime
    decision: Decision | None


def of_document(drive: Drive, actor: Actor, document: int) -> Why | None:
    """Why a document is as rules left it, for who may read it (or sees it wait); None where no rule had to do with it."""
    with acting(drive, actor) as (conn, permissions):
        if documents.document_card(conn, document, permissions) is None:
            raise Absent("document")
        run = rule_runs.last_of(conn, document)
        if run is None or run["outcome"] == "no rule":
            return None
        return Why(run, run["at"], _again(conn, permissions, run))


def _again(conn: Connection, permissions: Permissions, run: Row) -> Decision | None:
    """The decision of a run with all its reasons. The same text and document give the same answer."""
    try:
        area = require_area(conn, permissions, run["area"])
    except Absent:
        return None
    row = rulebooks.at(conn, run["area"], run["revision"])
    if row is None:
        return None
    parties = known_parties(conn, permissions)
    settings = area_settings(name_settings(conn), plans.plan_of(conn, run["area"]))
    ruling = ready(conn, row, area["name"], parties, settings, run["today"])
    text = None
    if "text" in ruling.subjects:
        content = rule_inputs.content_of(conn, run["document"], first=run["event"] == "arrival")
        text = rule_inputs.texts(conn, [content]).get(content) if content is not None else None
    return ruling.decide(seen_from_json(run["seen"], parties, text), run["event"], explain=True)


def tried_on(drive: Drive, actor: Actor, area: int, document: int, text: str | None) -> Decision:
    """What a text (None: the running rules) says of one document of the area now, with all its reasons."""
    with acting(drive, actor) as (conn, permissions):
        row = require_area(conn, permissions, area)
        ruling = draft_of(conn, permissions, row, text)
        seen = one_document(conn, permissions, row, document, ruling)
        return ruling.decide(seen, "arrival", by_itself=True, explain=True)
