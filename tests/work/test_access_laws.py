"""Access laws: after any sequence of grants, restrictions, groups, moves and leaving, who reads what is what a simple model works
out anew; nobody gave more than they had; undo gives back what it should; every restricted folder has a lasting keeper."""

import itertools
from datetime import date, timedelta

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.world import World, add_person
from waka.store.postgres import access, groups, reaching
from waka.store.postgres.gate.giving import without_keeper
from waka.work.accounts import leaving
from waka.work.actor import Absent, Actor, ManifestRefused, Refused
from waka.work.browse import look
from waka.work.byhand import copying, places
from waka.work.gate import undo
from waka.work.sharing import effects, give
from waka.work.sharing.give import Wish

COUNT = itertools.count()
#: (what, who does it, on which thing, whom, level, days). Numbers are taken by the length of what there is.
STEP = st.tuples(
    st.sampled_from(
        ["give", "give", "give", "take", "restrict", "lift", "put in", "take out", "move", "also", "elsewhere no more", "copy", "leave", "undo"]
    ),
    st.integers(0, 2), st.integers(0, 4), st.integers(0, 5), st.integers(1, 4), st.sampled_from([None, None, 1, 5]),
)  # fmt: skip


class Model:
    """Who reads what, the simple way: folders in a line of four, a document that moves and lies in more of them, its copies, grants
    as a list."""

    def __init__(self, world: World) -> None:
        name = f"Laws {next(COUNT)}"
        self.world = world
        self.folders = [world.folder(world.books, name)]
        for level in ("A", "B", "C"):
            self.folders.append(world.folder(self.folders[-1], level))
        ((self.document, self.home),) = world.file(self.folders[3], ["keel.pdf"])
        self.at = 3
        self.also: dict[int, int] = {}
        self.copies: dict[int, int] = {}
        self.gone: set[int] = set()
        self.people = [world.keeper, *(Actor(add_person(world.drive, f"{name} {n}"), f"P{n}") for n in range(2))]
        with world.drive.database.transaction() as conn:
            self.groups = [groups.add_group(conn, f"{name} outer"), groups.add_group(conn, f"{name} inner")]
            groups.put_in(conn, self.groups[0], self.groups[1])
        self.whom = [*(p.person for p in self.people), *self.groups]
        self.members: set[tuple[int, int]] = set()
        self.grants: dict[tuple[str, int, int], tuple[int, date]] = {}
        self.restricted = [False] * 4

    def acts_as(self, person: int) -> set[int]:
        if person in self.gone:
            return set()
        mine = {person} | {group for member, group in self.members if member == person}
        return mine | ({self.groups[0]} if self.groups[1] in mine else set())

    def level(self, person: int, thing: int | None, day: date) -> int:
        """The level of a person on folder ``thing`` of the line (None: the document), on a day."""
        if thing is not None:
            return self._at(person, thing, day)
        single = self._given(person, "document", 0, day)
        return max([*(self._at(person, at, day) for at in {self.at, *self.also}), *single])

    def _at(self, person: int, at: int, day: date) -> int:
        held = [0]
        for place in range(at, -1, -1):
            held += self._given(person, "folder", place, day)
            if self.restricted[place]:
                break
        else:
            if person == self.world.keeper.person:
                held.append(4)  # of all books
        return max(held)

    def kept_alone(self, person: int) -> list[int]:
        """The restricted folders that nobody else keeps for always."""
        alone = []
        for place in range(4):
            lasting = {
                whom for (what, at, whom), (level, until) in self.grants.items()
                if (what, at, level, until) == ("folder", place, 4, date.max)
            }  # fmt: skip
            if self.restricted[place] and {p.person for p in self.people if lasting & self.acts_as(p.person)} == {
                person
            }:
                alone.append(place)
        return alone

    def leave(self, person: int, heir: int) -> None:
        """What only they kept goes to their heir, then all that they were given goes."""
        for place in self.kept_alone(person):
            self.grants["folder", place, heir] = (4, date.max)
        self.grants = {key: held for key, held in self.grants.items() if key[2] != person}
        self.members = {(member, group) for member, group in self.members if member != person}
        self.gone.add(person)

    def _given(self, person: int, what: str, place: int, day: date) -> list[int]:
        acts = self.acts_as(person)
        return [
            level
            for (kind, at, whom), (level, until) in self.grants.items()
            if kind == what and at == place and whom in acts and until >= day
        ]

    def check(self) -> None:
        with self.world.drive.database.transaction() as conn:
            for days in (0, 3, 40):
                day = date.today() + timedelta(days)
                for person in self.people:
                    held = reaching.permissions_on(conn, person.person, day)
                    if not days:
                        assert reaching.permissions_of(conn, person.person) == held
                    told = access.folder_levels(conn, held, self.folders)
                    wanted = [self.level(person.person, n, day) for n in range(4)]
                    assert [told[f] for f in self.folders] == wanted, (person.name, days)
                    row = conn.execute(
                        b"SELECT access_class FROM search_row WHERE document = %s", [self.document]
                    ).fetchone()
                    assert row is not None
                    assert held.level(row["access_class"]) == self.level(person.person, None, day)
                    for copy, at in self.copies.items():
                        row = conn.execute(
                            b"SELECT access_class FROM search_row WHERE document = %s", [copy]
                        ).fetchone()
                        assert row is not None
                        assert held.level(row["access_class"]) == self.level(person.person, at, day)
            left = {folder for folder, _ in without_keeper(conn)}
        assert left & set(self.folders) == set()
        self.world.check_whole()


def _wish(model: Model, thing: int, whom: int, level: int | None, until: date | None) -> Wish:
    if thing == 4:
        return Wish(document=model.document, principal=whom, level=level, until=until)
    return Wish(folder=model.folders[thing], principal=whom, level=level, until=until)


def _newest(world: World, folder: int, document: int | None = None) -> int:
    """The place of a document in a folder; without one the document that was made there last."""
    with world.drive.database.transaction() as conn:
        row = conn.execute(
            b"SELECT max(id) AS place, max(document) AS document FROM entry WHERE parent = %s AND document = coalesce(%s, document)",
            [folder, document],
        ).fetchone()
        assert row is not None
        return int(row["place"] if document else row["document"])


@settings(max_examples=25, suppress_health_check=[HealthCheck.function_scoped_fixture], deadline=None)
@given(steps=st.lists(STEP, min_size=1, max_size=14))
def test_who_reads_what_is_what_a_simple_model_works_out(
    world: World, steps: list[tuple[str, int, int, int, int, int | None]]
) -> None:
    model = Model(world)
    today = date.today()
    last: list[tuple[Actor, int, dict[tuple[str, int, int], tuple[int, date]], list[bool]]] = []
    for what, by, thing, who, level, days in steps:
        doer, whom = model.people[by], model.whom[who % len(model.whom)]
        until = today + timedelta(days) if days is not None else None
        end = until or date.max
        key = ("document", 0, whom) if thing == 4 else ("folder", thing, whom)
        before = (dict(model.grants), list(model.restricted))
        mine = model.level(doer.person, None if thing == 4 else thing, today)
        try:
            if what in ("give", "take"):
                done = give.give(
                    world.drive, doer, [_wish(model, thing, whom, level if what == "give" else None, until)]
                )
                assert mine == 4, "only a keeper gives"
                if what == "give":
                    assert (
                        model.level(doer.person, None if thing == 4 else thing, min(end, today + timedelta(900)))
                        >= level
                    )
                    model.grants[key] = (level, end)
                else:
                    model.grants.pop(key, None)
                last.append((doer, done.manifest, *before))
            elif what in ("restrict", "lift") and thing < 4:
                wish = Wish(folder=model.folders[thing], restricted=what == "restrict")
                told = effects.look(world.drive, doer, [wish]) if mine == 4 else None
                done = give.give(world.drive, doer, [wish])
                assert mine == 4
                model.restricted[thing] = what == "restrict"
                last.append((doer, done.manifest, *before))
                lost = {s.person["id"] for s in told.losses} if told else set()
                assert all(model.level(p, None, today) == 0 for p in lost if p in model.whom and model.at >= thing)
            elif what in ("put in", "take out"):
                group, member = model.groups[thing % 2], model.people[by].person
                with world.drive.database.transaction() as conn:
                    unkept = {f for f, _ in without_keeper(conn)}
                    (groups.put_in if what == "put in" else groups.take_out)(conn, group, member)
                    if {f for f, _ in without_keeper(conn)} - unkept:
                        raise Refused("no keeper")
                (model.members.add if what == "put in" else model.members.discard)((member, group))
            elif what == "move" and thing < 4 and model.level(world.keeper.person, None, today) >= 3:
                look.rename_or_move(world.drive, world.keeper, model.document, name=None, parent=model.folders[thing])
                model.at = thing
            elif what == "also" and thing < 4:
                places.also_file(world.drive, world.keeper, [model.home], model.folders[thing])
                model.also[thing] = _newest(world, model.folders[thing], model.document)
            elif what == "elsewhere no more" and thing in model.also:
                places.take_away(world.drive, world.keeper, model.also[thing])
                del model.also[thing]
            elif what == "copy" and thing < 4:
                copying.copy(world.drive, world.keeper, [model.home], model.folders[thing])
                model.copies[_newest(world, model.folders[thing])] = thing
            elif what == "leave" and by:
                leaving.leave(world.drive, world.administrator, doer.person, world.keeper.person)
                model.leave(doer.person, world.keeper.person)
                last.clear()
            elif what == "undo" and last:
                doer, manifest, grants, restricted = last[-1]
                undo.undo(world.drive.database, doer, manifest)
                last.pop()
                model.grants, model.restricted = grants, restricted
        except (Absent, ManifestRefused, Refused):
            pass
        model.check()
