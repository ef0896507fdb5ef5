"""/api/rulebooks: the filing rules of areas: kept in revisions, tried, compared; what they did, and why."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict
from typing import Any, Literal

from flask import Response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.core.facts.kinds import KINDS
from waka.core.facts.values import CURRENCIES
from waka.core.rules.as_json import rule_to_json
from waka.core.rules.from_json import RulesMistold, rulebook_from_json
from waka.core.rules.printing import print_rulebook
from waka.core.rules.subjects import SUBJECTS
from waka.core.rules.warning import warnings_of
from waka.store.postgres.access import KEEP
from waka.web import guard
from waka.web.answers import answer
from waka.web.present.rulebooks import checked_out, decision_out, reason_out, why_out
from waka.web.schemas.base import Line
from waka.web.schemas.rulebooks import (
    CheckedOut,
    ComparedLineOut,
    ComparisonOut,
    DecisionOut,
    KeepRulebookForm,
    LetForm,
    LetOut,
    OtherAreaOut,
    RulebookOut,
    RulebookRevisionOut,
    RuleChangeOut,
    RuleDayOut,
    RuleFiguresList,
    RuleFiguresOut,
    RuleOfferOut,
    RuleOffers,
    RuleOut,
    RuleRunOut,
    RuleRuns,
    RulesForm,
    RuleWords,
    SubjectOut,
    TextForm,
    TrialLineOut,
    TrialOut,
    TryRulebookForm,
    WhyDocument,
    WhyForm,
)
from waka.work.actor import Refused
from waka.work.rules import keep, offers, runs, trial, why

api = APIBlueprint("rulebooks", __name__, url_prefix="/api", abp_tags=[Tag(name="rulebooks")])
_PAGE = 50
#: A trial that one waits for ends after so long, with what it has gone through.
_TRIAL_SECONDS = 3.0


class AreaPath(BaseModel):
    folder: int = Field(ge=1, lt=2**62)


class RevisionPath(AreaPath):
    revision: int = Field(ge=0, lt=2**31)


class LetPath(AreaPath):
    other: int = Field(ge=1, lt=2**62)


class ComparedQuery(BaseModel):
    old: int = Field(ge=0, lt=2**31)
    new: int = Field(ge=0, lt=2**31)


class RunsQuery(BaseModel):
    rule: Line | None = Field(default=None, max_length=200)
    outcome: Literal["done", "asked", "left", "no rule", "failed", "undone"] | None = None
    before: int | None = Field(default=None, ge=1, lt=2**62)


class RuledDocumentPath(BaseModel):
    document: int = Field(ge=1, lt=2**62)


@api.get("/rulebooks/words", responses={200: RuleWords})
def words() -> Response:
    """What rules can ask about, the tests that fit, and the values that are known."""
    subjects = [SubjectOut(name=s.name, values=s.values, tests=list(s.tests), fact=s.fact) for s in SUBJECTS.values()]
    return answer(RuleWords(subjects=subjects, kinds=list(KINDS), currencies=list(CURRENCIES)))


def _rulebook(area: int) -> RulebookOut:
    kept = keep.look(guard.drive(), guard.actor(), area)

    def let_out(rows: Sequence[Mapping[str, Any]]) -> list[LetOut]:
        return [LetOut(area=r["area"], name=r["name"], at=r["at"], by=r["by_name"]) for r in rows]

    return RulebookOut(
        area=area, name=kept.area["name"], keeps=kept.keeps, revision=kept.revision, by_itself=kept.by_itself, text=kept.text,
        checked=checked_out(kept.rulebook, warnings_of(kept.rulebook)),
        revisions=[
            RulebookRevisionOut(revision=r["revision"], at=r["at"], by=r["by_name"], why=r["why"], by_itself=r["by_itself"])
            for r in kept.revisions
        ],
        lets=let_out(kept.lets), let_by=let_out(kept.let_by),
        others=[OtherAreaOut(id=o["id"], name=o["name"], keeps=o["level"] >= KEEP) for o in kept.others],
    )  # fmt: skip


@api.get("/rulebooks/<int:folder>", responses={200: RulebookOut})
def rulebook(path: AreaPath) -> Response:
    """An area's rulebook: the running revision as text and as rules, its revisions, who lets it file where."""
    return answer(_rulebook(path.folder))


@api.put("/rulebooks/<int:folder>", responses={200: RulebookOut})
def put(path: AreaPath, body: KeepRulebookForm) -> Response:
    """Keep a new revision and run it, or an earlier one again. A text with errors is refused; `errors` has them all."""
    drive, who = guard.drive(), guard.actor()
    if body.back_to is not None:
        keep.go_back(drive, who, path.folder, body.back_to, revision=body.revision, why=body.why)
    else:
        keep.put(drive, who, path.folder, body.text, revision=body.revision, why=body.why, by_itself=body.by_itself)
    return answer(_rulebook(path.folder))


@api.post("/rulebooks/<int:folder>/check", responses={200: CheckedOut})
def check(path: AreaPath, body: TextForm) -> Response:
    """Read a text as this area's rulebook; nothing is kept."""
    checked = keep.check(guard.drive(), guard.actor(), path.folder, body.text)
    return answer(checked_out(checked.rulebook, checked.warnings, checked.errors))


@api.post("/rulebooks/<int:folder>/print", responses={200: CheckedOut})
def print_rules(path: AreaPath, body: RulesForm) -> Response:
    """Rules as objects, printed and read again; where they are no rulebook, `text` is null and `errors` speak of what was printed."""
    try:
        text = print_rulebook(rulebook_from_json(body.model_dump()))
    except RulesMistold as mistold:
        raise Refused(f"These are no rules: {mistold}.", code="rules") from mistold
    checked = keep.check(guard.drive(), guard.actor(), path.folder, text)
    return answer(checked_out(checked.rulebook, checked.warnings, checked.errors))


@api.get("/rulebooks/<int:folder>/revisions/<int:revision>", responses={200: TextForm})
def text_at(path: RevisionPath) -> Response:
    """The text of a revision."""
    return answer(TextForm(text=keep.text_at(guard.drive(), guard.actor(), path.folder, path.revision)))


@api.get("/rulebooks/<int:folder>/compare", responses={200: ComparisonOut})
def compare(path: AreaPath, query: ComparedQuery) -> Response:
    """What differs between two revisions: rule by rule, and line by line. 0 is the empty one before the first."""
    found = keep.compared(guard.drive(), guard.actor(), path.folder, query.old, query.new)
    return answer(
        ComparisonOut(
            rules=[RuleChangeOut(**asdict(change)) for change in found.rules],
            lines=[ComparedLineOut(**asdict(line)) for line in found.lines],
        )
    )


@api.put("/rulebooks/<int:folder>/lets/<int:other>", responses={200: RulebookOut})
def let(path: LetPath, body: LetForm) -> Response:
    """Let the rulebook of another area file in this one, or take that back."""
    keep.let(guard.drive(), guard.actor(), path.folder, path.other, file=body.file)
    return answer(_rulebook(path.folder))


@api.post("/rulebooks/<int:folder>/try", responses={200: TrialOut})
def attempt(path: AreaPath, body: TryRulebookForm) -> Response:
    """What a text would do to what waits, is filed here, or came last month, and how that differs; nothing is changed."""
    told = trial.tried(
        guard.drive(), guard.actor(), path.folder, text=body.text, revision=body.revision, against=body.against, on=body.on,
        rule=body.rule, show=body.show, limit=body.limit, seconds=_TRIAL_SECONDS,
    )  # fmt: skip
    lines = [TrialLineOut(**asdict(line)) for line in told.lines]
    return answer(
        TrialOut(documents=told.documents, becomes=told.becomes, differs=told.differs, lines=lines, cut=told.cut)
    )


@api.post("/rulebooks/<int:folder>/why", responses={200: DecisionOut})
def tried_on(path: AreaPath, body: WhyForm) -> Response:
    """What a text (null: the running one) says of one document of the area, rule by rule."""
    return answer(decision_out(why.tried_on(guard.drive(), guard.actor(), path.folder, body.document, body.text)))


@api.get("/rulebooks/<int:folder>/offers", responses={200: RuleOffers})
def offered(path: AreaPath) -> Response:
    """Rules worth keeping, from what one filed there lately other than plan and rules have it."""
    found = offers.offered(guard.drive(), guard.actor(), path.folder)
    out = [RuleOfferOut(rule=RuleOut(**rule_to_json(one.rule)), documents=list(one.documents)) for one in found]
    return answer(RuleOffers(offers=out))


@api.get("/rulebooks/<int:folder>/figures", responses={200: RuleFiguresList})
def figures(path: AreaPath) -> Response:
    """What each rule did, asked, failed with, and what of it was undone, by day; which rules stand out."""
    told = runs.figures(guard.drive(), guard.actor(), path.folder)
    out = [
        RuleFiguresOut(
            rule=r.rule, there=r.there, paused=r.paused, days=[RuleDayOut(**asdict(day)) for day in r.days], done=r.sum("done"),
            asked=r.sum("asked"), failed=r.sum("failed"), undone=r.sum("undone"), last=r.last, stands_out=list(r.stands_out),
        )
        for r in told.rules
    ]  # fmt: skip
    return answer(RuleFiguresList(since=told.since, until=told.until, rules=out, outcomes=dict(told.outcomes)))


@api.get("/rulebooks/<int:folder>/runs", responses={200: RuleRuns})
def listed(path: AreaPath, query: RunsQuery) -> Response:
    """What came of asking the rules, document by document, the newest first."""
    rows = runs.listed(
        guard.drive(), guard.actor(), path.folder, rule=query.rule, outcome=query.outcome, before=query.before,
        limit=_PAGE + 1,
    )  # fmt: skip
    out = [
        RuleRunOut(
            id=r["id"], at=r["at"], revision=r["revision"], document=r["document"], name=r["name"] or "a document", waits=r["waits"],
            event=r["event"], outcome=r["outcome"], undone=r["undone"], rules=r["rules"],
            reasons=[reason_out(one) for one in r["reasons"]], manifest=r["manifest"],
        )
        for r in rows[:_PAGE]
    ]  # fmt: skip
    return answer(RuleRuns(runs=out, next=out[-1].id if len(rows) > _PAGE else None))


@api.get("/documents/<int:document>/why", responses={200: WhyDocument})
def why_document(path: RuledDocumentPath) -> Response:
    """What rules did with a document the last time, which tests settled it, and why the other rules did not apply."""
    found = why.of_document(guard.drive(), guard.actor(), path.document)
    return answer(WhyDocument(why=why_out(found) if found is not None else None))
