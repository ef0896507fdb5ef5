"""The desired place, name, facts and tags of documents by filing rules: a person's manifest, of what rules say."""

from collections.abc import Mapping, Sequence

from waka.core.access.permissions import Permissions
from waka.core.changes.kinds import Change, DocumentId, SetFact, Tag
from waka.core.changes.origin import PlanMethod
from waka.core.changes.wire import encode
from waka.core.names.fields import Party
from waka.core.names.portable import split_extension
from waka.core.rules.deciding import Decision
from waka.core.rules.values import same
from waka.store.postgres import rule_inputs
from waka.store.postgres.database import Connection, Row
from waka.store.postgres.planning import Source
from waka.words.rules import ASKS
from waka.words.sources import because
from waka.work.acting import require_area
from waka.work.actor import Absent, Refused
from waka.work.drive import known_parties, office_now
from waka.work.manifests.desired import Chain, DesiredPlace
from waka.work.rulebooks import Ruling, areas_reached, asked_for, draft_of, filed, kept_facts
from waka.work.target_folders import Skipped

#: Where a fact comes from that a rule sets.
BY_RULE = {"kind": "rule", "why": [because("by a rule")]}


def places_by_rules(
    conn: Connection,
    permissions: Permissions,
    way: PlanMethod,
    found: Sequence[Source],
    chains: Mapping[int, Chain],
) -> list[DesiredPlace | Skipped]:
    """What rules say of each of ``found``.

    Raises RulebookRefused for a text that is none, Refused where an area that it is about has no rules.
    """
    known, now = known_parties(conn, permissions), office_now(conn)
    told: dict[int, DesiredPlace | Skipped] = {}
    by_area: dict[int, list[Source]] = {}
    for source in found:
        by_area.setdefault(chains[source.parent][0][0], []).append(source)
    for area, sources in by_area.items():
        row = require_area(conn, permissions, area)
        ruling = _ruling(conn, permissions, row, way)
        areas = areas_reached(conn, area, row["name"])
        rows = rule_inputs.filed_documents(
            conn, permissions, area, documents=[source.document for source in sources], limit=len(sources)
        )
        texts, senders = asked_for(conn, ruling.subjects, rows)
        homes = {one["entry"]: one for one in rows}
        for source in sources:
            home = homes.get(source.entry)
            if home is None:
                told[source.entry] = Skipped("skip:second place")
                continue
            path = "/".join(name for _, name in chains[source.parent])
            document = filed(home, path, known, now, texts, senders)
            decision = ruling.decide(document, "arrival" if way.rules else "hand")
            told[source.entry] = _desired(ruling, source, home, decision, areas, known)
    return [told[source.entry] for source in found]


def _ruling(conn: Connection, permissions: Permissions, area: Row, way: PlanMethod) -> Ruling:
    try:
        return draft_of(conn, permissions, area, way.rules or None)
    except Absent as absent:
        raise Refused(f"{area['name']} has no filing rules.", code="rules") from absent


def _desired(
    ruling: Ruling, source: Source, row: Row, decision: Decision, areas: Mapping[str, int], known: Mapping[int, Party]
) -> DesiredPlace | Skipped:
    if decision.ask:
        first = decision.ask[0]
        reason = ASKS.say(first.why["code"], first.why)
        return Skipped("rule asks", {"rule": first.rule, "line": first.line, "reason": reason})
    if not decision.applied:
        return Skipped("skip:no rule")
    if decision.archive:
        rule, line = ruling.decider.line_of_place(decision)
        return Skipped("rule asks", {"rule": rule, "line": line, "reason": ASKS.say("archive", {})})
    stem = decision.name if decision.name is not None else split_extension(source.name)[0]
    besides = tuple(encode(change) for change in known_changes(row, decision, known))
    if decision.place is None or decision.leave:
        return DesiredPlace(source.parent, (), stem, besides=besides)
    area, *levels = decision.place.split("/")
    base = areas.get(same(area))
    if base is None:
        return Skipped("rights:target")
    return DesiredPlace(base, tuple(levels), stem, besides=besides)


def known_changes(row: Row, decision: Decision, known: Mapping[int, Party]) -> list[Change]:
    """The facts that a decision sets or clears and the tags that it puts on or takes off, where they are not so already."""
    number, changes = DocumentId(row["document"]), list[Change]()
    for name, kept in kept_facts(decision.facts, known).items():
        if kept != row["facts"].get(name):
            changes.append(SetFact(number, name, row["facts"].get(name), kept, BY_RULE))
    if decision.tags or decision.untags:
        changes.append(Tag(number, add=tuple(decision.tags), remove=tuple(decision.untags)))
    return changes
