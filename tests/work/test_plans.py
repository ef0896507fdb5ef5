"""Filing plans: read, tried on the area's own documents, changed in revisions, brought back; who may."""

import pytest

from tests.work.planned import plan, told
from tests.world import PLAN, World
from waka.core.changes import kinds as k
from waka.core.changes.origin import Chosen, PlanMethod
from waka.core.plan.area_plan import Composing, KindRule
from waka.store.postgres import plans as store
from waka.work.actor import Absent, PatternRefused, Refused
from waka.work.config import plans
from waka.work.intake import read

LETTER = {"letter": KindRule("<issued yyyyMMdd> <subject>", "Post/<issued yyyy>")}


def test_a_plan_tells_patterns_how_many_fit_and_its_revisions(world: World) -> None:
    world.file(world.yard, ["2026-03-18_tollgate_larch.pdf", "letter.pdf"], kind="letter")
    seen = plans.plan(world.drive, world.reader, world.yard)
    letter = next(p for p in seen.kinds if p.kind == "letter")
    assert (letter.name, letter.place, letter.fit, letter.of) == (*PLAN["letter"].values(), 1, 2)
    assert not seen.keeps and seen.revision == 1
    assert [a["name"] for a in plans.areas(world.drive, world.reader)] == ["Yard"]


def test_a_change_is_a_revision_and_an_earlier_one_comes_back(world: World) -> None:
    assert plans.change(world.drive, world.keeper, world.yard, 1, LETTER) == 2
    seen = plans.plan(world.drive, world.keeper, world.yard)
    assert {p.kind: p.name for p in seen.kinds if p.name} == {
        "invoice": PLAN["invoice"]["name"], "letter": LETTER["letter"].name,
    }  # fmt: skip
    assert [r["by_name"] for r in seen.revisions] == ["Keeper", None]
    with pytest.raises(Refused, match="Keeper changed the plan of Yard meanwhile"):
        plans.change(world.drive, world.keeper, world.yard, 1, LETTER)
    plans.change(world.drive, world.keeper, world.yard, 2, {"letter": KindRule("", "")})
    assert [p.kind for p in plans.plan(world.drive, world.keeper, world.yard).kinds if p.name] == ["invoice"]
    assert plans.go_back(world.drive, world.keeper, world.yard, 3, 1) == 4
    assert len([p for p in plans.plan(world.drive, world.keeper, world.yard).kinds if p.name]) == 2
    with pytest.raises(Absent):
        plans.go_back(world.drive, world.keeper, world.yard, 4, 9)


def test_an_area_says_how_dates_that_read_two_ways_are_taken(world: World) -> None:
    with world.drive.database.transaction() as conn:
        assert not store.month_first(conn, world.yard)
    assert plans.change(world.drive, world.keeper, world.yard, 1, {}, month_first=True) == 2
    with world.drive.database.transaction() as conn:
        assert store.month_first(conn, world.yard)
        assert not store.month_first(conn, world.books), "another area keeps its own"
        assert not store.month_first(conn, None), "not all areas say so"
        assert read.context(conn, {"area": world.yard}).day_first is False
    assert plans.plan(world.drive, world.keeper, world.yard).month_first
    plans.change(world.drive, world.keeper, world.yard, 2, LETTER)
    assert plans.plan(world.drive, world.keeper, world.yard).month_first, "patterns leave it as it is"
    plans.go_back(world.drive, world.keeper, world.yard, 3, 1)
    assert not plans.plan(world.drive, world.keeper, world.yard).month_first


def test_an_area_says_how_long_and_in_which_letters_its_names_are_composed(world: World) -> None:
    (one, _), _ = world.file(world.yard, ["a.pdf", "b.pdf"], kind="letter")
    world.do(
        k.SetFact(
            k.DocumentId(one), "subject", None, "Größe der Ölwanne am Kran im großen Bootshaus", {"kind": "person"}
        )
    )
    asked = Composing(characters=30, narrow=True)
    assert plans.change(world.drive, world.keeper, world.yard, 1, {}, composing=asked) == 2
    assert plans.plan(world.drive, world.keeper, world.yard).composing == asked
    _, examples = plans.attempt(world.drive, world.keeper, world.yard, "letter", "<subject>", "Post")
    shown = next(e for e in examples if e.document == one)
    assert shown.name.name == "Grosse-der-Olwanne-am-Kran-im"
    plans.go_back(world.drive, world.keeper, world.yard, 2, 1)
    assert plans.plan(world.drive, world.keeper, world.yard).composing == Composing()
    with pytest.raises(Refused, match="Only keepers"):
        plans.change(world.drive, world.filer, world.yard, 3, {}, composing=asked)


def test_trying_prints_the_areas_own_documents_and_keeps_nothing(world: World) -> None:
    (one, _), _ = world.file(world.yard, ["a.pdf", "b.pdf"], kind="letter")
    person = {"kind": "person"}
    world.do(
        k.SetFact(k.DocumentId(one), "issued", None, "2026-03-18", person),
        k.SetFact(k.DocumentId(one), "subject", None, "Larch", person),
    )
    told, examples = plans.attempt(
        world.drive, world.reader, world.yard, "letter", LETTER["letter"].name, LETTER["letter"].place
    )
    assert (told.fit, told.of) == (0, 2)
    assert {(e.now, e.name.name, e.place.name) for e in examples} == {
        ("a.pdf", "20260318 Larch", "Post/2026"), ("b.pdf", None, None),
    }  # fmt: skip
    assert plans.plan(world.drive, world.reader, world.yard).revision == 1


@pytest.mark.parametrize(
    ("name", "place", "field", "why"),
    [
        ("<subject", "Post", "name", "not closed"),
        ("<subject>", "Post/", "place", "a level is empty"),
        ("<issued yyyy>/<subject>", "Post", "name", "a name has one level"),
        ("<subjct>", "Post", "name", "<subjct> is no fact"),
        ("<count 01> <subject>", "Post", "name", "<count 01> is no fact"),
    ],
)
def test_patterns_that_cannot_be_are_refused_at_their_place(
    world: World, name: str, place: str, field: str, why: str
) -> None:
    with pytest.raises(PatternRefused, match=why) as refused:
        plans.change(world.drive, world.keeper, world.yard, 1, {"letter": KindRule(name, place)})
    assert refused.value.field == field


def test_only_keepers_change_a_plan_and_only_areas_have_one(world: World) -> None:
    with pytest.raises(Refused, match="Only keepers of Yard"):
        plans.change(world.drive, world.filer, world.yard, 1, LETTER)
    with pytest.raises(Absent):
        plans.change(world.drive, world.reader, world.books, 1, LETTER)
    with pytest.raises(Absent):
        plans.plan(world.drive, world.keeper, world.folder(world.yard, "Jobs"))
    with pytest.raises(Refused, match="is no kind"):
        plans.change(world.drive, world.keeper, world.yard, 1, {"parcel": LETTER["letter"]})


def test_numbers_run_on_through_areas_that_compose_names_otherwise(world: World) -> None:
    plans.change(world.drive, world.keeper, world.yard, 1, {}, composing=Composing(narrow=True))
    filed = [
        world.file(folder, [name])[0][1]
        for name, folder in (("1 é.pdf", world.yard), ("2 é.pdf", world.books), ("3 é.pdf", world.yard))
    ]
    manifest = plan(
        world, PlanMethod("rewrite", "<n digits> <rest>", "<count 10>-<rest>"), chosen=Chosen(entries=tuple(filed))
    )
    assert [to for _, to, _ in told(world, manifest)] == ["10-e.pdf", "11-é.pdf", "12-e.pdf"]
