"""Compose a slip: from what was found in an arrival, what persons wrote, the area's plan and its rules."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from typing import Any

from waka.core.access.permissions import Permissions
from waka.core.facts.doubt import is_sure, questions
from waka.core.facts.kinds import expected_facts
from waka.core.facts.values import Box, Found, Json, Source, name_value
from waka.core.names.drive_fields import FACT_FIELDS, Editor, editor_of
from waka.core.names.fields import Facts, Fit, Party, Piece, Printed, Settings
from waka.core.names.pattern import Pattern, compile_pattern
from waka.core.names.portable import (
    NameRefused,
    check_level,
    entry_key,
    join_extension,
    narrow_text,
    split_extension,
)
from waka.core.plan.area_plan import AreaPlan, KindRule
from waka.core.rules.values import same as same_text
from waka.readers import media
from waka.store.postgres import access, documents, folders, rulebooks
from waka.store.postgres import plans as plan_store
from waka.store.postgres.database import Connection, Row
from waka.words.sources import because
from waka.work.drive import area_settings, known_parties, live_parties, name_settings, office_now
from waka.work.rulebooks import Ruling, arrived, asked_for, ready
from waka.work.slips.composed import AlsoPlace, Slip, SlipFact, Step
from waka.work.slips.ruled import Ruled

#: So many documents of the same content are told.
_MOST_SAME = 5


def found_from_json(name: str, found: Mapping[str, Any]) -> Found:
    """A found fact as it is kept."""
    source = dict(found["source"])
    box, why = source.pop("box", None), tuple(source.pop("why", ()))
    return Found(
        name,
        found["value"],
        Source(why=why, box=Box(**box) if box else None, **source),
        found["confidence"],
        tuple(found["alternatives"]),
    )


@dataclass(frozen=True)
class Surroundings:
    """What every slip of one request is composed with: register, areas that one may file in, their plans, settings."""

    parties: Mapping[int, Party]
    areas: tuple[tuple[int, str], ...]
    plans: Mapping[int, AreaPlan]
    settings: Settings
    live: Mapping[int, int]
    day: date
    #: Folders by their parent and entry key, as they are asked for.
    children: dict[tuple[int, str], Row | None] = field(default_factory=dict)
    #: Running rulebooks by area, as they are asked for.
    rulings: dict[int, Ruling | None] = field(default_factory=dict)
    #: Texts and senders of arrivals, where they were looked up for many at once.
    texts: dict[bytes, str | None] = field(default_factory=dict)
    senders: dict[int, str] = field(default_factory=dict)

    def ruling(self, conn: Connection, area: int) -> Ruling | None:
        """The running rulebook of an area, ready."""
        if area not in self.rulings:
            kept = rulebooks.newest(conn, area)
            settings = area_settings(self.settings, self.plans[area])
            name = next(name for number, name in self.areas if number == area)
            self.rulings[area] = ready(conn, kept, name, self.parties, settings, self.day) if kept is not None else None
        return self.rulings[area]

    def look_up(self, conn: Connection, rows: Sequence[Row]) -> None:
        """Look up for many arrivals at once what any of these areas' rules asks of their contents."""
        subjects = [ruling.subjects for area, _ in self.areas if (ruling := self.ruling(conn, area)) is not None]
        texts, senders = asked_for(conn, frozenset().union(*subjects), rows)
        self.texts.update({row["content"]: texts.get(row["content"]) for row in rows})
        self.senders.update(senders)


def surroundings(conn: Connection, permissions: Permissions, *, only: Collection[int] | None = None) -> Surroundings:
    """The surroundings as one person may know them; ``only`` these areas, where given."""
    areas = tuple(
        (a["id"], a["name"])
        for a in folders.areas(conn)
        if permissions.level(a["access_class"]) >= access.FILE and (only is None or a["id"] in only)
    )
    plans = {area: plan_store.plan_of(conn, area) for area, _ in areas}
    return Surroundings(
        known_parties(conn, permissions), areas, plans, name_settings(conn), live_parties(conn, permissions),
        office_now(conn).date(),
    )  # fmt: skip


_NO_RULE = KindRule("<issued yyyy-MM-dd>_<subject>", "Unsorted")


def _same(rows: Sequence[Row], content: bytes) -> tuple[Row, ...]:
    return tuple([row for row in rows if row["content"] == content][:_MOST_SAME])


def compose(
    conn: Connection,
    row: Row,
    permissions: Permissions,
    around: Surroundings | None = None,
    *,
    same: Sequence[Row] | None = None,
    by_itself: bool = False,
) -> Slip:
    """The slip of an arrival row, from what was found, what persons wrote, the area's plan and its rules.

    ``same``: the documents of the same content, where they are known already: of a slip in a list; then what only an open slip
    shows (how much is in the folder, further places, why each rule applies or not) is not looked up. ``by_itself``: as the rulebook
    decides when no person looks.
    """
    around = around or surroundings(conn, permissions)
    listed = same is not None
    written: dict[str, Any] = row["slip"]
    given: dict[str, Json] = dict(written.get("facts", {}))
    found = {name: found_from_json(name, f) for name, f in row["found"].items()}
    if given.get("party"):
        given["party"] = {"party": around.live.get(given["party"]["party"], given["party"]["party"])}
    if "party" in found and (live := around.live.get(found["party"].value["party"])) is not None:
        found["party"] = replace(found["party"], value={"party": live})
    known = around.parties
    kind = _kind(given, found)
    area = _area(around, row, written, kind)
    ruled = _ruled(conn, around, area, row, given, found, by_itself=by_itself, explain=not (listed or by_itself))
    by_rule = {f: v for f, v in ruled.set_facts(known).items() if f not in given} if ruled else {}
    if by_rule.get("kind"):
        kind = by_rule["kind"]
    found = {name: one for name, one in found.items() if name not in by_rule}
    plan = around.plans.get(area[0], AreaPlan()) if area else AreaPlan()
    rule = _rule(plan, kind, ruled)
    language = around.settings.language
    name_pattern = compile_pattern(rule.name, language, joined=ruled is not None)
    place_pattern = compile_pattern(rule.place, language, joined=ruled is not None)
    needed = [f for f in dict.fromkeys([*name_pattern.fields, *place_pattern.fields]) if f in FACT_FIELDS]
    slip_facts = _facts(kind, needed, found, given, by_rule, known, rule.expects)
    values: Facts = {
        f.field: v for f in slip_facts if f.value is not None and (v := name_value(f.field, f.value, known)) is not None
    }
    values = {**values, "name": split_extension(row["original_name"])[0]}
    if kind is not None:
        values = {**values, "kind": kind}
    settings = area_settings(around.settings, plan)
    name, misfit = _name(name_pattern, values, settings, written.get("name"), row["extension"])
    place = wanted_place(row, area)
    elsewhere = ruled.place_pattern[0] if ruled and ruled.place_pattern and place is None else None
    into = (
        area if elsewhere is None else next((a for a in around.areas if same_text(a[1]) == same_text(elsewhere)), None)
    )
    if into is not None:
        values = {**values, "area": into[1]}
    steps, problem = _place(conn, permissions, around, into, place_pattern, values, settings, place)
    last = _last_folder(steps, into)
    there = len(folders.names_in(conn, last, permissions, below=False, limit=10_000)) if last and not listed else 0
    taken = None
    if last and name.name is not None:
        taken = documents.entry_at(conn, last, entry_key(join_extension(name.name, row["extension"])))
    asked = questions(kind, found, {**given, **by_rule}, needed, rule.expects)
    return Slip(
        row=row, kind=kind, facts=slip_facts, asked=tuple(asked), area=into,
        areas=around.areas, name_pattern=rule.name, place_pattern=rule.place, name=name,
        name_given=written.get("name") is not None, misfit=misfit, steps=steps, place_problem=problem, there=there, taken=taken,
        same=_same(documents.same_content(conn, [row["content"]], permissions) if same is None else same, row["content"]),
        reason=_reason(kind, area, plan, row, ruled),
        mismatch=media.mismatch(split_extension(row["original_name"])[1], row["media_type"]), parties=known,
        also=() if listed else _also(conn, permissions, written.get("also", ())), ruled=ruled,
    )  # fmt: skip


def wanted_place(row: Row, area: tuple[int, str] | None) -> str | None:
    """The place below the area that a person chose: on the slip, or by bringing it in for a folder; None where the plan decides."""
    written: Mapping[str, Any] = row["slip"]
    if written.get("place") is not None:
        return str(written["place"])
    here = area is not None and area[0] == row["area"]
    return str(row["came_in"]) if here and row["came_in"] and not written.get("by_plan") else None


def _kind(given: Mapping[str, Json], found: Mapping[str, Found]) -> str | None:
    if "kind" in given:
        kind: str | None = given["kind"]
        return kind
    return found["kind"].value if "kind" in found else None


def _ruled(
    conn: Connection,
    around: Surroundings,
    area: tuple[int, str] | None,
    row: Row,
    given: Mapping[str, Json],
    found: Mapping[str, Found],
    *,
    by_itself: bool,
    explain: bool,
) -> Ruled | None:
    """What the area's rules say; None where it has none, or what is read is not known yet."""
    ruling = around.ruling(conn, area[0]) if area is not None and row["state"] != "reading" else None
    if ruling is None:
        return None
    if row["content"] not in around.texts:
        around.look_up(conn, [row])
    facts = {**{name: one.value for name, one in found.items()}, **given}
    facts = {name: value for name, value in facts.items() if value is not None}
    doubtful = frozenset(name for name, one in found.items() if name not in given and not is_sure(one))
    document = arrived(row, facts, doubtful, around.parties, around.texts, around.senders)
    decision = ruling.decide(document, "arrival", by_itself=by_itself, explain=explain)
    return Ruled(ruling, decision, document, facts)


def _rule(plan: AreaPlan, kind: str | None, ruled: Ruled | None) -> KindRule:
    """Name and place for a kind as the plan has them, and as a rule says where one does."""
    planned = plan.rule(kind) or plan.rule("other") or _NO_RULE
    if ruled is None:
        return planned
    name = planned.name if ruled.name_pattern is None else ruled.name_pattern
    place = planned.place if ruled.place_pattern is None else ruled.place_pattern[1]
    return KindRule(name, place, planned.expects)


def _also(conn: Connection, permissions: Permissions, wanted: Sequence[int]) -> tuple[AlsoPlace, ...]:
    """The further folders, as far as the person may file there."""
    rows = [folders.readable_folder(conn, folder, permissions) for folder in wanted]
    known = [row["id"] for row in rows if row is not None and row["level"] >= access.FILE]
    paths = folders.paths_of(conn, known, permissions)
    return tuple(AlsoPlace(folder, paths[folder]) for folder in known)


def _area(around: Surroundings, row: Row, written: Mapping[str, Any], kind: str | None) -> tuple[int, str] | None:
    chosen = written.get("area") or row["area"]
    if chosen is not None:
        return next((a for a in around.areas if a[0] == chosen), None)
    for wanted in (kind, "other"):
        planned = next((a for a in around.areas if around.plans[a[0]].rule(wanted)), None)
        if planned is not None:
            return planned
    return next(iter(around.areas), None)


def _facts(
    kind: str | None,
    needed: list[str],
    found: Mapping[str, Found],
    given: Mapping[str, Json],
    by_rule: Mapping[str, Json],
    known: Mapping[int, Party],
    planned: Sequence[str] | None,
) -> tuple[SlipFact, ...]:
    shown = dict.fromkeys(["kind", *expected_facts(kind, planned), *needed, *given, *by_rule, *found])
    facts = []
    for name in shown:
        here = found.get(name)
        if here is not None and editor_of(name) is Editor.PARTY and here.value.get("party") not in known:
            here = None  # a register entry of an area that this person may not read
        if name in given:
            facts.append(SlipFact(name, given[name], Source("person", (because("by hand"),)), True, True))
        elif name in by_rule:
            facts.append(SlipFact(name, by_rule[name], Source("rule", (because("by a rule"),)), True))
        elif here is not None:
            facts.append(SlipFact(name, here.value, here.source, is_sure(here), False, here.alternatives))
        else:
            facts.append(SlipFact(name, None, Source("none"), name not in needed and name != "kind"))
    return tuple(facts)


def _name(
    pattern: Pattern, values: Facts, settings: Settings, given: str | None, extension: str
) -> tuple[Printed, str | None]:
    if given is None:
        return pattern.print(values, settings, extension=extension), None
    try:
        check_level(given, extension=extension)
    except NameRefused as refused:
        return Printed(refused=refused.why), None
    if settings.narrow and narrow_text(given) != given:
        spelt = narrow_text(given)
        told = f"names in this area are of plain letters and digits, “.”, “_” and “-”; it can be “{spelt}”"
        return Printed(refused=told), None
    if len(given) > settings.max_characters:
        return Printed(refused=f"names in this area have at most {settings.max_characters} characters"), None
    read = pattern.read(given, settings)
    if isinstance(read, Fit):
        return Printed(given, read.pieces), None
    return Printed(given, (Piece(given),)), f"at character {read.at + 1} the plan expects {read.expected}"


def _place(
    conn: Connection,
    permissions: Permissions,
    around: Surroundings,
    area: tuple[int, str] | None,
    pattern: Pattern,
    values: Facts,
    settings: Settings,
    given: str | None,
) -> tuple[tuple[Step, ...], str | None]:
    if area is None:
        return (), "No area is chosen that you may file in."
    if given is not None:
        pieces: tuple[Piece, ...] = (Piece(given),) if given else ()
    else:
        printed = pattern.print(values, settings)
        if printed.name is None:
            return (), printed.refused or f"The place needs: {', '.join(printed.missing)}"
        pieces = printed.pieces
    steps: list[Step] = []
    here: int | None = area[0]
    for level in _levels(pieces):
        name = "".join(p.text for p in level)
        try:
            check_level(name)
        except NameRefused as refused:
            return tuple(steps), str(refused)
        folder: int | None = None
        if here is not None:
            key = (here, entry_key(name))
            if key not in around.children:
                around.children[key] = folders.child_by_key(conn, *key)
            row = around.children[key]
            if row is not None and permissions.level(row["access_class"]):
                folder, name = row["id"], row["name"]
        steps.append(Step(name, level, folder))
        here = folder
    return tuple(steps), None


def _levels(pieces: tuple[Piece, ...]) -> list[tuple[Piece, ...]]:
    levels: list[list[Piece]] = [[]]
    for piece in pieces:
        parts = piece.text.split("/") if piece.field is None else [piece.text]
        for i, part in enumerate(parts):
            if i:
                levels.append([])
            if part:
                levels[-1].append(replace(piece, text=part))
    return [tuple(level) for level in levels if level]


def _last_folder(steps: tuple[Step, ...], area: tuple[int, str] | None) -> int | None:
    if not steps:
        return area[0] if area else None
    return steps[-1].folder


def _reason(
    kind: str | None,
    area: tuple[int, str] | None,
    plan: AreaPlan,
    row: Row,
    ruled: Ruled | None,
) -> str:
    if area is None:
        return ""
    written: Mapping[str, Any] = row["slip"]
    parts = []
    if written.get("place") is not None:
        parts.append("The place was chosen by hand.")
    elif wanted_place(row, area) is not None:
        parts.append("It was brought in for this folder.")
    elif ruled is not None and "place" in ruled.decision.said:
        parts.append(f"Rule of {area[1]}: “{ruled.decision.said['place'][0]}”.")
    elif plan.rule(kind):
        parts.append(f"Plan of {area[1]}: {kind}.")
    elif plan.rule("other"):
        parts.append(f"Plan of {area[1]}: what is of no kind that it names.")
    else:
        parts.append(f"{area[1]} has no plan for this kind. Choose the place by hand, or another area.")
    if written.get("name") is not None:
        parts.append("The name was edited by hand.")
    return " ".join(parts)
