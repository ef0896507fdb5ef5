"""A plan in the making: its drafts, and the manifest lines that they become when the plan is kept or shown."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType
from typing import Any

from waka.core.changes.wire import LineRow
from waka.store.postgres import manifests as store
from waka.store.postgres.database import Connection
from waka.store.postgres.gate import lines
from waka.store.postgres.planning import Source
from waka.words.manifests import problem
from waka.words.sentence import Kept
from waka.work.target_folders import Skipped


@dataclass(slots=True)
class Draft:
    """A document's line in the making: where it shall go (below zero: a folder to be made), or why it is left out."""

    source: Source
    parent: int = 0
    name: str = ""
    key: str = ""
    note: Mapping[str, Any] | None = None
    left: Skipped | None = None
    #: The document that it becomes a version of, and that one's head.
    version: tuple[int, int] | None = None
    #: Lines of the same document that place nothing.
    besides: tuple[LineRow, ...] = ()

    @property
    def stays(self) -> bool:
        """Whether it is to be where it is, under its name."""
        return self.left is None and self.name == self.source.name and self.parent == self.source.parent


@dataclass(frozen=True)
class Planned:
    """The folders to be made (with ids below zero, those nearer the area first), the documents' drafts, and the folders that
    go when they are empty."""

    making: Sequence[LineRow]
    drafts: Sequence[Draft]
    emptied: Sequence[LineRow] = ()
    #: There are more documents than one manifest takes.
    cut: bool = False

    @property
    def size(self) -> int:
        """The bytes of the documents whose lines can be done."""
        return sum([d.source.size for d in self.drafts if d.left is None])

    def rows(self, ids: Mapping[int, int] = MappingProxyType({}), entries: Sequence[int] = ()) -> Iterator[LineRow]:
        """The lines, one after another: there may be very many. ``ids`` of folders to be made by what they are called until
        then, ``entries`` in their order; without these they are shown as they are called."""
        for n, row in enumerate(self.making):
            folder, above = row.folder or 0, row.to_parent or 0
            yield row._replace(
                folder=ids.get(folder, folder), entry=entries[n] if entries else None, to_parent=ids.get(above, above)
            )
        for draft in self.drafts:
            source, name, to, key, was, data = draft.source, draft.name, draft.parent, None, None, None
            if draft.left is not None:
                known = bool(name) and to > 0
                yield LineRow(
                    "place", source.document, None, source.entry, source.parent, source.name,
                    to if known else None, name if known else None, None, None, draft.left.to_json(),
                )  # fmt: skip
                continue
            yield from draft.besides
            if draft.stays:
                continue
            if draft.note:
                data = {"note": draft.note}
            if draft.version is not None:
                told = {"into": draft.version[0], "was_head": draft.version[1], "note": draft.note}
                yield LineRow("absorb", source.document, None, source.entry, source.parent, source.name, data=told)
                continue
            if name != source.name:
                key, was = draft.key, source.key
            if to < 0:
                to = ids.get(to, to)
            yield LineRow(
                "place", source.document, None, source.entry, source.parent, source.name, to, name, key, data, None, was
            )  # fmt: skip
        yield from self.emptied


def keep(conn: Connection, manifest: int, told: Mapping[str, Any], planned: Planned) -> None:
    """Keep the plan as the manifest's lines, which it has none of. ``told`` is what it was planned from."""
    ids = dict(
        zip(
            [row.folder or 0 for row in planned.making],
            lines.allot(conn, "folder_id", len(planned.making)),
            strict=True,
        )
    )
    count = lines.write_rows(conn, manifest, planned.rows(ids, lines.allot(conn, "entry_id", len(planned.making))))
    store.set_plan(conn, manifest, told, count, size=planned.size, told=_cut(planned))


def _cut(planned: Planned) -> Kept | None:
    """What to say of a plan that leaves documents out because there are too many; None where it does not."""
    return problem("cut", count=len(planned.drafts)) if planned.cut else None
