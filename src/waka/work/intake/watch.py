"""Watch: what is put into the watched folder of an area, by a scanner or a person, becomes an arrival by itself."""

import os
import stat
import time
import traceback
import uuid
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import Literal

from waka.core.names.portable import tidy_level
from waka.journal import log
from waka.store.postgres import access, folders, watched
from waka.store.postgres.database import DatabaseGone, Row
from waka.words.sentence import Kept
from waka.words.watched import left
from waka.work.acting import acting, reach
from waka.work.actor import Absent, Actor, Refused
from waka.work.drive import Drive
from waka.work.intake.arrive import receive

After = Literal["done", "remove"]
DONE = "done"
#: A file that has not changed for so long was written to its end.
SETTLED_SECONDS = 2.0
_GROWS = left("grows")
#: What programs write beside the real thing while they are at it.
_PASSING = (".part", ".tmp", ".crdownload", ".partial", ".lock", "~")


@dataclass
class Looked:
    """What a watcher saw the last time: for each file its size, its time of change, and since when both stand."""

    files: dict[Path, tuple[int, int, float]] = field(default_factory=dict)
    problems: dict[int, dict[str, Kept]] = field(default_factory=dict)


def set_watching(drive: Drive, actor: Actor, area: int, after: After | None) -> None:
    """Watch a folder for an area, or (None) watch it no longer. Keepers of the area do; files come in under their name.

    Absent for what is no area that one may read; Refused where one does not keep it, or the folder cannot be made.
    """
    with drive.database.transaction() as conn:
        row = folders.readable_folder(conn, area, reach(conn, actor))
        if row is None or row["parent"] != access.ROOT:
            raise Absent("area")
        if row["level"] < access.KEEP:
            raise Refused(f"Keepers of {row['name']} set its watched folder.", code="rights")
        if after is None:
            watched.forget_watched(conn, area)
            watched.set_problems(conn, area, {})
            return
        had = next((w for w in watched.all_watched(conn) if w["area"] == area), None)
        folder = had["folder"] if had else f"{tidy_level(row['name'])[:60]} {area}"
        try:
            (drive.watched / folder / DONE).mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise Refused(
                f"The watched folder of {row['name']} cannot be made ({error.strerror}).", code="disk"
            ) from error
        watched.set_watched(conn, area, folder, after, actor.person)


def watching(drive: Drive, actor: Actor) -> list[Row]:
    """The areas that one may file in, each with its watched folder's path, if it has one, and what could not be taken."""
    with acting(drive, actor) as (conn, permissions):
        rows = watched.watched_of(conn, permissions, permissions.at_least(access.FILE))
        return [
            {
                **row,
                "path": str(drive.watched / row["folder"]) if row["folder"] else None,
                "keeps": permissions.level(row["access_class"]) >= access.KEEP,
            }
            for row in rows
        ]


def look(drive: Drive, before: Looked, *, now: float | None = None) -> int:
    """Take what has settled in every watched folder; how many. What cannot be taken stays, and is listed with the reason."""
    moment = time.monotonic() if now is None else now
    with drive.database.transaction() as conn:
        rows = watched.all_watched(conn)
    taken = 0
    seen: dict[Path, tuple[int, int, float]] = {}
    for row in rows:
        problems: dict[str, Kept] = {}
        for path, info, problem in _files(drive.watched / row["folder"]):
            shown = _shown(path)
            if problem is None and shown != path.name:
                problem = left("not UTF-8")
            if problem is not None or info is None:
                problems[shown] = problem or left("not seen")
                continue
            last = before.files.get(path)
            same = last is not None and last[:2] == (info.st_size, info.st_mtime_ns)
            since = last[2] if same and last is not None else moment
            seen[path] = (info.st_size, info.st_mtime_ns, since)
            if moment - since < SETTLED_SECONDS:
                continue
            why = _taken_or_why(drive, row, path, info)
            if why is None:
                taken += 1
                del seen[path]
            else:
                problems[shown] = why
        if problems != before.problems.get(row["area"]):
            with drive.database.transaction() as conn:
                watched.set_problems(conn, row["area"], problems)
            before.problems[row["area"]] = problems
    before.files = seen
    return taken


def _files(folder: Path) -> Iterator[tuple[Path, os.stat_result | None, Kept | None]]:
    """What stands in a watched folder: path, what the system says of it, or why it cannot be taken."""
    try:
        entries = sorted(folder.iterdir())
    except FileNotFoundError:  # it was removed, or is not there yet after a restore
        (folder / DONE).mkdir(parents=True, exist_ok=True)
        return
    except OSError as error:
        yield folder, None, left("no folder", error=error.strerror)
        return
    for path in entries:
        if path.name.startswith((".", "~$")) or path.name.endswith(_PASSING) or path.name == DONE:
            continue
        try:
            info = path.lstat()
        except FileNotFoundError:
            continue
        if stat.S_ISDIR(info.st_mode):
            yield path, info, left("folder")
        elif not stat.S_ISREG(info.st_mode):
            yield path, info, left("no file")
        else:
            yield path, info, None


def _shown(path: Path) -> str:
    """A file's name as it can be told and kept: bytes that are no UTF-8 stand as marks."""
    return os.fsencode(path.name).decode("utf-8", "replace").replace("\0", "")


def _taken_or_why(drive: Drive, row: Row, path: Path, info: os.stat_result) -> Kept | None:
    """As ``_take``; whatever is wrong with one file, the others are looked at."""
    try:
        return _take(drive, row, path, info)
    except DatabaseGone:
        raise
    except Exception as error:
        log("a watched file was not taken", area=row["area"], file=_shown(path), error=f"{type(error).__name__}: {error}",
            trace=traceback.format_exc())  # fmt: skip
        return left("fault")


def _take(drive: Drive, row: Row, path: Path, info: os.stat_result) -> Kept | None:
    """Make an arrival of one file and put it away as set; why not, where it could not be taken. Never taken twice."""
    upload = uuid.uuid5(
        uuid.NAMESPACE_URL, f"waka-watched/{row['area']}/{path.name}/{info.st_ino}/{info.st_mtime_ns}/{info.st_size}"
    )
    try:
        handle = os.open(path, os.O_RDONLY | os.O_NOFOLLOW)
        with os.fdopen(handle, "rb") as file:
            if _changed(os.fstat(file.fileno()), info):
                return _GROWS
            receive(
                drive, Actor(row["by"], row["by_name"]), file, length=info.st_size, name=path.name, upload=upload, area=row["area"],
                source="watched folder",
            )  # fmt: skip
            if _changed(os.fstat(file.fileno()), info):
                return _GROWS
    except (Refused, Absent) as refused:
        return left("refused", reason=str(refused))
    except OSError as error:
        return left("not read", error=error.strerror)
    try:
        if row["after"] == "remove":
            path.unlink()
        else:
            path.rename(_free(path.parent / DONE, path.name))
    except OSError as error:
        return left("not put away", error=error.strerror)
    return None


def _changed(now: os.stat_result, then: os.stat_result) -> bool:
    return (now.st_ino, now.st_size, now.st_mtime_ns) != (then.st_ino, then.st_size, then.st_mtime_ns)


def _free(folder: Path, name: str) -> Path:
    folder.mkdir(exist_ok=True)
    stem, dot, extension = name.rpartition(".")
    path, number = folder / name, 2
    while path.exists():
        path = folder / (f"{stem}~{number}{dot}{extension}" if dot and stem else f"{name}~{number}")
        number += 1
    return path
