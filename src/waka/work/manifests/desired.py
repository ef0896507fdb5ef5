"""The desired place and name of each document, by the chosen method, before anybody asks whether they are free."""

import functools
from collections import deque
from collections.abc import Iterable, Iterator, Mapping, Sequence
from typing import Any, NamedTuple

from waka.core.access.permissions import Permissions
from waka.core.changes.origin import PlanMethod
from waka.core.changes.wire import LineRow
from waka.core.facts.values import name_value
from waka.core.names.drive_fields import BUILT_IN, DRIVE_FIELDS
from waka.core.names.fields import Party, Raw, Settings, Value
from waka.core.names.parse import PatternError
from waka.core.names.pattern import Pattern, compile_pattern
from waka.core.names.portable import split_extension
from waka.core.names.resolve import Register
from waka.core.names.rewrite import Old, Rewrite, Rewritten, compile_rewrite
from waka.core.plan.area_plan import AreaPlan, KindRule
from waka.store.postgres import parties, planning, plans
from waka.store.postgres.database import Connection
from waka.store.postgres.planning import Source
from waka.work.actor import PatternRefused
from waka.work.drive import area_settings, known_parties, name_settings
from waka.work.target_folders import Skipped

#: The steps from an area down to a folder: ids and names, the area first.
Chain = list[tuple[int, str]]


class DesiredPlace(NamedTuple):
    """Where a document shall go: below folder ``base`` through ``levels``, called ``stem``; ``note`` is worth telling.

    ``by_hand``: the name was typed, so that nobody has seen yet whether it is portable. ``besides``: lines of the same document
    that place nothing.
    """

    base: int
    levels: tuple[str, ...]
    stem: str
    note: Mapping[str, Any] | None = None
    by_hand: bool = False
    besides: tuple[LineRow, ...] = ()


def desired_places(
    conn: Connection,
    permissions: Permissions,
    way: PlanMethod,
    found: Sequence[Source],
    chains: Mapping[int, Chain],
    folder: int | None,
) -> list[DesiredPlace | Skipped]:
    """A desired place, or why there is none, for each of ``found``, which lie in or below ``folder`` where one is chosen.

    Raises PatternRefused.
    """
    if way.do == "merge":
        return [_merged(way, source, chains[source.parent], folder) for source in found]
    settings = name_settings(conn)
    known = known_parties(conn, permissions)
    rows = parties.parties(conn, permissions)
    register = Register([known[r["id"]] for r in rows], {r["name"]: r["aliases"] for r in rows})
    if way.do == "rewrite":
        return list(_rewritten(conn, way, found, chains, settings, register, known))
    return list(_by_pattern(conn, way, found, chains, settings, known))


def _merged(way: PlanMethod, source: Source, chain: Chain, folder: int | None) -> DesiredPlace | Skipped:
    depth = next((n for n, (step, _) in enumerate(chain) if step == folder), None)
    if depth is None or way.base is None:
        return Skipped("refused:merge")
    stem, _ = split_extension(source.name)
    return DesiredPlace(way.base, tuple(name for _, name in chain[depth + 1 :]), stem)


def check_patterns(way: PlanMethod) -> None:
    """Raise PatternRefused for a pattern of the way that cannot be."""
    for field, text in (("reads", way.reads), ("prints", way.prints)):
        if (way.do == "rewrite") or (way.do == "place" and field == "prints" and text):
            try:
                compile_pattern(text, joined=way.do == "rewrite" and field == "prints")
            except PatternError as error:
                raise PatternRefused(error, field) from error
    if way.do == "rewrite":
        try:
            compile_rewrite(way.reads, way.prints)
        except PatternError as error:
            raise PatternRefused(error, "prints") from error


def _facts(
    conn: Connection, found: Sequence[Source], fields: Sequence[str], known: Mapping[int, Party]
) -> dict[int, dict[str, Value | Raw]]:
    asked = [f for f in fields if f in DRIVE_FIELDS and f not in BUILT_IN]
    if not asked:
        return {}
    kept = planning.facts_of(conn, [s.document for s in found], asked)
    return {
        document: {f: v for f, told in facts.items() if (v := name_value(f, told, known)) is not None}
        for document, facts in kept.items()
    }


def _rewritten(
    conn: Connection, way: PlanMethod, found: Sequence[Source], chains: Mapping[int, Chain], settings: Settings,
    register: Register, known: Mapping[int, Party],
) -> Iterator[DesiredPlace | Skipped]:  # fmt: skip
    check_patterns(way)
    rewrite = compile_rewrite(way.reads, way.prints, language=settings.language)
    above = rewrite.levels - 1
    facts = _facts(conn, found, rewrite.asks_facts, known)
    asks = set(rewrite.prints.fields) & {"folder", "area"}

    parents = {source.parent for source in found}
    prefix = {f: "".join([f"{name}/" for _, name in chains[f][1:][-above:]]) if above else "" for f in parents}

    def old(source: Source) -> Old:
        stem = source.name[: -len(source.extension) - 1] if source.extension else source.name
        given: dict[str, Value | Raw] | None = facts.get(source.document)
        if asks:
            chain = chains[source.parent]
            given = {**(given or {}), "folder": chain[-1][1], "area": chain[0][1]}
        return Old(prefix[source.parent] + stem, source.extension, given)

    base = {f: chain[-1 - above][0] for f in parents if above < len(chain := chains[f])}
    applied = _applied(conn, rewrite, map(old, found), found, chains, settings, register)
    for source, done in zip(found, applied, strict=True):
        if source.parent not in base:
            depth = len(chains[source.parent]) - 1
            yield Skipped("misfit:levels", {"depth": depth, "needed": above})
            continue
        yield _wish(done, base[source.parent])


def _applied(
    conn: Connection, rewrite: Rewrite, olds: Iterable[Old], found: Sequence[Source], chains: Mapping[int, Chain],
    settings: Settings, register: Register,
) -> Iterator[Rewritten]:  # fmt: skip
    """What becomes of each name, by the settings of its area."""
    of = {
        area: area_settings(settings, plans.plan_of(conn, area))
        for area in {chains[f][0][0] for f in {source.parent for source in found}}
    }
    if len(set(of.values())) <= 1:
        yield from rewrite.apply(olds, next(iter(of.values()), settings), register)
        return
    # each of the areas' ways is asked for the next name when it is that one's turn, so that numbers run on in the list's order
    counts = rewrite.counts()
    waiting: dict[Settings, deque[Old]] = {asked: deque() for asked in of.values()}
    ways = {asked: rewrite.apply(_taken(queue), asked, register, counts) for asked, queue in waiting.items()}
    for old, source in zip(olds, found, strict=True):
        asked = of[chains[source.parent][0][0]]
        waiting[asked].append(old)
        yield next(ways[asked])


def _taken(queue: deque[Old]) -> Iterator[Old]:
    while queue:
        yield queue.popleft()


def _wish(done: Rewritten, base: int) -> DesiredPlace | Skipped:
    name = done.name
    if name is None:
        return _left(done)
    note: dict[str, Any] | None = None if done.reads_back else {"code": "reads otherwise"}
    if done.noted:
        note = {"code": "shortened", "fields": list(done.noted)}
    above, slash, stem = name.rpartition("/")
    return DesiredPlace(base, _levels(above) if slash else (), stem, note)


@functools.lru_cache(maxsize=1 << 10)
def _levels(above: str) -> tuple[str, ...]:
    """The levels of a path: many documents go to one folder, and share them."""
    return tuple(above.split("/"))


def _left(done: Rewritten) -> Skipped:
    if done.misfit is not None:
        return Skipped("misfit", {"expected": done.misfit.expected, "at": done.misfit.at + 1})
    if done.missing:
        return Skipped("missing", {"fields": list(done.missing), "missing": [m.split(" ")[0] for m in done.missing]})
    return Skipped("refused", {"reason": done.refused}) if done.refused else Skipped("refused:print")


def _by_pattern(
    conn: Connection, way: PlanMethod, found: Sequence[Source], chains: Mapping[int, Chain], settings: Settings,
    known: Mapping[int, Party],
) -> Iterator[DesiredPlace | Skipped]:  # fmt: skip
    check_patterns(way)
    by_area = {area: plans.plan_of(conn, area) for area in {chain[0][0] for chain in chains.values()}}
    fields = sorted(set(DRIVE_FIELDS) - set(BUILT_IN))
    borrowed = plans.plan_of(conn, way.borrow) if way.borrow is not None else AreaPlan()
    kinds = planning.facts_of(conn, [s.document for s in found], ["kind"])
    facts = _facts(conn, found, fields, known)
    for source in found:
        chain = chains[source.parent]
        stem, _ = split_extension(source.name)
        kind = kinds.get(source.document, {}).get("kind")
        area_plan = by_area[chain[0][0]]
        rule = area_plan.rule(str(kind)) or borrowed.rule(str(kind))
        given: dict[str, Value | Raw] = {
            **facts.get(source.document, {}), "name": stem, "folder": chain[-1][1], "area": chain[0][1],
        }  # fmt: skip
        if rule is None and (way.do == "plan" or not way.prints):
            yield _no_plan(chain[0], None if kind is None else str(kind))
            continue
        yield _printed(way, rule or KindRule(), source, chain, stem, given, area_settings(settings, area_plan))


def _no_plan(area: tuple[int, str], kind: str | None) -> Skipped:
    if kind is None:
        return Skipped("missing:kind", {"missing": ["kind"]})
    return Skipped("no pattern", {"kind": kind, "area": area[1], "gap": {"area": area[0], "kind": kind}})


def _printed(
    way: PlanMethod, rule: KindRule, source: Source, chain: Chain, stem: str, given: Mapping[str, Value | Raw],
    settings: Settings,
) -> DesiredPlace | Skipped:  # fmt: skip
    note: Mapping[str, Any] | None = None
    if way.do == "plan":
        name = _print(compile_pattern(rule.name, settings.language), given, settings, source.extension)
        if isinstance(name, Skipped):
            return name
        stem, note = name
        if not way.placing:
            return DesiredPlace(source.parent, (), stem, note)
    place = _print(
        compile_pattern(way.prints if way.do == "place" and way.prints else rule.place, settings.language),
        given,
        settings,
        "",
    )
    if isinstance(place, Skipped):
        return place
    base = way.base if way.do == "place" and way.base is not None else chain[0][0]
    return DesiredPlace(base, tuple(place[0].split("/")), stem, note)


def _print(
    pattern: Pattern, given: Mapping[str, Value | Raw], settings: Settings, extension: str
) -> tuple[str, Mapping[str, Any] | None] | Skipped:
    printed = pattern.print(given, settings, extension=extension)
    if printed.name is None:
        return _left(Rewritten(missing=printed.missing, refused=printed.refused))
    return printed.name, {"code": "changed", "fields": list(printed.noted)} if printed.noted else None
