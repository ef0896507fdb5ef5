"""The slip: the facts of an arrival as found and as corrected, the name and place they compose, and what is open."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from waka.core.facts.doubt import is_sure, questions
from waka.core.facts.kinds import expected_facts
from waka.core.facts.values import Box, Found, Json, Source, name_value
from waka.core.names.drive_fields import DRIVE_FIELDS, Editor, editor_of
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
from waka.readers import media
from waka.store.postgres import access, arrivals, documents, folders
from waka.store.postgres import plans as plan_store
from waka.store.postgres.access import Permissions
from waka.store.postgres.database import Connection, Row
from waka.words.sources import because
from waka.work.acting import acting, reach, require_arrival
from waka.work.actor import Actor
from waka.work.drive import Drive, area_settings, known_parties, live_parties, name_settings, today

CLAIM_MINUTES = 10
#: So many documents of the same content are told.
_MOST_SAME = 5


@dataclass(frozen=True)
class SlipFact:
    """One line of the slip. ``given``: a person wrote it (it wins); ``sure``: it may stand without a look."""

    field: str
    value: Json
    source: Source
    sure: bool
    given: bool = False
    alternatives: tuple[Json, ...] = ()


@dataclass(frozen=True)
class Step:
    """One folder of the place: its name, the pieces it is made of, and its id where it exists already."""

    name: str
    pieces: tuple[Piece, ...]
    folder: int | None


@dataclass(frozen=True)
class AlsoPlace:
    """One more folder that it shall be filed in."""

    folder: int
    path: str


@dataclass(frozen=True)
class Slip:
    """An arrival's slip, composed."""

    row: Row
    kind: str | None
    facts: tuple[SlipFact, ...]
    asked: tuple[tuple[str, str], ...]
    area: tuple[int, str] | None
    areas: tuple[tuple[int, str], ...]
    name_pattern: str
    place_pattern: str
    name: Printed
    name_given: bool
    misfit: str | None
    steps: tuple[Step, ...]
    place_problem: str | None
    there: int
    taken: Row | None
    same: tuple[Row, ...]
    reason: str
    mismatch: str | None
    parties: Mapping[int, Party] = field(default_factory=dict)
    also: tuple[AlsoPlace, ...] = ()

    @property
    def extension(self) -> str:
        """The extension that the document keeps."""
        return str(self.row["extension"])

    @property
    def parked(self) -> bool:
        """Whether it is put aside until a later day."""
        return self.row["parked_until"] is not None and self.row["parked_until"] > today()

    @property
    def stack(self) -> int:
        """How many documents seem to be in it; one where a person said so."""
        return 1 if self.row["slip"].get("whole") else 1 + len(self.row["cuts"])

    @property
    def ready(self) -> bool:
        """Whether it can be filed without a person's look."""
        return (
            self.row["state"] == "read" and not self.parked and not self.asked and self.stack == 1
            and self.name.name is not None and self.area is not None
            and self.place_problem is None and self.taken is None and not self.same
        )  # fmt: skip


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


def found_facts(drive: Drive, document: int) -> list[Found]:
    """What was found in an arrival, whoever asks: for what brings documents in by itself."""
    with drive.database.transaction() as conn:
        return [found_from_json(f["field"], f) for f in arrivals.found(conn, document)]


@dataclass(frozen=True)
class Surroundings:
    """What every slip of one request is composed with: register, areas that one may file in, their plans, settings."""

    parties: Mapping[int, Party]
    areas: tuple[tuple[int, str], ...]
    plans: Mapping[int, AreaPlan]
    settings: Settings
    live: Mapping[int, int]
    #: Folders by their parent and entry key, as they are asked for.
    children: dict[tuple[int, str], Row | None] = field(default_factory=dict)


def surroundings(conn: Connection, permissions: Permissions) -> Surroundings:
    """The surroundings as one person may know them."""
    areas = tuple(
        (a["id"], a["name"]) for a in folders.areas(conn) if permissions.levels.get(a["access_class"], 0) >= access.FILE
    )
    plans = {area: plan_store.plan_of(conn, area) for area, _ in areas}
    return Surroundings(
        known_parties(conn, permissions), areas, plans, name_settings(conn), live_parties(conn, permissions)
    )


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
) -> Slip:
    """The slip of an arrival row, from what was found and what persons wrote.

    ``same``: the documents of the same content, where they are known already: of a slip in a list; then what only an open slip
    shows (how much is in the folder, further places) is not looked up.
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
    kind = given["kind"] if "kind" in given else (found["kind"].value if "kind" in found else None)
    area = _area(around, row, written, kind)
    plan = around.plans.get(area[0], AreaPlan()) if area else AreaPlan()
    rule = plan.rule(kind) or plan.rule("other") or _NO_RULE
    language = around.settings.language
    name_pattern, place_pattern = compile_pattern(rule.name, language), compile_pattern(rule.place, language)
    needed = [f for f in dict.fromkeys([*name_pattern.fields, *place_pattern.fields]) if f in DRIVE_FIELDS]
    slip_facts = _facts(kind, needed, found, given, known, rule.expects)
    values: Facts = {
        f.field: v for f in slip_facts if f.value is not None and (v := name_value(f.field, f.value, known)) is not None
    }
    if kind is not None:
        values = {**values, "kind": kind}
    settings = area_settings(around.settings, plan)
    name, misfit = _name(name_pattern, values, settings, written.get("name"), row["extension"])
    steps, problem = _place(conn, permissions, around, area, place_pattern, values, settings, written.get("place"))
    last = _last_folder(steps, area)
    there = len(folders.names_in(conn, last, permissions, below=False, limit=10_000)) if last and not listed else 0
    taken = None
    if last and name.name is not None:
        taken = documents.entry_at(conn, last, entry_key(join_extension(name.name, row["extension"])))
    return Slip(
        row=row, kind=kind, facts=slip_facts, asked=tuple(questions(kind, found, given, needed, rule.expects)), area=area,
        areas=around.areas, name_pattern=rule.name, place_pattern=rule.place, name=name,
        name_given=written.get("name") is not None, misfit=misfit, steps=steps, place_problem=problem, there=there, taken=taken,
        same=_same(documents.same_content(conn, [row["content"]], permissions) if same is None else same, row["content"]),
        reason=_reason(kind, area, plan, written),
        mismatch=media.mismatch(split_extension(row["original_name"])[1], row["media_type"]), parties=known,
        also=() if listed else _also(conn, permissions, written.get("also", ())),
    )  # fmt: skip


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
    known: Mapping[int, Party],
    planned: Sequence[str] | None,
) -> tuple[SlipFact, ...]:
    shown = dict.fromkeys(["kind", *expected_facts(kind, planned), *needed, *given, *found])
    facts = []
    for name in shown:
        here = found.get(name)
        if here is not None and editor_of(name) is Editor.PARTY and here.value.get("party") not in known:
            here = None  # a register entry of an area that this person may not read
        if name in given:
            facts.append(SlipFact(name, given[name], Source("person", (because("by hand"),)), True, True))
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
            if row is not None and row["access_class"] in permissions.levels:
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


def _reason(kind: str | None, area: tuple[int, str] | None, plan: AreaPlan, written: Mapping[str, Any]) -> str:
    if area is None:
        return ""
    parts = []
    if written.get("place") is not None:
        parts.append("The place was chosen by hand.")
    elif plan.rule(kind):
        parts.append(f"Plan of {area[1]}: {kind}.")
    elif plan.rule("other"):
        parts.append(f"Plan of {area[1]}: what is of no kind that it names.")
    else:
        parts.append(f"{area[1]} has no plan for this kind. Choose the place by hand, or another area.")
    if written.get("name") is not None:
        parts.append("The name was edited by hand.")
    return " ".join(parts)


# use cases -----------------------------------------------------------------------------------------------------------


def waiting(drive: Drive, actor: Actor, *, after: int | None = None, limit: int = 1000) -> list[Slip]:
    """Arrivals that the person may see, composed as a list shows them, the oldest first: ``limit`` of them, behind ``after``."""
    with acting(drive, actor) as (conn, permissions):
        rows = arrivals.waiting_list(conn, permissions, after=after, limit=limit)
        if not rows:
            return []
        around = surroundings(conn, permissions)
        same = documents.same_content(conn, [row["content"] for row in rows], permissions)
        return [compose(conn, {**row, "pages": []}, permissions, around, same=same) for row in rows]


def open_slip(drive: Drive, actor: Actor, document: int) -> Slip:
    """One arrival's slip, to look at."""
    with drive.database.transaction() as conn:
        return _composed(conn, document, reach(conn, actor))


def claim_slip(drive: Drive, actor: Actor, document: int, *, take: bool = False) -> Slip:
    """Take an arrival into one's hands unless somebody else has it (``take``: take it over); its slip."""
    with acting(drive, actor) as (conn, permissions):
        require_arrival(conn, permissions, document)
        arrivals.claim(conn, document, actor.person, minutes=CLAIM_MINUTES, take=take)
        return _composed(conn, document, permissions)


def _composed(conn: Connection, document: int, permissions: Permissions) -> Slip:
    row = require_arrival(conn, permissions, document)
    return compose(conn, row, permissions)
