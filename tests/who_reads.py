"""Who reads what, worked out anew from restricted folders, grants and places: what the derived access classes must say."""

from collections import defaultdict
from datetime import date

from waka.store.postgres import access
from waka.store.postgres.database import Connection, fetch_all

#: What bears grants: a folder's number, or a document.
Bearer = int | tuple[str, int]


def wrong_readers(conn: Connection) -> list[str]:
    """Where folders, documents or readers of classes are not what follows from the truth; in words."""
    sets: dict[int, set[Bearer]] = {
        r["id"]: {*r["folders"]} | ({("document", r["document"])} if r["document"] else set())
        for r in fetch_all(conn, "SELECT id, folders, document FROM access_class")
    }
    grants: defaultdict[Bearer, dict[int, tuple[int, date]]] = defaultdict(dict)
    for r in fetch_all(conn, "SELECT folder, document, principal, level, until FROM access_grant"):
        bearer = r["folder"] or ("document", r["document"])
        grants[bearer][r["principal"]] = (r["level"], r["until"] or date.max)
    folders = {
        r["id"]: r
        for r in fetch_all(
            conn,
            "SELECT f.id, e.parent, f.restricted, f.access_class FROM folder f LEFT JOIN entry e ON e.folder = f.id",
        )
    }

    def governing(folder: int) -> set[Bearer]:
        row = folders[folder]
        if folder == access.ROOT or row["restricted"]:
            return {folder}
        above = governing(row["parent"])
        return above | {folder} if folder in grants else above

    wrong = [
        f"folder {f}: {sets[r['access_class']]}" for f, r in folders.items() if sets[r["access_class"]] != governing(f)
    ]
    places: defaultdict[int, set[Bearer]] = defaultdict(set)
    for r in fetch_all(conn, "SELECT document, parent FROM entry WHERE document IS NOT NULL"):
        places[r["document"]] |= governing(r["parent"]) | ({("document", r["document"])} & grants.keys())
    said = {
        r["document"]: sets[r["access_class"]] for r in fetch_all(conn, "SELECT document, access_class FROM search_row")
    }
    wrong += [f"document {d}: {said.get(d)} for {truth}" for d, truth in places.items() if said.get(d) != truth]
    told: defaultdict[tuple[int, int], set[tuple[int, date]]] = defaultdict(set)
    for r in fetch_all(
        conn, "SELECT access_class, principal, level, nullif(until, 'infinity') AS until FROM class_reader"
    ):
        told[r["access_class"], r["principal"]].add((r["level"], r["until"] or date.max))
    due: defaultdict[tuple[int, int], set[tuple[int, date]]] = defaultdict(set)
    for number, among in sets.items():
        for folder in among & grants.keys():
            for who, one in grants[folder].items():
                due[number, who].add(one)
    # on every day on which a grant ends, and for always, the same level
    days = {until for ones in due.values() for _, until in ones} | {date.max}
    return wrong + [
        f"reader {key} on {day}"
        for key in told.keys() | due.keys()
        for day in days
        if _highest(told.get(key, set()), day) != _highest(due.get(key, set()), day)
    ]


def _highest(held: set[tuple[int, date]], day: date) -> int:
    return max((level for level, until in held if until >= day), default=0)
