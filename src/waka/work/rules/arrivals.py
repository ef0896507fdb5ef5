"""Arrivals through plan and rules: each is filed once, or left where it is with the reasons."""

from dataclasses import dataclass

from waka.core.rules.deciding import Question
from waka.store.postgres import arrivals, rule_runs, rulebooks
from waka.store.postgres.database import Connection, Row
from waka.words.manifests import title
from waka.words.rules import ASKS
from waka.words.sentence import Kept
from waka.work.acting import reach
from waka.work.actor import Actor, ManifestRefused, Refused
from waka.work.drive import Drive
from waka.work.gate.apply import apply_in
from waka.work.rulebooks import seen_to_json
from waka.work.rules.bearings import Bearings
from waka.work.slips.composed import Slip
from waka.work.slips.composing import compose, surroundings
from waka.work.slips.filing import Filing, full_name
from waka.work.slips.ruled import Ruled

EVENT = "arrival"
_TRIES = 4
#: So many waiting arrivals are looked up at once, where all of an area are gone through.
_CHUNK = 200


@dataclass(frozen=True)
class Outcome:
    """What comes of a pass: a code of ``rule_run.outcome``, and reasons where something is asked."""

    code: str
    reasons: tuple[Kept, ...] = ()


def file_by_rules(drive: Drive, document: int) -> str:
    """Ask the rules about an arrival and file it where they are sure; what came of it.

    One transaction: the revision that it began with decides, and the arrival is locked, so that it is filed once. Where the gate
    refuses it the arrival stays, with the reason. Nothing is done with what a person has in hand, wrote on or put aside, and with
    what was filed by rules before and taken back.
    """
    for attempt in range(_TRIES):
        try:
            with drive.database.transaction() as conn:
                return _file(conn, document)
        except ManifestRefused as refused:
            # somebody made the same folder at this moment: it is planned again
            if attempt == _TRIES - 1 or not all(problem.code == "taken" for problem in refused.problems):
                return _failed(drive, document, str(refused))
        except Refused as refused:
            return _failed(drive, document, str(refused))
    raise AssertionError("unreachable")


def file_waiting(drive: Drive, area: int) -> int:
    """Ask an area's rules about all that waits for it; how many were filed."""
    after, filed = 0, 0
    while True:
        with drive.database.transaction() as conn:
            documents = arrivals.waiting_for(conn, area, after, _CHUNK)
        if not documents:
            return filed
        filed += sum(file_by_rules(drive, document) == "done" for document in documents)
        after = documents[-1]


def _ruled_slip(conn: Connection, document: int) -> tuple[Actor, Slip, Ruled] | None:
    """The slip of an arrival as the rules decide by themselves, locked; None where they are not to touch it."""
    bearings = arrivals.bearings(conn, document)
    area = Bearings(conn).area_of(bearings["area"], bearings["kind"]) if bearings is not None else None
    if area is None:
        return None
    actor = Actor.of_rulebook(*area)
    permissions = reach(conn, actor)
    row = arrivals.arrival_row(conn, document, permissions, lock=True)
    if row is None or row["claim_holds"] or row["parked_until"] is not None or row["slip"] or row["state"] == "reading":
        return None
    if rule_runs.was_undone(conn, document):
        return None
    reached = {area[0], *rulebooks.granted(conn, area[0]).values()}
    around = surroundings(conn, permissions, only=reached)
    slip = compose(conn, {**row, "area": area[0]}, permissions, around, by_itself=True)
    if slip.ruled is None or not slip.ruled.ruling.by_itself:
        return None
    return actor, slip, slip.ruled


def _file(conn: Connection, document: int) -> str:
    ready = _ruled_slip(conn, document)
    if ready is None:
        return "left alone"
    actor, slip, ruled = ready
    outcome, manifest = outcome_of(slip, ruled), None
    if outcome.code == "done":
        filing, rules = Filing(conn, None), list(ruled.decision.applied)
        named = title("file by rules", name=full_name(slip), rules=rules)
        manifest = apply_in(conn, actor, filing.changes(slip, only_sure=True), named).manifest
        # what is copied has to be there: the copies are a manifest of their own, in the same transaction
        if copies := filing.copies(slip):
            apply_in(conn, actor, copies, title("copy by rules", name=full_name(slip), rules=rules))
    _keep(conn, slip.row, ruled, outcome, manifest)
    return outcome.code


def _failed(drive: Drive, document: int, why: str) -> str:
    """It could not be filed: keep why, unless it is not to be touched any more, or the rules say otherwise by now."""
    with drive.database.transaction() as conn:
        ready = _ruled_slip(conn, document)
        if ready is None:
            return "left alone"
        _, slip, ruled = ready
        outcome = outcome_of(slip, ruled)
        if outcome.code == "done":
            outcome = Outcome("failed", (_reason(ruled, ASKS.kept("gate", why=why)),))
        _keep(conn, slip.row, ruled, outcome, None)
        return outcome.code


def _reason(ruled: Ruled, why: Kept) -> Kept:
    """Why a filing waits for a person, with the rule and the line that say where it goes."""
    rule, line = ruled.ruling.decider.line_of_place(ruled.decision)
    return Question(rule, line, why).to_json()


def outcome_of(slip: Slip, ruled: Ruled) -> Outcome:
    """What the rules and the plan together come to for a slip, when no person looks."""
    decision = ruled.decision
    asked: list[Kept] = [one.to_json() for one in decision.ask]
    if decision.leave and not asked:
        return Outcome("left")
    if not decision.applied and not asked:
        return Outcome("no rule")
    if not asked:
        asked = [_reason(ruled, why) for why in _in_the_way(slip, ruled)]
    return Outcome("asked" if asked else "done", tuple(asked))


def _in_the_way(slip: Slip, ruled: Ruled) -> list[Kept]:
    """What stands in the way of filing it without a person, besides what the rules ask."""
    if ruled.decision.archive:
        return [ASKS.kept("archive")]
    if slip.stack > 1:
        return [ASKS.kept("stack", count=slip.stack)]
    if slip.place_problem is not None or slip.area is None:
        return [ASKS.kept("place", why=slip.place_problem or "the area is gone")]
    if slip.name.name is None:
        return [ASKS.kept("refused", why=slip.name.refused or f"it needs {', '.join(slip.name.missing)}")]
    if slip.asked and not {"name", "place"} <= ruled.decision.said.keys():
        # what the plan names or places, it files only where nothing that it expects is open
        return [ASKS.kept("plan", question=slip.asked[0][1])]
    if slip.same:
        return [ASKS.kept("same", name=slip.same[0]["name"])]
    if slip.taken is not None:
        return [ASKS.kept("taken", name=slip.taken["name"])]
    return []


def _keep(conn: Connection, row: Row, ruled: Ruled, outcome: Outcome, manifest: int | None) -> None:
    """Keep what came of it; the same as the last time is not kept again."""
    last = row["last_run"]
    told = {"outcome": outcome.code, "revision": ruled.ruling.revision, "rules": ruled.decision.concerned}
    if last is not None and manifest is None:
        same_reasons = [dict(one) for one in last["reasons"]] == [dict(one) for one in outcome.reasons]
        if same_reasons and all(last[key] == value for key, value in told.items()):
            return
    rule_runs.keep(
        conn, area=ruled.ruling.area, revision=ruled.ruling.revision, document=row["document"], event=EVENT, outcome=outcome.code,
        rules=ruled.decision.concerned, reasons=outcome.reasons, seen=seen_to_json(ruled.document, ruled.facts),
        today=ruled.ruling.decider.where.today, manifest=manifest,
    )  # fmt: skip
