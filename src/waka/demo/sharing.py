"""Who reads what in the demo: a group in a group, a restricted folder for two, things shared, one who waits, one who has left."""

from collections.abc import Callable
from datetime import timedelta

from waka.store.postgres import access, settings
from waka.store.postgres.listing import Listed
from waka.store.postgres.people import person_by_login
from waka.work.accounts import groups, leaving, links, people
from waka.work.actor import Actor
from waka.work.browse import walk
from waka.work.drive import Drive, today
from waka.work.sharing.give import Wish, give

_SETTING = "demo sharing"
#: (log-in, name, password; none: they wait for their link).
_MORE = (("colm", "Colm Varga", None), ("tam", "Tam Orrin", "gunwale-and-thwart"))


def load_sharing(drive: Drive, say: Callable[[str], None]) -> None:
    """Make groups and share things. Does nothing where that was done."""
    with drive.database.transaction() as conn:
        if settings.setting(conn, _SETTING) is not None:
            return
        rows = {login: person_by_login(conn, login) for login in ("odalys", "imre", "lise", "petra")}
        settings.put_setting(conn, _SETTING, True)
        settings.put_setting(conn, "office_name", "Saltmarsh Boatyard Trust")
        settings.put_setting(conn, "time_zone", "Europe/London")
    who = {login: Actor(row["id"], row["name"], login == "petra") for login, row in rows.items() if row is not None}
    say("making groups, sharing a few things")
    petra, imre = who["petra"], who["imre"]
    more = _people(drive, petra)
    team = groups.make(drive, petra, "Office team")
    everybody = groups.make(drive, petra, "Everybody")
    for member in (who["odalys"].person, imre.person, more["tam"]):
        groups.put_in(drive, petra, team, member)
    for member in (team, who["lise"].person, more["colm"]):
        groups.put_in(drive, petra, everybody, member)
    yard = walk.folder_at(drive, petra, "Yard")
    give(drive, petra, [Wish(folder=yard, principal=everybody, level=access.READ)])
    staff = walk.folder_at(drive, imre, "Office/Staff")
    give(drive, imre, [Wish(folder=staff, principal=who["odalys"].person, level=access.READ, word="for the wages")])
    invoices = walk.folder_at(drive, imre, "Accounts/Invoices/2026")
    until = today() + timedelta(days=60)
    word = "for the auditor's questions"
    give(
        drive, imre, [Wish(folder=invoices, principal=who["lise"].person, level=access.COMMENT, until=until, word=word)]
    )
    lines = walk.list_lines(
        drive,
        imre,
        Listed(walk.folder_at(drive, imre, "Accounts/Receipts"), below=True),
        sort="issued",
        descending=True,
        limit=1,
    )
    wish = Wish(
        document=lines[0].row["document"], principal=who["lise"].person, level=access.READ, word="the one you asked for"
    )
    give(drive, imre, [wish])
    leaving.leave(drive, petra, more["tam"], imre.person)


def _people(drive: Drive, petra: Actor) -> dict[str, int]:
    made = {}
    for login, name, password in _MORE:
        if password is not None:
            made[login] = people.add_person(drive.database, login, name, password)
            continue
        (added,) = people.add(drive, petra, [people.Wanted(login, name)])
        made[login] = added.id
    links.new_link(drive, petra, made["colm"])
    return made
