"""The gate: every kind of change does what it says, is undone exactly, and refuses what cannot be."""

import random
from dataclasses import replace

import pytest

from tests.world import World
from waka.core.changes import kinds as k
from waka.store.postgres import folders, reaching
from waka.store.postgres.gate import lines
from waka.store.postgres.gate.scope import Scope
from waka.words.manifests import title
from waka.work.actor import Absent, Actor, ManifestRefused, Refused
from waka.work.gate import undo
from waka.work.gate.apply import check_and_do


def location(folder: int, name: str) -> k.Location:
    return k.Location(k.FolderId(folder), name)


def place(
    entry: int, was: k.Location, to: k.Location, *, document: int | None = None, folder: int | None = None
) -> k.Place:
    return k.Place(
        k.EntryId(entry), was, to, None if document is None else k.DocumentId(document),
        None if folder is None else k.FolderId(folder),
    )  # fmt: skip


def test_every_kind_is_undone_exactly(world: World) -> None:
    sub = world.folder(world.yard, "Jobs")
    (document, entry), (other, other_entry) = world.file(world.yard, ["keel.pdf", "mast.pdf"])
    (arrival,) = world.arrived(1)
    mast = location(world.yard, "mast.pdf")
    make, made = world.new_folder(world.yard, "2026")
    change_lists: list[list[k.Change]] = [
        [place(entry, location(world.yard, "keel.pdf"), location(sub, "Keel.pdf"), document=document)],
        [make, place(entry, location(world.yard, "keel.pdf"), location(made, "x.pdf"), document=document)],
        [k.SetFact(k.DocumentId(document), "ref", None, "A-1", {"kind": "person"})],
        [k.Tag(k.DocumentId(document), ("to pay",), ())],
        [k.TagFolder(k.FolderId(sub), ("to check", "wet"), ())],
        [k.Discard(k.DocumentId(document), k.EntryId(entry), location(world.yard, "keel.pdf"))],
        [k.Version(k.DocumentId(other), k.DocumentId(arrival), 1)],
        [k.AlsoFile(k.DocumentId(document), k.EntryId(world.ids()[1][0]), location(sub, "keel again.pdf"))],
        [k.Absorb(k.DocumentId(other), k.EntryId(other_entry), mast, k.DocumentId(document), 1)],
    ]
    for changes in change_lists:
        before = world.snapshot()
        applied = world.do(*changes)
        assert world.snapshot() != before, f"{changes} did nothing"
        world.check_whole()
        done = undo.undo(world.drive.database, world.keeper, applied.manifest)
        assert done.left_out == ()
        assert world.snapshot() == before, f"{changes} was not undone exactly"
        world.check_whole()


def test_undoing_an_undo_does_it_again(world: World) -> None:
    ((document, _),) = world.file(world.yard, ["keel.pdf"])
    applied = world.do(k.Tag(k.DocumentId(document), ("slipway",), ()))
    after = world.snapshot()
    undone = undo.undo(world.drive.database, world.keeper, applied.manifest)
    undo.undo(world.drive.database, world.keeper, undone.applied.manifest)
    assert world.snapshot() == after
    with pytest.raises(Refused, match="was undone already"):
        undo.undo(world.drive.database, world.keeper, applied.manifest)


def test_swaps_cycles_chains_and_case_only_renames_work_in_one_list(world: World) -> None:
    names = ["a.pdf", "b.pdf", "c.pdf", "d.pdf", "e.pdf", "f.pdf"]
    filed = dict(zip(names, world.file(world.yard, names), strict=True))
    to = {"a.pdf": "b.pdf", "b.pdf": "a.pdf", "c.pdf": "d.pdf", "d.pdf": "e.pdf", "e.pdf": "c.pdf", "f.pdf": "F.pdf"}
    before = world.snapshot()
    applied = world.do(
        *(place(filed[n][1], location(world.yard, n), location(world.yard, to[n]), document=filed[n][0]) for n in names)
    )
    rows = {e[0]: e[2] for e in world.snapshot()["entry"]}
    assert {n: rows[filed[n][1]] for n in names} == to
    undo.undo(world.drive.database, world.keeper, applied.manifest)
    assert world.snapshot() == before


def test_a_chain_whose_end_stays_is_refused_whole(world: World) -> None:
    filed = world.file(world.yard, ["a.pdf", "b.pdf", "c.pdf"])
    before = world.snapshot()
    with pytest.raises(ManifestRefused) as refused:
        world.do(
            place(filed[0][1], location(world.yard, "a.pdf"), location(world.yard, "b.pdf"), document=filed[0][0]),
            place(filed[1][1], location(world.yard, "b.pdf"), location(world.yard, "C.PDF"), document=filed[1][0]),
        )
    assert [(p.line, p.code) for p in refused.value.problems] == [(1, "taken")]
    assert "c.pdf" in str(refused.value)
    assert world.snapshot() == before


def test_ten_thousand_places_through_the_gate_and_back(world: World) -> None:
    rng = random.Random(4)
    homes = [world.folder(world.yard, f"Box {n}") for n in range(5)]
    count = 10_000
    names = [f"Plan {n:05d}.pdf" for n in range(count)]
    filed = world.file(homes[0], names)
    before = world.snapshot()
    order = list(range(count))
    rng.shuffle(order)
    changes: list[k.Change] = []
    for n, (document, entry) in enumerate(filed):
        match n % 4:
            case 0:  # a permutation among themselves: swaps, cycles, chains in the same folder
                others = [order[n]]
                target = location(homes[0], names[others[0] - others[0] % 4]) if others[0] // 4 * 4 == n else None
                to = target or location(homes[1], names[n])
            case 1:
                to = location(homes[0], names[n].upper().replace(".PDF", ".pdf"))
            case 2:
                to = location(homes[0], names[(n + 4) % count])  # a cycle of 2,500
            case _:
                to = location(homes[2 + n % 3], f"Moved {n}.pdf")
        if to != location(homes[0], names[n]):
            changes.append(place(entry, location(homes[0], names[n]), to, document=document))
    assert len(changes) > 9_900
    applied = world.do(*changes)
    world.check_whole()
    assert applied.lines == len(changes)
    undone = undo.undo(world.drive.database, world.keeper, applied.manifest)
    assert undone.left_out == ()
    assert world.snapshot() == before


def test_a_folder_never_comes_to_lie_in_itself(world: World) -> None:
    one = world.folder(world.yard, "One")
    two = world.folder(one, "Two")
    three = world.folder(world.yard, "Three")
    entries = {e[4]: e[0] for e in world.snapshot()["entry"] if e[4] is not None}

    def move(folder: int, parent: int, name: str, to: int) -> k.Place:
        return place(int(str(entries[folder])), location(parent, name), location(to, name), folder=folder)

    with pytest.raises(ManifestRefused, match="into itself"):
        world.do(move(one, world.yard, "One", two))
    with pytest.raises(ManifestRefused, match="into itself"):
        world.do(move(one, world.yard, "One", three), move(three, world.yard, "Three", two))
    before = world.snapshot()
    applied = world.do(move(one, world.yard, "One", three))
    world.check_whole()
    with world.drive.database.transaction() as conn:
        path = folders.path_of(conn, two, reaching.permissions_of(conn, world.keeper.person))
    assert [p["name"] for p in path] == ["Yard", "Three", "One", "Two"]
    undo.undo(world.drive.database, world.keeper, applied.manifest)
    assert world.snapshot() == before


def test_a_moved_folder_takes_the_rights_of_its_new_place(world: World) -> None:
    sub = world.folder(world.yard, "Jobs")
    world.file(sub, ["keel.pdf"])
    entry = next(e[0] for e in world.snapshot()["entry"] if e[4] == sub)
    with world.drive.database.transaction() as conn:
        assert folders.counts_below(conn, [world.yard], reaching.permissions_of(conn, world.reader.person)) == {
            world.yard: 1
        }
    world.do(place(int(str(entry)), location(world.yard, "Jobs"), location(world.vault, "Jobs"), folder=sub))
    world.check_whole()
    with world.drive.database.transaction() as conn:
        reader, keeper = (reaching.permissions_of(conn, a.person) for a in (world.reader, world.keeper))
        assert folders.counts_below(conn, [world.yard], reader).get(world.yard, 0) == 0
        assert folders.readable_folder(conn, sub, reader) is None
        assert folders.counts_below(conn, [world.vault], keeper) == {world.vault: 1}


def test_stale_lines_are_told_with_who_did_it(world: World) -> None:
    ((document, entry),) = world.file(world.yard, ["keel.pdf"])
    world.do(
        place(entry, location(world.yard, "keel.pdf"), location(world.yard, "mast.pdf"), document=document),
        actor=world.filer,
    )
    for change in (
        place(entry, location(world.yard, "keel.pdf"), location(world.yard, "x.pdf"), document=document),
        k.Discard(k.DocumentId(document), k.EntryId(entry), location(world.yard, "keel.pdf")),
    ):
        with pytest.raises(ManifestRefused) as refused:
            world.do(change)
        assert refused.value.problems[0].code == "stale"
        assert "Filer did that" in str(refused.value)


def test_undo_undoes_what_still_stands_and_names_the_rest(world: World) -> None:
    (one, first), (two, second) = world.file(world.yard, ["a.pdf", "b.pdf"])
    applied = world.do(
        place(first, location(world.yard, "a.pdf"), location(world.yard, "A1.pdf"), document=one),
        place(second, location(world.yard, "b.pdf"), location(world.yard, "B1.pdf"), document=two),
    )
    world.do(
        place(first, location(world.yard, "A1.pdf"), location(world.yard, "A2.pdf"), document=one), actor=world.filer
    )
    world.do(k.Tag(k.DocumentId(two), ("kept",), ()), actor=world.filer)
    done = undo.undo(world.drive.database, world.keeper, applied.manifest)
    assert len(done.left_out) == 1 and "Filer did that" in done.left_out[0].why
    names = {e[0]: e[2] for e in world.snapshot()["entry"]}
    assert (names[first], names[second]) == ("A2.pdf", "b.pdf")
    assert world.snapshot()["tag"] == [(two, "kept")]


def test_only_ones_own_manifest_is_undone(world: World) -> None:
    ((document, _),) = world.file(world.yard, ["a.pdf"])
    applied = world.do(k.Tag(k.DocumentId(document), ("x",), ()), actor=world.filer)
    with pytest.raises(Absent):
        undo.undo(world.drive.database, world.keeper, applied.manifest)
    with pytest.raises(Refused, match="nothing to undo"):
        undo.undo_last(world.drive.database, world.keeper)


def test_rights_are_asked_line_by_line(world: World) -> None:
    ((document, entry),) = world.file(world.yard, ["a.pdf"])
    ((hidden, hidden_entry),) = world.file(world.vault, ["secret.pdf"])
    make, _ = world.new_folder(world.yard, "Mine")
    refusals: dict[str, tuple[Actor, k.Change, str]] = {
        "reader renames": (world.reader, place(entry, location(world.yard, "a.pdf"), location(world.yard, "b.pdf"), document=document), "rights"),
        "reader tags": (world.reader, k.Tag(k.DocumentId(document), ("x",), ()), "rights"),
        "reader makes": (world.reader, make, "rights"),
        "filer finds nothing in the vault": (world.filer, k.Tag(k.DocumentId(hidden), ("x",), ()), "absent"),
        "filer moves nothing out of it": (
            world.filer, place(hidden_entry, location(world.vault, "secret.pdf"), location(world.yard, "s.pdf"), document=hidden), "absent"),
        "filer moves nothing into it": (
            world.filer, place(entry, location(world.yard, "a.pdf"), location(world.vault, "a.pdf"), document=document), "absent"),
        "the administrator reads no restricted folder": (world.administrator, k.Tag(k.DocumentId(hidden), ("x",), ()), "absent"),
    }  # fmt: skip
    before = world.snapshot()
    for what, (actor, change, code) in refusals.items():
        with pytest.raises(ManifestRefused) as refused:
            world.do(change, actor=actor)
        assert refused.value.problems[0].code == code, what
    assert world.snapshot() == before


def test_counts_count_documents_and_only_readable_ones(world: World) -> None:
    sub = world.folder(world.yard, "Jobs")
    (document, _), _ = world.file(sub, ["a.pdf", "b.pdf"])
    world.file(world.vault, ["secret.pdf"])
    world.also(document, world.yard, "a too.pdf")
    world.also(document, world.books, "a here.pdf")
    expect = {
        "reader": {world.yard: 2, sub: 2},
        "filer": {world.yard: 2, world.books: 1},
        "keeper": {world.books: 2, world.vault: 1},
    }
    for folded in (False, True):
        with world.drive.database.transaction() as conn:
            if folded:
                assert folders.fold_counts(conn) > 0
            for who, counts in expect.items():
                permissions = reaching.permissions_of(conn, getattr(world, who).person)
                assert folders.counts_below(conn, list(counts), permissions) == counts, (who, folded)
    world.check_whole()


def test_nothing_becomes_a_version_of_what_becomes_one_itself(world: World) -> None:
    (a, ea), (b, eb), (c, _) = world.file(world.yard, ["a.pdf", "b.pdf", "c.pdf"])

    def absorb(document: int, entry: int, name: str, into: int) -> k.Absorb:
        location = k.Location(k.FolderId(world.yard), name)
        return k.Absorb(k.DocumentId(document), k.EntryId(entry), location, k.DocumentId(into), 1)

    before = world.snapshot()
    for pair in (
        [absorb(a, ea, "a.pdf", b), absorb(b, eb, "b.pdf", c)],  # a chain
        [absorb(a, ea, "a.pdf", b), absorb(b, eb, "b.pdf", a)],  # a circle
        [absorb(a, ea, "a.pdf", c), absorb(b, eb, "b.pdf", c)],  # two into one
    ):
        with pytest.raises(ManifestRefused):
            world.do(*pair)
        with world.drive.database.transaction() as conn:  # past the check of the list: the gate's own
            manifest = lines.open_manifest(conn, title("given", text="For a test"), world.keeper.person, None)
            lines.write_lines(conn, manifest, pair)
            assert check_and_do(conn, world.keeper, Scope(manifest))
    with pytest.raises(ManifestRefused):
        world.do(absorb(a, ea, "a.pdf", a))
    assert world.snapshot() == before
    with pytest.raises(ManifestRefused):
        world.do(absorb(a, ea, "a.pdf", b), actor=world.reader)
    world.do(absorb(a, ea, "a.pdf", b))
    world.check_whole()


def test_what_was_undone_is_done_again_in_order_until_something_new_is_done(world: World) -> None:
    actor = replace(world.filer, session=11)
    ((document, _),) = world.file(world.yard, ["keel.pdf"])

    def tagged() -> list[str]:
        return [str(t[1]) for t in world.snapshot()["tag"]]

    for tag in ("a", "b"):
        world.do(k.Tag(k.DocumentId(document), (tag,), ()), actor=actor)
    for _ in range(2):
        undo.undo_last(world.drive.database, actor)
    assert tagged() == []
    undo.redo_last(world.drive.database, actor)
    assert tagged() == ["a"]
    undo.redo_last(world.drive.database, actor)
    assert tagged() == ["a", "b"]
    with pytest.raises(Refused, match="nothing to do again"):
        undo.redo_last(world.drive.database, actor)
    undo.undo_last(world.drive.database, actor)
    assert tagged() == ["a"], "what was done again is undone like anything else"
    undo.redo_last(world.drive.database, actor)
    undo.undo_last(world.drive.database, actor)
    world.do(k.Tag(k.DocumentId(document), ("c",), ()), actor=actor)
    with pytest.raises(Refused, match="something new"):
        undo.redo_last(world.drive.database, actor)
    with pytest.raises(Refused, match="nothing to do again"):
        undo.redo_last(world.drive.database, replace(actor, session=12))
    with pytest.raises(Refused, match="nothing to do again"):
        undo.redo_last(world.drive.database, world.filer)
    world.check_whole()
