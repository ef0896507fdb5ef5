"""/api/manifests: plan changes to many documents, look at every line, try, run, stop, undo."""

from collections.abc import Mapping, Sequence
from typing import Any, Literal

from flask import Response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.core.changes.origin import Chosen, Origin, PlanMethod, Search
from waka.core.changes.reasons import Reason, general, state_of
from waka.core.changes.wire import LineRow
from waka.core.names.quick import SAMPLE
from waka.store.postgres.manifests import TRIED
from waka.web import guard
from waka.web.answers import answer
from waka.web.present.access import access_line
from waka.web.present.changes import done_out, undone_out
from waka.web.schemas.changes import DoneOut, UndoneOut
from waka.web.schemas.manifests import (
    ChosenForm,
    FailedReading,
    FailedReadings,
    LineReason,
    LineReasons,
    ManifestLineOut,
    ManifestLines,
    ManifestList,
    ManifestOut,
    ManifestRowOut,
    OfferOut,
    Offers,
    PlanForm,
    PlanGap,
    PreviewOut,
    ReplanForm,
    RunForm,
    StateOut,
    SumOut,
    Sums,
    SumsByType,
    TryForm,
    TypeSum,
    UndoForm,
    WayForm,
)
from waka.words import lines as words
from waka.words.manifests import say_problem, say_title
from waka.words.rules import doer
from waka.work import status
from waka.work.actor import Refused
from waka.work.gate import undo
from waka.work.manifests import effects, lifecycle, shown
from waka.work.manifests import preview as previews

api = APIBlueprint("manifests", __name__, url_prefix="/api", abp_tags=[Tag(name="manifests")])


class ManifestPath(BaseModel):
    manifest: int = Field(ge=1, lt=2**62)


class ListQuery(BaseModel):
    before: int | None = Field(default=None, ge=1, lt=2**62)
    mine: bool = False
    runs: bool = Field(default=False, description="Only what is long, under way, planned or not wholly done.")


class LinesQuery(BaseModel):
    after: int = Field(default=-1, ge=-1, lt=2**31)
    state: (
        Literal["ready", "done", "right", "blocked", "left out", "failed", "not done", "undone", "folders"] | None
    ) = None
    limit: int = Field(default=200, ge=1, le=1000)


def _chosen(body: ChosenForm) -> Chosen:
    if (body.folder is not None) + bool(body.entries) + (body.search is not None) != 1:
        raise Refused("Choose a folder, documents one by one, or a search.", code="chosen")
    if body.search is not None and not any(body.search.model_dump().values()):
        raise Refused("Say what to search for; for all documents take a folder.", code="chosen")
    search = Search(**body.search.model_dump()) if body.search is not None else None
    return Chosen(body.folder, body.below, tuple(dict.fromkeys(body.entries)), search, body.order)


def _origin(body: PlanForm) -> Origin:
    chosen, way = body.chosen, body.way
    return Origin(
        _chosen(chosen),
        PlanMethod(way.do, way.reads, way.prints, way.placing, way.base, way.remove_emptied, way.rules, way.borrow),
        body.taken,
    )


def _line(
    line: int,
    number: int,
    row: Mapping[str, Any],
    state: str,
    paths: Mapping[int, str],
    made: Mapping[int, tuple[int, str]],
) -> ManifestLineOut:
    problem = row["problem"] or {}
    if row["kind"] in ("fact", "tag", "tag folder", "set aside", "put in queue"):
        row = {**row, **_of_a_document(row["kind"], row["data"] or {})}
    if row["kind"] in ("grant", "restrict", "put in order"):
        row = {**row, **access_line(row["kind"], row["data"], row["whom"])}
    # what places nothing is told as of its document or folder
    of = row.get("of_document") or shown.place_told(row.get("of_folder"), paths, made)
    return ManifestLineOut(
        line=line, number=number, kind=row["kind"], entry=row["entry"], document=row["document"], from_name=row["from_name"],
        from_place=of or shown.place_told(row["from_parent"], paths, made), to_name=row["to_name"],
        to_place=of or shown.place_told(row["to_parent"], paths, made), state=state,
        code=general(problem["code"]) if problem else None, why=words.problem(problem["code"], problem) if problem else None,
        missing=problem.get("missing", []), holder=problem.get("holder"), gap=_gap(problem),
        trial=problem["manifest"] if problem.get("code") == "tried" else None,
        note=words.note(note) if (note := (row["data"] or {}).get("note")) else None,
    )  # fmt: skip


def _gap(problem: Mapping[str, Any]) -> PlanGap | None:
    return PlanGap(**problem["gap"]) if "gap" in problem else None


def _aside(told: Mapping[str, Any]) -> str:
    return "not a record" if told.get("no_record") else "set aside"


def _of_a_document(kind: str, told: Mapping[str, Any]) -> dict[str, str]:
    """What a line says that places nothing, as the line's two names; what is no plain text is not told here."""

    def plain(value: object) -> str:
        return "not known" if value is None else value if isinstance(value, str) else "another one"

    if kind in ("set aside", "put in queue"):
        return {"from_name": told["name"], "to_name": _aside(told) if kind == "set aside" else "waits to be filed"}
    if kind == "fact":
        return {
            "from_name": f"{told['field']}: {plain(told['was'])}",
            "to_name": f"{told['field']}: {plain(told['to'])}",
        }
    put, taken = ", ".join(told["add"]), ", ".join(told["remove"])
    before = [*([f"tagged {taken}"] if taken else []), *([f"not tagged {put}"] if put else [])]
    after = [*([f"not tagged {taken}"] if taken else []), *([f"tagged {put}"] if put else [])]
    return {"from_name": "; ".join(before), "to_name": "; ".join(after)}


@api.post("/manifests/preview", responses={200: PreviewOut})
def preview(body: PlanForm) -> Response:
    """What a plan would do to the first few thousand documents; nothing is kept."""
    seen = previews.preview(guard.drive(), guard.actor(), _origin(body))
    lines = [
        _line(n, n + 1, LineRow._asdict(row), state_of(row.problem), seen.paths, seen.made)
        for n, row in enumerate(seen.rows)
    ]
    reasons = _reasons(seen.reasons)
    return answer(PreviewOut(counts=dict(seen.counts), reasons=reasons, lines=lines, more=seen.more))


#: So many reasons of a state are told one by one.
_REASONS = 6


def _reasons(reasons: Sequence[Reason]) -> LineReasons:
    listed: list[LineReason] = []
    others: dict[str, int] = {}
    for reason in reasons:
        if sum(told.state == reason.state for told in listed) < _REASONS:
            listed.append(LineReason(state=reason.state, why=reason.why, lines=reason.lines, gap=_gap(reason.problem)))
        else:
            others[reason.state] = others.get(reason.state, 0) + reason.lines
    return LineReasons(reasons=listed, others=others)


@api.post("/manifests/quick", responses={200: Offers})
def quick(body: ChosenForm) -> Response:
    """Quick edits for the names at hand, each with an example."""
    found, names = previews.quick_edits(guard.drive(), guard.actor(), _chosen(body))
    tried = SAMPLE if names > SAMPLE else None
    return answer(Offers(offers=[OfferOut(**vars(o)) for o in found], tried=tried))


@api.post("/manifests", responses={201: ManifestOut})
def plan(body: PlanForm) -> Response:
    """Plan a manifest and keep it; nothing is changed until it runs."""
    manifest = lifecycle.plan(guard.drive(), guard.actor(), _origin(body), body.title, wait=False)
    return answer(_card(manifest), 201)


@api.get("/manifests", responses={200: ManifestList})
def listed(query: ListQuery) -> Response:
    """Manifests, the newest first: one's own, and those that touched what one may read."""
    who = guard.actor()
    rows = shown.listed(guard.drive(), who, before=query.before, mine=query.mine, runs=query.runs)
    out = [
        ManifestRowOut(
            id=r["id"], title=say_title(r["title"]), state=r["state"], by=doer(r["by_name"], r["rules_of"]), mine=r["by"] == who.person, at=r["at"],
            ran_at=r["ran_at"], lines=r["lines"], progress=r["progress"], partial=r["partial"], problem=say_problem(r["problem"]),
            tried=r["problem"] == TRIED, undo_of=r["undo_of"],
        )
        for r in rows
    ]  # fmt: skip
    return answer(ManifestList(manifests=out, next=rows[-1]["id"] if len(rows) == 50 else None))


def _card(manifest: int) -> ManifestOut:
    card = shown.card(guard.drive(), guard.actor(), manifest)
    r, origin = card.row, card.row["origin"] or {}
    chosen = origin.get("chosen")
    return ManifestOut(
        id=r["id"], title=say_title(r["title"]), state=r["state"], by=doer(r["by_name"], r["rules_of"]), at=r["at"],
        ran_at=r["ran_at"], ended_at=r["ended_at"],
        lines=r["lines"], bytes=r["bytes"], progress=r["progress"], progress_bytes=r["progress_bytes"],
        phase=r["phase"], partial=r["partial"], problem=say_problem(r["problem"]), tried=r["problem"] == TRIED, undo_of=r["undo_of"],
        undone_by=r["undone_by"], counts=dict(card.counts), chosen=ChosenForm(**chosen) if chosen else None,
        way=WayForm(**origin["way"]) if origin.get("way") else None,
        where=card.paths.get(chosen["folder"]) if chosen and chosen["folder"] else None,
        taken=origin.get("taken"), mine=card.mine, can_undo=card.can_undo, why_not=card.why_not,
    )  # fmt: skip


@api.get("/readings/failed", responses={200: FailedReadings})
def failed_readings() -> Response:
    """Arrivals whose reading failed, as far as one may see them."""
    return answer(_failed())


def _failed() -> FailedReadings:
    rows = status.failed_readings(guard.drive(), guard.actor())
    return FailedReadings(
        readings=[
            FailedReading(
                job=r["job"], document=r["document"], name=r["original_name"], source=r["source"], area=r["area_name"],
                why=r["problem"], again=r["state"] != "failed",
            )
            for r in rows
        ]
    )  # fmt: skip


class JobPath(BaseModel):
    job: int = Field(ge=1, lt=2**62)


@api.post("/readings/<int:job>/again", responses={200: FailedReadings})
def read_again(path: JobPath) -> Response:
    """Try a reading that failed for good once more; those that failed still."""
    status.read_again(guard.drive(), guard.actor(), path.job)
    return answer(_failed())


@api.get("/manifests/<int:manifest>", responses={200: ManifestOut})
def card(path: ManifestPath) -> Response:
    """A manifest: state, counts, what it was made from, whether it can be undone."""
    return answer(_card(path.manifest))


@api.get("/manifests/<int:manifest>/lines", responses={200: ManifestLines})
def lines(path: ManifestPath, query: LinesQuery) -> Response:
    """Its lines in order, as far as one may see them; `next` is the `after` of the following page."""
    page = shown.line_page(
        guard.drive(), guard.actor(), path.manifest, after=query.after, state=query.state, limit=query.limit
    )
    out = [_line(r["line"], r["number"], r, r["state"], page.paths, page.made) for r in page.rows]
    return answer(ManifestLines(lines=out, next=out[-1].line if len(out) == query.limit else None))


@api.get("/manifests/<int:manifest>/sums", responses={200: Sums})
def sums(path: ManifestPath) -> Response:
    """Documents before, moved and after, by folder."""
    rows, paths, made = effects.sums(guard.drive(), guard.actor(), path.manifest)
    out = [
        SumOut(
            place=shown.place_told(r["folder"], paths, made) or "…", before=r["before"], leaving=r["leaving"], arriving=r["arriving"],
            after=r["after"],
        )
        for r in rows
    ]  # fmt: skip
    return answer(Sums(folders=out, renamed=rows[0]["renamed"] if rows else 0))


@api.get("/manifests/<int:manifest>/sums/types", responses={200: SumsByType})
def sums_by_type(path: ManifestPath) -> Response:
    """Documents before, moved and after, by type, in the folders that any come to."""
    told = ("type", "before", "leaving", "arriving", "inside", "after")
    rows = effects.sums_by_type(guard.drive(), guard.actor(), path.manifest)
    types = [TypeSum(**{key: r[key] for key in told}) for r in rows]
    return answer(SumsByType(types=types))


@api.get("/manifests/<int:manifest>/reasons", responses={200: LineReasons})
def reasons(path: ManifestPath) -> Response:
    """Why lines are blocked, or failed, each reason with how many lines it is of."""
    return answer(_reasons(effects.reasons(guard.drive(), guard.actor(), path.manifest)))


@api.post("/manifests/<int:manifest>/check", responses={200: ManifestOut})
def check(path: ManifestPath, body: ReplanForm) -> Response:
    """Check the plan again against the drive as it is now; with another policy for taken names, or edited lines."""
    try:
        edits = {int(entry): name for entry, name in body.edits.items()}
        targets = {int(entry): folder for entry, folder in body.targets.items()}
    except ValueError as error:
        raise Refused("Edits go by the numbers of entries.", code="edits") from error
    lifecycle.replan(
        guard.drive(), guard.actor(), path.manifest, taken=body.taken, edits=edits, targets=targets, forget=body.forget,
        wait=False,
    )  # fmt: skip
    return answer(_card(path.manifest))


@api.post("/manifests/<int:manifest>/try", responses={200: DoneOut})
def try_first(path: ManifestPath, body: TryForm) -> Response:
    """Do the first ready lines, as a manifest of their own."""
    applied = lifecycle.try_first(guard.drive(), guard.actor(), path.manifest, body.count)
    return answer(done_out(applied, "Tried"))


@api.post("/manifests/<int:manifest>/run", responses={200: StateOut})
def run(path: ManifestPath, body: RunForm) -> Response:
    """Run it: all or nothing, or (`partial`) whatever can be done."""
    state = lifecycle.run(guard.drive(), guard.actor(), path.manifest, partial=body.partial)
    return answer(StateOut(state=state))


@api.delete("/manifests/<int:manifest>", responses={200: StateOut})
def drop(path: ManifestPath) -> Response:
    """Drop a plan that has not run."""
    lifecycle.drop(guard.drive(), guard.actor(), path.manifest)
    return answer(StateOut(state="stopped"))


@api.post("/manifests/<int:manifest>/stop", responses={200: StateOut})
def stop(path: ManifestPath) -> Response:
    """Ask its run to stop."""
    lifecycle.stop(guard.drive(), guard.actor(), path.manifest)
    return answer(StateOut(state="stopping"))


@api.post("/manifests/<int:manifest>/undo", responses={200: UndoneOut})
def undo_manifest(path: ManifestPath, body: UndoForm) -> Response:
    """Undo it, or chosen lines of it, where that is still possible."""
    done = undo.undo_or_queue(guard.drive().database, guard.actor(), path.manifest, body.lines)
    return answer(undone_out(done))
