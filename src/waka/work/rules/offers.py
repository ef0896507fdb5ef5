"""Rules offered to a keeper from what they filed by hand lately, other than plan and rules have it."""

from dataclasses import replace
from datetime import timedelta

from waka.core.access.permissions import Permissions
from waka.core.facts.values import name_value
from waka.core.names.fields import Facts
from waka.core.names.pattern import compile_pattern
from waka.core.rules.offering import Filing, Offer, offers_of
from waka.core.rules.tree import Rulebook
from waka.store.postgres import access, planning, plans, rule_inputs, rulebooks
from waka.store.postgres.database import Connection, Row
from waka.work.acting import acting, require_area
from waka.work.actor import Actor
from waka.work.drive import Drive, area_settings, known_parties, name_settings, office_now
from waka.work.rulebooks import asked_for, draft_of, filed

#: What was filed longer ago says nothing of how one files now.
_LATELY = timedelta(days=62)
_MOST = 300


def offered(drive: Drive, actor: Actor, area: int) -> list[Offer]:
    """What is worth a rule of an area, by what the person filed there lately. Nothing for who does not keep it."""
    with acting(drive, actor) as (conn, permissions):
        row = require_area(conn, permissions, area)
        if row["level"] < access.KEEP:
            return []
        rulebook, filings = _filings(conn, permissions, actor, row)
        return offers_of(filings, (rule.name for rule in rulebook.rules))


def _filings(conn: Connection, permissions: Permissions, actor: Actor, area: Row) -> tuple[Rulebook, list[Filing]]:
    parties, now = known_parties(conn, permissions), office_now(conn)
    plan = plans.plan_of(conn, area["id"])
    settings = area_settings(name_settings(conn), plan)
    rows = rule_inputs.filed_by(conn, permissions, area["id"], actor.person, now - _LATELY, _MOST)
    running = rulebooks.newest(conn, area["id"])
    ruling = draft_of(conn, permissions, area, "" if running is None else None)
    texts, senders = asked_for(conn, ruling.subjects, rows)
    ways = planning.chains(conn, list({row["parent"] for row in rows}))
    filings = []
    for row in rows:
        levels = [name for _, name in ways[row["parent"]]]
        document = filed(row, "/".join(levels), parties, now, texts, senders)
        kind, party = document.facts.get("kind"), document.facts.get("party")
        if kind is None or party is None:
            continue
        decision = ruling.decide(replace(document, tags=()))  # as it came
        planned = decision.place.partition("/")[2] if decision.place is not None else None
        rule = plan.rule(kind)
        if planned is None and rule is not None:
            values: Facts = {
                f: v for f, told in row["facts"].items() if (v := name_value(f, told, parties)) is not None
            }
            planned = compile_pattern(rule.place, settings.language).print(values, settings).name
        filings.append(
            Filing(
                row["document"], kind, party, "/".join(levels[1:]), planned, document.facts.get("issued"),
                tuple(row["tags"]), tuple(decision.tags),
            )
        )  # fmt: skip
    return ruling.decider.rulebook, filings
