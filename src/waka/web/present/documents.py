"""Documents: cards and trails."""

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from waka.core.facts.kinds import expected_facts
from waka.core.names.fields import LABELS, Party
from waka.web.present.facts import all_strokes, display_fact, source_out
from waka.web.schemas.documents import CardOut, OriginalOut, PageOut, PlaceOut, TrailLine, VersionOut
from waka.web.schemas.facts import FactOut
from waka.words import readings
from waka.work.browse.look import Card


def originals_out(rows: Iterable[Mapping[str, Any]]) -> list[OriginalOut]:
    """Where the pages of a document came from."""
    return [OriginalOut(arrival=r["document"], name=r["name"], pages=r["pages"]) for r in rows]


def page_out(page: Mapping[str, Any]) -> PageOut:
    """The size of a page, in points."""
    return PageOut(width=page["width"], height=page["height"])


def card_out(card: Card) -> CardOut:
    """A document's card."""
    row = card.row
    order = ["kind", *expected_facts(row["kind"]), *LABELS]
    facts = sorted(card.facts.values(), key=lambda f: order.index(f["field"]) if f["field"] in order else len(order))
    fields = [f["field"] for f in facts]
    return CardOut(
        made_from=originals_out(card.originals), id=row["id"],
        name=card.places[0]["name"] if card.places else row["original_name"], extension=row["extension"],
        media_type=row["media_type"], size=row["size"],
        places=[
            PlaceOut(entry=p["id"], folder=p["parent"], path=card.paths.get(p["parent"], ""), name=p["name"], home=p["home"])
            for p in card.places
        ],
        facts=[
            FactOut(
                field=f["field"], label=LABELS.get(f["field"], f["field"]), value=f["value"],
                display=display_fact(f["field"], f["value"], card.parties), source=source_out(f["source"]), sure=True,
                given=f["source"].get("kind") == "person", alternatives=[], question=None,
            )
            for f in facts
        ],
        tags=list(card.tags),
        versions=[
            VersionOut(number=v["number"], original_name=v["original_name"], at=v["at"], by=v["by"], size=v["size"])
            for v in card.versions
        ],
        pages=[page_out(p) for p in row["pages"]], problem=readings.problem(row["problem"]),
        notes=[readings.note(kept) for kept in row["notes"]],
        reading=row["reading"],
        strokes=all_strokes(fields, card.plan.get("name", ""), card.plan.get("place", "")), may_file=card.may_file,
        arrived_at=row["arrived_at"], arrived_by=row["arrived_by"], filed_at=row["filed_at"], filed_by=row["filed_by"],
    )  # fmt: skip


def trail_lines(
    rows: Sequence[Mapping[str, Any]],
    paths: Mapping[int, str],
    row: Mapping[str, Any],
    parties: Mapping[int, Party],
) -> list[TrailLine]:
    """A document's trail in words, the newest first; the facts of one filing are told in one line."""
    lines: list[TrailLine] = []
    facts: dict[int, list[str]] = {}
    for r in rows:
        if r["kind"] == "fact":
            label = LABELS.get(r["data"]["field"], r["data"]["field"])
            value = display_fact(r["data"]["field"], r["data"]["to"], parties) or "not known"
            facts.setdefault(r["manifest"], []).append(f"{label.lower()} {value}")
    told: set[int] = set()
    for r in rows:
        if r["kind"] == "fact":
            if r["manifest"] in told:
                continue
            told.add(r["manifest"])
            what = f"facts: {', '.join(facts[r['manifest']])}"
        else:
            what = _what(r, paths)
        undo = "undone: " if r["undo_of"] else ""
        lines.append(TrailLine(at=r["at"], by=r["by"], what=undo + what, manifest=r["manifest"]))
    lines.append(
        TrailLine(
            at=row["arrived_at"],
            by=row["arrived_by"],
            what=f"arrived as “{row['arrived_name']}”",
            manifest=None,
        )
    )
    return lines


def _what(r: Mapping[str, Any], paths: Mapping[int, str]) -> str:
    hidden = "a folder that is gone or not yours to read"
    to = f"“{r['to_name']}” in {paths.get(r['to_parent'], hidden)}" if r["to_name"] else f"a name in {hidden}"
    was = f"“{r['from_name']}”" if r["from_name"] else f"a name in {hidden}"
    match r["kind"]:
        case "add":
            return f"filed as {to}"
        case "return":
            return "back to arrivals"
        case "place":
            same = r["from_parent"] == r["to_parent"]
            return (
                f"renamed from {was} to “{r['to_name']}”"
                if same
                else f"moved from {paths.get(r['from_parent'], 'elsewhere')} to {to}"
            )
        case "version":
            return f"version {r['data']['was_head'] + 1} put on it"
        case "withdraw version":
            return f"version {r['data']['version']} withdrawn"
        case "also file":
            return f"also filed as {to}"
        case "unplace":
            return f"the place {was} taken away"
        case "make home":
            return "another of its places made its home"
        case "copy":
            of = f"“{r['of_name']}”" if r["of_name"] else "a document that is gone or not yours to read"
            return f"copied from version {r['data']['version']} of {of} as {to}"
        case "remove copy":
            return "the copy taken back"
        case "revert":
            return f"version {r['data']['to']} made the newest again, as version {r['data']['was_head'] + 1}"
        case "undo revert":
            return f"version {r['data']['version']} withdrawn"
        case "set aside":
            return "set aside: its pages went into others"
        case "put in queue":
            return "made of pages of what arrived" if not r["undo_of"] else "waits again"
        case "tag":
            plus = [f"+{t}" for t in r["data"]["add"]] + [f"−{t}" for t in r["data"]["remove"]]
            return f"tags {' '.join(plus)}"
        case "absorb" if r["another"]:
            return f"{was} became version {r['data']['was_head'] + 1} of it"
        case "release" if r["another"]:
            return f"version {r['data']['version']} withdrawn"
        case "absorb":
            return f"{was} became a version of another document"
        case "discard":
            return f"{was} discarded"
        case "restore" | "release":
            return f"restored as {to}"
        case kind:
            return str(kind)
