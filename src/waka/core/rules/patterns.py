"""Patterns in rules: name patterns as everywhere, with the fields that a rule knows of a document."""

from waka.core.names.parse import Level, PatternError, Slot
from waka.core.names.pattern import compile_pattern
from waka.core.rules.errors import Wrong
from waka.core.rules.subjects import FACTS

#: What a rule's patterns may print: facts (an amount is in no name), the present name, its folder's, its area's.
PRINTED = frozenset([*(fact for fact in FACTS if fact != "amount"), "name", "folder", "area"])
#: Fields that tell no two documents of a day and a kind apart.
_OF_ALL = frozenset(["kind", "area", "folder", "issued", "due", "received"])


def check_name(text: str, at: int) -> None:
    """A name's pattern, which begins at ``at`` of its clause: one level, fields that are known. Raises Wrong."""
    levels = _levels(text, at)
    if len(levels) > 1:
        raise Wrong(at + text.index("/", _end_of(levels[0])), "a name of one level: its folders stand in “place”")
    _check_fields(levels, at)


def check_place(text: str, at: int) -> None:
    """A place: a pattern, or ``//Area`` and perhaps a pattern below it; raises Wrong."""
    if not text.startswith("//"):
        _check_fields(_levels(text, at), at)
        return
    area, slash, below = text[2:].partition("/")
    if not area.strip():
        raise Wrong(at + 2, "the name of an area, as //Accounts")
    if "<" in area:
        raise Wrong(at + 2 + area.index("<"), "the name of an area without a slot")
    if slash:
        start = at + 2 + len(area) + 1
        if not below:
            raise Wrong(start, "a pattern behind the “/”")
        _check_fields(_levels(below, start), start)


def check_read(text: str, at: int) -> None:
    """A pattern that is only to fit: any field may stand in it. ``at``: where it begins; raises Wrong."""
    try:
        compile_pattern(text)
    except PatternError as error:
        raise Wrong(at + error.at, error.why, mend=error.mend) from error


def tells_apart(text: str) -> bool:
    """Whether a name's pattern has a slot that differs between documents of one kind, area and day."""
    return any(
        choice.field not in _OF_ALL
        for level in compile_pattern(text, joined=True).levels
        for item in level.items
        if isinstance(item, Slot)
        for choice in item.choices
    )


def _levels(text: str, at: int) -> tuple[Level, ...]:
    try:
        return compile_pattern(text, joined=True).levels
    except PatternError as error:
        raise Wrong(at + error.at, error.why, mend=error.mend) from error


def _end_of(level: Level) -> int:
    last = level.items[-1]
    return last.at + len(last.text)


def _check_fields(levels: tuple[Level, ...], at: int) -> None:
    for level in levels:
        for item in level.items:
            if isinstance(item, Slot) and any(choice.field not in PRINTED for choice in item.choices):
                wrong = next(choice.field for choice in item.choices if choice.field not in PRINTED)
                raise Wrong(
                    at + item.at, f"a fact that names may have: “{wrong}” is none", length=len(item.text),
                )  # fmt: skip
