"""Rulebooks and documents for laws: trees of every shape, values of every subject, as hypothesis makes them."""

from datetime import date

from hypothesis import strategies as st

from waka.core.facts.kinds import KINDS
from waka.core.rules.documents import Document
from waka.core.rules.subjects import BARE, SUBJECTS, Subject, Values
from waka.core.rules.tree import ACTIONS, Action, All, Any, Condition, Not, Rule, Rulebook, Test, joined
from waka.core.rules.values import one_spaced, same

#: Words that are key words somewhere, marks that need quotes, other scripts.
WORDS = st.sampled_from(
    ["larch", "Berth", "and", "or", "not", "is", "known", "in", "at", "contains", "reads", "to", "50", "2026-03-18", "a&b", "o'hara", "100%",
     "é", "船", "say \"hull\"", "a\\b", "today", "(x)"]
)  # fmt: skip
TEXTS = st.lists(WORDS, min_size=1, max_size=4).map(" ".join)
SPANS = st.builds(
    lambda n, unit: f"{n} {unit}{'' if n == 1 else 's'}",
    st.integers(1, 9999),
    st.sampled_from(["day", "week", "month", "year"]),
)
DAYS = st.dates(date(1900, 1, 1), date(2100, 1, 1)).map(date.isoformat) | st.just("today") | st.builds(
    lambda sign, span: f"today {sign} {span}", st.sampled_from("+-"), SPANS
)  # fmt: skip
CURRENCIES = st.sampled_from(["GBP", "EUR"])
NUMBERS = st.integers(0, 10**9 - 1)
_SIZES = st.builds(lambda n, unit: f"{n} {unit}", st.integers(0, 9999), st.sampled_from(["B", "kB", "MB", "GB"]))
_PERSONS = st.sampled_from(["Anna Keel", "van Oar, Imre", "Anna Maria Keel"])
VALUES = {
    Values.KIND: st.sampled_from(sorted(KINDS)),
    Values.PARTY: TEXTS,
    Values.PERSON: _PERSONS,
    Values.TEXT: TEXTS,
    Values.PLACE: st.lists(st.sampled_from(["Post", "In and out", "2026"]), min_size=1, max_size=3).map("/".join),
    Values.TAG: TEXTS,
    Values.WORDS: TEXTS.filter(lambda t: any(c.isalnum() for c in t)),
    Values.DATE: DAYS,
    Values.MONEY: st.builds(lambda n, c: f"{n} {c}", NUMBERS, CURRENCIES),
    Values.SIZE: _SIZES,
    Values.NUMBER: NUMBERS.map(str),
    Values.AGE: SPANS,
}
PATTERNS = ["<issued yyyy>_<ref>", "<party short>-<subject>", "<name>", "Post"]


def _values(subject: Subject, test: str) -> st.SearchStrategy[tuple[str, ...]]:
    if test in BARE:
        return st.just(())
    if test == "reads as":
        return st.just(("scan<n digits>",))
    if test in ("contains", "starts with", "ends with"):
        one = VALUES[Values.WORDS] if subject.values is Values.WORDS else TEXTS
        return st.lists(one, min_size=1, max_size=3, unique=True).map(tuple)
    if test == "is between":
        return _PAIRS[subject.values]
    if test in ("is within the last", "is within the next", "is older than"):
        return SPANS.map(lambda span: (span,))
    most = 3 if test in ("is", "is not") else 1
    return st.lists(VALUES[subject.values], min_size=1, max_size=most, unique=True).map(tuple)


def _ordered(numbers: list[int], unit: str = "") -> tuple[str, ...]:
    return tuple(f"{n}{unit}" for n in sorted(numbers))


_TWO = st.lists(NUMBERS, min_size=2, max_size=2)
_PAIRS = {
    Values.DATE: st.just(("today - 1 month", "today")),
    Values.MONEY: st.builds(lambda two, c: _ordered(two, f" {c}"), _TWO, CURRENCIES),
    Values.SIZE: _TWO.map(lambda two: _ordered(two, " B")),
    Values.NUMBER: _TWO.map(_ordered),
    Values.AGE: st.just(("1 month", "2 years")),
}
TESTS = st.sampled_from(sorted(SUBJECTS)).flatmap(
    lambda name: st.sampled_from(SUBJECTS[name].tests).flatmap(
        lambda test: _values(SUBJECTS[name], test).map(lambda values: Test(name, test, values))
    )
)


def _parts(parts: st.SearchStrategy[Condition]) -> st.SearchStrategy[Condition]:
    several = st.lists(parts, min_size=2, max_size=3).map(tuple)
    return parts.map(Not) | several.map(lambda p: joined(All, p)) | several.map(lambda p: joined(Any, p))


CONDITIONS: st.SearchStrategy[Condition] = st.recursive(TESTS, _parts, max_leaves=6)
_LINES = st.sampled_from(["Odalys Brink", "what asks for money", "# no comment", 'a "b'])
_EVENTS = st.lists(
    st.sampled_from(["arrival", "change", "hand", "daily 06:30", "daily 18:05"]), min_size=1, unique=True
)


@st.composite
def actions(draw: st.DrawFn) -> tuple[Action, ...]:
    """What a rule does, in canonical order; nothing twice that may not be."""
    kinds = draw(st.lists(st.sampled_from(ACTIONS), min_size=1, max_size=5, unique=True))
    if "leave" in kinds:
        kinds = [k for k in kinds if k not in ("ask", "place", "also file in", "copy to")]
    facts = draw(st.permutations(["subject", "ref", "kind", "due"]))
    tags = draw(st.lists(TEXTS, min_size=4, max_size=4, unique_by=same))
    made = {
        "set": Action("set", facts[0], draw(VALUES[SUBJECTS[facts[0]].values])),
        "clear": Action("clear", facts[1]),
        "name": Action("name", text=draw(st.sampled_from(PATTERNS))),
        "place": Action("place", text=draw(st.sampled_from(["Post/<kind>", "//Accounts", "//Accounts/In"]))),
        "also file in": Action("also file in", text="Shared"),
        "copy to": Action("copy to", text="Copies/<issued yyyy>"),
        "tag": Action("tag", tags=tuple(tags[:2])),
        "untag": Action("untag", tags=tuple(tags[2:])),
        "archive": Action("archive"),
        "ask": Action("ask", text=draw(TEXTS)),
        "leave": Action("leave"),
    }
    return tuple(made[kind] for kind in ACTIONS if kind in kinds)


@st.composite
def rules(draw: st.DrawFn, number: int) -> Rule:
    """One rule of any shape."""
    events = sorted(draw(_EVENTS), key=lambda e: (["arrival", "change", "hand", "daily"].index(e.split()[0]), e))
    return Rule(
        f"{number} {draw(TEXTS)}", 0, draw(st.none() | _LINES), draw(st.none() | _LINES),
        draw(st.booleans() | st.sampled_from(["until May", "for \"now\""])), tuple(events), draw(st.none() | CONDITIONS), draw(actions()),
        draw(st.booleans()),
        before=draw(st.sampled_from([(), ("# first",), ("# one", "", "# two"), ("# own", "")])),
        comments=draw(st.sampled_from([(), ((0, ("# why",)),)])), ends=draw(st.sampled_from([(), ("# end",)])),
    )  # fmt: skip


@st.composite
def rulebooks(draw: st.DrawFn) -> Rulebook:
    """Up to three rules, and comments at the end."""
    count = draw(st.integers(0, 3))
    return Rulebook(tuple(draw(rules(n)) for n in range(count)), draw(st.sampled_from([(), ("# the end",)])))


@st.composite
def documents(draw: st.DrawFn) -> Document:
    """A document with any of its facts, some of them doubtful."""
    facts = {
        "kind": st.sampled_from(sorted(KINDS)), "party": TEXTS.map(one_spaced), "subject": TEXTS, "ref": TEXTS, "attempt": st.integers(1, 9),
        "issued": st.sampled_from(["2026-03-02", "2026-03", "2026", "--03"]), "due": st.dates().map(date.isoformat),
        "amount": st.builds(lambda n, c: {"value": f"{n}.50", "currency": c}, st.integers(0, 999), CURRENCIES),
        "person": st.just({"given": "Anna", "family": "Keel"}),
    }  # fmt: skip
    has = draw(st.lists(st.sampled_from(sorted(facts)), unique=True))
    return Document(
        {name: draw(facts[name]) for name in has}, frozenset(draw(st.lists(st.sampled_from(sorted(facts)), max_size=3))),
        draw(st.none() | st.just("scan001")), "pdf", draw(st.none() | st.integers(0, 10**9)), draw(st.none() | st.integers(1, 99)),
        draw(st.none() | TEXTS), None, None, draw(st.none() | st.just("Accounts/Post")), tuple(draw(st.lists(TEXTS, max_size=3, unique_by=same))),
        draw(st.none() | TEXTS), draw(st.none() | st.dates()),
    )  # fmt: skip
