"""The demo: the same every time, loaded through the use cases, whole, and only into an empty drive."""

from datetime import date

import pypdfium2 as pdfium

from waka.core.changes.origin import Search
from waka.core.names.fields import Fit, Settings
from waka.core.names.pattern import compile_pattern
from waka.core.names.portable import entry_key
from waka.demo import papers, pictures
from waka.demo.growing import grow
from waka.demo.parties import PARTIES
from waka.demo.people import PEOPLE
from waka.demo.sorts import coursework
from waka.demo.trust import PLANS, filed_papers, load_demo, waiting_papers
from waka.demo.years import earlier_papers, strays, yard_papers
from waka.readers import content_type
from waka.store.postgres import arrivals
from waka.store.postgres.people import person_by_login
from waka.work.accounts import people, sessions
from waka.work.actor import Actor
from waka.work.browse import find, walk
from waka.work.drive import Drive
from waka.work.slips import slip


def test_its_papers_are_the_same_every_time() -> None:
    once, again = ([(p.name, p.content) for p in filed_papers()] for _ in range(2))
    assert once == again
    assert 50 <= len(once) <= 70
    assert len(list(waiting_papers())) == 6
    assert papers.pounds(123456) == "1,234.56"


def test_its_register_and_plans_can_be_used() -> None:
    assert len(PARTIES) == 10
    for key in ("name", "short", "code", "vat"):
        assert len({getattr(p, key) for p in PARTIES}) == 10, f"two parties share a {key}"
    for plan in PLANS.values():
        for rule in plan.values():
            compile_pattern(f"{rule['place']}/{rule['name']}")


def test_it_loads_whole_and_only_once(drive: Drive) -> None:
    load_demo(drive, lambda _: None)
    with drive.database.transaction() as conn:
        rows = {p.login: person_by_login(conn, p.login) for p in PEOPLE}
    actors = {login: Actor(row["id"], row["name"]) for login, row in rows.items() if row is not None}
    tops = {login: {f["name"]: f["below"] for f in walk.top(drive, who)} for login, who in actors.items()}
    total = len(list(filed_papers()))
    assert set(tops["lise"]) == {"Office"}
    assert sum(tops["odalys"].values()) == total
    assert sum(tops["imre"].values()) == total + 1, "one lies in the restricted folder"
    waiting = slip.waiting(drive, actors["odalys"])
    assert sorted(s.ready for s in waiting) == [False, False, False, True, True, True]
    assert any("reads two ways" in q for s in waiting for _, q in s.asked)
    assert any("locked" in str(s.row["problem"]) for s in waiting)
    assert find.find(drive, actors["odalys"], Search("payroll")).total == 0
    assert find.find(drive, actors["imre"], Search("payroll")).total == 1
    areas = {f["name"]: f["id"] for f in walk.top(drive, actors["odalys"])}
    fits = {f.kind: (f.fit, f.of) for f in walk.view(drive, actors["odalys"], areas["Accounts"], below=True).fits}
    assert fits["invoice"][0] == fits["invoice"][1] - 1, "one was named by hand"
    load_demo(drive, lambda text: (_ for _ in ()).throw(AssertionError(text)))
    assert len(people.list_people(drive.database)) == 4
    opened = sessions.log_in(drive.database, " ODALYS ", PEOPLE[0].password, sessions.Caller())
    assert opened.actor.name == "Odalys Brink"
    grows(drive, actors)


def grows(drive: Drive, actors: dict[str, Actor]) -> None:
    """A demo of a size goes on where it was cut off, and its documents are as the plan and the facts say."""
    with drive.database.transaction() as conn:
        before = arrivals.filed_count(conn)
    said: list[str] = []
    for size in (before + 30, before + 30, before + 70):
        grow(drive, actors["imre"], size, said.append)
        with drive.database.transaction() as conn:
            assert arrivals.filed_count(conn) == size
    assert len(said) == 2
    found = find.find(drive, actors["imre"], Search("", year=2020)).hits
    assert found and all(h.path.startswith("Accounts / Invoices / 2020 / ") for h in found)
    assert all(h.party and h.row["name"].startswith(f"{h.row['issued']}_") for h in found)


def test_its_earlier_years_and_its_old_share_are_the_same_every_time() -> None:
    years = [(p.name, p.content) for p in earlier_papers()]
    assert years == [(p.name, p.content) for p in earlier_papers()]
    once = list(strays())
    assert list(strays()) == once
    assert (
        380
        <= len(years) + len(list(yard_papers())) + len(once) + len(list(filed_papers())) + len(list(coursework()))
        <= 460
    )
    keys = [(s.folder, entry_key(s.name)) for s in once]
    assert len(set(keys)) == len(keys), "no two of a folder share a name"
    names = [s.name for s in once]
    assert len(names) - len(set(names)) >= 3, "names clash as soon as folders are put together"
    planned = compile_pattern(PLANS["Accounts"]["invoice"]["name"])
    stems = [planned.read(s.name.removesuffix(".pdf"), Settings(date(2026, 3, 20))) for s in once]
    assert not any(isinstance(read, Fit) for read in stems), "none is named as the plan would"


def test_its_pictures_are_read_as_what_they_are() -> None:
    assert content_type.media_type(pictures.photo_jpeg(1)[:4096]) == "image/jpeg"
    assert pictures.photo_jpeg(3) == pictures.photo_jpeg(3) != pictures.photo_jpeg(4)
    text = pdfium.PdfDocument(pictures.drawing_pdf("lugger", "Lines", 1))[0].get_textpage().get_text_range()
    assert "Lines of the lugger" in text
