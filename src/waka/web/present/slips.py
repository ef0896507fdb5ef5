"""Arrivals and their slips."""

from collections.abc import Mapping

from waka.core.names.fields import Party
from waka.web.present.documents import originals_out, page_out
from waka.web.present.facts import all_strokes, display_fact, field_out, pieces_out, source_out
from waka.web.present.rulebooks import decision_out, reason_out
from waka.web.schemas.arrivals import (
    AlsoPlaceOut,
    ParkedOut,
    SameOut,
    SlipOut,
    SlipRules,
    SlipSummary,
    SuggestedOut,
    TakenOut,
)
from waka.web.schemas.facts import FactOut, NameOut, StepOut
from waka.web.schemas.folders import AreaOut
from waka.words import readings
from waka.words.rules import ASKS
from waka.work.actor import Actor
from waka.work.intake import arrange
from waka.work.slips.composed import Slip, SlipFact
from waka.work.slips.composing import wanted_place
from waka.work.slips.suggest import Suggestions


def slip_summary(slip: Slip, actor: Actor) -> SlipSummary:
    """An arrival as the waiting line shows it."""
    row = slip.row
    holds = bool(row["claim_holds"])
    question = slip.asked[0][1] if slip.asked else None
    if slip.stack > 1:
        question = f"{slip.stack} documents in one?"
    if slip.same and question is None:
        question = "Already filed: the same content"
    if question is None and (said := _by_rules(slip)):
        question = said
    if slip.taken is not None and question is None:
        question = "The name is taken"
    if question is None and slip.name.name is None:
        question = f"The name cannot be used: {slip.name.refused}" if slip.name.refused else "The name is not complete"
    return SlipSummary(
        id=row["document"], revision=row["slip_revision"], original_name=row["original_name"], state=row["state"],
        problem=readings.problem(row["problem"]), by=row["by_name"], arrived_at=row["arrived_at"], source=row["source"], size=row["size"],
        claimed_by=row["claimed_name"] if holds else None, claimed_by_me=holds and row["claimed_by"] == actor.person,
        ready=slip.ready, question=None if slip.ready else question,
        name=f"{slip.name.name}.{slip.extension}" if slip.name.name else None,
        area=AreaOut(id=slip.area[0], name=slip.area[1]) if slip.area else None,
        place=" / ".join([slip.area[1] if slip.area else "", *(s.name for s in slip.steps)]),
        parked=ParkedOut(until=row["parked_until"], note=row["parked_note"]) if slip.parked else None, mail=row["mail_name"],
        joinable=arrange.has_pages(row), page_count=row["page_count"], pages_left=row["pages_left"],
    )  # fmt: skip


def _by_rules(slip: Slip) -> str | None:
    """What rules ask, or why one could not file it, in a line."""
    if slip.rule_failed is not None:
        failed = reason_out(slip.rule_failed)
        return f"Rule “{failed.rule}”, line {failed.line}: {failed.why}"
    if slip.rules_ask:
        first = slip.rules_ask[0]
        return f"Rule “{first.rule}”: {ASKS.say(first.why['code'], first.why)}"
    return "A rule leaves it to a person" if slip.left else None


def _rules(slip: Slip) -> SlipRules | None:
    if slip.ruled is None:
        return None
    decision = decision_out(slip.ruled.decision)
    failed = reason_out(slip.rule_failed) if slip.rule_failed is not None else None
    return SlipRules(
        applied=decision.applied, also=decision.also, asks=decision.asks, failed=failed, left=decision.leave, decision=decision,
    )  # fmt: skip


def slip_fact(fact: SlipFact, asked: Mapping[str, str], parties: Mapping[int, Party]) -> FactOut:
    """A line of the slip."""
    return FactOut(
        **field_out(fact.field), value=fact.value,
        display=display_fact(fact.field, fact.value, parties), source=source_out(fact.source), sure=fact.sure, given=fact.given,
        alternatives=list(fact.alternatives), question=asked.get(fact.field),
    )  # fmt: skip


def slip_out(slip: Slip, offered: Suggestions, actor: Actor, paths: Mapping[int, str]) -> SlipOut:
    """An arrival as the bench shows it."""
    asked = dict(slip.asked)
    taken = slip.taken
    return SlipOut(
        **slip_summary(slip, actor).model_dump(), kind=slip.kind,
        facts=[slip_fact(f, asked, slip.parties) for f in slip.facts],
        areas=[AreaOut(id=i, name=n) for i, n in slip.areas],
        name_pattern=slip.name_pattern, place_pattern=slip.place_pattern,
        strokes=all_strokes([f.field for f in slip.facts], slip.name_pattern, slip.place_pattern),
        composed=NameOut(
            text=slip.name.name, extension=slip.extension, pieces=pieces_out(slip.name.pieces), missing=list(slip.name.missing),
            refused=slip.name.refused, noted=list(slip.name.noted), edited=slip.name_given, misfit=slip.misfit,
        ),
        steps=[StepOut(name=s.name, pieces=pieces_out(s.pieces), exists=s.folder is not None) for s in slip.steps],
        place_edited=wanted_place(slip.row, slip.area) is not None, brought=bool(slip.row["came_in"] and slip.row["area"]),
        place_problem=slip.place_problem, there=slip.there,
        taken=TakenOut(name=taken["name"], document=taken["document"], folder=taken["folder"] is not None) if taken else None,
        same=[SameOut(document=r["id"], name=r["name"], path=paths.get(r["parent"], "")) for r in slip.same],
        reason=slip.reason, mismatch=slip.mismatch, pages=[page_out(p) for p in slip.row["pages"]],
        stack=slip.stack, also=[AlsoPlaceOut(folder=a.folder, path=a.path) for a in slip.also],
        made_from=originals_out(offered.originals),
        media_type=slip.row["media_type"], locked=slip.row["locked"],
        notes=[readings.note(kept) for kept in slip.row["notes"]],
        tags=list(slip.tags), rules=_rules(slip),
        places=[SuggestedOut(area=p.area, place=p.place, path=p.path, count=p.count) for p in offered.places],
        versions=[SameOut(document=r["id"], name=r["name"], path=paths.get(r["parent"], "")) for r in offered.versions],
    )  # fmt: skip
