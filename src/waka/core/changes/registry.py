"""One specification for each kind of change: all that the gate, requests and the trail know of it derives from here.

A new kind: its class in ``kinds``, its specification here, the statement that does it in ``store/postgres/gate/perform``,
what must hold first in ``store/postgres/gate/expectations``, and its words in ``words/trail``. Tests walk all kinds.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from enum import Enum, auto
from typing import Any

from waka.core.changes import kinds as k

#: What a change touches; two lines of one manifest may not touch the same.
Aspect = tuple[str, object]


class Effect(Enum):
    """What a change does that the gate must see to."""

    LEAVES = auto()  #: its entry is where ``was`` says, and goes from there
    ENTERS = auto()  #: a new or restored entry takes the name ``at``
    DISCARDS = auto()  #: the place that it leaves is kept among the discards
    RESTORES = auto()  #: the place that it takes comes from the discards
    STRUCTURE = auto()  #: it makes, moves or removes folders
    READERS = auto()  #: others may read the document afterwards
    RANKS = auto()  #: another place may be the document's home
    VERSION = auto()  #: another content is the document's newest
    STATE = auto()  #: the document, or the arrival that it uses, has another state
    FACT = auto()
    TAG = auto()
    FOLDER_TAG = auto()
    QUEUE = auto()  #: an arrival leaves what waits to be filed, or comes back to it
    COPIES = auto()
    ACCESS = auto()  #: others may read, or do more, in a folder and below it, or with a document
    ORDER = auto()  #: areas stand in another order
    PAGES = auto()  #: pages of arrivals are put together anew: only all of it can be undone


class Demand(Enum):
    """What a change asks rights for, besides filing in each folder that it leaves or enters."""

    DOCUMENT = auto()  #: filing where the document is
    INTO = auto()  #: filing where the document ``into`` is, which gets what this one was
    ARRIVAL = auto()  #: the arrival ``document``
    USED_ARRIVAL = auto()  #: the arrival in ``arrival``
    SOURCE = auto()  #: reading the document ``of``
    FOLDER = auto()  #: filing in the folder itself, which moves or is tagged
    GIVING = auto()  #: keeping the folder or document, and having oneself what is given
    OFFICE = auto()  #: keeping the whole drive
    NONE_BESIDE = auto()  #: its document comes or goes by this line: other lines of it ask nothing more


@dataclass(frozen=True)
class Spec:
    """What one kind of change is to the gate.

    ``kind``: its name in a manifest's line. ``alone``: nothing else may run beside it, as it changes what is above what, or
    how many places a document has. ``alone_for_folders``: that holds where it speaks of a folder.
    """

    kind: str
    change: type[Any]
    inverse: Callable[[Any], k.Change]
    aspects: Callable[[Any], list[Aspect]]
    effects: frozenset[Effect]
    demands: frozenset[Demand] = frozenset()
    alone: bool = False
    alone_for_folders: bool = False


def _entry(c: Any) -> list[Aspect]:
    return [("entry", c.entry)]


def _head(c: Any) -> list[Aspect]:
    return [("head", c.document)]


def _document(c: Any) -> list[Aspect]:
    return [("place", ("document", c.document))]


def _entry_and_document(c: Any) -> list[Aspect]:
    return [("entry", c.entry), ("place", ("document", c.document))]


def _head_and_arrival(c: Any) -> list[Aspect]:
    return [("head", c.document), ("place", ("document", c.arrival))]


def _granted(c: Any) -> list[Aspect]:
    return [("grant", (c.folder, c.document, c.principal))]


def _both_heads(c: Any) -> list[Aspect]:
    return [("entry", c.entry), ("head", c.into), ("head", c.document)]


def _effects(*effects: Effect) -> frozenset[Effect]:
    return frozenset(effects)


def _demands(*demands: Demand) -> frozenset[Demand]:
    return frozenset(demands)


_E, _D = Effect, Demand
_COMES = (_E.ENTERS, _E.READERS)
_GOES = (_E.LEAVES, _E.READERS)

_ALL = (
    Spec(
        "make folder", k.MakeFolder, lambda c: k.RemoveFolder(c.folder, c.entry, c.at, lenient=True), _entry,
        _effects(_E.ENTERS, _E.STRUCTURE),
    ),
    Spec(
        "remove folder", k.RemoveFolder, lambda c: k.MakeFolder(c.folder, c.entry, c.was), _entry,
        _effects(_E.LEAVES, _E.STRUCTURE), alone=True,
    ),
    Spec(
        "place", k.Place, lambda c: k.Place(c.entry, c.to, c.was, c.document, c.folder), _entry,
        _effects(_E.LEAVES, _E.READERS), _demands(_D.FOLDER), alone_for_folders=True,
    ),
    Spec(
        "add", k.Add, lambda c: k.Return(c.document, c.entry, c.at), _entry_and_document,
        _effects(*_COMES, _E.STATE), _demands(_D.ARRIVAL, _D.NONE_BESIDE),
    ),
    Spec(
        "return", k.Return, lambda c: k.Add(c.document, c.entry, c.was), _entry_and_document,
        _effects(*_GOES, _E.STATE), _demands(_D.NONE_BESIDE),
    ),
    Spec(
        "version", k.Version, lambda c: k.WithdrawVersion(c.document, c.arrival, c.was_head + 1), _head_and_arrival,
        _effects(_E.VERSION, _E.STATE), _demands(_D.DOCUMENT, _D.USED_ARRIVAL),
    ),
    Spec(
        "withdraw version", k.WithdrawVersion, lambda c: k.Version(c.document, c.arrival, c.version - 1), _head_and_arrival,
        _effects(_E.VERSION, _E.STATE), _demands(_D.DOCUMENT),
    ),
    Spec(
        "revert", k.Revert, lambda c: k.UndoRevert(c.document, c.was_head + 1, c.to), _head,
        _effects(_E.VERSION), _demands(_D.DOCUMENT),
    ),
    Spec(
        "undo revert", k.UndoRevert, lambda c: k.Revert(c.document, c.version - 1, c.to), _head,
        _effects(_E.VERSION), _demands(_D.DOCUMENT),
    ),
    Spec(
        "fact", k.SetFact, lambda c: k.SetFact(c.document, c.field, c.to, c.was, _source_back(c.source)),
        lambda c: [("fact", (c.document, c.field))], _effects(_E.FACT), _demands(_D.DOCUMENT),
    ),
    Spec(
        "tag", k.Tag, lambda c: k.Tag(c.document, c.remove, c.add),
        lambda c: [("tag", (c.document, tag)) for tag in (*c.add, *c.remove)], _effects(_E.TAG), _demands(_D.DOCUMENT),
    ),
    Spec(
        "tag folder", k.TagFolder, lambda c: k.TagFolder(c.folder, c.remove, c.add),
        lambda c: [("folder tag", (c.folder, tag)) for tag in (*c.add, *c.remove)],
        _effects(_E.FOLDER_TAG), _demands(_D.FOLDER),
    ),
    Spec(
        "discard", k.Discard, lambda c: k.Restore(c.document, c.entry, c.was), _entry,
        _effects(*_GOES, _E.STATE, _E.DISCARDS, _E.RANKS),
    ),
    Spec(
        "restore", k.Restore, lambda c: k.Discard(c.document, c.entry, c.at), _entry,
        _effects(*_COMES, _E.STATE, _E.RESTORES, _E.RANKS), _demands(_D.NONE_BESIDE),
    ),
    Spec(
        "absorb", k.Absorb, lambda c: k.Release(c.document, c.entry, c.was, c.into, c.was_head + 1), _both_heads,
        _effects(*_GOES, _E.STATE, _E.DISCARDS, _E.RANKS, _E.VERSION), _demands(_D.INTO),
    ),
    Spec(
        "release", k.Release, lambda c: k.Absorb(c.document, c.entry, c.at, c.into, c.version - 1), _both_heads,
        _effects(*_COMES, _E.STATE, _E.RESTORES, _E.RANKS, _E.VERSION), _demands(_D.INTO),
    ),
    Spec(
        "also file", k.AlsoFile, lambda c: k.Unplace(c.document, c.entry, c.at, c.rank), _entry,
        _effects(*_COMES, _E.RANKS), _demands(_D.DOCUMENT), alone=True,
    ),
    Spec(
        "unplace", k.Unplace, lambda c: k.AlsoFile(c.document, c.entry, c.was, c.rank), _entry,
        _effects(*_GOES, _E.RANKS), alone=True,
    ),
    Spec(
        "make home", k.MakeHome, lambda c: k.MakeHome(c.document, c.entry, c.to, c.was), lambda c: [("home", c.document)],
        _effects(_E.RANKS), _demands(_D.DOCUMENT),
    ),
    Spec(
        "copy", k.Copy, lambda c: k.RemoveCopy(c.document, c.entry, c.at, c.of, c.version), _entry_and_document,
        _effects(*_COMES, _E.COPIES), _demands(_D.SOURCE, _D.NONE_BESIDE),
    ),
    Spec(
        "remove copy", k.RemoveCopy, lambda c: k.Copy(c.document, c.entry, c.was, c.of, c.version), _entry_and_document,
        _effects(*_GOES, _E.STATE), _demands(_D.NONE_BESIDE),
    ),
    Spec(
        "set aside", k.SetAside, lambda c: k.PutInQueue(c.document, c.name, c.no_record), _document,
        _effects(_E.QUEUE, _E.PAGES), _demands(_D.ARRIVAL),
    ),
    Spec(
        "put in queue", k.PutInQueue, lambda c: k.SetAside(c.document, c.name, c.no_record), _document,
        _effects(_E.QUEUE, _E.PAGES), _demands(_D.ARRIVAL),
    ),
    Spec(
        "grant", k.Grant, lambda c: k.Grant(c.principal, c.to, c.was, c.folder, c.document, c.word), _granted,
        _effects(_E.ACCESS), _demands(_D.GIVING), alone=True,
    ),
    Spec(
        "restrict", k.Restrict, lambda c: k.Restrict(c.folder, c.to, c.was), lambda c: [("restricted", c.folder)],
        _effects(_E.ACCESS), _demands(_D.GIVING), alone=True,
    ),
    Spec(
        "put in order", k.PutInOrder, lambda c: k.PutInOrder(c.folder, c.to, c.was), lambda c: [("order", c.folder)],
        _effects(_E.ORDER), _demands(_D.OFFICE),
    ),
)  # fmt: skip


def _source_back(source: dict[str, Any]) -> dict[str, Any]:
    """Where a fact came from before it got ``source``, which is kept in it."""
    before: dict[str, Any] = source.get("was", {"kind": "person"})
    return before | {"was": source}


SPECS: dict[str, Spec] = {spec.kind: spec for spec in _ALL}
_BY_CLASS: dict[type[Any], Spec] = {spec.change: spec for spec in _ALL}


def spec_of(change: k.Change) -> Spec:
    """The specification of a change's kind."""
    return _BY_CLASS[type(change)]


def inverse(change: k.Change) -> k.Change:
    """What undoes ``change``; it expects the drive as the change left it."""
    return spec_of(change).inverse(change)


def aspects(change: k.Change) -> list[Aspect]:
    """What the change touches."""
    return spec_of(change).aspects(change)


def target(change: k.Change) -> k.Location | None:
    """The place that the change fills, if it fills one."""
    place = getattr(change, "at", None) or getattr(change, "to", None)
    return place if isinstance(place, k.Location) else None


def kinds_that(*effects: Effect) -> frozenset[str]:
    """The kinds that have any of these effects."""
    return frozenset(spec.kind for spec in _ALL if spec.effects & set(effects))


def kinds_asking(demands: Iterable[Demand]) -> frozenset[str]:
    """The kinds that ask for any of these."""
    asked = set(demands)
    return frozenset(spec.kind for spec in _ALL if spec.demands & asked)
