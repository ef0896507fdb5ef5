"""A manifest's lines, added up: how many of each kind leave one folder for another."""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from waka.core.changes.wire import LineRow
from waka.store.postgres.database import Connection, execute, fetch_all, force_hash_aggregate
from waka.store.postgres.gate.scope import LINES, Scope

#: (kind, from folder, to folder).
PlanMethod = tuple[str, int | None, int | None]
#: Sums are kept from this many lines on. Fewer lines are added up as fast as their sums could be looked up.
_LONG = 2_000
#: The most sums that are kept of one manifest.
_MOST = 1_000
_KIND, _FOLDER, _FROM, _TO, _PROBLEM = map(
    LineRow._fields.index, ("kind", "folder", "from_parent", "to_parent", "problem")
)


@dataclass(frozen=True)
class Summary:
    """How many lines there are of each way; places of folders are of the kind ``place folder``."""

    counts: Mapping[PlanMethod, int]

    @property
    def kinds(self) -> dict[str, int]:
        """How many lines of each kind there are."""
        kinds: dict[str, int] = {}
        for (kind, _, _), n in self.counts.items():
            kinds[kind] = kinds.get(kind, 0) + n
        return kinds

    @property
    def lines(self) -> int:
        """How many lines there are."""
        return sum(self.counts.values())

    @property
    def folders(self) -> list[int]:
        """Every folder that a line leaves or enters."""
        return sorted({f for _, a, b in self.counts for f in (a, b) if f is not None})

    @property
    def targets(self) -> set[int]:
        """Every folder that a line enters."""
        return {b for _, _, b in self.counts if b is not None}

    @property
    def places(self) -> dict[tuple[int, int], int]:
        """How many documents' places leave one folder for another, or get another name where they are."""
        return {
            (a, b): n for (kind, a, b), n in self.counts.items() if kind == "place" and a is not None and b is not None
        }

    @property
    def moves(self) -> dict[tuple[int, int], int]:
        """How many documents' places go from one folder to another."""
        return {(a, b): n for (a, b), n in self.places.items() if a != b}


@dataclass
class Tally:
    """Lines added up while they are written."""

    lines: int = 0
    _counts: Counter[PlanMethod] = field(default_factory=Counter)

    def add(self, columns: Sequence[tuple[Any, ...]]) -> None:
        """Add lines, given as columns in the order of LineRow; those with a problem are not done and do not count."""
        kinds, folders, problems = columns[_KIND], columns[_FOLDER], columns[_PROBLEM]
        self.lines += len(kinds)
        if len(self._counts) > _MOST:
            return
        if folders.count(None) < len(folders):
            kinds = tuple(
                "place folder" if kind == "place" and folder is not None else kind
                for kind, folder in zip(kinds, folders, strict=True)
            )
        ways = zip(kinds, columns[_FROM], columns[_TO], strict=True)
        if problems.count(None) == len(problems):
            self._counts.update(ways)
        else:
            self._counts.update(way for way, problem in zip(ways, problems, strict=True) if problem is None)

    def keep(self, conn: Connection, manifest: int) -> None:
        """Keep the sums of a manifest that has these lines and no others; not where they are few, or too many."""
        if self.lines < _LONG or len(self._counts) > _MOST:
            return
        kinds, sources, targets = ([way[n] for way in self._counts] for n in range(3))
        execute(
            conn,
            "INSERT INTO line_sum SELECT %s, * FROM unnest(%s::text[], %s::bigint[], %s::bigint[], %s::integer[])",
            [manifest, kinds, sources, targets, list(self._counts.values())],
        )


def forget(conn: Connection, manifest: int) -> None:
    """Keep no sums of a manifest's lines (any more)."""
    execute(conn, "DELETE FROM line_sum WHERE manifest = %s", [manifest])


def turn_round(conn: Connection, manifest: int, undoing: int) -> None:
    """The sums of the inverses of all lines of a manifest whose lines only place something, where they are kept."""
    execute(
        conn,
        "INSERT INTO line_sum SELECT %s, kind, to_parent, from_parent, lines FROM line_sum WHERE manifest = %s",
        [undoing, manifest],
    )


def summary(conn: Connection, scope: Scope) -> Summary:
    """The lines added up: as they were when they were written, where nothing changed since; else in one pass."""
    if scope == Scope(scope.manifest):
        rows = fetch_all(
            conn,
            "SELECT kind, from_parent, to_parent, lines FROM line_sum WHERE manifest = %s",
            [scope.manifest],
        )
        if rows:
            return _summary(rows)
    with force_hash_aggregate(conn):
        rows = fetch_all(
            conn,
            f"""SELECT CASE WHEN l.kind = 'place' AND l.folder IS NOT NULL THEN 'place folder' ELSE l.kind END AS kind,
                l.from_parent, l.to_parent, count(*) AS lines FROM manifest_line l WHERE {LINES} GROUP BY 1, 2, 3""",
            scope.with_(),
        )
    return _summary(rows)


def _summary(rows: Sequence[Mapping[str, Any]]) -> Summary:
    return Summary({(r["kind"], r["from_parent"], r["to_parent"]): r["lines"] for r in rows})
