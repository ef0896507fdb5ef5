"""A rulebook's text as a tree, or all that is wrong with it at once."""

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from typing import cast

from waka.core.rules.conditions import ConditionReader
from waka.core.rules.errors import TextError, Wrong, likely
from waka.core.rules.patterns import check_name, check_place
from waka.core.rules.scanning import Scanner
from waka.core.rules.sources import MAX_BYTES, MAX_RULES, Block, Clause, blocks_of
from waka.core.rules.subjects import FACTS, SUBJECTS
from waka.core.rules.tree import ACTIONS, EVENTS, Action, ActionKind, Condition, Rule, Rulebook, clauses_of
from waka.core.rules.values import Register, Unfit, one_spaced, same, value_of

_MOST_ERRORS = 50
_TIME = re.compile(r"(?:[01][0-9]|2[0-3]):[0-5][0-9]")
_CLAUSES = ("owner", "purpose", "paused", "on", "when", *ACTIONS, "go on")
#: Clauses that a rule may have several of.
_AGAIN = frozenset(["set", "clear", "also file in", "copy to", "tag", "untag"])
#: What nobody says beside ``leave``, which leaves a document where it is.
_MOVING = frozenset(["ask", "place", "also file in", "copy to"])


class TextWrong(ValueError):
    """A text with faults: ``errors``, by line and column."""

    def __init__(self, errors: list[TextError]) -> None:
        super().__init__(f"{len(errors)} faults, the first in line {errors[0].line}: {errors[0].expected}")
        self.errors = errors


@dataclass
class _Draft:
    """A rule as far as it is read. ``seen``: clauses, facts and tags that it has, with the clause's key word they came by."""

    owner: str | None = None
    purpose: str | None = None
    paused: bool | str = False
    on: tuple[str, ...] = ("arrival",)
    when: Condition | None = None
    actions: list[Action] = field(default_factory=list)
    go_on: bool = False
    comments: list[tuple[str, int, tuple[str, ...]]] = field(default_factory=list)
    seen: set[str] = field(default_factory=set)
    facts: set[str] = field(default_factory=set)
    tags: dict[str, str] = field(default_factory=dict)


def parse(text: str, register: Register | None = None) -> Rulebook:
    """The rulebook that ``text`` says; raises TextWrong with all its faults. ``register`` None: parties stay as written."""
    if len(text.encode("utf-8", "surrogatepass")) > MAX_BYTES:
        raise TextWrong([TextError(1, 1, 1, f"at most {MAX_BYTES:,} bytes")])
    blocks, ends = blocks_of(text)
    reader = _Reader(register)
    rules = [rule for block in blocks if (rule := reader.rule(block)) is not None]
    if reader.errors:
        raise TextWrong(sorted(reader.errors)[:_MOST_ERRORS])
    return Rulebook(tuple(rules), tuple(ends))


class _Reader:
    """Reads one block after another, and keeps what is wrong."""

    def __init__(self, register: Register | None) -> None:
        self.errors: list[TextError] = []
        self._register = register
        self._names: set[str] = set()
        self._count = 0

    def rule(self, block: Block) -> Rule | None:
        """The rule of a block; None where anything in it is wrong."""
        before = len(self.errors)
        self._count += 1
        name = self._head(block.head) if block.head is not None else ""
        draft = _Draft()
        for clause in block.clauses:
            self._clause(clause, draft)
        head = block.head
        if len(self.errors) == before and not draft.actions and head is not None:
            self.errors.append(
                head.error(0, "a rule that does something: set, clear, name, place, tag, …", len("rule"))
            )
        if len(self.errors) > before or head is None:
            return None
        draft.actions.sort(key=lambda action: ACTIONS.index(action.do))
        rule = Rule(
            name, head.line, draft.owner, draft.purpose, draft.paused, draft.on, draft.when, tuple(draft.actions), draft.go_on,
            before=tuple(block.before), ends=tuple(block.ends),
        )  # fmt: skip
        return replace(rule, comments=_comments(rule, draft.comments))

    def _head(self, head: Clause) -> str:
        try:
            if head.fault is not None:
                self.errors.append(head.fault)
                return ""
            scan = Scanner(head.text)
            scan.at += len("rule")
            scan = Scanner(head.text, scan.at)
            at = scan.at
            name = scan.string()
            scan.end()
            if self._count > MAX_RULES:
                raise Wrong(0, f"at most {MAX_RULES} rules", length=len("rule"))
            if same(name) in self._names:
                raise Wrong(at, "a name that no other rule has", length=len(name) + 2)
            self._names.add(same(name))
            return name
        except Wrong as wrong:
            self.errors.append(head.error(wrong.at, wrong.expected, wrong.length, wrong.mend))
            return ""

    def _clause(self, clause: Clause, draft: _Draft) -> None:
        if clause.fault is not None:
            self.errors.append(clause.fault)
            return
        scan = Scanner(clause.text, 0, clause.breaks)
        try:
            word = next((one for one in _CLAUSES if scan.take(one)), None)
            if word is None:
                first = scan.word()
                raise Wrong(0, f"a clause: {', '.join(_CLAUSES)}", length=len(first) or 1, mend=likely(first, _CLAUSES))
            if word in draft.seen and word not in _AGAIN:
                raise Wrong(0, f"“{word}” once in a rule", length=len(word))
            beside = {"leave"} if word in _MOVING else _MOVING if word == "leave" else set()
            if beside & draft.seen:
                raise Wrong(0, f"not “{word}” beside “{next(iter(beside & draft.seen))}”", length=len(word))
            draft.seen.add(word)
            self._read(word, scan, clause, draft)
            scan.end()
        except Wrong as wrong:
            self.errors.append(clause.error(wrong.at, wrong.expected, wrong.length, wrong.mend))

    def _read(self, word: str, scan: Scanner, clause: Clause, draft: _Draft) -> None:
        if word in _SAYING:
            _SAYING[word](scan, draft)
        elif word == "when":
            draft.when = ConditionReader(scan, self._register, lambda at: clause.places[at]).read()
            if not scan.ended:
                raise Wrong(scan.at, "“and”, “or” or the end of the clause", length=len(scan.word()) or 1)
        elif word == "set":
            draft.actions.append(self._set(scan, draft, clause.line))
        elif word in ("tag", "untag"):
            draft.actions.append(_tagging(cast(ActionKind, word), scan, draft, clause.line))
        else:
            draft.actions.append(_simple(cast(ActionKind, word), scan, draft, clause.line))
        if clause.comments:
            of_its_sort = sum(action.do == word for action in draft.actions)
            draft.comments.append((word, max(of_its_sort - 1, 0), tuple(clause.comments)))

    def _set(self, scan: Scanner, draft: _Draft, line: int) -> Action:
        fact = _fact(scan, draft)
        if not scan.take("to"):
            raise Wrong(scan.at, "“to” and a value", length=len(scan.word()) or 1)
        start = scan.at
        text = scan.string() if scan.text[start : start + 1] == '"' else scan.rest()
        if not text:
            raise Wrong(len(scan.text), "a value")
        try:
            return Action("set", fact, value_of(SUBJECTS[fact].values, text, self._register), line=line)
        except Unfit as unfit:
            raise Wrong(start, unfit.expected, length=len(text), mend=unfit.mend) from unfit


def _comments(rule: Rule, kept: list[tuple[str, int, tuple[str, ...]]]) -> tuple[tuple[int, tuple[str, ...]], ...]:
    """Comments by the place of their clause among those that are printed; of one that is not, by the next that is."""
    printed = clauses_of(rule)
    found: dict[int, tuple[str, ...]] = {}
    for word, number, comments in sorted(kept, key=lambda one: (_CLAUSES.index(one[0]), one[1])):
        places = [n for n, clause in enumerate(printed) if clause == word]
        after = [n for n, clause in enumerate(printed) if _CLAUSES.index(clause) > _CLAUSES.index(word)]
        place = places[number] if places else after[0]
        found[place] = (*found.get(place, ()), *comments)
    return tuple(found.items())


def _fact(scan: Scanner, draft: _Draft) -> str:
    word = scan.word()
    if word not in FACTS:
        raise Wrong(scan.at, f"a fact: {', '.join(FACTS)}", length=len(word) or 1, mend=likely(word, FACTS))
    if word in draft.facts:
        raise Wrong(scan.at, f"“{word}” once, in “set” or “clear”", length=len(word))
    draft.facts.add(word)
    scan.take(word)
    return word


def _tagging(do: ActionKind, scan: Scanner, draft: _Draft, line: int) -> Action:
    tags: dict[str, str] = {}
    while True:
        at = scan.at
        tag = scan.string()
        if draft.tags.setdefault(same(tag), do) != do:
            raise Wrong(at, f"not “{tag}” both put on and taken off", length=scan.at - at)
        tags.setdefault(same(tag), tag)
        if not scan.take_mark(","):
            return Action(do, tags=tuple(tags.values()), line=line)


def _simple(do: ActionKind, scan: Scanner, draft: _Draft, line: int) -> Action:
    if do == "clear":
        return Action(do, _fact(scan, draft), line=line)
    if do == "ask":
        return Action(do, text=scan.string(), line=line)
    if do in ("archive", "leave"):
        return Action(do, line=line)
    at = scan.at
    pattern = scan.rest()
    if not pattern:
        raise Wrong(len(scan.text), "a pattern, as <issued yyyy>")
    (check_name if do == "name" else check_place)(pattern, at)
    return Action(do, text=pattern, line=line)


def _owner(scan: Scanner, draft: _Draft) -> None:
    draft.owner = _line(scan)


def _purpose(scan: Scanner, draft: _Draft) -> None:
    draft.purpose = _line(scan)


def _line(scan: Scanner) -> str:
    text = one_spaced(scan.rest())
    if not text:
        raise Wrong(len(scan.text), "words to the end of the line")
    return text


def _paused(scan: Scanner, draft: _Draft) -> None:
    draft.paused = one_spaced(scan.rest()) or True


def _go_on(_scan: Scanner, draft: _Draft) -> None:
    draft.go_on = True


def _on(scan: Scanner, draft: _Draft) -> None:
    events: set[str] = set()
    while True:
        at = scan.at
        written = scan.text[at:].partition(",")[0].rstrip()
        word, _, time = one_spaced(written).casefold().partition(" ")
        if word not in EVENTS or (word != "daily" and time):
            raise Wrong(
                at,
                "an event: arrival, change, hand or daily 06:30",
                length=len(written) or 1,
                mend=likely(word, EVENTS),
            )
        if word == "daily" and not _TIME.fullmatch(time):
            raise Wrong(
                at + len(written) - len(time) if time else at + len(written), "a time, as 06:30", length=len(time) or 1
            )
        events.add(f"daily {time}" if time else word)
        scan.at = at + len(written)
        scan.take("")
        if not scan.take_mark(","):
            break
    draft.on = tuple(sorted(events, key=lambda event: (EVENTS.index(event.partition(" ")[0]), event)))


_SAYING: Mapping[str, Callable[[Scanner, _Draft], None]] = {
    "owner": _owner,
    "purpose": _purpose,
    "paused": _paused,
    "on": _on,
    "go on": _go_on,
}
