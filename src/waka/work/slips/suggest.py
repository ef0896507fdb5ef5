"""What the bench offers besides the plan: where like documents went, which filed document this may be a new version of,
what its pages came from."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from waka.core.access.permissions import Permissions
from waka.core.names.fields import Fit
from waka.core.names.pattern import compile_pattern
from waka.core.names.portable import split_extension
from waka.readers import media
from waka.store.postgres import access, arrivals, folders, similar_documents
from waka.store.postgres.database import Connection, Row
from waka.work.acting import reach
from waka.work.actor import Actor
from waka.work.drive import Drive, name_settings
from waka.work.slips.composed import Slip

_PLACES = 3
#: What makes two documents of a kind the same one in a later state.
_IDENTITY: Mapping[str, tuple[str, ...]] = {
    "invoice": ("party", "ref"),
    "credit note": ("party", "ref"),
    "receipt": ("party", "ref"),
    "contract": ("party", "ref"),
    "coursework": ("person", "task"),
}


@dataclass(frozen=True)
class Place:
    """A folder where documents of the same party and kind went: its area, the path below that, how many of the latest are there."""

    area: int
    place: str
    path: str
    count: int


@dataclass(frozen=True)
class Suggestions:
    """For one slip."""

    places: tuple[Place, ...] = ()
    versions: tuple[Row, ...] = ()
    originals: tuple[Row, ...] = ()


def offered(drive: Drive, actor: Actor, slip: Slip) -> Suggestions:
    """What can be offered to a person for a slip."""
    with drive.database.transaction() as conn:
        return suggestions(conn, slip, reach(conn, actor))


def suggestions(conn: Connection, slip: Slip, permissions: Permissions) -> Suggestions:
    """What can be offered for a slip, as far as the person may read and file there."""
    values: dict[str, Any] = {f.field: f.value for f in slip.facts if f.value is not None}
    places = _places(conn, slip, values, permissions)
    if slip.row["came_in"] and slip.area is not None and slip.row["came_in"] != "/".join(s.name for s in slip.steps):
        # somebody put it there by hand: that goes first
        came_in = slip.row["came_in"]
        brought = Place(slip.area[0], came_in, f"{slip.area[1]} / {came_in.replace('/', ' / ')}", 0)
        places = (brought, *(p for p in places if p.path != brought.path))
    return Suggestions(
        places,
        _versions(conn, slip, values, permissions),
        tuple(arrivals.originals(conn, slip.row["document"], permissions)),
    )


def _places(conn: Connection, slip: Slip, values: Mapping[str, Any], permissions: Permissions) -> tuple[Place, ...]:
    if slip.kind is None or "party" not in values:
        return ()
    rows = similar_documents.places_of_like(
        conn, slip.kind, values["party"]["party"], permissions.at_least(access.FILE), limit=_PLACES + 1
    )
    paths = folders.paths_of(conn, [r["parent"] for r in rows], permissions)
    areas = {number for number, _ in slip.areas}
    around = name_settings(conn)
    plan = compile_pattern(slip.place_pattern, around.language)
    places = []
    for row in rows:
        area, *steps = folders.path_of(conn, row["parent"], permissions) or [{"id": None}]
        place = "/".join(step["name"] for step in steps)
        # where the plan itself puts such documents, by their own dates, is nothing to offer
        if area["id"] in areas and not isinstance(plan.read(place, around), Fit):
            places.append(Place(area["id"], place, paths[row["parent"]], row["n"]))
    return tuple(places[:_PLACES])


def _versions(conn: Connection, slip: Slip, values: Mapping[str, Any], permissions: Permissions) -> tuple[Row, ...]:
    fields = _IDENTITY.get(slip.kind or "")
    if fields is None or any(f not in values for f in fields):
        return ()
    same = {f: values[f] for f in fields}
    rows = similar_documents.same_identity(conn, slip.kind or "", same, permissions.at_least(access.FILE))
    # that of the very same content is told already
    held = {r["id"] for r in slip.same}
    of_its_type = [r for r in rows if media.mismatch(split_extension(r["name"])[1], slip.row["media_type"]) is None]
    return tuple(r for r in of_its_type if r["id"] not in held)
