"""Kinds of changes as statements ask for them; which they are stands in ``core/changes/registry``."""

from collections.abc import Iterable

from waka.core.changes.registry import SPECS, Effect, kinds_that

#: Kinds of lines that touch nothing of a document but where it is and what it is called.
PLACING = frozenset({"place"}) | kinds_that(Effect.STRUCTURE)
#: Kinds that nothing else may run beside. A place of a folder is added up as ``place folder``.
ALONE = frozenset(kind for kind, spec in SPECS.items() if spec.alone) | frozenset(
    f"{kind} folder" for kind, spec in SPECS.items() if spec.alone_for_folders
)


def as_summed(kinds: Iterable[str]) -> frozenset[str]:
    """Kinds that speak of folders, as ``sums`` counts them: a folder's place apart from a document's."""
    return frozenset("place folder" if kind == "place" else kind for kind in kinds)


def listed(kinds: Iterable[str]) -> str:
    """Kinds as a list that SQL reads after ``IN``: ``('add', 'copy')``."""
    return f"({', '.join(repr(kind) for kind in sorted(kinds))})"


def that(*effects: Effect) -> str:
    """The kinds that have any of these effects, as SQL reads them after ``IN``."""
    return listed(kinds_that(*effects))
