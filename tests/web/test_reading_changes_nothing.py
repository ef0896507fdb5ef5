"""Every GET of the API, asked by each person with every sort of id: the database is the same afterwards, row by row."""

import uuid
from typing import Any

from flask import Flask

from tests.web.caller import Caller
from tests.web.every_operation import CALLS
from tests.world import World, bill
from waka.store.postgres.database import Database, fetch_all
from waka.work.byhand import hand
from waka.work.config import templates

#: What may change by being read: when a session was last used (it ends when nobody uses it), by a head that no other site can send.
EXCEPTIONS = {("login_session", "seen_at")}


def everything(database: Database) -> dict[str, list[str]]:
    """Every row of every table, without EXCEPTIONS."""
    with database.transaction() as conn:
        tables = [
            r["name"] for r in fetch_all(conn, "SELECT relname AS name FROM pg_stat_user_tables ORDER BY relname")
        ]
        held = {}
        for table in tables:
            but = [column for name, column in EXCEPTIONS if name == table]
            rows = fetch_all(conn, f"SELECT (to_jsonb(t) - %s::text[])::text AS row FROM {table} t", [but])
            held[table] = sorted(r["row"] for r in rows)
        return held


def test_a_get_changes_nothing(app: Flask, world: World) -> None:
    (document, entry), *_ = world.file(world.yard, ["keel.pdf", "mast.pdf"])
    arrival = world.bring_in(bill(7), actor=world.keeper)
    hand.pick_up(world.drive, world.keeper, [entry])
    known: dict[str, Any] = {
        "template": templates.keep(world.drive, world.keeper, world.yard, "Years", ["<issued yyyy>"]),
        "folder": world.yard, "document": document, "entry": entry, "arrival": arrival, "manifest": 1, "page": 1, "party": 1,
        "upload": uuid.uuid4(), "job": 1, "lesson": 1,
    }  # fmt: skip
    callers = [Caller(app, login) for login in ("reader", "filer", "keeper", "administrator")]
    before = everything(world.drive.database)
    asked = 0
    for operation, calls in CALLS.items():
        method, _, path = operation.partition(" ")
        if method != "get":
            continue
        for caller in callers:
            for query in [{}, *(call.query for call in calls), {"take": "true"}]:
                filled = path
                for name, value in known.items():
                    filled = filled.replace(f"{{{name}}}", str(value))
                given = {
                    k: str(v).format(**known) if isinstance(v, str) and v.startswith("{") else v
                    for k, v in query.items()
                }
                caller("GET", filled, query_string=given, headers={"X-Waka-CSRF": "", "X-Waka-Awake": "1"})
                asked += 1
                caller("HEAD", filled, query_string=given)
    assert asked > 100
    after = everything(world.drive.database)
    assert {t: (set(before[t]) ^ set(after[t])) for t in before if before[t] != after[t]} == {}


def test_opening_a_slip_to_look_takes_no_claim_and_claiming_needs_the_token(app: Flask, world: World) -> None:
    arrival = world.bring_in(bill(7))
    filer, keeper = Caller(app, "filer"), Caller(app, "keeper")
    assert filer.json("GET", f"/api/arrivals/{arrival}?take=true")["claimed_by_me"] is False
    forged = filer("POST", f"/api/arrivals/{arrival}/claim", json={"take": True}, headers={"X-Waka-CSRF": "x"})
    assert (forged.status_code, forged.get_json()["code"]) == (403, "csrf")
    assert filer.json("POST", f"/api/arrivals/{arrival}/claim", json={"take": False})["claimed_by_me"] is True
    assert keeper.json("POST", f"/api/arrivals/{arrival}/claim", json={"take": False})["claimed_by"] == "Filer"
    assert keeper.json("POST", f"/api/arrivals/{arrival}/claim", json={"take": True})["claimed_by_me"] is True


def test_what_waits_comes_in_pages(app: Flask, world: World) -> None:
    numbers = [world.bring_in(bill(n), f"{n}.pdf") for n in range(1, 6)]
    filer = Caller(app, "filer")
    seen: list[int] = []
    after = None
    for _ in range(10):
        page = filer.json("GET", "/api/arrivals", query_string={"limit": 2, **({"after": after} if after else {})})
        assert len(page["arrivals"]) <= 2
        seen += [one["id"] for one in page["arrivals"]]
        after = page["next"]
        if after is None:
            break
    assert seen == numbers
