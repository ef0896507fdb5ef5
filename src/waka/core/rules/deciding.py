"""What a rulebook says of one document: a function of the text, the event, the document and the day."""

import functools
from collections.abc import Collection, Mapping
from dataclasses import dataclass, field
from decimal import Decimal
from typing import Any, Literal

from waka.core.rules.asking import Ask, Asking, Seen, wanted
from waka.core.rules.calendar import day_of
from waka.core.rules.documents import Document, Json, Where
from waka.core.rules.filling import Filled, fill
from waka.core.rules.judging import Truth
from waka.core.rules.settling import Settled, in_favour, settle
from waka.core.rules.subjects import BARE, SUBJECTS, Values
from waka.core.rules.tree import Action, Condition, Rule, Rulebook, Test, every_test
from waka.core.rules.values import same

Outcome = Literal["applied", "not so", "not known", "paused", "not asked"]


@dataclass(frozen=True)
class Because:
    """A test that settled a rule: what it came to, of which value (None: there was none), and whether only doubt left it open."""

    test: Test
    truth: Truth
    value: Json
    doubtful: bool


@dataclass(frozen=True)
class Asked:
    """What became of a rule, and the tests that settled it."""

    rule: Rule
    outcome: Outcome
    because: tuple[Because, ...] = ()


@dataclass(frozen=True)
class Question:
    """What stands in the way: a rule's line, why (a code of ``words.rules`` with parameters), the facts that it is about."""

    rule: str
    line: int
    why: Mapping[str, Any]
    facts: tuple[str, ...] = ()

    def to_json(self) -> dict[str, Any]:
        """As it is kept with what came of a pass."""
        return {"rule": self.rule, "line": self.line, "why": dict(self.why), "facts": list(self.facts)}


@dataclass
class Decision:
    """All that was decided. Where anything is asked, nothing is done: the rest is what is proposed. Places are whole paths.

    ``said``: the rule and its pattern of ``name`` and ``place``, whether or not that could be printed.
    """

    applied: list[str] = field(default_factory=list)
    name: str | None = None
    place: str | None = None
    also: list[str] = field(default_factory=list)
    copies: list[str] = field(default_factory=list)
    tags: list[str] = field(default_factory=list)
    untags: list[str] = field(default_factory=list)
    facts: dict[str, Json] = field(default_factory=dict)
    ask: list[Question] = field(default_factory=list)
    leave: bool = False
    archive: bool = False
    leans_on: list[str] = field(default_factory=list)
    asked: list[Asked] = field(default_factory=list)
    said: dict[str, tuple[str, str]] = field(default_factory=dict)

    @property
    def concerned(self) -> list[str]:
        """The rules that applied, or ask."""
        return list(dict.fromkeys([*self.applied, *(one.rule for one in self.ask)]))


@dataclass(frozen=True)
class _Ready:
    """A rule that is ready to be asked: what its condition comes to of what is partly veiled, and of what is not (None: it has none)."""

    rule: Rule
    when: Condition | None
    veiled: Ask | None
    plain: Ask | None


class Decider:
    """A rulebook made ready once, to decide about many documents on one day."""

    def __init__(self, rulebook: Rulebook, where: Where) -> None:
        self.rulebook, self.where = rulebook, where
        self.asking = Asking(where.today, where.settings)
        self._ready = [self._made(rule) for rule in rulebook.rules if not rule.paused]
        self._kinds_stay = not any(action.field == "kind" for rule in rulebook.rules for action in rule.actions)
        # what rules ask about is what the document came with: none sets a fact, nor asks about tags that another puts on
        self.values_stay = not any(
            action.do in ("set", "clear") for rule in rulebook.rules for action in rule.actions
        ) and not (
            any(action.tags for rule in rulebook.rules for action in rule.actions)
            and any(
                test.subject == "tag"
                for rule in rulebook.rules
                if rule.when is not None
                for test in every_test(rule.when)
            )
        )
        self._asked: dict[tuple[str, str | None], list[_Ready]] = {}

    def _made(self, rule: Rule) -> _Ready:
        if rule.when is None:
            return _Ready(rule, None, None, None)
        asking = self.asking
        return _Ready(
            rule, rule.when, asking.condition(rule.when, veiled=True), asking.condition(rule.when, veiled=False)
        )

    @functools.cached_property
    def subjects(self) -> frozenset[str]:
        """What its rules ask about."""
        return frozenset(
            test.subject for rule in self.rulebook.rules if rule.when is not None for test in every_test(rule.when)
        )

    def line_of_place(self, decision: Decision) -> tuple[str, int]:
        """The rule that says where a document goes, and the line of that; of several that applied the first where none does."""
        by_name = {rule.name: rule for rule in self.rulebook.rules}
        rule = by_name[decision.said["place"][0] if "place" in decision.said else decision.applied[0]]
        return rule.name, next((action.line for action in rule.actions if action.do == "place"), rule.line)

    def rules_on(self, event: str, kind: str | None = None) -> list[_Ready]:
        """The rules that are asked at an event, in their order; of these, for a document of a ``kind`` that is sure to stay, those
        that may apply to it: most rules want a kind, so most are never asked of a document of another.
        """
        key = (event, same(kind) if kind is not None and self._kinds_stay else None)
        asked = self._asked.get(key)
        if asked is None:
            asked = [one for one in self._ready if event in one.rule.on]
            if key[1] is not None:
                asked = [one for one in asked if (kinds := wanted(one.when, "kind")) is None or key[1] in kinds]
            self._asked[key] = asked
        return asked

    def could_apply(self, document: Document, names: Collection[str]) -> bool:
        """Whether any rule of these names may have to do with a document; False is certain, and quicker to find out than a decision."""
        if document.doubtful or not self.values_stay:
            return True
        seen = Seen(document.has, set(), by_itself=False)
        return any(
            ready.rule.name in names and (ready.plain is None or ready.plain(seen) is True) for ready in self._ready
        )

    def decide(self, document: Document, event: str, *, by_itself: bool, explain: bool = True) -> Decision:
        """What the rules say at an ``event`` (``arrival``, ``change``, ``hand``, ``daily 06:30``). ``by_itself``: no person looks.

        Without ``explain`` nothing is told of what became of each rule (``asked``).
        """
        return _Pass(self, document, by_itself, explain).over(event)


def decide(rulebook: Rulebook, document: Document, event: str, where: Where, *, by_itself: bool) -> Decision:
    """What a rulebook says of one document, as ``Decider.decide``."""
    return Decider(rulebook, where).decide(document, event, by_itself=by_itself)


class _Pass:
    """One pass of the rules over a document."""

    def __init__(self, decider: Decider, document: Document, by_itself: bool, explain: bool) -> None:
        self._decider, self._document, self._by_itself, self._explain = decider, document, by_itself, explain
        self._own = dict(document.has)
        self._seen = Seen(self._own, set(document.doubtful), by_itself=by_itself)
        self._told = Decision()
        self._leaned: set[str] = set()
        self._said: dict[str, tuple[Rule, Action]] = {}
        self._more: list[tuple[Rule, Action]] = []

    def over(self, event: str) -> Decision:
        told, seen = self._told, self._seen
        became: dict[str, Asked] = {}
        for ready in self._decider.rules_on(event, self._kind()):
            if self._explain or (seen.doubtful and not self._by_itself):
                became[ready.rule.name] = asked = self._settle(ready)
                applies = asked.outcome == "applied"
            elif ready.when is None or not seen.veiled:
                applies = ready.plain is None or ready.plain(seen) is True
            else:
                truth = ready.veiled(seen) if ready.veiled is not None else True
                applies = truth is True
                if truth is None:
                    self._settle(ready)
            if applies:
                told.applied.append(ready.rule.name)
                for action in ready.rule.actions:
                    self._take(ready.rule, action)
                if not ready.rule.go_on:
                    break
        if self._explain:
            told.asked = [self._became(rule, became) for rule in self._decider.rulebook.rules]
        if told.applied:
            self._fill()
            self._compare_tags()
        told.ask.sort(key=lambda one: one.line)
        told.leans_on = sorted(self._leaned)
        return told

    def _kind(self) -> str | None:
        """The document's kind, where rules for another need not be asked: nothing is to be told of them, and it is sure."""
        return None if self._explain or "kind" in self._seen.doubtful else self._seen.values.get("kind")

    @staticmethod
    def _became(rule: Rule, became: Mapping[str, Asked]) -> Asked:
        return Asked(rule, "paused") if rule.paused else became.get(rule.name) or Asked(rule, "not asked")

    def _settle(self, ready: _Ready) -> Asked:
        """Ask one rule, with the tests that settled it; whether only doubt keeps it from applying is asked of a person."""
        rule, when = ready.rule, ready.when
        settled = settle(when, self._truth) if when is not None else Settled(True, ())
        outcome: Outcome = "applied" if settled.truth else "not so" if settled.truth is False else "not known"
        tested = [test.subject for test, _ in settled.because if test.test not in BARE]
        if not self._by_itself:
            self._leaned |= self._seen.doubtful & set(tested)
        elif settled.truth is None and when is not None and in_favour(when, self._best):
            doubtful = tuple(dict.fromkeys(s for s in tested if s in self._seen.doubtful))
            why = {"code": "doubtful", "facts": list(doubtful)}
            self._told.ask.append(Question(rule.name, rule.line, why, doubtful))
        because = tuple(self._because(test, truth) for test, truth in settled.because) if self._explain else ()
        return Asked(rule, outcome, because)

    def _because(self, test: Test, truth: Truth) -> Because:
        doubtful = truth is None and test.subject in self._seen.doubtful
        return Because(test, truth, self._seen.values.get(test.subject), doubtful)

    def _truth(self, test: Test) -> Truth:
        """What a test comes to, as one decides: by itself a doubtful fact is not known."""
        veiled = test.subject in self._seen.veiled and test.test not in BARE
        return None if veiled else self._decider.asking.reading(test)(self._seen)

    def _best(self, test: Test, wanted: bool) -> Truth:
        """A test that only doubt leaves open, as it is best for the rule."""
        truth = self._truth(test)
        return wanted if truth is None and self._decider.asking.reading(test)(self._seen) is not None else truth

    def _take(self, rule: Rule, action: Action) -> None:
        told, values = self._told, self._own
        if action.do in ("set", "clear"):
            if action.field not in told.facts:
                value = self._set(action) if action.do == "set" else None
                told.facts[action.field] = value
                self._seen.doubtful.discard(action.field)
                values.pop(action.field, None)
                if value is not None:
                    values[action.field] = value
        elif action.do == "tag":
            has = {same(tag) for tag in values["tag"]}
            values["tag"] += tuple(tag for tag in action.tags if same(tag) not in has)
        elif action.do == "untag":
            off = {same(tag) for tag in action.tags}
            values["tag"] = tuple(tag for tag in values["tag"] if same(tag) not in off)
        elif action.do == "archive":
            told.archive = True
        elif action.do == "ask":
            told.ask.append(Question(rule.name, action.line, {"code": "in words", "words": action.text}))
        elif action.do == "leave":
            told.leave = told.leave or "place" not in self._said
        elif action.do == "name" or not told.leave:
            self._say(rule, action)

    def _say(self, rule: Rule, action: Action) -> None:
        if action.do in ("name", "place"):
            self._said.setdefault(action.do, (rule, action))
        else:
            self._more.append((rule, action))

    def _set(self, action: Action) -> Json:
        """A canonical value in the form that the fact is kept in."""
        match SUBJECTS[action.field].values:
            case Values.DATE:
                return day_of(action.text, self._decider.where.today).isoformat()
            case Values.MONEY:
                number, currency = action.text.split(" ")
                return {
                    "value": number if len(number.partition(".")[2]) > 2 else f"{Decimal(number):.2f}",
                    "currency": currency,
                }
            case Values.NUMBER:
                return int(action.text)
            case Values.PERSON:
                family, comma, given = action.text.partition(", ")
                if not comma:
                    given, _, family = action.text.rpartition(" ")
                return {"given": given, "family": family}
            case _:
                return action.text

    def _compare_tags(self) -> None:
        before, after = self._document.tags, self._seen.values["tag"]
        had, has = {same(tag) for tag in before}, {same(tag) for tag in after}
        self._told.tags = [tag for tag in after if same(tag) not in had]
        self._told.untags = [tag for tag in before if same(tag) not in has]

    def _fill(self) -> None:
        """Name, place and all other places, with the facts as they are when all rules were asked."""
        told = self._told
        told.said = {part: (rule.name, action.text) for part, (rule, action) in self._said.items()}
        if "name" in self._said:
            told.name = self._filled(*self._said["name"], self._said["name"][1].text)
        if "place" in self._said:
            told.place = self._path(*self._said["place"])
        seen = {"also file in": {same(told.place)} if told.place else set(), "copy to": set[str]()}
        for rule, action in self._more:
            path = self._path(rule, action)
            if path is not None and same(path) not in seen[action.do]:
                seen[action.do].add(same(path))
                (told.also if action.do == "also file in" else told.copies).append(path)

    def _path(self, rule: Rule, action: Action) -> str | None:
        """The whole path of a place below the drive; None where it is asked about."""
        where = self._decider.where
        if not action.text.startswith("//"):
            below = self._filled(rule, action, action.text)
            return None if below is None else f"{where.area}/{below}"
        area, slash, pattern = action.text[2:].partition("/")
        if same(area) not in {same(one) for one in (where.area, *where.granted)}:
            self._told.ask.append(Question(rule.name, action.line, {"code": "not granted", "area": area}))
            return None
        if not slash:
            return area
        below = self._filled(rule, action, pattern)
        return None if below is None else f"{area}/{below}"

    def _filled(self, rule: Rule, action: Action, text: str) -> str | None:
        """A pattern with the document's facts in it; None where it is asked about."""
        filled: Filled = fill(text, self._document, self._seen, self._decider.where)
        self._leaned |= filled.leans_on
        if filled.why is not None:
            self._told.ask.append(Question(rule.name, action.line, filled.why, filled.lacking))
        return filled.text
