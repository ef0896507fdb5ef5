"""Changes: inverses of inverses, rows and back, checks that need no database."""

from hypothesis import given
from hypothesis import strategies as st

from waka.core.changes import kinds as k
from waka.core.changes.batch import check_batch
from waka.core.changes.wire import decode, encode, inverse_row

numbers = st.integers(1, 10**9)
locations = st.builds(k.Location, numbers.map(k.FolderId), st.sampled_from(["a.pdf", "Übersicht.pdf", "b"]))
tags = st.lists(st.sampled_from(["to pay", "slipway", "old"]), max_size=2, unique=True).map(tuple)
changes = st.one_of(
    st.builds(k.MakeFolder, numbers, numbers, locations),
    st.builds(k.RemoveFolder, numbers, numbers, locations),
    st.builds(k.Add, numbers, numbers, locations),
    st.builds(k.Return, numbers, numbers, locations),
    st.builds(k.Place, numbers, locations, locations, numbers, st.none()),
    st.builds(k.Version, numbers, numbers, numbers),
    st.builds(k.WithdrawVersion, numbers, numbers, numbers),
    st.builds(
        k.SetFact, numbers, st.just("ref"), st.none() | st.text(), st.none() | st.text(), st.just({"kind": "person"})
    ),
    st.builds(k.Tag, numbers, tags, tags),
    st.builds(k.Discard, numbers, numbers, locations),
    st.builds(k.Restore, numbers, numbers, locations),
)


@given(changes)
def test_a_manifest_line_keeps_all_that_a_change_says(change: k.Change) -> None:
    assert decode(encode(change)) == change


@given(changes)
def test_the_inverse_of_the_inverse_does_the_same(change: k.Change) -> None:
    again = k.inverse(k.inverse(change))
    if isinstance(change, k.SetFact) and isinstance(again, k.SetFact):
        assert (again.was, again.to, again.field) == (change.was, change.to, change.field)
    else:
        assert encode(again)._replace(data=None) == encode(change)._replace(data=None)


@given(changes)
def test_the_row_of_the_inverse_is_the_inverse_of_the_row(change: k.Change) -> None:
    assert inverse_row(encode(change)) == encode(k.inverse(change))


def test_one_thing_is_changed_once_in_a_list_and_one_name_wanted_once() -> None:
    here = k.FolderId(5)
    first = k.Place(k.EntryId(1), k.Location(here, "a.pdf"), k.Location(here, "b.pdf"), k.DocumentId(1))
    same = k.Place(k.EntryId(1), k.Location(here, "a.pdf"), k.Location(here, "c.pdf"), k.DocumentId(1))
    rival = k.Place(k.EntryId(2), k.Location(here, "x.pdf"), k.Location(here, "B.PDF"), k.DocumentId(2))
    bad = k.Place(k.EntryId(3), k.Location(here, "y.pdf"), k.Location(here, "con.pdf"), k.DocumentId(3))
    codes = [(p.line, p.code) for p in check_batch([first, same, rival, bad])]
    assert codes == [(1, "twice"), (2, "taken"), (3, "name")]
    assert check_batch([first]) == []
