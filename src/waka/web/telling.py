"""From the use cases' values to the API's forms."""

from collections.abc import Iterable, Mapping, Sequence
from datetime import date
from typing import Any

from waka.core.facts.kinds import KINDS, expected_facts
from waka.core.facts.values import Source
from waka.core.names.dateshape import MONTHS
from waka.core.names.fields import LABELS, Misfit, Party, Piece
from waka.core.names.pattern import compile_pattern
from waka.web import arrival_forms, forms
from waka.work import arrange
from waka.work.actor import Actor
from waka.work.apply import Applied
from waka.work.look import Card
from waka.work.slip import Slip, SlipFact
from waka.work.suggest import Suggestions
from waka.work.undo import Queued, Undone
from waka.work.walk import DocumentLine, FolderView


def day(text: str) -> str:
    """``2026-03-18`` as ``18 Mar 2026``."""
    try:
        when = date.fromisoformat(text)
    except ValueError:
        return text
    return f"{when.day} {MONTHS[when.month - 1][:3]} {when.year}"


def display(field: str, value: Any, parties: Mapping[int, Party]) -> str:
    """A fact's value as a person reads it; empty where it is not known."""
    if value is None:
        return ""
    if field == "kind":
        return KINDS[value].label if value in KINDS else str(value)
    if isinstance(value, dict):
        if "party" in value:
            party = parties.get(value["party"])
            return party.name if party else "a party of another area"
        if "currency" in value:
            whole, _, cents = str(value["value"]).partition(".")
            return f"{int(whole):,}.{cents} {value['currency']}" if whole.lstrip("-").isdigit() else str(value["value"])
        return f"{value.get('given', '')} {value.get('family', '')}".strip()
    return day(value) if isinstance(value, str) and len(value) == 10 and value[4:5] == "-" else str(value)


def source(told: Source | Mapping[str, Any]) -> forms.SourceOut:
    """Where a fact comes from."""
    if isinstance(told, Source):
        box = told.box
        return forms.SourceOut(
            kind=told.kind,
            why=told.why,
            text=told.text,
            box=forms.BoxOut(**vars(box)) if box is not None else None,
            lesson=told.lesson,
        )
    kept = told.get("box")
    return forms.SourceOut(
        kind=str(told.get("kind", "")), why=str(told.get("why", "")), text=str(told.get("text", "")),
        box=forms.BoxOut(**kept) if kept else None, lesson=None,
    )  # fmt: skip


def strokes(*patterns: str) -> dict[str, int]:
    """The stroke of each field: its number in the order of first use, the same wherever the field is shown."""
    fields = [f for p in patterns if p for f in compile_pattern(p).fields]
    return {f: n for n, f in enumerate(dict.fromkeys(fields))}


def pieces(told: Iterable[Piece]) -> list[forms.PieceOut]:
    """The pieces of a name."""
    return [forms.PieceOut(text=p.text, field=p.field) for p in told]


def summary(slip: Slip, actor: Actor) -> arrival_forms.SlipSummary:
    """An arrival as the waiting line shows it."""
    row = slip.row
    holds = bool(row["claim_holds"])
    question = slip.asked[0][1] if slip.asked else None
    if slip.stack > 1:
        question = f"{slip.stack} documents in one?"
    if slip.same and question is None:
        question = "Already filed: the same content"
    if slip.taken is not None and question is None:
        question = "The name is taken"
    if question is None and slip.name.name is None:
        question = f"The name cannot be used: {slip.name.refused}" if slip.name.refused else "The name is not complete"
    return arrival_forms.SlipSummary(
        id=row["document"], revision=row["slip_revision"], original_name=row["original_name"], state=row["state"],
        problem=row["problem"], by=row["by_name"], arrived_at=row["arrived_at"], source=row["source"], size=row["size"],
        claimed_by=row["claimed_name"] if holds else None, claimed_by_me=holds and row["claimed_by"] == actor.person,
        ready=slip.ready, question=None if slip.ready else question,
        name=f"{slip.name.name}.{slip.extension}" if slip.name.name else None,
        area=forms.AreaOut(id=slip.area[0], name=slip.area[1]) if slip.area else None,
        place=" / ".join([slip.area[1] if slip.area else "", *(s.name for s in slip.steps)]),
        parked=arrival_forms.ParkedOut(until=row["parked_until"], note=row["parked_note"]) if slip.parked else None, mail=row["mail_name"],
        joinable=arrange.has_pages(row),
    )  # fmt: skip


def slip_fact(fact: SlipFact, asked: Mapping[str, str], parties: Mapping[int, Party]) -> forms.FactOut:
    """A line of the slip."""
    return forms.FactOut(
        field=fact.field, label=LABELS.get(fact.field, fact.field), value=fact.value,
        display=display(fact.field, fact.value, parties), source=source(fact.source), sure=fact.sure, given=fact.given,
        alternatives=list(fact.alternatives), question=asked.get(fact.field),
    )  # fmt: skip


def _all_strokes(fields: Iterable[str], *patterns: str) -> dict[str, int]:
    """The strokes of the plan's fields, then those of the other facts in their order; a kind bears none."""
    drawn = strokes(*patterns)
    others = [f for f in fields if f not in drawn and f != "kind"]
    return drawn | {f: n for n, f in enumerate(others, len(drawn))}


def _originals(rows: Iterable[Mapping[str, Any]]) -> list[forms.OriginalOut]:
    return [forms.OriginalOut(arrival=r["document"], name=r["name"], pages=r["pages"]) for r in rows]


def page_out(page: Mapping[str, Any]) -> forms.PageOut:
    """The size of a page, in points."""
    return forms.PageOut(width=page["width"], height=page["height"])


def slip_out(slip: Slip, offered: Suggestions, actor: Actor, paths: Mapping[int, str]) -> arrival_forms.SlipOut:
    """An arrival as the bench shows it."""
    asked = dict(slip.asked)
    taken = slip.taken
    return arrival_forms.SlipOut(
        **summary(slip, actor).model_dump(), kind=slip.kind,
        facts=[slip_fact(f, asked, slip.parties) for f in slip.facts],
        areas=[forms.AreaOut(id=i, name=n) for i, n in slip.areas],
        name_pattern=slip.name_pattern, place_pattern=slip.place_pattern,
        strokes=_all_strokes([f.field for f in slip.facts], slip.name_pattern, slip.place_pattern),
        composed=forms.NameOut(
            text=slip.name.name, extension=slip.extension, pieces=pieces(slip.name.pieces), missing=list(slip.name.missing),
            refused=slip.name.refused, noted=list(slip.name.noted), edited=slip.name_given, misfit=slip.misfit,
        ),
        steps=[forms.StepOut(name=s.name, pieces=pieces(s.pieces), exists=s.folder is not None) for s in slip.steps],
        place_edited=slip.row["slip"].get("place") is not None, place_problem=slip.place_problem, there=slip.there,
        taken=arrival_forms.TakenOut(name=taken["name"], document=taken["document"], folder=taken["folder"] is not None) if taken else None,
        same=[arrival_forms.SameOut(document=r["id"], name=r["name"], path=paths.get(r["parent"], "")) for r in slip.same],
        reason=slip.reason, mismatch=slip.mismatch, pages=[page_out(p) for p in slip.row["pages"]],
        stack=slip.stack, also=[arrival_forms.AlsoPlaceOut(folder=a.folder, path=a.path) for a in slip.also],
        made_from=_originals(offered.originals),
        media_type=slip.row["media_type"], locked=slip.row["locked"], notes=slip.row["notes"],
        tags=slip.row["slip"].get("tags", []),
        places=[arrival_forms.SuggestedOut(area=p.area, place=p.place, path=p.path, count=p.count) for p in offered.places],
        versions=[arrival_forms.SameOut(document=r["id"], name=r["name"], path=paths.get(r["parent"], "")) for r in offered.versions],
    )  # fmt: skip


def folder_out(row: Mapping[str, Any]) -> forms.FolderOut:
    """A folder in a list."""
    return forms.FolderOut(
        id=row["id"], entry=row["entry"], name=row["name"], below=row["below"], has_folders=row["has_folders"],
        changed_at=row["changed_at"], tags=row["tags"], closed=row["closed_here"], may_file=row["level"] >= 3,
    )  # fmt: skip


def folder_view(view: FolderView) -> forms.FolderViewOut:
    """A folder with what stands above its lines."""
    return forms.FolderViewOut(
        id=view.folder["id"], entry=view.folder["entry"], name=view.folder["name"],
        path=[forms.AreaOut(id=p["id"], name=p["name"]) for p in view.path],
        folders=[folder_out(f) for f in view.folders], here=view.here, below=view.below,
        fits=[
            forms.KindFitOut(kind=f.kind, label=KINDS[f.kind].label, pattern=f.pattern, fit=f.fit, of=f.of, strokes=strokes(f.pattern))
            for f in view.fits
        ],
        months=[forms.Month(month=m, documents=n) for m, n in view.months], capped=view.capped,
        changed_at=view.changed_at, tags=list(view.tags),
        hints=[forms.HintOut(**vars(h), few=view.limits.few) for h in view.hints],
        closed=view.folder["closed_here"], may_file=view.folder["level"] >= 3,
    )  # fmt: skip


def _misfit(misfit: Misfit) -> str:
    where = "where the name begins" if misfit.at == 0 else f"at character {misfit.at + 1}"
    return f"expected {misfit.expected} {where}"


def line_out(line: DocumentLine) -> forms.LineOut:
    """A document in a list."""
    row = line.row
    misfit = _misfit(line.misfit) if line.misfit else None
    return forms.LineOut(
        entry=row["entry"], document=row["document"], name=row["name"],
        pieces=pieces(line.pieces) if line.pieces is not None else None, misfit=misfit,
        kind=row["kind"], issued=row["issued"], party=line.party,
        amount=display("amount", row["amount"], {}) if row.get("amount") else None, person=row.get("person"),
        type=row["extension"] or row["media_type"], size=row["size"],
        filed_at=row["filed_at"], filed_by=row["filed_by"], folder=row["parent"], folder_path=line.folder_path, home=row["home"],
    )  # fmt: skip


def card_out(card: Card) -> forms.CardOut:
    """A document's card."""
    row = card.row
    order = ["kind", *expected_facts(row["kind"]), *LABELS]
    facts = sorted(card.facts.values(), key=lambda f: order.index(f["field"]) if f["field"] in order else len(order))
    fields = [f["field"] for f in facts]
    return forms.CardOut(
        made_from=_originals(card.originals), id=row["id"],
        name=card.places[0]["name"] if card.places else row["original_name"], extension=row["extension"],
        media_type=row["media_type"], size=row["size"],
        places=[
            forms.PlaceOut(entry=p["id"], folder=p["parent"], path=card.paths.get(p["parent"], ""), name=p["name"], home=p["home"])
            for p in card.places
        ],
        facts=[
            forms.FactOut(
                field=f["field"], label=LABELS.get(f["field"], f["field"]), value=f["value"],
                display=display(f["field"], f["value"], card.parties), source=source(f["source"]), sure=True,
                given=f["source"].get("kind") == "person", alternatives=[], question=None,
            )
            for f in facts
        ],
        tags=list(card.tags),
        versions=[
            forms.VersionOut(number=v["number"], original_name=v["original_name"], at=v["at"], by=v["by"], size=v["size"])
            for v in card.versions
        ],
        pages=[page_out(p) for p in row["pages"]], problem=row["problem"], notes=row["notes"],
        reading=row["reading"],
        strokes=_all_strokes(fields, card.plan.get("name", ""), card.plan.get("place", "")), may_file=card.may_file,
        arrived_at=row["arrived_at"], arrived_by=row["arrived_by"], filed_at=row["filed_at"], filed_by=row["filed_by"],
    )  # fmt: skip


def trail_lines(
    rows: Sequence[Mapping[str, Any]],
    paths: Mapping[int, str],
    row: Mapping[str, Any],
    parties: Mapping[int, Party],
) -> list[forms.TrailLine]:
    """A document's trail in words, the newest first; the facts of one filing are told in one line."""
    lines: list[forms.TrailLine] = []
    facts: dict[int, list[str]] = {}
    for r in rows:
        if r["kind"] == "fact":
            label = LABELS.get(r["data"]["field"], r["data"]["field"])
            value = display(r["data"]["field"], r["data"]["to"], parties) or "not known"
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
        lines.append(forms.TrailLine(at=r["at"], by=r["by"], what=undo + what, manifest=r["manifest"]))
    lines.append(
        forms.TrailLine(
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
        case "uncopy":
            return "the copy taken back"
        case "go back":
            return f"version {r['data']['to']} made the newest again, as version {r['data']['was_head'] + 1}"
        case "leave back":
            return f"version {r['data']['version']} withdrawn"
        case "rest":
            return "set aside: its pages went into others"
        case "wait":
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


def done(applied: Applied, title: str) -> forms.DoneOut:
    """What a change did."""
    return forms.DoneOut(manifest=applied.manifest, title=title, lines=applied.lines)


def undone(done: Undone | Queued) -> forms.UndoneOut:
    """What an undo did, or is going to do."""
    if isinstance(done, Queued):
        return forms.UndoneOut(
            manifest=done.manifest, queued=True, title=done.title, lines=done.lines, left_out=[], arrivals=[]
        )
    return forms.UndoneOut(
        manifest=done.applied.manifest, queued=False, title=done.title, lines=done.applied.lines,
        left_out=[p.why for p in done.left_out[:200]], arrivals=list(done.arrivals),
    )  # fmt: skip
