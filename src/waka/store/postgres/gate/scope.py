"""The lines of a manifest that a step works on: those without a problem, all of them or one chunk."""

from dataclasses import dataclass

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
