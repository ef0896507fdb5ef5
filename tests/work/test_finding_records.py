"""Find: by words inside, parts of names, party, kind, year; why it matches; odd queries do no harm."""

from datetime import date

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.world import World, bill
from waka.core.changes.kinds import DocumentId, SetFact
from waka.core.changes.origin import Search
from waka.store.postgres import search
from waka.work.browse import find, look, walk
from waka.work.slips import file


@pytest.fixture
def filed(world: World) -> World:
    for number, (party, day) in enumerate([(0, date(2025, 11, 5)), (1, date(2026, 3, 18)), (0, date(2026, 3, 20))], 1):
        file.file_arrival(world.drive, world.filer, world.bring_in(bill(number, party=party, day=day)))
    return world


@pytest.mark.parametrize(
    ("query", "refs", "reason"),
    [
        ("larch", ["TT-00003", "TT-00001"], "inside"),
        ("rivet", ["0002"], "inside"),
        ("tt", ["TT-00003", "TT-00001"], "party"),
        ("toll", ["TT-00003", "TT-00001"], "party"),
        ("brine lane", ["0002"], "party"),
        ("2025", ["TT-00001"], "issued"),
        ("2026-03", ["TT-00003", "0002"], "issued"),
        ("TT-00003", ["TT-00003"], "name"),
        ("tollgate 2026", ["TT-00003"], "party"),
        ("invoice", ["TT-00003", "0002", "TT-00001"], "kind"),
        ("larch rivet", [], ""),
        ("LARCH  Boards", ["TT-00003", "TT-00001"], "inside"),
    ],
)
def test_every_word_is_met_and_it_says_by_what(filed: World, query: str, refs: list[str], reason: str) -> None:
    results = find.find(filed.drive, filed.filer, Search(query))
    assert [h.row["name"].rpartition("_")[2].removesuffix(".pdf") for h in results.hits] == refs
    assert results.total == len(refs)
    for hit in results.hits:
        assert reason in [kind for kind, _ in hit.reasons]
        assert hit.path.startswith(("Books", "Yard"))


def test_filters_narrow_and_a_renamed_document_is_found_under_its_new_name(filed: World) -> None:
    assert find.find(filed.drive, filed.filer, Search("", kind="invoice", year=2026)).total == 2
    assert find.find(filed.drive, filed.filer, Search("", party=2)).total == 1
    hit = find.find(filed.drive, filed.filer, Search("rivet")).hits[0]
    look.rename_or_move(filed.drive, filed.filer, hit.row["entry"], name="odd one", parent=None)
    assert find.find(filed.drive, filed.filer, Search("odd")).hits[0].row["name"] == "odd one.pdf"
    below = {f["name"]: f["id"] for f in walk.top(filed.drive, filed.filer)}
    for area, total in (("Books", 2), ("Yard", 0)):
        assert find.find(filed.drive, filed.filer, Search("larch", below=below[area])).total == total


@settings(max_examples=60, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    st.text(max_size=60)
    | st.sampled_from(["'", "\\", "%", "_", "a' | b", ":*", "&", "(", "\0x", "!" * 9, "' OR 1=1 --", "é", "x" * 300])
)
def test_no_query_breaks_anything(world: World, query: str) -> None:
    results = find.find(world.drive, world.filer, Search(query))
    assert results.total == len(results.hits)


def test_common_and_rare_words_are_found_alike(world: World, monkeypatch: pytest.MonkeyPatch) -> None:
    """A word that very many meet is looked for in the newest documents; the others in those that the rarest word gives."""
    filed = world.file(world.yard, [f"keel {n:02d}.pdf" for n in range(1, 61)], kind="letter")
    world.file(world.vault, ["keel 99 secret.pdf"], kind="letter")
    for n, (document, _) in enumerate(filed):
        world.do(SetFact(DocumentId(document), "issued", None, f"2026-03-{1 + n % 28:02d}", {"kind": "person"}))

    def found(words: str) -> tuple[list[str], int]:
        got = find.find(world.drive, world.filer, Search(words))
        return [hit.row["name"] for hit in got.hits], got.total

    usual = {
        words: found(words) for words in ("keel", "keel 17", "letter 2026-03 keel", "letter 17", "nothing", "oak 42")
    }
    assert usual["keel"][1] == 60 and usual["keel 17"][0] == ["keel 17.pdf"]
    monkeypatch.setattr(search, "_SCAN_CAP", 20)
    names, total = found("keel")
    assert (names, total) == (usual["keel"][0], 51), "one common word: there are more than 50"
    assert find.find(world.drive, world.filer, Search("keel")).capped
    for words in ("keel 17", "letter 17", "nothing", "oak 42"):
        assert found(words) == usual[words], words
    common = "letter 2026-03 keel"
    assert found(common) == (usual[common][0], 51), "the newest give enough"
    monkeypatch.setattr(search, "_NEWEST", 10)
    assert found(common)[0] == usual[common][0][:20], "they do not, so the sets are intersected"
