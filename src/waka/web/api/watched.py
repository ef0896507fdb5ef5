"""/api/watched: the folders that are watched for areas."""

from collections.abc import Mapping
from datetime import datetime
from typing import Any, Literal

from flask import Response, make_response
from flask_openapi3.blueprint import APIBlueprint
from flask_openapi3.models.tag import Tag

from waka.web import guard
from waka.web.answers import answer
from waka.web.api.drive import FolderPath
from waka.web.schemas.base import Form, Out
from waka.words.watched import say
from waka.work.intake import watch

api = APIBlueprint("watched", __name__, url_prefix="/api", abp_tags=[Tag(name="arrivals")])


class NotTakenOut(Out):
    name: str
    problem: str
    since: datetime


class WatchedOut(Out):
    area: int
    name: str
    path: str | None
    after: Literal["done", "remove"] | None
    keeps: bool
    problems: list[NotTakenOut]


class WatchedList(Out):
    areas: list[WatchedOut]


class WatchForm(Form):
    after: Literal["done", "remove"]


@api.get("/watched", responses={200: WatchedList})
def watched() -> Response:
    """The areas one may file in, with the folder that is watched for each."""
    rows = watch.watching(guard.drive(), guard.actor())
    fields = ("area", "name", "path", "after", "keeps")
    areas = [
        WatchedOut(**{k: row[k] for k in fields}, problems=[_not_taken(p) for p in row["problems"]]) for row in rows
    ]
    return answer(WatchedList(areas=areas))


def _not_taken(row: Mapping[str, Any]) -> NotTakenOut:
    return NotTakenOut(name=row["name"], problem=say(row["problem"]), since=row["since"])


@api.put("/watched/<int:folder>", responses={204: None})
def watch_for(path: FolderPath, body: WatchForm) -> Response:
    """Watch a folder for an area; say what becomes of taken files."""
    watch.set_watching(guard.drive(), guard.actor(), path.folder, body.after)
    return make_response("", 204)


@api.delete("/watched/<int:folder>", responses={204: None})
def watch_no_longer(path: FolderPath) -> Response:
    """Watch it no longer. The folder and what is in it stay."""
    watch.set_watching(guard.drive(), guard.actor(), path.folder, None)
    return make_response("", 204)
