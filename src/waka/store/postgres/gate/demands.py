"""The rights that a manifest's lines ask for: folders to file in, documents to change, arrivals to use."""

from collections.abc import Iterable
from dataclasses import dataclass

from waka.core.changes.registry import Demand, kinds_asking
from waka.store.postgres.database import Connection, fetch_all
from waka.store.postgres.gate.kinds import as_summed, listed
from waka.store.postgres.gate.scope import LINES, Scope
from waka.store.postgres.gate.sums import Summary

_OWN, _USED = kinds_asking({Demand.ARRIVAL}), kinds_asking({Demand.USED_ARRIVAL})
_ARRIVAL = f"CASE WHEN l.kind IN {listed(_OWN)} THEN l.document WHEN l.kind IN {listed(_USED)} THEN (l.data ->> 'arrival')::bigint END"
_CHANGING = kinds_asking({Demand.DOCUMENT, Demand.INTO})
_CHANGED = f"l.kind IN {listed(_CHANGING)}"
_COPYING = kinds_asking({Demand.SOURCE})
_COPIES = f"l.kind IN {listed(_COPYING)}"
_FOLDERS = kinds_asking({Demand.FOLDER})
_OF_FOLDERS = listed(_FOLDERS)
#: The document that a line copies.
_COPIED = "(l.data ->> 'of')::bigint"
#: The document that a line changes: what is absorbed leaves its folder and asks there.
_SUBJECT = "coalesce((l.data ->> 'into')::bigint, l.document)"
_BROUGHT = f"l.kind IN {listed(kinds_asking({Demand.NONE_BESIDE}))}"


@dataclass(frozen=True)
class Demands:
    """Each thing once, whatever the number of lines. ``made`` gives the parent of each folder that the lines make.

    ``copied`` documents need only be read.
    """

    folders: list[int]
    documents: list[int]
    arrivals: list[int]
    made: dict[int, int]
    copied: list[int]

    def standing(self, folder: int) -> int:
        """The folder itself, or where it is made here the nearest one above it that stands already."""
        while folder in self.made:
            folder = self.made[folder]
        return folder


def demands(conn: Connection, scope: Scope, sums: Summary) -> Demands:
    """What the lines ask for: to file in every folder that they leave, enter, move or tag; to change documents; arrivals."""
    parameters = scope.with_()
    kinds = sums.kinds
    moved = (
        fetch_all(
            conn,
            f"SELECT l.folder AS id FROM manifest_line l WHERE {LINES} AND l.kind IN {_OF_FOLDERS} AND l.folder IS NOT NULL",
            parameters,
        )
        if kinds.keys() & as_summed(_FOLDERS)
        else []
    )
    documents = (
        fetch_all(
            conn,
            f"""SELECT DISTINCT {_SUBJECT} AS id FROM manifest_line l WHERE {LINES} AND {_CHANGED}
        EXCEPT SELECT l.document FROM manifest_line l WHERE {LINES} AND {_BROUGHT}""",
            parameters,
        )
        if kinds.keys() & _CHANGING
        else []
    )
    arrivals = (
        fetch_all(
            conn,
            f"SELECT DISTINCT {_ARRIVAL} AS id FROM manifest_line l WHERE {LINES} AND l.kind IN {listed(_OWN | _USED)}",
            parameters,
        )
        if kinds.keys() & (_OWN | _USED)
        else []
    )
    copied = (
        fetch_all(
            conn,
            f"SELECT DISTINCT {_COPIED} AS id FROM manifest_line l WHERE {LINES} AND {_COPIES}",
            parameters,
        )
        if kinds.keys() & _COPYING
        else []
    )
    made = (
        fetch_all(
            conn,
            f"SELECT l.folder, l.to_parent FROM manifest_line l WHERE {LINES} AND l.kind = 'make folder'",
            parameters,
        )
        if "make folder" in kinds
        else []
    )
    return Demands(
        sorted({*sums.folders, *(r["id"] for r in moved)}),
        [r["id"] for r in documents],
        [r["id"] for r in arrivals],
        {r["folder"]: r["to_parent"] for r in made},
        [r["id"] for r in copied],
    )


def lines_asking(
    conn: Connection, scope: Scope, *, folders: Iterable[int], documents: Iterable[int], arrivals: Iterable[int]
) -> list[tuple[int, str, int]]:
    """The lines that ask for any of these: (line, ``folder``, ``document`` or ``arrival``, its id)."""
    rows = fetch_all(
        conn,
        f"""SELECT l.line, 'folder' AS what, f.id FROM manifest_line l JOIN unnest(%(f)s::bigint[]) AS f(id)
            ON f.id IN (l.from_parent, l.to_parent, CASE WHEN l.kind IN {_OF_FOLDERS} THEN l.folder END) WHERE {LINES}
        UNION ALL SELECT l.line, 'document', CASE WHEN {_COPIES} THEN {_COPIED} ELSE {_SUBJECT} END FROM manifest_line l
            WHERE {LINES} AND ({_CHANGED} AND {_SUBJECT} = ANY(%(d)s::bigint[]) OR {_COPIES} AND {_COPIED} = ANY(%(d)s::bigint[]))
        UNION ALL SELECT l.line, 'arrival', {_ARRIVAL} FROM manifest_line l WHERE {LINES} AND {_ARRIVAL} = ANY(%(a)s::bigint[])
        ORDER BY 1""",
        scope.with_(f=list(folders), d=list(documents), a=list(arrivals)),
    )
    return [(r["line"], r["what"], r["id"]) for r in rows]
