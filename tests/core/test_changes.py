"""Changes: inverses of inverses, rows and back, checks that need no database."""

from dataclasses import fields, replace
from typing import Any, NewType, get_args, get_type_hints

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from waka.core.changes import kinds as k
from waka.core.changes.batch import check_batch
from waka.core.changes.registry import SPECS, Effect, Spec, aspects, inverse, kinds_that, target
from waka.core.changes.wire import LineRow, decode, encode, inverse_row

_PLACES = st.builds(k.Location, st.integers(1, 10**9).map(k.FolderId), st.sampled_from(["a.pdf", "Übersicht.pdf", "b"]))
_SOURCE = st.just({"kind": "person"}) | st.just({"kind": "page", "was": {"kind": "person", "why": "a"}})
_BY_NAME: dict[str, st.SearchStrategy[Any]] = {"was_head": st.integers(1, 50), "version": st.integers(2, 50)}
_BY_TYPE: dict[Any, st.SearchStrategy[Any]] = {
    k.Location: _PLACES, int: st.integers(0, 10**9), str: st.text(max_size=5), bool: st.booleans(), Any: st.none() | st.text(max_size=5),
    tuple[str, ...]: st.lists(st.sampled_from(["to pay", "slipway", "old"]), max_size=2, unique=True).map(tuple),
    dict[str, Any]: _SOURCE,
    dict[str, Any] | None: st.none() | st.fixed_dictionaries({"level": st.integers(1, 4), "until": st.none() | st.just("2026-12-24")}),
}  # fmt: skip


def _values(name: str, hint: Any) -> st.SearchStrategy[Any]:
    if name in _BY_NAME:
        return _BY_NAME[name]
    if isinstance(hint, NewType):
        return st.integers(1, 10**9)
    if NewType in {type(part) for part in get_args(hint)}:
        return st.none() | st.integers(1, 10**9)
    return _BY_TYPE[hint]


def _of(spec: Spec) -> st.SearchStrategy[k.Change]:
    hints = get_type_hints(spec.change)
    return st.builds(spec.change, **{f.name: _values(f.name, hints[f.name]) for f in fields(spec.change)})


#: There are many kinds, and little in each that could vary.
few = settings(max_examples=25)
every_kind = pytest.mark.parametrize("spec", SPECS.values(), ids=SPECS)


def test_each_change_has_one_specification() -> None:
    assert {spec.change for spec in SPECS.values()} == set(get_args(k.Change)), "a change without one is unchecked"
    assert all(spec.effects for spec in SPECS.values())
    free = kinds_that(Effect.STRUCTURE) | {"discard", "unplace"}
    asking = {kind for kind, spec in SPECS.items() if spec.demands}
    assert asking | free == set(SPECS), "what asks for no right of its own only leaves or enters folders"


@every_kind
@few
@given(data=st.data())
def test_a_manifest_line_keeps_all_that_a_change_says(spec: Spec, data: st.DataObject) -> None:
    change = data.draw(_of(spec))
    assert decode(encode(change)) == change
    assert encode(change).kind == spec.kind


@every_kind
@few
@given(data=st.data())
def test_the_inverse_of_the_inverse_does_the_same(spec: Spec, data: st.DataObject) -> None:
    change = data.draw(_of(spec))
    again = inverse(inverse(change))
    if isinstance(change, k.SetFact) and isinstance(again, k.SetFact):
        assert (again.was, again.to, again.field) == (change.was, change.to, change.field)
    elif isinstance(change, k.RemoveFolder):
        assert again == replace(change, lenient=True)
    else:
        assert again == change


@every_kind
@few
@given(data=st.data())
def test_an_inverse_touches_the_same_and_leaves_what_was_filled(spec: Spec, data: st.DataObject) -> None:
    change = data.draw(_of(spec))
    back = inverse(change)
    assert sorted(map(str, aspects(back))) == sorted(map(str, aspects(change)))
    if target(change) is not None:
        assert getattr(back, "was", None) == target(change), "it expects what the change left"
    if SPECS[encode(back).kind].effects & {Effect.ENTERS}:
        assert target(back) == getattr(change, "was", None)


@every_kind
@few
@given(data=st.data())
def test_the_row_of_the_inverse_is_the_inverse_of_the_row(spec: Spec, data: st.DataObject) -> None:
    change = data.draw(_of(spec))
    assert inverse_row(encode(change)) == encode(inverse(change))


def test_a_line_that_lacks_a_part_is_no_change() -> None:
    for row in (
        LineRow("fly"),
        LineRow("add", 1, None, 1),
        LineRow("discard", 1, None, 1),
        LineRow("fact", 1, data={}),
    ):
        with pytest.raises(KeyError):
            decode(row)


def test_one_thing_is_changed_once_in_a_list_and_one_name_wanted_once() -> None:
    here = k.FolderId(5)
    first = k.Place(k.EntryId(1), k.Location(here, "a.pdf"), k.Location(here, "b.pdf"), k.DocumentId(1))
    same = k.Place(k.EntryId(1), k.Location(here, "a.pdf"), k.Location(here, "c.pdf"), k.DocumentId(1))
    rival = k.Place(k.EntryId(2), k.Location(here, "x.pdf"), k.Location(here, "B.PDF"), k.DocumentId(2))
    bad = k.Place(k.EntryId(3), k.Location(here, "y.pdf"), k.Location(here, "con.pdf"), k.DocumentId(3))
    codes = [(p.line, p.code) for p in check_batch([first, same, rival, bad])]
    assert codes == [(1, "twice"), (2, "taken"), (3, "name")]
    assert check_batch([first]) == []
