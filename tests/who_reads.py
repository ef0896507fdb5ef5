"""Who reads what, worked out anew from restricted folders, grants and places: what the derived access classes must say."""

from collections import defaultdict

from waka.store.postgres import access
from waka.store.postgres.database import Connection, fetch_all


def wrong_readers(conn: Connection) -> list[str]:
    """Where folders, documents or readers of classes are not what follows from the truth; in words."""
    sets = {r["id"]: set(r["folders"]) for r in fetch_all(conn, "SELECT id, folders FROM access_class")}
    grants: defaultdict[int, dict[int, int]] = defaultdict(dict)
    for r in fetch_all(conn, "SELECT folder, principal, level FROM access_grant"):
        grants[r["folder"]][r["principal"]] = r["level"]
    folders = {
        r["id"]: r
        for r in fetch_all(
            conn,
            "SELECT f.id, e.parent, f.restricted, f.access_class FROM folder f LEFT JOIN entry e ON e.folder = f.id",
        )
    }

    def governing(folder: int) -> set[int]:
        row = folders[folder]
        if folder == access.ROOT or row["restricted"]:
            return {folder}
        above = governing(row["parent"])
        return above | {folder} if folder in grants else above

    wrong = [
        f"folder {f}: {sets[r['access_class']]}" for f, r in folders.items() if sets[r["access_class"]] != governing(f)
    ]
    places: defaultdict[int, set[int]] = defaultdict(set)
    for r in fetch_all(conn, "SELECT document, parent FROM entry WHERE document IS NOT NULL"):
        places[r["document"]] |= governing(r["parent"])
    said = {
        r["document"]: sets[r["access_class"]] for r in fetch_all(conn, "SELECT document, access_class FROM search_row")
    }
    wrong += [f"document {d}: {said.get(d)} for {truth}" for d, truth in places.items() if said.get(d) != truth]
    told = {(r["access_class"], r["principal"]): r["level"] for r in fetch_all(conn, "SELECT * FROM class_reader")}
    due: dict[tuple[int, int], int] = {}
    for number, among in sets.items():
        for folder in among & grants.keys():
            for who, level in grants[folder].items():
                due[number, who] = max(level, due.get((number, who), 0))
    return wrong + [f"reader {key}" for key in told.keys() | due.keys() if told.get(key) != due.get(key)]
