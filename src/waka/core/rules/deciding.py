"""What a rulebook says of one document: a function of the text, the event, the document and the day."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import date
from decimal import Decimal
from typing import Any, Literal

from waka.core.names.drive_fields import DRIVE_FIELDS
from waka.core.names.fields import DateParts, FieldType, Party, Person, Settings, Value
from waka.core.names.parse import Slot
from waka.core.names.pattern import compile_pattern
from waka.core.rules.calendar import day_of
from waka.core.rules.documents import Document, Json
from waka.core.rules.judging import Truth, judge
from waka.core.rules.settling import Settled, in_favour, settle
from waka.core.rules.subjects import BARE, SUBJECTS, Values
from waka.core.rules.tree import Action, Rule, Rulebook, Test
from waka.core.rules.values import Register, same

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


@dataclass
class Decision:
    """All that was decided. Where anything is asked, nothing is done: the rest is what is proposed. Places are whole paths."""

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


@dataclass(frozen=True)
class Where:
    """Whose rulebook it is, and what it may: the area, areas that granted it to file there, the register, names' settings, the day."""

    area: str
    granted: frozenset[str]
    register: Register
    settings: Settings
    today: date


def decide(rulebook: Rulebook, document: Document, event: str, where: Where, *, by_itself: bool) -> Decision:
    """What the rules say at an ``event`` (``arrival``, ``change``, ``hand``, ``daily 06:30``). ``by_itself``: no person looks."""
    return _Pass(document, where, by_itself).over(rulebook, event)


class _Pass:
    """One pass of the rules over a document."""

    def __init__(self, document: Document, where: Where, by_itself: bool) -> None:
        self._document, self._where, self._by_itself = document, where, by_itself
        self._facts = {name: value for name, value in document.facts.items() if value is not None}
        self._doubtful = set(document.doubtful)
        self._tags = list(document.tags)
        self._told = Decision()
        self._leaned: set[str] = set()
        self._said: dict[str, tuple[Rule, Action]] = {}
        self._more: list[tuple[Rule, Action]] = []

    def over(self, rulebook: Rulebook, event: str) -> Decision:
        told, ended = self._told, False
        for rule in rulebook.rules:
            if rule.paused:
                told.asked.append(Asked(rule, "paused"))
            elif ended or event not in rule.on:
                told.asked.append(Asked(rule, "not asked"))
            else:
                ended = self._ask(rule)
        self._print()
        had = {same(tag) for tag in self._document.tags}
        has = {same(tag) for tag in self._tags}
        told.tags = [tag for tag in self._tags if same(tag) not in had]
        told.untags = [tag for tag in self._document.tags if same(tag) not in has]
        told.ask.sort(key=lambda one: one.line)
        told.leans_on = sorted(self._leaned)
        return told

    def _ask(self, rule: Rule) -> bool:
        """Ask one rule; whether it ends the pass."""
        settled = settle(rule.when, self._truth) if rule.when is not None else Settled(True, ())
        outcome: Outcome = "applied" if settled.truth else "not so" if settled.truth is False else "not known"
        self._told.asked.append(
            Asked(rule, outcome, tuple(self._because(test, truth) for test, truth in settled.because))
        )
        tested = [test.subject for test, _ in settled.because if test.test not in BARE]
        if not self._by_itself:
            self._leaned |= self._doubtful & set(tested)
        elif settled.truth is None and rule.when is not None and in_favour(rule.when, self._best):
            doubtful = tuple(dict.fromkeys(s for s in tested if s in self._doubtful))
            self._told.ask.append(
                Question(rule.name, rule.line, {"code": "doubtful", "facts": list(doubtful)}, doubtful)
            )
        if not settled.truth:
            return False
        self._told.applied.append(rule.name)
        for action in rule.actions:
            self._take(rule, action)
        return not rule.go_on

    def _because(self, test: Test, truth: Truth) -> Because:
        return Because(test, truth, self._value(test.subject), truth is None and test.subject in self._doubtful)

    def _value(self, subject: str) -> Json:
        if subject == "tag":
            return tuple(self._tags)
        return self._facts.get(subject) if SUBJECTS[subject].fact else self._document.besides(subject)

    def _truth(self, test: Test) -> Truth:
        """What a test comes to, as one decides: by itself a doubtful fact is not known."""
        if self._by_itself and test.test not in BARE and test.subject in self._doubtful:
            return None
        return self._reading(test)

    def _best(self, test: Test, wanted: bool) -> Truth:
        """A test that only doubt leaves open, as it is best for the rule."""
        truth = self._truth(test)
        return wanted if truth is None and self._reading(test) is not None else truth

    def _reading(self, test: Test) -> Truth:
        """What a test comes to by the first reading of what it asks about."""
        value = self._value(test.subject)
        known = bool(value) if test.subject == "tag" else value is not None
        if test.test == "is known":
            return known
        if test.test == "is missing":
            return not known
        if test.test == "is sure":
            return known and test.subject not in self._doubtful
        if not known and test.subject != "tag":
            return None
        return judge(test, value, self._where.today, self._where.settings)

    def _take(self, rule: Rule, action: Action) -> None:
        told = self._told
        if action.do in ("set", "clear"):
            if action.field not in told.facts:
                value = self._set(action) if action.do == "set" else None
                told.facts[action.field] = value
                self._doubtful.discard(action.field)
                self._facts.pop(action.field, None)
                if value is not None:
                    self._facts[action.field] = value
        elif action.do == "tag":
            has = {same(tag) for tag in self._tags}
            self._tags += [tag for tag in action.tags if same(tag) not in has]
        elif action.do == "untag":
            off = {same(tag) for tag in action.tags}
            self._tags = [tag for tag in self._tags if same(tag) not in off]
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
                return day_of(action.text, self._where.today).isoformat()
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

    def _print(self) -> None:
        """Name, place and all other places, with the facts as they are when all rules were asked."""
        told = self._told
        if "name" in self._said:
            told.name = self._printed(*self._said["name"], self._said["name"][1].text)
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
        if not action.text.startswith("//"):
            below = self._printed(rule, action, action.text)
            return None if below is None else f"{self._where.area}/{below}"
        area, slash, pattern = action.text[2:].partition("/")
        if same(area) not in {same(one) for one in (self._where.area, *self._where.granted)}:
            self._told.ask.append(Question(rule.name, action.line, {"code": "not granted", "area": area}))
            return None
        if not slash:
            return area
        below = self._printed(rule, action, pattern)
        return None if below is None else f"{area}/{below}"

    def _printed(self, rule: Rule, action: Action, text: str) -> str | None:
        """A pattern printed; None where it is asked about."""
        pattern = compile_pattern(text, joined=True)
        facts = self._printable()
        lacking: list[str] = []
        for slot in (item for level in pattern.levels for item in level.items if isinstance(item, Slot)):
            first = next((choice.field for choice in slot.choices if choice.field in facts), None)
            if first is None and not slot.optional:
                lacking += [choice.field for choice in slot.choices]
            elif first in self._doubtful:
                if self._by_itself:
                    lacking.append(str(first))
                else:
                    self._leaned.add(str(first))
        if lacking:
            facts_lacking = tuple(dict.fromkeys(lacking))
            why = {"code": "lacks", "facts": list(facts_lacking)}
            self._told.ask.append(Question(rule.name, action.line, why, facts_lacking))
            return None
        printed = pattern.print(facts, self._where.settings, guard=False)
        if printed.name is None:
            missing = tuple(printed.missing)
            why = (
                {"code": "refused", "why": printed.refused}
                if printed.refused
                else {"code": "lacks", "facts": list(missing)}
            )
            self._told.ask.append(Question(rule.name, action.line, why, missing))
        return printed.name

    def _printable(self) -> dict[str, Value]:
        """What patterns may print, in the forms that they take."""
        document = self._document
        facts: dict[str, Value] = {"area": self._where.area}
        if document.name is not None:
            facts["name"] = document.name
        if document.place:
            facts["folder"] = document.place.rpartition("/")[2]
        for name, value in self._facts.items():
            if name in DRIVE_FIELDS:
                facts[name] = self._as_value(DRIVE_FIELDS[name], value)
        return facts

    def _as_value(self, kind: FieldType, value: Json) -> Value:
        if kind is FieldType.DATE:
            return DateParts.from_iso(value)
        if kind is FieldType.PERSON:
            return Person(value["given"], value["family"])
        if kind is FieldType.PARTY:
            return _party(value, self._where.register)
        return value if isinstance(value, int) else str(value)


def _party(name: str, register: Iterable[Any]) -> Party:
    entry = next((one for one in register if same(one.name) == same(name)), None)
    return Party(entry.name, entry.short, entry.code) if entry is not None else Party(name)
