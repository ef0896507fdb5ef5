"""Running rulebooks, ready to be asked; and documents as they see them."""

import functools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime
from typing import Any

from waka.core.access.permissions import Permissions
from waka.core.facts.values import Json
from waka.core.names.fields import Party, Settings
from waka.core.names.portable import split_extension
from waka.core.rules.deciding import Decider, Decision
from waka.core.rules.documents import Document, Where
from waka.core.rules.errors import TextError
from waka.core.rules.parsing import TextWrong, parse
from waka.core.rules.parties import renamed
from waka.core.rules.values import Entry, Register, one_spaced, same
from waka.store.postgres import parties as register_store
from waka.store.postgres import plans, rule_inputs, rulebooks
from waka.store.postgres.database import Connection, Row
from waka.work.actor import Absent, Refused
from waka.work.drive import area_settings, known_parties, name_settings, office_now

#: So many rulebooks are kept ready: those of all areas, and a few that are tried.
_READY = 64


class RulebookRefused(Refused):
    """A text that cannot be a rulebook: all that is wrong with it."""

    def __init__(self, errors: list[TextError]) -> None:
        first = errors[0]
        more = f", and {len(errors) - 1} more" if len(errors) > 1 else ""
        super().__init__(f"Line {first.line}: expected {first.expected}{more}.", code="rulebook", field="text")
        self.errors = errors


@dataclass(frozen=True)
class Ruling:
    """A revision of an area's rulebook, ready: ``revision`` 0 for a draft. ``by_itself``: it files when it is sure."""

    area: int
    revision: int
    by_itself: bool
    decider: Decider

    @property
    def subjects(self) -> frozenset[str]:
        """What its rules ask about."""
        return self.decider.subjects

    def decide(
        self, document: Document, event: str = "arrival", *, by_itself: bool = True, explain: bool = False
    ) -> Decision:
        """What it says of a document."""
        return self.decider.decide(document, event, by_itself=by_itself, explain=explain)


def as_entry(party: Party) -> Entry:
    """A party of the register as rules know it."""
    return Entry(one_spaced(party.name), party.short, party.code)


@functools.lru_cache(maxsize=_READY)
def _ready(
    text: str, parties: tuple[tuple[str, Entry], ...], area: str, granted: frozenset[str], settings: Settings, day: date
) -> Decider:
    register = {same(entry.name): entry for _, entry in parties}
    rulebook = renamed(parse(text), {name: entry.name for name, entry in parties})
    return Decider(rulebook, Where(area, granted, register, replace(settings, today=day), day))


def ready(
    conn: Connection, row: Row, area_name: str, parties: Mapping[int, Party], settings: Settings, day: date
) -> Ruling:
    """A kept revision, ready for a day. Parties that it names are called as they are now, as far as ``parties`` knows them."""
    called = tuple(
        sorted((name, as_entry(parties[number])) for name, number in row["parties"].items() if number in parties)
    )
    granted = frozenset(rulebooks.granted(conn, row["area"]))
    decider = _ready(row["text"], called, area_name, granted, settings, day)
    return Ruling(row["area"], row["revision"], row["by_itself"], decider)


def register_of(conn: Connection, permissions: Permissions) -> tuple[Register, dict[str, int]]:
    """The register by which a text is read, and the number of each party by its name: those that were taken out come last."""
    entries: dict[str, Entry] = {}
    numbers: dict[str, int] = {}
    rows = register_store.parties(conn, permissions, removed=True)
    for row in sorted(rows, key=lambda r: bool(r["removed"])):
        key = same(row["name"])
        if key not in entries:
            # who is out of the register is met by the name alone
            others = ("", "", ()) if row["removed"] else (row["short"], row["code"], tuple(row["aliases"]))
            entries[key] = Entry(row["name"], *others)
            numbers[key] = row["id"]
    return tuple(entries.values()), numbers


def draft_of(
    conn: Connection, permissions: Permissions, area: Row, text: str | None, revision: int | None = None
) -> Ruling:
    """A text, or (None) a kept revision (None: the running one), ready for today. RulebookRefused, Absent for no such revision."""
    parties = known_parties(conn, permissions)
    settings = area_settings(name_settings(conn), plans.plan_of(conn, area["id"]))
    day = office_now(conn).date()
    if text is None:
        row = rulebooks.newest(conn, area["id"]) if revision is None else rulebooks.at(conn, area["id"], revision)
        if row is None:
            raise Absent("revision")
        return ready(conn, row, area["name"], parties, settings, day)
    register, _ = register_of(conn, permissions)
    try:
        rulebook = parse(text, register)
    except TextWrong as wrong:
        raise RulebookRefused(wrong.errors) from wrong
    granted = frozenset(rulebooks.granted(conn, area["id"]))
    by_name = {same(entry.name): entry for entry in map(as_entry, parties.values())}
    where = Where(area["name"], granted, by_name, settings, day)
    return Ruling(area["id"], 0, by_itself=True, decider=Decider(rulebook, where))


def rules_value(field: str, value: Json, parties: Mapping[int, Party]) -> Json:
    """A fact in the form that rules take it: a party by its name, None for one that may not be known."""
    if field == "party":
        party = parties.get(value["party"])
        return None if party is None else one_spaced(party.name)
    return value


def kept_facts(told: Mapping[str, Json], parties: Mapping[int, Party]) -> dict[str, Json]:
    """Facts that rules set, in the form that they are kept: a party by its number; None for one that is cleared."""
    kept = dict(told)
    name = told.get("party")
    if name is not None:
        number = next((n for n, party in parties.items() if one_spaced(party.name) == name), None)
        kept["party"] = None if number is None else {"party": number}
    return kept


def areas_reached(conn: Connection, area: int, name: str) -> dict[str, int]:
    """The areas where an area's rules may file, by folded name: its own, and those that let them."""
    return {same(name): area, **{same(n): a for n, a in rulebooks.granted(conn, area).items()}}


def from_facts(facts: Mapping[str, Json], parties: Mapping[int, Party]) -> tuple[dict[str, Json], Entry | None]:
    """Facts as they are kept in the form that rules take, and the party's entry."""
    told = {field: rules_value(field, value, parties) for field, value in facts.items() if value is not None}
    party = facts.get("party")
    known = parties.get(party["party"]) if party is not None else None
    return told, None if known is None else as_entry(known)


def arrived(
    row: Row,
    facts: Mapping[str, Json],
    doubtful: frozenset[str],
    parties: Mapping[int, Party],
    texts: Mapping[bytes, str | None],
    senders: Mapping[int, str],
) -> Document:
    """An arrival as rules see it, by what is on its slip."""
    told, entry = from_facts(facts, parties)
    return Document(
        told, doubtful, split_extension(row["original_name"])[0], row["extension"] or None, row["size"], row["page_count"] or None,
        row["source"], senders.get(row["document"]), row["by_name"], None, tuple(row["slip"].get("tags", ())),
        texts.get(row["content"]), None, entry,
    )  # fmt: skip


def filed(
    row: Row,
    path: str,
    parties: Mapping[int, Party],
    zone: datetime,
    texts: Mapping[bytes, str | None],
    senders: Mapping[int, str],
) -> Document:
    """A filed document (``rule_inputs.filed_documents``) as rules see it; ``path`` of its folder. All its facts are sure."""
    told, entry = from_facts(row["facts"], parties)
    since = row["filed_at"].astimezone(zone.tzinfo).date() if row["filed_at"] is not None else None
    return Document(
        told, frozenset(), split_extension(row["name"])[0], row["extension"] or None, row["size"], row["pages"],
        row["source"] or None, senders.get(row["document"]), row["brought_by"], path, tuple(row["tags"]),
        texts.get(row["content"]), since, entry,
    )  # fmt: skip


def asked_for(
    conn: Connection, subjects: frozenset[str], rows: Sequence[Row]
) -> tuple[dict[bytes, str], dict[int, str]]:
    """Texts and senders of documents, where rules ask about them."""
    texts = rule_inputs.texts(conn, [row["content"] for row in rows]) if "text" in subjects else {}
    senders = rule_inputs.senders(conn, [row["document"] for row in rows]) if "sender" in subjects else {}
    return texts, senders


def seen_to_json(document: Document, facts: Mapping[str, Json]) -> dict[str, Any]:
    """A document as it was seen, to be kept: ``facts`` as they are kept, parties by number; without its text."""
    besides = ("name", "type", "size", "pages", "source", "sender", "brought_by", "place")
    kept = {key: value for key in besides if (value := getattr(document, key)) is not None}
    return {
        **kept,
        "facts": dict(facts),
        "doubtful": sorted(document.doubtful),
        "tags": list(document.tags),
        **({"filed": document.filed.isoformat()} if document.filed else {}),
    }


def seen_from_json(kept: Mapping[str, Any], parties: Mapping[int, Party], text: str | None) -> Document:
    """A document as it was seen once; its party is called as now."""
    told, entry = from_facts(kept["facts"], parties)
    rest = {key: value for key, value in kept.items() if key not in ("facts", "doubtful", "tags", "filed")}
    day = date.fromisoformat(kept["filed"]) if kept.get("filed") else None
    return Document(
        told, frozenset(kept["doubtful"]), tags=tuple(kept["tags"]), text=text, filed=day, party=entry, **rest
    )
