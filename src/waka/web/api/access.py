"""/api/access: who reads what, and giving, changing and taking away access. Each change goes through the gate and can be undone."""

from flask import Response, make_response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.web import guard
from waka.web.answers import answer
from waka.web.present.access import level_out, principal_out, readers_out, shared_out, sight_out, wish
from waka.web.present.csv import csv_response
from waka.web.schemas.access import (
    AccessDone,
    AccessForm,
    AsFolder,
    AsFolders,
    EffectsOut,
    PrincipalsOut,
    ReadersOut,
    RestrictedFolder,
    RestrictedFolders,
    SeeForm,
    SharedList,
    TakeForm,
)
from waka.words.manifests import say_title
from waka.work.sharing import as_seen, effects, give, readers, reports, shared, taking

api = APIBlueprint("access", __name__, url_prefix="/api", abp_tags=[Tag(name="access")])


class FolderPath(BaseModel):
    folder: int = Field(ge=1, lt=2**62)


class DocumentPath(BaseModel):
    document: int = Field(ge=1, lt=2**62)


class PersonPath(BaseModel):
    person: int = Field(ge=1, lt=2**62)


class AsQuery(BaseModel):
    folder: int | None = Field(default=None, ge=1, lt=2**62)


@api.get("/access/folders/<int:folder>", responses={200: ReadersOut})
def of_folder(path: FolderPath) -> Response:
    """Who reads a folder: the whole list for its keepers; for others why they may, and who keeps it."""
    return answer(readers_out(readers.look(guard.drive(), guard.actor(), folder=path.folder)))


@api.get("/access/documents/<int:document>", responses={200: ReadersOut})
def of_document(path: DocumentPath) -> Response:
    """Who reads a document, as for a folder."""
    return answer(readers_out(readers.look(guard.drive(), guard.actor(), document=path.document)))


@api.get("/access/principals", responses={200: PrincipalsOut})
def principals() -> Response:
    """Everybody and every group that access can be given to; for who keeps anything."""
    rows = shared.whom(guard.drive(), guard.actor())
    return answer(PrincipalsOut(principals=[principal_out(r) for r in rows]))


@api.post("/access", responses={200: AccessDone})
def change(body: AccessForm) -> Response:
    """Give, change, take away, restrict, lift: all as one manifest, or nothing."""
    done = give.give(guard.drive(), guard.actor(), [wish(w) for w in body.wishes])
    told = AccessDone(manifest=done.manifest, title=say_title(done.title), changes=done.changes, queued=done.queued)
    return answer(told)


@api.post("/access/effects", responses={200: EffectsOut})
def would_do(body: AccessForm) -> Response:
    """What changes would do: who gains and who loses sight of how many documents. Nothing is changed."""
    told = effects.look(guard.drive(), guard.actor(), [wish(w) for w in body.wishes])
    return answer(
        EffectsOut(
            documents=told.documents, gains=[sight_out(s) for s in told.gains], losses=[sight_out(s) for s in told.losses],
            changes=[sight_out(s) for s in told.changes], keepers=[principal_out(k) for k in told.keepers], own=told.own,
        )
    )  # fmt: skip


@api.get("/access/as/<int:person>", responses={200: AsFolders})
def as_others(path: PersonPath, query: AsQuery) -> Response:
    """The folders in one as somebody else sees them, never more than one may read too; the person is told that one looked."""
    rows = as_seen.inside(guard.drive(), guard.actor(), path.person, query.folder)
    out = [
        AsFolder(
            id=r["id"], name=r["name"], restricted=r["restricted"], level=level_out(r["level"]), below=r["below"],
            has_folders=r["has_folders"],
        )
        for r in rows
    ]  # fmt: skip
    return answer(AsFolders(folders=out))


@api.get("/access/people/<int:person>.csv")
def report_of_person(path: PersonPath) -> Response:
    """What a person reads, as CSV; for administrators, as far as they read it too."""
    name, rows = reports.of_person(guard.drive(), guard.actor(), path.person)
    return csv_response(f"what {name} reads", reports.PERSON_HEAD, rows)


@api.get("/access/folders/<int:folder>.csv")
def report_of_folder(path: FolderPath) -> Response:
    """What is given in a folder and below it, as CSV; for its keepers."""
    name, rows = reports.of_area(guard.drive(), guard.actor(), path.folder)
    return csv_response(f"who reads {name}", reports.AREA_HEAD, rows)


@api.get("/access/restricted", responses={200: RestrictedFolders})
def restricted() -> Response:
    """The restricted folders, without their names; for administrators, who may take access."""
    rows = taking.restricted(guard.drive(), guard.actor())
    return answer(
        RestrictedFolders(folders=[RestrictedFolder(**{k: r[k] for k in RestrictedFolder.model_fields}) for r in rows])
    )


@api.post("/access/take", responses={200: AccessDone})
def take(body: TakeForm) -> Response:
    """Take *keep* on a restricted folder until the end of tomorrow, with a reason; its keepers are told."""
    applied = taking.take(guard.drive(), guard.actor(), body.folder, body.reason)
    return answer(AccessDone(manifest=applied.manifest, title=say_title(applied.title), changes=1, queued=False))


@api.get("/shared/with-me", responses={200: SharedList})
def with_me() -> Response:
    """What others gave to one, or to a group that one is in, below the areas; the newest first."""
    rows, paths = shared.with_me(guard.drive(), guard.actor())
    return answer(SharedList(shared=[shared_out(r, paths) for r in rows]))


@api.get("/shared/by-me", responses={200: SharedList})
def by_me() -> Response:
    """What one gave to others below the areas; the newest first."""
    rows, paths = shared.by_me(guard.drive(), guard.actor())
    return answer(SharedList(shared=[shared_out(r, paths) for r in rows]))


@api.post("/shared/seen", responses={204: None})
def seen(body: SeeForm) -> Response:
    """One has looked at these: they are not new any more."""
    shared.see(guard.drive(), guard.actor(), body.grants)
    return make_response("", 204)
