"""What is carried, listed, grouped, added up, tagged and was worked on lately."""

import typing

import pytest

from tests.world import World, bill
from waka.core.changes import kinds as k
from waka.store.postgres.listing import Group, Listed, Sort
from waka.words.manifests import say_title
from waka.words.register import did
from waka.work.actor import Absent, ManifestRefused, PatternRefused, Refused
from waka.work.browse import lately, look, walk
from waka.work.byhand import discards, hand, places, tags, versions
from waka.work.gate.undo import undo
from waka.work.slips import edit_slip, file

PERSON = {"kind": "person"}


def facts(world: World, document: int, **values: object) -> None:
    world.do(*(k.SetFact(k.DocumentId(document), field, None, value, PERSON) for field, value in values.items()))


def listed(world: World, folder: int, sort: Sort = "name", *, descending: bool = False) -> list[str]:
    rows = walk.list_lines(world.drive, world.keeper, Listed(folder), sort=sort, descending=descending)
    return [r.row["name"] for r in rows]


def test_what_is_picked_up_stays_in_hand_and_is_put_down_at_once_or_in_parts(world: World) -> None:
    (_, one), (_, two), (_, three) = world.file(world.yard, ["a.pdf", "b.pdf", "c.pdf"])
    hand.pick_up(world.drive, world.filer, [two, one])
    hand.pick_up(world.drive, world.filer, [one, three])
    assert [r["name"] for r in hand.held(world.drive, world.filer).rows] == ["b.pdf", "a.pdf", "c.pdf"]
    assert hand.held(world.drive, world.keeper).rows == (), "each person carries their own"
    before = world.snapshot()
    applied = hand.put_down(world.drive, world.filer, world.books, "move", [one])
    assert [r["name"] for r in hand.held(world.drive, world.filer).rows] == ["b.pdf", "c.pdf"]
    undo(world.drive.database, world.filer, applied.manifest)
    assert world.snapshot() == before
    hand.put_down(world.drive, world.filer, world.books, "copy")
    assert len(hand.held(world.drive, world.filer).rows) == 2, "what was copied can be copied again"
    jobs = world.folder(world.yard, "Jobs")
    hand.put_down(world.drive, world.filer, jobs, "also")
    assert listed(world, jobs) == ["b.pdf", "c.pdf"] == listed(world, world.books)
    with pytest.raises(Refused, match="nothing in hand"):
        hand.put_down(world.drive, world.filer, world.books, "move")


def test_what_is_gone_or_hidden_meanwhile_is_no_longer_in_hand(world: World) -> None:
    (_, one), (_, two) = world.file(world.yard, ["a.pdf", "b.pdf"])
    with pytest.raises(Absent):
        hand.pick_up(world.drive, world.filer, [world.file(world.vault, ["secret.pdf"])[0][1]])
    hand.pick_up(world.drive, world.filer, [one, two])
    discards.discard(world.drive, world.keeper, [one])
    places.move(world.drive, world.keeper, [two], world.vault)
    assert hand.held(world.drive, world.filer).rows == ()
    hand.let_go(world.drive, world.filer)
    places.move(world.drive, world.keeper, [two], world.yard)
    assert hand.held(world.drive, world.filer).rows == ()


def test_a_name_that_is_taken_leaves_all_in_hand_and_in_place(world: World) -> None:
    (_, one), (_, two) = world.file(world.yard, ["a.pdf", "b.pdf"])
    world.file(world.books, ["b.pdf"])
    hand.pick_up(world.drive, world.filer, [one, two])
    before = world.snapshot()
    with pytest.raises(ManifestRefused, match="taken by a document"):
        hand.put_down(world.drive, world.filer, world.books, "move")
    assert world.snapshot() == before and len(hand.held(world.drive, world.filer).rows) == 2


@pytest.mark.parametrize("sort", ["name", "issued", "size", "filed", "kind", "type", "party", "by", "amount"])
def test_every_column_sorts_both_ways_and_pages_meet(world: World, sort: Sort) -> None:
    made = world.file(world.yard, [f"n{n}.pdf" for n in range(1, 13)])
    for n, (document, _) in enumerate(made):
        if n % 3:
            money = {"value": f"{n * 9}.50", "currency": "GBP"}
            facts(world, document, kind=("letter", "invoice")[n % 2], issued=f"2026-0{1 + n % 4}-01", amount=money)
    whole = listed(world, world.yard, sort)
    assert listed(world, world.yard, sort, descending=True) == whole[::-1] and len(whole) == 12
    paged, after = [], None
    while True:
        page = walk.list_lines(world.drive, world.keeper, Listed(world.yard), sort=sort, after=after, limit=5)
        paged += [r.row["name"] for r in page]
        if len(page) < 5:
            break
        after = (page[-1].row["sort_value"], page[-1].row["entry"])
    assert paged == whole
    if sort == "name":
        assert whole[:3] == ["n1.pdf", "n2.pdf", "n3.pdf"] and whole[-1] == "n12.pdf"
    if sort == "amount":
        assert [n for n in whole if n not in ("n1.pdf", "n4.pdf", "n7.pdf", "n10.pdf")][:2] == ["n2.pdf", "n3.pdf"]


def test_groups_count_and_add_up_and_give_their_own_lines(world: World) -> None:
    made = world.file(world.yard, ["a.pdf", "b.pdf", "c.pdf", "d.pdf"])
    for (document, _), kind, amount in zip(
        made, ["invoice", "invoice", "letter"], ["12.50", "-2.00", None], strict=False
    ):
        facts(world, document, kind=kind, issued="2026-03-01")
        if amount:
            facts(world, document, amount={"value": amount, "currency": "EUR"})
    rows, _ = walk.grouped(world.drive, world.keeper, Listed(world.yard), "kind")
    assert [(r["value"], r["documents"], r["amounts"]) for r in rows] == [
        ("invoice", 2, {"EUR": "10.50"}), ("letter", 1, {}), (None, 1, {}),
    ]  # fmt: skip
    for by, value, names in (
        ("kind", "invoice", ["a.pdf", "b.pdf"]), ("kind", None, ["d.pdf"]), ("month", "2026-03", ["a.pdf", "b.pdf", "c.pdf"]),
        ("year", None, ["d.pdf"]), ("type", "pdf", ["a.pdf", "b.pdf", "c.pdf", "d.pdf"]), ("person", None, ["a.pdf", "b.pdf", "c.pdf", "d.pdf"]),
    ):  # fmt: skip
        group: Group = by  # type: ignore[assignment]
        got = walk.list_lines(world.drive, world.keeper, Listed(world.yard, False, (), group, value))
        assert [r.row["name"] for r in got] == names, (by, value)


def test_a_party_that_one_may_not_know_is_no_group_of_its_own(world: World) -> None:
    from waka.core.register.card import Card
    from waka.store.postgres import parties

    with world.drive.database.transaction() as conn:
        hidden = parties.add_party(
            conn, Card("Secret Supplies", "secret", "sec", area=world.vault), None, did("entered")
        )
    (document, _), _ = world.file(world.yard, ["a.pdf", "b.pdf"])
    facts(world, document, party={"party": hidden})
    rows, _ = walk.grouped(world.drive, world.filer, Listed(world.yard), "party")
    assert [(r["value"], r["documents"]) for r in rows] == [(None, 2)]
    rows, known = walk.grouped(world.drive, world.keeper, Listed(world.yard), "party")
    assert [(known.get(int(r["value"] or 0)), r["documents"]) for r in rows] == [("Secret Supplies", 1), (None, 1)]


def test_all_or_those_that_read_as_a_pattern_are_chosen_and_added_up(world: World) -> None:
    made = world.file(world.yard, ["2026-03-18_rope.pdf", "2026-04-02_oil.pdf", "keel.pdf"])
    facts(world, made[0][0], amount={"value": "10.10", "currency": "GBP"})
    facts(world, made[1][0], amount={"value": "0.90", "currency": "GBP"})
    everything = walk.entries(world.drive, world.keeper, Listed(world.yard), None)
    dated = walk.entries(world.drive, world.keeper, Listed(world.yard), "<issued yyyy-MM-dd>_<subject>")
    assert set(everything) - set(dated) == {made[2][1]}
    sums = walk.sums(world.drive, world.keeper, everything)
    assert (sums["documents"], sums["bytes"], sums["types"], sums["amounts"]) == (3, 30, {"pdf": 3}, {"GBP": "11.00"})
    assert walk.sums(world.drive, world.reader, [world.file(world.books, ["x.pdf"])[0][1]])["documents"] == 0
    with pytest.raises(PatternRefused):
        walk.entries(world.drive, world.keeper, Listed(world.yard), "<issued")


def test_tags_go_on_many_are_renamed_merged_and_removed_where_one_may(world: World) -> None:
    made = world.file(world.yard, ["a.pdf", "b.pdf"])
    ((secret, _),) = world.file(world.vault, ["secret.pdf"])
    look.set_tags(world.drive, world.keeper, secret, ["to pay"], [])
    before = world.snapshot()
    applied = tags.tag_many(world.drive, world.filer, [e for _, e in made], ["to pay", "2026"], [])
    assert [(t["tag"], t["documents"]) for t in tags.tags(world.drive, world.filer)] == [("2026", 2), ("to pay", 2)]
    assert [(t["tag"], t["documents"]) for t in tags.tags(world.drive, world.keeper)] == [("2026", 2), ("to pay", 3)]
    with pytest.raises(Refused, match="so already"):
        tags.tag_many(world.drive, world.filer, [made[0][1]], ["to pay"], [])
    renamed, kept = tags.rename(world.drive, world.filer, "2026", "to pay")
    assert kept == 0 and look.card(world.drive, world.filer, made[0][0]).tags == ("to pay",)
    undo(world.drive.database, world.filer, renamed.manifest)
    with pytest.raises(Refused, match="change none"):
        tags.rename(world.drive, world.reader, "2026", None)
    removed, _ = tags.rename(world.drive, world.filer, "to pay", None)
    assert look.card(world.drive, world.keeper, secret).tags == ("to pay",), "what one may not read keeps it"
    undo(world.drive.database, world.filer, removed.manifest)
    undo(world.drive.database, world.filer, applied.manifest)
    assert world.snapshot() == before
    with pytest.raises(Absent):
        tags.rename(world.drive, world.filer, "no such", "x")


def test_what_one_worked_on_lately_is_told_by_the_last_change(world: World) -> None:
    document = world.bring_in(bill(1))
    edit_slip.edit_slip(world.drive, world.filer, document, edit_slip.SlipEdit())
    file.file_arrival(world.drive, world.filer, document)
    ((other, _),) = world.file(world.yard, ["keel.pdf"])
    applied = look.set_tags(world.drive, world.filer, other, ["x"], [])
    look.set_tags(world.drive, world.filer, document, ["y"], [])
    rows = lately.worked_on(world.drive, world.filer).rows
    assert [r["document"] for r in rows] == [document, other]
    assert say_title(rows[1]["title"]) == "Change tags of keel.pdf"
    assert [r["document"] for r in lately.worked_on(world.drive, world.keeper).rows] == [other], "what oneself did"
    undo(world.drive.database, world.filer, applied.manifest)
    assert [r["document"] for r in lately.worked_on(world.drive, world.filer).rows] == [document]
    assert lately.worked_on(world.drive, world.filer, before=1).rows == ()


@pytest.mark.parametrize("by", ["kind", "party", "person", "month", "year", "type"])
def test_the_lines_of_a_group_are_sorted_by_any_column(world: World, by: Group) -> None:
    made = world.file(world.yard, ["a.pdf", "b.pdf", "c.pdf"])
    for n, (document, _) in enumerate(made):
        facts(world, document, kind="invoice", issued=f"2026-03-0{n + 1}", person={"given": "Ada", "family": "Fenn"})
    (group,) = [r for r in walk.grouped(world.drive, world.keeper, Listed(world.yard), by)[0] if r["documents"] == 3]
    for sort in typing.get_args(Sort):
        rows = walk.list_lines(world.drive, world.keeper, Listed(world.yard, by=by, value=group["value"]), sort=sort)
        assert len(rows) == 3, (by, sort)
        assert {r.row["person"] for r in rows} == {"Fenn, Ada"}
    if by == "person":
        assert group["value"] == "Fenn, Ada"


def test_sizes_are_those_of_the_newest_versions(world: World) -> None:
    (small, _), (large, _) = world.file(world.yard, ["a.pdf", "b.pdf"])
    put = versions.put_on(world.drive, world.filer, large, world.bring_in(bill(5)))
    assert listed(world, world.yard, "size", descending=True) == ["b.pdf", "a.pdf"]
    sizes = {r.row["document"]: r.row["size"] for r in walk.list_lines(world.drive, world.keeper, Listed(world.yard))}
    assert sizes == {small: 10, large: len(bill(5))}
    undo(world.drive.database, world.filer, put.manifest)
    assert {r.row["size"] for r in walk.list_lines(world.drive, world.keeper, Listed(world.yard))} == {10}
