"""Patterns and facts made by hypothesis: any that compile, and facts for all their fields."""

from datetime import date

from hypothesis import strategies as st

from waka.core.names.fields import DateParts, FieldType, Party, Person, Value
from waka.core.names.parse import PatternError
from waka.core.names.pattern import Pattern, compile_pattern

_SLOTS = [
    "<issued>", "<issued yyyy>", "<issued MM>", "<issued yyMMdd>", "<issued d.M.yyyy>", "<issued MMMM>", "<issued fy>",
    "<party>", "<party short>", "<party code>", "<person>", "<person last>", "<person initials>", "<ref>", "<subject>",
    "<subject word>", "<subject lower>", "<task hyphen>", "<attempt 00>", "<n digits>", "<l letters>", "<any>",
    "<ref|subject>", "<issued yyyy|received yyyy>",
]  # fmt: skip
_slot = st.builds(lambda slot, optional: slot + optional, st.sampled_from(_SLOTS), st.sampled_from(["", "", "", "?"]))
_mark = st.sampled_from(["_", "-", " ", ".", "", " (", ") ", "x", "No ", "__"])
_level = st.lists(st.tuples(_mark, _slot), min_size=1, max_size=4).map(
    lambda parts: "".join(mark + slot for mark, slot in parts)
)


@st.composite
def patterns(draw: st.DrawFn) -> Pattern:
    """Any pattern of up to three levels that compiles."""
    for _ in range(4):
        try:
            return compile_pattern("/".join(draw(st.lists(_level, min_size=1, max_size=3))))
        except PatternError:
            continue
    return compile_pattern("<issued yyyy-MM-dd>_<party short>_<ref>?")


words = st.text(st.sampled_from("abXY09_-. ~é/ß"), min_size=1, max_size=9)
short = st.sampled_from(["tollgate", "brine-lane", "a0", "b-1", "x", "xx-x"])
_OF_TYPE: dict[FieldType, st.SearchStrategy[Value]] = {
    FieldType.DATE: st.dates(date(1960, 1, 1), date(2040, 12, 31)).map(DateParts.of),
    FieldType.TEXT: words,
    FieldType.CAPTURE: words | st.integers(0, 999).map(str) | st.sampled_from(["keel", "Boot"]),
    FieldType.PARTY: st.builds(Party, words, short, short.map(lambda s: s.replace("-", ""))),
    FieldType.PERSON: st.builds(
        Person, st.sampled_from(["Ana", "Lise Marie"]), st.sampled_from(["Brandt", "van Dorn"])
    ),
    FieldType.NUMBER: st.integers(0, 1200),
}


@st.composite
def facts_for(draw: st.DrawFn, pattern: Pattern) -> dict[str, Value]:
    """Facts for the pattern's fields; some may be lacking."""
    types = {c.field: c.type for s in pattern.slots for c in s.choices}
    known = {field: draw(_OF_TYPE[kind]) for field, kind in types.items()}
    return {f: v for f, v in known.items() if draw(st.integers(0, 9))}
