"""Write on a slip: facts, name, place, area. An edited name gives facts back for the slots whose text was changed."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from waka.core.access.permissions import Permissions
from waka.core.facts.parties import folded
from waka.core.facts.values import FactRefused, Json, check_value, tidy_tags
from waka.core.names.drive_fields import DRIVE_FIELDS
from waka.core.names.fields import DateParts, FieldType, Fit, Piece, Raw
from waka.core.names.pattern import compile_pattern
from waka.core.names.portable import clean_text, split_extension, tidy_level
from waka.store.postgres import arrivals, parties
from waka.store.postgres.database import Connection, Row
from waka.work.acting import acting, require_arrival
from waka.work.actor import Actor, Refused
from waka.work.drive import Drive, choosable_parties, name_settings
from waka.work.slips.composed import Slip
from waka.work.slips.composing import Surroundings, compose, surroundings


@dataclass(frozen=True)
class SlipEdit:
    """What a person wrote on a slip: facts (None takes the person's word back), name, place, area (None: unchanged).

    ``name`` and ``place`` may be ``""``: back to what the plan composes. ``whole``: it is one document, whatever its pages look like.
    ``also``: further folders that it is filed in, under the same name.
    """

    facts: Mapping[str, Json] = field(default_factory=dict)
    drop: tuple[str, ...] = ()
    name: str | None = None
    place: str | None = None
    area: int | None = None
    tags: tuple[str, ...] | None = None
    whole: bool | None = None
    also: tuple[int, ...] | None = None
    revision: int | None = None


def edit_slip(drive: Drive, actor: Actor, document: int, edit: SlipEdit) -> Slip:
    """Keep an edit and compose anew. An edited name gives facts back only for the slots whose text was changed.

    Refused where a value cannot be kept, or where the slip was changed by somebody else since ``revision``.
    """
    with acting(drive, actor) as (conn, permissions):
        row = require_arrival(conn, permissions, document, lock=True)
        if edit.revision is not None and edit.revision != row["slip_revision"]:
            who = row["claimed_name"] or "Somebody"
            raise Refused(
                f"{who} changed this slip meanwhile. Look at it again; your change was not kept.",
                code="stale",
            )
        return _write(conn, permissions, row, edit, surroundings(conn, permissions))


def edit_several(drive: Drive, actor: Actor, documents: Sequence[int], edit: SlipEdit) -> list[tuple[str, str]]:
    """Keep one edit on several slips; the names of those on which it could not be kept, each with why. Raises Absent."""
    left = []
    with acting(drive, actor) as (conn, permissions):
        around = surroundings(conn, permissions)
        # in one order, so that two who write on the same do not wait for each other
        for document in sorted(set(documents)):
            row = require_arrival(conn, permissions, document, lock=True)
            if row["claim_holds"] and row["claimed_by"] != actor.person:
                left.append((str(row["original_name"]), f"{row['claimed_name']} has it in hand."))
                continue
            try:
                # what is refused for one leaves its slip as it was
                with conn.transaction():
                    _write(conn, permissions, row, edit, around)
            except Refused as refused:
                left.append((str(row["original_name"]), str(refused)))
    return left


def _write(conn: Connection, permissions: Permissions, row: Row, edit: SlipEdit, around: Surroundings) -> Slip:
    slip: dict[str, Any] = dict(row["slip"])
    slip["facts"] = _facts(conn, permissions, slip.get("facts", {}), edit)
    if edit.tags is not None:
        slip["tags"] = tidy_tags(edit.tags)
    if edit.also is not None:
        slip["also"] = list(dict.fromkeys(edit.also))
    if edit.whole is not None:
        slip["whole"] = edit.whole
    if edit.area is not None:
        slip["area"] = edit.area
        slip.pop("place", None)
        slip.pop("by_plan", None)
    if edit.place is not None:
        slip["place"] = _tidy_path(edit.place)
        slip["by_plan"] = not slip["place"]
        if slip["by_plan"]:
            slip.pop("place")
    if (edit.facts or edit.drop) and edit.name is None:
        slip.pop("name", None)
    if edit.name is not None:
        before = compose(conn, {**row, "slip": {**slip, "name": None}}, permissions, around)
        _take_name(conn, slip, before, edit.name, parties.parties(conn, permissions))
    row["slip_revision"] = arrivals.save_slip(conn, row["document"], slip)
    composed = compose(conn, {**row, "slip": slip}, permissions, around)
    if edit.area is not None and composed.area is None:
        raise Refused("You may not file in that area.", code="rights")
    if edit.also is not None and len(composed.also) < len(slip["also"]):
        raise Refused("There is no such folder, or you may not file in it.", code="rights", field="also")
    return composed


def _facts(conn: Connection, permissions: Permissions, had: Mapping[str, Json], edit: SlipEdit) -> dict[str, Json]:
    facts = {name: value for name, value in had.items() if name not in edit.drop}
    try:
        for name, value in edit.facts.items():
            facts[name] = check_value(name, value)
    except FactRefused as refused:
        raise Refused(refused.why, code="fact", field=refused.field) from refused
    party = facts.get("party")
    if isinstance(party, Mapping) and party["party"] not in choosable_parties(conn, permissions):
        raise Refused("There is no such party in the register.", code="fact", field="party")
    return facts


def _tidy_path(path: str) -> str:
    return "/".join(tidy_level(level) for level in path.split("/") if tidy_level(level))


def _take_name(conn: Connection, slip: dict[str, Any], before: Slip, name: str, register: Sequence[Row]) -> None:
    """Read an edited name: changed slots become facts. A code or an alias typed for a party becomes what its slot prints."""
    stem, extension = split_extension(name.strip())
    if extension and extension != before.extension:
        stem = name.strip()
    stem = tidy_level(stem)
    slip.pop("name", None)
    if not stem or stem == before.name.name:
        return
    settings = name_settings(conn)
    pattern = compile_pattern(before.name_pattern, settings.language)
    read = pattern.read(stem, settings)
    if isinstance(read, Fit):
        had = {p.field: p.text for p in before.name.pieces if p.field}
        stem = ""
        for piece in read.pieces:
            text = piece.text
            if piece.field is not None and had.get(piece.field) != text:
                value = _fact_from_name(piece, read, register)
                if value is not None:
                    slip["facts"][piece.field] = check_value(piece.field, value)
                if isinstance(value, dict) and "party" in value:
                    text = _printed_party(next(r for r in register if r["id"] == value["party"]), piece)
            stem += text
    slip["name"] = stem


def _printed_party(row: Row, piece: Piece) -> str:
    column = {"": "name"}.get(piece.shape, piece.shape)
    return clean_text(row[column]) or piece.text


def _fact_from_name(piece: Piece, read: Fit, register: Sequence[Row]) -> Json:
    name = piece.field or ""
    kind = DRIVE_FIELDS.get(name)
    value = read.facts.get(name)
    if kind is FieldType.PARTY:
        text = folded(value.text if isinstance(value, Raw) else str(value))
        by_shape = [r["id"] for r in register if piece.shape in ("short", "code") and folded(r[piece.shape]) == text]
        hits = by_shape or [
            r["id"] for r in register if text in map(folded, (r["name"], r["short"], r["code"], *r["aliases"]))
        ]
        return {"party": hits[0]} if len(hits) == 1 else None
    if isinstance(value, DateParts):
        iso = value.iso()
        return iso if isinstance(iso, str) and len(iso) == 10 and iso[4] == "-" and iso[7] == "-" else None
    if isinstance(value, Raw):  # through a lossy shape a text is what stands there: it prints back the same
        value = value.text
    if isinstance(value, str):
        return value if name != "kind" else None
    return value if isinstance(value, int) else None
