"""/api/templates, /api/folders/{folder}/trees: templates of trees, and trees made from them."""

from collections.abc import Mapping
from datetime import datetime
from typing import Any

from flask import Response, make_response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag
from pydantic import BaseModel, Field

from waka.core.structure.template import MAX_LINES
from waka.web import guard
from waka.web.answers import answer
from waka.web.api.drive import FolderPath
from waka.web.present.changes import done_out
from waka.web.schemas.base import Form, Id, Line, Out
from waka.web.schemas.changes import DoneOut
from waka.work.config import templates

api = APIBlueprint("templates", __name__, url_prefix="/api", abp_tags=[Tag(name="templates")])

#: So many folders of a preview are listed; the rest is counted.
_SHOWN = 500


class TemplatePath(BaseModel):
    template: int = Field(ge=1, lt=2**62)


class RevisionQuery(BaseModel):
    revision: int = Field(ge=1, lt=2**31)


class TemplateForm(Form):
    area: Id
    name: Line = Field(max_length=200)
    lines: list[Line] = Field(max_length=MAX_LINES + 1)


class ChangeTemplateForm(Form):
    """`back_to`: an earlier revision's name and lines again; else `name` and `lines`."""

    revision: int = Field(ge=1, lt=2**31)
    name: Line = Field(default="", max_length=200)
    lines: list[Line] = Field(default_factory=list, max_length=MAX_LINES + 1)
    back_to: int | None = Field(default=None, ge=1, lt=2**31)


class TreesForm(Form):
    """`rows`: the list as it was typed or pasted, a line a row, cells parted by tab, `;` or `|`."""

    lines: list[Line] = Field(max_length=MAX_LINES + 1)
    rows: str = Field(default="", max_length=200_000)


class TemplateRevisionOut(Out):
    revision: int
    name: str
    at: datetime
    by: str | None


class TemplateOut(Out):
    """`columns`: what a list for it has, in order."""

    id: int
    area: int
    revision: int
    name: str
    lines: list[str]
    columns: list[str]
    changes: bool
    revisions: list[TemplateRevisionOut]


class Templates(Out):
    templates: list[TemplateOut]


class KeptTemplate(Out):
    template: int
    revision: int


class TreeLines(Out):
    lines: list[str]


class NewFolderOut(Out):
    path: list[str]
    there: bool
    problem: str | None
    like: str | None


class RowProblemOut(Out):
    row: int
    why: str


class TreesOut(Out):
    """`makes`: how many folders are new; of `folders` the first 500 are listed, `more` are not."""

    columns: list[str]
    makes: int
    folders: list[NewFolderOut]
    more: int
    problems: list[RowProblemOut]


def _revision(row: Mapping[str, Any]) -> TemplateRevisionOut:
    return TemplateRevisionOut(revision=row["revision"], name=row["name"], at=row["at"], by=row["by_name"])


@api.get("/templates", responses={200: Templates})
def listed() -> Response:
    """The templates of the areas that one may read."""
    told = [
        TemplateOut(
            **{k: t.row[k] for k in ("id", "area", "revision", "name", "lines")}, columns=list(t.columns),
            changes=t.changes, revisions=[_revision(r) for r in t.revisions],
        )
        for t in templates.listed(guard.drive(), guard.actor())
    ]  # fmt: skip
    return answer(Templates(templates=told))


@api.post("/templates", responses={201: KeptTemplate})
def keep(body: TemplateForm) -> Response:
    """Keep a template for an area."""
    made = templates.keep(guard.drive(), guard.actor(), body.area, body.name, body.lines)
    return answer(KeptTemplate(template=made, revision=1), 201)


@api.put("/templates/<int:template>", responses={200: KeptTemplate})
def change(path: TemplatePath, body: ChangeTemplateForm) -> Response:
    """Keep a new revision: another name and other lines, or those of an earlier one."""
    number = templates.change(
        guard.drive(),
        guard.actor(),
        path.template,
        body.revision,
        name=body.name,
        lines=body.lines,
        back_to=body.back_to,
    )
    return answer(KeptTemplate(template=path.template, revision=number))


@api.delete("/templates/<int:template>", responses={204: None})
def remove(path: TemplatePath, query: RevisionQuery) -> Response:
    """Take a template out; what was made from it stays."""
    templates.remove(guard.drive(), guard.actor(), path.template, query.revision)
    return make_response("", 204)


@api.get("/folders/<int:folder>/tree", responses={200: TreeLines})
def tree(path: FolderPath) -> Response:
    """The folders that stand in a folder, itself first, as the lines of a template."""
    return answer(TreeLines(lines=templates.tree_of(guard.drive(), guard.actor(), path.folder)))


@api.post("/folders/<int:folder>/trees/preview", responses={200: TreesOut})
def preview(path: FolderPath, body: TreesForm) -> Response:
    """What a list would make of a template's lines in a folder; nothing is changed."""
    told = templates.preview(guard.drive(), guard.actor(), path.folder, body.lines, body.rows)
    return answer(
        TreesOut(
            columns=list(told.columns),
            makes=told.makes,
            folders=[
                NewFolderOut(path=list(f.path), there=f.there, problem=f.problem, like=f.like)
                for f in told.folders[:_SHOWN]
            ],
            more=max(len(told.folders) - _SHOWN, 0),
            problems=[RowProblemOut(row=n, why=why) for n, why in told.problems[:_SHOWN]],
        )
    )


@api.post("/folders/<int:folder>/trees", responses={201: DoneOut})
def make(path: FolderPath, body: TreesForm) -> Response:
    """Make the folders that a list makes of a template's lines, all or none; those that stand already are kept."""
    applied = templates.make(guard.drive(), guard.actor(), path.folder, body.lines, body.rows)
    return answer(done_out(applied, f"Made {applied.lines} folders"), 201)
