"""Reports of who reads what, as rows of a table: of one person over all folders, of one area with all that is given in it."""

from collections.abc import Iterator

from waka.store.postgres import access, folders, grants, people, reaching, readers
from waka.words.trail import LEVELS
from waka.work.accounts.office import require_administrator
from waka.work.acting import acting, require_folder
from waka.work.actor import Absent, Actor
from waka.work.drive import Drive
from waka.work.sharing.things import Thing, require_kept

Cell = str | int | None
PERSON_HEAD = ("folder", "may", "documents just there")
AREA_HEAD = ("folder", "restricted", "given to", "log-in", "may", "until", "given by", "on")


def of_person(drive: Drive, actor: Actor, person: int) -> tuple[str, list[tuple[Cell, ...]]]:
    """The folders that a person reads, as far as the administrator reads them too, with levels; and the person's name."""
    require_administrator(actor)
    with acting(drive, actor) as (conn, permissions):
        row = people.person_by_id(conn, person)
        if row is None:
            raise Absent("person")
        both = reaching.permissions_of(conn, person).within(permissions)
        told = folders.all_paths(conn, both)
        rows: list[tuple[Cell, ...]] = [
            (r["path"], LEVELS[both.level(r["access_class"])].split()[0], r["documents"]) for r in told
        ]
        return str(row["name"]), rows


def of_area(drive: Drive, actor: Actor, folder: int) -> tuple[str, list[tuple[Cell, ...]]]:
    """What is given in a folder and below it, as far as one keeps it; and the folder's name. Raises Absent, Refused."""
    with acting(drive, actor) as (conn, permissions):
        row = require_folder(conn, permissions, folder)
        require_kept(Thing(row["name"], row["access_class"], row["level"]))
        order, spots = readers.below(conn, [folder])
        classes = access.folder_classes(conn, order)
        kept = [f for f in order if permissions.level(classes[f]) >= access.KEEP]
        paths = folders.paths_of(
            conn, [f for f in kept if spots[f].restricted or f in readers.bearing(conn, kept)], permissions
        )

        def told() -> Iterator[tuple[Cell, ...]]:
            for grant in grants.on_folders(conn, list(paths)):
                yield (
                    paths[grant["folder"]], "yes" if spots[grant["folder"]].restricted else "no", grant["name"], grant["login"],
                    LEVELS[grant["level"]].split()[0], grant["until"].isoformat() if grant["until"] else "for always",
                    grant["given_by_name"], grant["given_at"].date().isoformat(),
                )  # fmt: skip

        return str(row["name"]), sorted(told(), key=lambda r: (str(r[0]), str(r[2])))
