"""Documents: cards and trails."""

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

from waka.core.facts.kinds import expected_facts
from waka.core.names.drive_fields import FACT_FIELDS, FIELDS, label_of
from waka.core.names.fields import Party
from waka.core.names.pattern import compile_pattern
from waka.web.present.facts import all_strokes, display_fact, field_out, source_out
from waka.web.schemas.documents import CardOut, OriginalOut, PageOut, PlaceOut, TrailLine, VersionOut
from waka.web.schemas.facts import FactOut
from waka.words import readings, trail
from waka.words.rules import doer
from waka.words.trail import TRAIL
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
    asked = [f for p in (card.plan.name, card.plan.place) if p for f in compile_pattern(p).fields if f in FACT_FIELDS]
    expected = ["kind", *expected_facts(row["kind"], card.plan.expects), *asked]
    fields = list(dict.fromkeys([*expected, *(f for f in FIELDS if f in card.facts), *card.facts]))
    return CardOut(
        made_from=originals_out(card.originals), id=row["id"],
        name=card.name, extension=row["extension"],
        media_type=row["media_type"], size=row["size"],
        places=[
            PlaceOut(entry=p["id"], folder=p["parent"], path=card.paths.get(p["parent"], ""), name=p["name"], home=p["home"])
            for p in card.places
        ],
        facts=[_fact_out(field, card) for field in fields], planned_name=card.planned if card.planned != card.name else None,
        tags=list(card.tags),
        versions=[
            VersionOut(number=v["number"], original_name=v["original_name"], at=v["at"], by=v["by"], size=v["size"])
            for v in card.versions
        ],
        pages=[page_out(p) for p in row["pages"]], problem=readings.problem(row["problem"]),
        notes=[readings.note(kept) for kept in row["notes"]],
        reading=row["reading"],
        strokes=all_strokes(fields, card.plan.name, card.plan.place), may_file=card.may_file, keeps=card.keeps,
        arrived_at=row["arrived_at"], arrived_by=row["arrived_by"], filed_at=row["filed_at"], filed_by=row["filed_by"],
    )  # fmt: skip


def _fact_out(field: str, card: Card) -> FactOut:
    """A fact of a filed document; one of its kind that is not known, too. What the newest version says otherwise is asked."""
    kept = card.facts.get(field, {"value": None, "source": {}})
    otherwise = card.contradicted.get(field)
    question = None
    if otherwise:
        question = (
            f"Version {card.row['head']} says {display_fact(field, otherwise['found'], card.parties)}. Which is right?"
        )
    return FactOut(
        **field_out(field), value=kept["value"], display=display_fact(field, kept["value"], card.parties),
        source=source_out(otherwise["source"] if otherwise else kept["source"]), sure=otherwise is None,
        given=kept["source"].get("kind") == "person" and otherwise is None,
        alternatives=[otherwise["found"]] if otherwise else [], question=question,
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
            label = label_of(r["data"]["field"])
            value = display_fact(r["data"]["field"], r["data"]["to"], parties) or "not known"
            facts.setdefault(r["manifest"], []).append(f"{label.lower()} {value}")
    told: set[int] = set()
    for r in rows:
        if r["kind"] == "fact":
            if r["manifest"] in told:
                continue
            told.add(r["manifest"])
            what = TRAIL.say("fact", {"facts": facts[r["manifest"]]})
        else:
            what = trail.say(r, paths)
        undo = "undone: " if r["undo_of"] else ""
        lines.append(TrailLine(at=r["at"], by=doer(r["by"], r["rules_of"]), what=undo + what, manifest=r["manifest"]))
    lines.append(
        TrailLine(
            at=row["arrived_at"],
            by=row["arrived_by"],
            what=TRAIL.say("arrived", {"name": row["arrived_name"]}),
            manifest=None,
        )
    )
    return lines
