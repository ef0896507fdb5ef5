"""Names that say nothing, and names that several documents have, are found, as far as one may read them."""

import pytest

from tests.world import World
from waka.core.changes import kinds as k
from waka.core.changes.origin import Chosen, Names, Origin, PlanMethod, Search
from waka.store.postgres import search
from waka.work.actor import Actor
from waka.work.browse import find
from waka.work.gate import apply
from waka.work.manifests import lifecycle, shown


def found(
    world: World, names: Names, actor: Actor | None = None, **more: object
) -> list[tuple[str, list[tuple[str, str]]]]:
    """What is found: each name with what is wrong with it."""
    results = find.find(world.drive, actor or world.keeper, Search(names=names, **more))  # type: ignore[arg-type]
    assert results.total == len(results.hits)
    return [
        (hit.row["name"], [reason for reason in hit.reasons if reason[0] in ("empty", "shared")])
        for hit in results.hits
    ]


def test_names_that_say_nothing_are_found_until_they_say_something(world: World) -> None:
    ((document, entry), _, _) = world.file(world.yard, ["scan0001.pdf", "keel.pdf", "Document (3).pdf"])
    assert sorted(found(world, "empty")) == [("Document (3).pdf", [("empty", "")]), ("scan0001.pdf", [("empty", "")])]
    location = k.Location(k.FolderId(world.yard), "scan0001.pdf")
    world.do(
        k.Place(k.EntryId(entry), location, k.Location(k.FolderId(world.yard), "rudder.pdf"), k.DocumentId(document))
    )
    assert [name for name, _ in found(world, "empty")] == ["Document (3).pdf"]
    world.do(k.Discard(k.DocumentId(document), k.EntryId(entry), k.Location(k.FolderId(world.yard), "rudder.pdf")))
    world.check_whole()


def test_a_name_of_several_documents_is_found_with_how_many_have_it(world: World) -> None:
    boxes = [world.folder(world.yard, f"Box {n}") for n in range(3)]
    for box in boxes:
        world.file(box, ["Statement.pdf"])
    world.file(boxes[0], ["keel.pdf", "oar.pdf"])
    world.file(boxes[1], ["KEEL.pdf"])
    two, three = [("shared", "2")], [("shared", "3")]
    # one after another, each name with its namesakes
    assert found(world, "shared") == [("KEEL.pdf", two), ("keel.pdf", two), *[("Statement.pdf", three)] * 3]
    assert found(world, "shared", below=boxes[2]) == [("Statement.pdf", three)]
    assert found(world, "shared", words="keel") == [("KEEL.pdf", two), ("keel.pdf", two)]


def test_a_document_in_two_places_is_no_namesake_of_its_own(world: World) -> None:
    ((document, _),) = world.file(world.yard, ["keel.pdf"])
    world.also(document, world.books, "keel.pdf")
    assert found(world, "shared") == []


def test_what_one_may_not_read_is_neither_found_nor_a_namesake(world: World) -> None:
    world.file(world.vault, ["scan1.pdf", "keel.pdf", "oar.pdf"])
    world.file(world.books, ["keel.pdf"])
    ((document, _),) = world.file(world.books, ["mast.pdf"])
    world.also(document, world.vault, "scan7.pdf")
    assert found(world, "shared", world.filer) == [] and found(world, "empty", world.filer) == []
    assert [name for name, _ in found(world, "shared")] == ["keel.pdf", "keel.pdf"]
    assert len(found(world, "empty")) == 2


def test_they_are_renamed_as_a_search_that_is_asked_anew(world: World) -> None:
    world.file(world.yard, ["scan1.pdf", "keel.pdf"])
    origin = Origin(Chosen(search=Search(names="empty")), PlanMethod("rewrite", "scan<n digits>", "slipway <n>"))
    manifest = lifecycle.plan(world.drive, world.keeper, origin)
    assert shown.card(world.drive, world.keeper, manifest).counts == {"ready": 1}
    assert lifecycle.run(world.drive, world.keeper, manifest, partial=False) == "done"
    assert found(world, "empty") == []


def test_a_long_manifest_is_followed_by_the_worker(world: World, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("waka.store.postgres.gate.derived._AT_ONCE", 2)
    world.file(world.yard, [f"scan{n}.pdf" for n in range(5)])
    apply.index_pending_names(world.drive.database)
    assert len(found(world, "empty")) == 5
    world.check_whole()


@pytest.mark.parametrize("many", [False, True])
def test_below_a_folder_is_what_lies_there_in_any_place_that_one_may_read(
    world: World, monkeypatch: pytest.MonkeyPatch, many: bool
) -> None:
    if many:
        monkeypatch.setattr(search, "_BELOW", 0)
    inside = world.folder(world.folder(world.books, "2026"), "03")
    world.file(inside, ["keel one.pdf", "keel two.pdf", "mast.pdf"])
    ((document, _),) = world.file(world.yard, ["keel three.pdf"])
    world.also(document, inside, "keel again.pdf")
    world.file(world.books, ["keel elsewhere.pdf"])
    world.file(world.vault, ["keel hidden.pdf"])

    def names(actor: Actor, below: int, words: str = "keel") -> set[str]:
        return {h.row["name"] for h in find.find(world.drive, actor, Search(words, below=below)).hits}

    there = {"keel one.pdf", "keel two.pdf", "keel three.pdf"}
    assert names(world.keeper, inside) == there
    assert names(world.keeper, inside, "keel planks") == there
    assert names(world.filer, world.books) == there | {"keel elsewhere.pdf"}
    assert names(world.keeper, world.books) == there | {"keel elsewhere.pdf", "keel hidden.pdf"}
