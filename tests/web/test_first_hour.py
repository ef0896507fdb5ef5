"""The first hour through the API: a key that is good once, an administrator at one stroke, people by links, second factors."""

from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from typing import Any

import pyotp
import pytest
from flask import Flask
from werkzeug.test import Client, TestResponse

from waka.store.postgres import area_settings
from waka.store.postgres.database import fetch_all
from waka.web.guard import CSRF_HEADER
from waka.work.accounts import second_factor
from waka.work.accounts.links import Spent
from waka.work.config import first_hour
from waka.work.drive import Drive

OFFICE = {
    "office_name": "Saltmarsh Boatyard Trust",
    "time_zone": "Europe/London",
    "currency": "GBP",
    "month_first": False,
}
FIRST = {"name": "Petra Holm", "login": "petra", "password": "slipway-lights"}


class Browser:
    """One browser: its cookies, and the CSRF token that the last log-in gave."""

    def __init__(self, app: Flask) -> None:
        self._client: Client = app.test_client()
        self.csrf = ""

    def __call__(self, method: str, path: str, json: Any = None, **headers: str) -> TestResponse:
        answer = self._client.open(path, method=method, json=json, headers={CSRF_HEADER: self.csrf, **headers})
        told = answer.get_json(silent=True)
        if isinstance(told, dict) and "csrf" in told:
            self.csrf = told["csrf"]
        return answer


@pytest.fixture
def desk(app: Flask) -> Iterator[Browser]:
    yield Browser(app)


def key_of(drive: Drive, **more: Any) -> str:
    key = first_hour.secret(drive.database, **more)
    assert key is not None
    return key


def begun(drive: Drive, desk: Browser) -> None:
    answer = desk("POST", "/api/set-up", {"key": key_of(drive), "office": OFFICE, "first": FIRST})
    assert answer.status_code == 200, answer.text


def added(desk: Browser, login: str, name: str) -> tuple[int, str]:
    """A person added, and the secret of their link."""
    answer = desk("POST", "/api/people", {"people": [{"login": login, "name": name}]})
    assert answer.status_code == 201, answer.text
    (one,) = answer.get_json()["people"]
    return one["id"], one["link"]["address"].partition("#")[2]


def test_an_office_is_begun_and_its_administrator_is_logged_in(drive: Drive, desk: Browser) -> None:
    begun(drive, desk)
    me = desk("GET", "/api/session").get_json()
    assert (me["name"], me["administrator"]) == ("Petra Holm", True)
    office = desk("GET", "/api/office").get_json()["office"]
    assert office["office_name"] == "Saltmarsh Boatyard Trust"
    assert office["time_zone"] == "Europe/London"
    made = desk("POST", "/api/areas", {"areas": [{"name": "Letters"}, {"name": "Staff", "restricted": True}]})
    assert made.status_code == 201, made.text
    areas = desk("GET", "/api/areas").get_json()["areas"]
    assert [(a["name"], a["restricted"]) for a in areas] == [("Letters", False), ("Staff", True)]


def test_a_key_is_good_once_and_a_new_one_voids_it(drive: Drive, app: Flask) -> None:
    first, second = key_of(drive), key_of(drive)
    asked = {"office": OFFICE, "first": FIRST}
    refused = Browser(app)("POST", "/api/set-up", {"key": first, **asked})
    never = Browser(app)("POST", "/api/set-up", {"key": "never made", **asked})
    assert Browser(app)("POST", "/api/set-up", {"key": second, **asked}).status_code == 200
    used = Browser(app)("POST", "/api/set-up", {"key": second, **asked})
    # replaced, never made, used: one answer for all
    assert {(a.status_code, a.get_json()["detail"]) for a in (refused, never, used)} == {
        (404, used.get_json()["detail"])
    }
    assert first_hour.secret(drive.database) is None


def test_a_key_ends_after_a_day(drive: Drive) -> None:
    began = datetime(2026, 11, 30, 8, tzinfo=UTC)
    key = key_of(drive, now=began)
    first_hour.look(drive, key, now=began + timedelta(hours=23, minutes=59))
    with pytest.raises(Spent):
        first_hour.look(drive, key, now=began + timedelta(hours=24, minutes=1))


def test_two_browsers_at_once_make_one_administrator(drive: Drive, app: Flask) -> None:
    key = key_of(drive)

    def begin(n: int) -> int:
        first = {**FIRST, "login": f"petra{n}"}
        return Browser(app)("POST", "/api/set-up", {"key": key, "office": OFFICE, "first": first}).status_code

    with ThreadPoolExecutor(2) as pool:
        assert sorted(pool.map(begin, range(2))) == [200, 404]
    with drive.database.transaction() as conn:
        assert len(fetch_all(conn, "SELECT FROM person")) == 1


@pytest.mark.parametrize(
    ("wrong", "field"),
    [
        ({"first": {**FIRST, "password": "password123"}}, "password"),
        ({"first": {**FIRST, "password": "short"}}, "password"),
        ({"first": {**FIRST, "password": "saltmarshboatyardtrust"}}, "password"),
        ({"first": {**FIRST, "name": " "}}, "name"),
        ({"office": {**OFFICE, "time_zone": "Nowhere/Atall"}}, "time_zone"),
        ({"office": {**OFFICE, "currency": "XXX"}}, "currency"),
    ],
)
def test_what_cannot_be_is_told_and_spends_nothing(
    drive: Drive, desk: Browser, wrong: dict[str, Any], field: str
) -> None:
    key = key_of(drive)
    answer = desk("POST", "/api/set-up", {"key": key, "office": OFFICE, "first": FIRST, **wrong})
    assert answer.status_code == 400
    assert answer.get_json()["field"] == field
    with drive.database.transaction() as conn:
        assert fetch_all(conn, "SELECT FROM person") == []
        assert fetch_all(conn, "SELECT FROM drive_setting WHERE key = 'office_name'") == []
    assert desk("POST", "/api/set-up", {"key": key, "office": OFFICE, "first": FIRST}).status_code == 200


def test_a_link_is_looked_at_and_then_used_once(drive: Drive, app: Flask, desk: Browser) -> None:
    begun(drive, desk)
    person, secret = added(desk, "Lise", "Lise Brandt")
    stranger = Browser(app)
    for _ in range(2):  # whoever fetches addresses beforehand spends nothing
        assert stranger("GET", "/welcome").status_code in (200, 404)
        assert stranger("POST", "/api/links/look", {"key": secret}).get_json()["login"] == "lise"
    bad = stranger("POST", "/api/links/use", {"key": secret, "password": "lise brandt"})
    assert (bad.status_code, bad.get_json()["field"]) == (400, "password")
    assert stranger("POST", "/api/links/use", {"key": secret, "password": "copper-rivets"}).status_code == 200
    assert stranger("GET", "/api/session").get_json()["id"] == person
    again = Browser(app)("POST", "/api/links/use", {"key": secret, "password": "copper-rivets-2"})
    never = Browser(app)("POST", "/api/links/look", {"key": "nothing"})
    assert (again.status_code, again.get_json()["detail"]) == (404, never.get_json()["detail"])
    with drive.database.transaction() as conn:
        kept = fetch_all(conn, "SELECT * FROM one_time_link")
        assert secret not in str(kept)


def test_the_second_factor_is_asked_for_and_no_code_is_taken_twice(drive: Drive, app: Flask, desk: Browser) -> None:
    begun(drive, desk)
    begins = desk("POST", "/api/me/second-factor").get_json()
    totp = pyotp.TOTP(begins["secret"])
    now = datetime.now(UTC)
    # a picture by itself, as browsers draw no other (SVG 1.1, 5.1.2)
    assert begins["picture"].startswith("<svg xmlns=")
    assert begins["secret"] in begins["address"]
    codes = desk("PUT", "/api/me/second-factor", {"code": totp.at(now)}).get_json()["codes"]
    assert len(set(codes)) == 10
    other = Browser(app)
    half = other("POST", "/api/session", {"login": "petra", "password": "slipway-lights"})
    assert (half.status_code, half.get_json()["code"]) == (401, "second-factor")
    # a session between the two has no right at all
    assert other("GET", "/api/me").status_code == 401
    assert other("GET", "/api/folders").status_code == 401
    used = other("POST", "/api/session/code", {"code": totp.at(now)})
    assert (used.status_code, used.get_json()["code"]) == (400, "code")
    # one step before and after is taken
    assert other("POST", "/api/session/code", {"code": totp.at(now + timedelta(seconds=30))}).status_code == 200
    assert other("GET", "/api/me").get_json()["second_factor"] is True
    third = Browser(app)
    third("POST", "/api/session", {"login": "petra", "password": "slipway-lights"})
    assert third("POST", "/api/session/code", {"code": codes[0].lower()}).status_code == 200
    fourth = Browser(app)
    fourth("POST", "/api/session", {"login": "petra", "password": "slipway-lights"})
    assert fourth("POST", "/api/session/code", {"code": codes[0]}).status_code == 400
    with drive.database.transaction() as conn:
        assert begins["secret"] not in str(fetch_all(conn, "SELECT sealed FROM second_factor"))


def test_a_clock_set_back_opens_nothing(drive: Drive, desk: Browser) -> None:
    begun(drive, desk)
    me = desk("GET", "/api/session").get_json()["id"]
    secret = desk("POST", "/api/me/second-factor").get_json()["secret"]
    now = datetime.now(UTC)
    desk("PUT", "/api/me/second-factor", {"code": pyotp.TOTP(secret).at(now)})
    earlier = now - timedelta(hours=3)
    with drive.database.transaction() as conn:
        assert not second_factor.take(conn, drive.keys, me, pyotp.TOTP(secret).at(earlier), now=earlier)


def test_a_program_does_what_its_scope_says_and_nothing_of_people(drive: Drive, app: Flask, desk: Browser) -> None:
    begun(drive, desk)
    desk("POST", "/api/areas", {"areas": [{"name": "Letters"}]})
    folder = desk("GET", "/api/areas").get_json()["areas"][0]["id"]
    made = {}
    for scope in ("read", "file"):
        answer = desk("POST", "/api/me/app-passwords", {"name": f"To {scope}", "scope": scope})
        made[scope] = answer.get_json()["secret"]
    program = Browser(app)
    reads, files = ({"Authorization": f"Bearer {made[scope]}"} for scope in ("read", "file"))
    new = {"parent": folder, "name": "In"}
    assert program("GET", "/api/folders", **reads).status_code == 200
    assert program("POST", "/api/folders", new, **reads).status_code == 403
    assert program("POST", "/api/folders", new, **files).status_code == 201
    for path in ("/api/people", "/api/me", "/api/groups", "/api/office", "/api/areas"):
        assert program("GET", path, **files).status_code == 403, path
    # the cookie of who is logged in counts for nothing beside it, and a token in the address is none
    assert desk("GET", "/api/people", Authorization="Bearer wrong").status_code == 401
    assert program("GET", f"/api/folders?access_token={made['read']}").status_code == 401
    which = desk("GET", "/api/me").get_json()["app_passwords"]
    assert [p["scope"] for p in which] == ["file", "read"]
    assert desk("DELETE", f"/api/me/app-passwords/{which[0]['id']}").status_code == 204
    assert program("GET", "/api/folders", **files).status_code == 401


def test_a_password_by_link_ends_what_was_open_and_is_told(drive: Drive, app: Flask, desk: Browser) -> None:
    begun(drive, desk)
    person, secret = added(desk, "imre", "Imre Castellan")
    imre = Browser(app)
    imre("POST", "/api/links/use", {"key": secret, "password": "tide-tables-1"})
    program = imre("POST", "/api/me/app-passwords", {"name": "Script", "scope": "read"}).get_json()["secret"]
    address = desk("POST", f"/api/people/{person}/link").get_json()["address"]
    # until it is used all is as it was
    assert imre("GET", "/api/session").status_code == 200
    new = Browser(app)
    used = {"key": address.partition("#")[2], "password": "tide-tables-2"}
    assert new("POST", "/api/links/use", used).status_code == 200
    assert imre("GET", "/api/session").status_code == 401
    assert Browser(app)("GET", "/api/folders", Authorization=f"Bearer {program}").status_code == 401
    (told,) = new("GET", "/api/me/told").get_json()["told"]
    assert told["text"] == "Your password was set by a link that Petra Holm made."
    assert new("DELETE", f"/api/me/told/{told['id']}").status_code == 204
    assert new("GET", "/api/me/told").get_json()["told"] == []


def test_one_administrator_stays(drive: Drive, app: Flask, desk: Browser) -> None:
    begun(drive, desk)
    me = desk("GET", "/api/session").get_json()["id"]
    person, secret = added(desk, "imre", "Imre Castellan")
    alone = desk("PATCH", f"/api/people/{me}", {"administrator": False})
    assert (alone.status_code, alone.get_json()["code"]) == (400, "last-administrator")
    # who cannot log in yet does not count
    assert desk("PATCH", f"/api/people/{person}", {"administrator": True}).status_code == 204
    assert desk("PATCH", f"/api/people/{me}", {"administrator": False}).status_code == 400
    imre = Browser(app)
    imre("POST", "/api/links/use", {"key": secret, "password": "tide-tables-1"})

    def unmake(which: tuple[Browser, int]) -> int:
        return which[0]("PATCH", f"/api/people/{which[1]}", {"administrator": False}).status_code

    with ThreadPoolExecutor(2) as pool:
        assert sorted(pool.map(unmake, [(desk, person), (imre, me)])) in ([204, 400], [204, 403])


def test_who_leaves_is_out_at_once_and_leaves_nothing_behind(drive: Drive, app: Flask, desk: Browser) -> None:
    begun(drive, desk)
    me = desk("GET", "/api/session").get_json()["id"]
    person, secret = added(desk, "imre", "Imre Castellan")
    imre = Browser(app)
    imre("POST", "/api/links/use", {"key": secret, "password": "tide-tables-1"})
    group = desk("POST", "/api/groups", {"name": "Keepers"}).get_json()["id"]
    assert desk("PUT", f"/api/groups/{group}/members/{person}").status_code == 204
    assert desk("POST", f"/api/people/{person}/left", {"to": person}).status_code == 400
    assert desk("POST", f"/api/people/{me}/left", {"to": person}).status_code == 400
    assert desk("POST", f"/api/people/{person}/left", {"to": me}).status_code == 200
    assert imre("GET", "/api/session").status_code == 401
    again = imre("POST", "/api/session", {"login": "imre", "password": "tide-tables-1"})
    assert (again.status_code, again.get_json()["code"]) == (401, "wrong-login")
    assert desk("GET", f"/api/groups/{group}").get_json()["members"] == []
    rows = {p["login"]: p["active"] for p in desk("GET", "/api/people").get_json()["people"]}
    assert rows == {"imre": False, "petra": True}


def test_only_administrators_see_people(drive: Drive, app: Flask, desk: Browser) -> None:
    begun(drive, desk)
    _, secret = added(desk, "lise", "Lise Brandt")
    lise = Browser(app)
    lise("POST", "/api/links/use", {"key": secret, "password": "copper-rivets"})
    for path in ("/api/people", "/api/groups", "/api/office", "/api/office/trail", "/api/office/missing", "/api/areas"):
        assert lise("GET", path).status_code == 403, path


def test_people_by_a_table_are_looked_at_whole(drive: Drive, desk: Browser) -> None:
    begun(drive, desk)
    desk("POST", "/api/groups", {"name": "Yard"})
    table = "name;login;groups\nImre Castellan;imre;yard\nOdalys Brink;Petra;\n'=cmd;cmd;Nobody\nTwice;imre;\n"
    told = desk("POST", "/api/people/table", {"table": table}).get_json()
    assert told["ready"] is False
    assert [(one["login"], one["problems"]) for one in told["lines"]] == [
        ("imre", []),
        ("petra", ["somebody has the log-in “petra” already"]),
        ("cmd", ["there is no group “Nobody”"]),
        ("imre", ["line 2 has the log-in “imre” too"]),
    ]
    assert desk("POST", "/api/people/several", {"table": table}).status_code == 400
    assert len(desk("GET", "/api/people").get_json()["people"]) == 1
    good = "name;login;groups\nImre Castellan;imre;yard\n"
    (one,) = desk("POST", "/api/people/several", {"table": good}).get_json()["people"]
    assert "/welcome#" in one["link"]["address"]
    wrong = desk("POST", "/api/people/table", {"table": "who,mail\na,b\n"}).get_json()
    assert "“who” is not known" in wrong["problem"]


def test_a_manifest_of_access_says_who_may_do_what_where(drive: Drive, app: Flask, desk: Browser) -> None:
    begun(drive, desk)
    desk("POST", "/api/areas", {"areas": [{"name": "Letters"}]})
    area = desk("GET", "/api/areas").get_json()["areas"][0]["id"]
    person, secret = added(desk, "lise", "Lise Brandt")
    wishes = [
        {"folder": area, "principal": person, "level": "read", "until": "2199-12-24"},
        {"folder": area, "principal": desk("GET", "/api/session").get_json()["id"], "level": "keep"},
        {"folder": area, "restricted": True},
    ]
    done = desk("POST", "/api/access", {"wishes": wishes}).get_json()
    assert (done["title"], done["queued"]) == ("3 changes of who reads Letters", False)
    lines = desk("GET", f"/api/manifests/{done['manifest']}/lines").get_json()["lines"]
    assert [(one["from_place"], one["from_name"], one["to_name"]) for one in lines] == [
        ("Letters", "Lise Brandt: nothing", "Lise Brandt: read until 2199-12-24"),
        ("Letters", "Petra Holm: nothing", "Petra Holm: keep"),
        ("Letters", "open to what is given above", "restricted"),
    ]
    lise = Browser(app)
    lise("POST", "/api/links/use", {"key": secret, "password": "copper-rivets"})
    # it is for keepers: its title would tell others who reads what
    assert lise("GET", f"/api/manifests/{done['manifest']}").status_code == 404
    assert [f["name"] for f in lise("GET", "/api/folders").get_json()["folders"]] == ["Letters"]


def test_an_empty_area_goes_with_its_access_and_comes_back_with_it(drive: Drive, app: Flask, desk: Browser) -> None:
    begun(drive, desk)
    kinds = {"letter": {"name": "<subject>", "place": "<issued yyyy>"}}
    desk("POST", "/api/areas", {"areas": [{"name": "Letters"}, {"name": "Staff", "restricted": True, "kinds": kinds}]})
    before = desk("GET", "/api/areas").get_json()
    area = before["areas"][1]["id"]
    desk("PATCH", f"/api/areas/{area}", {"purpose": "who works here"})
    person, secret = added(desk, "lise", "Lise Brandt")
    wishes = [{"folder": area, "principal": person, "level": "read", "until": "2199-12-24"}]
    assert desk("POST", "/api/access", {"wishes": wishes}).status_code == 200
    readers = desk("GET", f"/api/access/folders/{area}").get_json()
    plan = desk("GET", f"/api/plans/{area}").get_json()
    before = desk("GET", "/api/areas").get_json()
    removed = desk("DELETE", f"/api/areas/{area}")
    assert removed.status_code == 200, removed.text
    assert [a["name"] for a in desk("GET", "/api/areas").get_json()["areas"]] == ["Letters"]
    assert desk("GET", f"/api/folders/{area}").status_code == 404
    undone = desk("POST", "/api/undo")
    assert undone.status_code == 200, undone.text
    assert desk("GET", "/api/areas").get_json() == before
    assert desk("GET", f"/api/plans/{area}").get_json() == plan
    again = desk("GET", f"/api/access/folders/{area}").get_json()
    assert [(r["name"], r["level"]) for r in again["rows"]] == [(r["name"], r["level"]) for r in readers["rows"]]
    lise = Browser(app)
    lise("POST", "/api/links/use", {"key": secret, "password": "copper-rivets"})
    assert [f["name"] for f in lise("GET", "/api/folders").get_json()["folders"]] == ["Staff"]
    assert lise("DELETE", f"/api/areas/{area}").status_code == 403


def test_an_area_that_something_hangs_on_stays(drive: Drive, desk: Browser) -> None:
    begun(drive, desk)
    (area,) = desk("POST", "/api/areas", {"areas": [{"name": "Letters"}]}).get_json()["areas"]
    assert desk("POST", "/api/folders", {"parent": area, "name": "2026"}).status_code == 201
    refused = desk("DELETE", f"/api/areas/{area}")
    assert (refused.status_code, refused.get_json()["code"]) == (400, "entries")
    assert "something lies in it" in refused.get_json()["detail"]
    assert [a["name"] for a in desk("GET", "/api/areas").get_json()["areas"]] == ["Letters"]


def test_an_area_that_something_comes_to_hang_on_meanwhile_keeps_its_access(
    drive: Drive, desk: Browser, monkeypatch: pytest.MonkeyPatch
) -> None:
    begun(drive, desk)
    (area,) = desk("POST", "/api/areas", {"areas": [{"name": "Staff", "restricted": True}]}).get_json()["areas"]
    before = desk("GET", f"/api/access/folders/{area}").get_json()
    looks = iter([None, "parties", "parties"])
    monkeypatch.setattr(area_settings, "hanging_on", lambda _conn, _area: next(looks))
    refused = desk("DELETE", f"/api/areas/{area}")
    assert (refused.status_code, refused.get_json()["code"]) == (400, "parties")
    assert desk("GET", f"/api/access/folders/{area}").get_json() == before
