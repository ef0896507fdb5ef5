"""Which lines of a manifest a step speaks of: those without a problem, all of them or one chunk."""

from dataclasses import dataclass

from waka.store.postgres.database import Connection, every, hashing

#: ``FROM manifest_line l WHERE`` these: the lines of a Scope, given its parameters.
LINES = (
    "l.manifest = %(m)s AND l.line >= %(first)s AND l.line < %(past)s AND l.problem IS NULL"
    " AND (NOT %(partial)s OR NOT EXISTS (SELECT FROM line_failure lf WHERE lf.manifest = l.manifest AND lf.line = l.line))"
)
_END = 2**31 - 1


@dataclass(frozen=True)
class Scope:
    """Lines ``first`` up to, not including, ``past`` of ``manifest``.

    ``partial``: it is run in chunks, and what cannot be done is kept beside the lines, which stay as they are.
    """

    manifest: int
    first: int = 0
    past: int = _END
    partial: bool = False

    def with_(self, **more: object) -> dict[str, object]:
        """Parameters for a query over LINES, and more."""
        return {"m": self.manifest, "first": self.first, "past": self.past, "partial": self.partial, **more}


@dataclass(frozen=True)
class Summary:
    """The lines added up, in one pass: (kind, from folder, to folder) → how many; folders' places are ``place folder``."""

    counts: dict[tuple[str, int | None, int | None], int]

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


def summary(conn: Connection, scope: Scope) -> Summary:
    """Add up the lines."""
    with hashing(conn):
        rows = every(
            conn,
            f"""SELECT CASE WHEN l.kind = 'place' AND l.folder IS NOT NULL THEN 'place folder' ELSE l.kind END AS kind,
                l.from_parent, l.to_parent, count(*) AS n FROM manifest_line l WHERE {LINES} GROUP BY 1, 2, 3""",
            scope.with_(),
        )
    return Summary({(r["kind"], r["from_parent"], r["to_parent"]): r["n"] for r in rows})
