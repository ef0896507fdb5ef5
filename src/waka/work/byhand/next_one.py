"""The next one of a series: a copy of a document with other facts, called and placed by the plan."""

from collections.abc import Mapping
from dataclasses import dataclass

from waka.core.access.permissions import Permissions
from waka.core.changes.kinds import Change, Copy, DocumentId, EntryId, FolderId, Location, SetFact
from waka.core.facts.values import FactRefused, Json, check_value, name_value
from waka.core.names.drive_fields import DRIVE_FIELDS, Editor, editor_of
from waka.core.names.fields import Facts, Printed
from waka.core.names.pattern import compile_pattern
from waka.core.names.portable import entry_key, join_extension
from waka.core.plan.area_plan import AreaPlan
from waka.store.postgres import documents, folders, plans
from waka.store.postgres.database import Connection, Row
from waka.store.postgres.gate import lines
from waka.words.manifests import title
from waka.words.sources import because
from waka.work.acting import reach
from waka.work.actor import Absent, Actor, Refused
from waka.work.drive import Drive, area_settings, choosable_parties, known_parties, name_settings
from waka.work.free_names import free_name
from waka.work.gate.apply import Applied, apply_in
from waka.work.target_folders import Skipped, find_folders, making


@dataclass(frozen=True)
class NextOne:
    """What the copy would be: the facts its name and place are made of, its full name and the folders below the area.

    ``why``: what is lacking or cannot be; then there is no name. ``marked``: the name is taken, so it bears a mark.
    """

    fields: tuple[str, ...]
    facts: Mapping[str, Json]
    name: str | None
    place: str
    why: str | None
    marked: bool = False


@dataclass(frozen=True)
class _Draft:
    told: NextOne
    row: Row
    given: Mapping[str, Json]
    folder: int
    makes: tuple[Change, ...]


def preview(drive: Drive, actor: Actor, document: int, given: Mapping[str, Json]) -> NextOne:
    """What the copy would be called with ``given`` facts in place of the document's own."""
    with drive.database.transaction() as conn:
        return _draft(conn, actor, document, given).told


def make(drive: Drive, actor: Actor, document: int, given: Mapping[str, Json]) -> tuple[int, Applied]:
    """Make the copy; its document. Refused where its name or place cannot be composed."""
    with drive.database.transaction() as conn:
        draft = _draft(conn, actor, document, given)
        if draft.told.name is None:
            raise Refused(str(draft.told.why), code="name", field="facts")
        (new,) = lines.allot(conn, "entry_id", 1)
        at = Location(FolderId(draft.folder), draft.told.name)
        changes: list[Change] = [
            *draft.makes,
            Copy(DocumentId(new), EntryId(new), at, DocumentId(document), draft.row["head"]),
        ]
        source = {"kind": "person", "why": [because("next one")]}
        changes += [SetFact(DocumentId(new), field, None, value, source) for field, value in draft.given.items()]
        return new, apply_in(conn, actor, changes, title("next one", name=draft.told.name))


def _draft(conn: Connection, actor: Actor, document: int, given: Mapping[str, Json]) -> _Draft:
    permissions = reach(conn, actor)
    row = documents.document_card(conn, document, permissions)
    places = documents.places(conn, document, permissions) if row is not None else []
    if row is None or not places:
        raise Absent("document")
    area = folders.area_of(conn, places[0]["parent"])
    kept = {field: fact["value"] for field, fact in documents.facts(conn, document).items()}
    changed = _checked(conn, permissions, given)
    facts = kept | changed
    area_plan = plans.plan_of(conn, area) if area is not None else AreaPlan()
    rule = area_plan.rule(row["kind"])
    if area is None or rule is None:
        raise Refused("The area's plan has no name for documents of this kind; copy it by hand.", code="plan")
    known = known_parties(conn, permissions)
    settings = area_settings(name_settings(conn), area_plan)
    patterns = [compile_pattern(text, settings.language) for text in (rule.name, rule.place)]
    fields = tuple(f for f in dict.fromkeys(f for p in patterns for f in p.fields) if f in DRIVE_FIELDS)
    values: Facts = {f: v for f, told in facts.items() if (v := name_value(f, told, known)) is not None}
    name = patterns[0].print(values, settings, extension=row["extension"])
    place = patterns[1].print(values, settings)
    shown = {f: facts.get(f) for f in fields}
    for printed in (name, place):
        if printed.name is None:
            why = _why(printed)
            return _Draft(NextOne(fields, shown, None, place.name or "", why), row, changed, 0, ())
    return _placed(conn, permissions, row, area, NextOne(fields, shown, name.name, str(place.name), None), changed)


def _placed(
    conn: Connection, permissions: Permissions, row: Row, area: int, told: NextOne, given: Mapping[str, Json]
) -> _Draft:
    way = (area, tuple(told.place.split("/")))
    targets = find_folders(conn, permissions, [way])
    end = targets.ends[way]
    if isinstance(end, Skipped):
        return _Draft(NextOne(told.fields, told.facts, None, told.place, end.why), row, given, 0, ())
    of, makes = making(conn, targets)
    folder = of.get(end, end)
    full = join_extension(str(told.name), row["extension"])
    marked = bool(documents.keys_held(conn, folder, [entry_key(full)]))
    if marked:
        full = free_name(conn, folder, str(told.name), row["extension"])
    return _Draft(NextOne(told.fields, told.facts, full, told.place, None, marked), row, given, folder, tuple(makes))


def _checked(conn: Connection, permissions: Permissions, given: Mapping[str, Json]) -> dict[str, Json]:
    checked: dict[str, Json] = {}
    for field, value in given.items():
        if value is None:
            raise Refused(f"Write another {field}; a copy has what it was copied from.", code="fact", field=field)
        try:
            checked[field] = check_value(field, value)
        except FactRefused as refused:
            raise Refused(refused.why, code="fact", field=refused.field) from refused
        if editor_of(field) is Editor.PARTY and checked[field]["party"] not in choosable_parties(conn, permissions):
            raise Refused("There is no such party in the register.", code="fact", field="party")
    return checked


def _why(printed: Printed) -> str:
    if printed.missing:
        return f"not known: {', '.join(printed.missing)}"
    return printed.refused or "the name cannot be composed"
