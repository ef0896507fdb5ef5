"""Collisions of a whole list: which targets are free once everything that moves has moved."""

from collections.abc import Mapping, Sequence
from typing import NamedTuple

#: A folder's id and an entry key in it.
Where = tuple[int, str]


class Move(NamedTuple):
    """An entry, where it is and where it shall be."""

    entry: int
    was: Where
    to: Where


class Clash(NamedTuple):
    """Why a move cannot be: ``line`` of the list wants the same name before it, or ``entry`` holds it and stays."""

    line: int | None
    entry: int | None


def settle(moves: Sequence[Move], held: Mapping[Where, int]) -> dict[int, Clash]:
    """The moves (by their place in the list) that cannot be done, each with why.

    ``held`` says which entry is at each wanted place now. Swaps, cycles and chains work; of two moves to one name the
    first is done. What cannot move stays where it is, and so may hold the place of another.
    """
    moving = {move.entry: n for n, move in enumerate(moves)}
    first: dict[Where, int] = {}
    clashes: dict[int, Clash] = {}
    blocked: list[int] = []
    for n, move in enumerate(moves):
        earlier = first.setdefault(move.to, n)
        holder = held.get(move.to)
        if earlier != n:
            clashes[n] = Clash(earlier, None)
        elif holder is not None and holder != move.entry and holder not in moving:
            clashes[n] = Clash(None, holder)
        else:
            continue
        blocked.append(n)
    while blocked:
        stays = moves[blocked.pop()]
        rival = first.get(stays.was)
        if rival is not None and rival not in clashes and moves[rival].entry != stays.entry:
            clashes[rival] = Clash(None, stays.entry)
            blocked.append(rival)
    return clashes


def free_first(moves: Sequence[Move], held: Mapping[Where, int]) -> list[int]:
    """An order of the moves, as their places in the list, in which they can be done one after another.

    A name is free before another takes it; moves in a circle stand side by side. The list's own order where it will do.
    """
    if not held:
        return list(range(len(moves)))
    moving = {move.entry: n for n, move in enumerate(moves)}
    needs = {n: moving[h] for n, m in enumerate(moves) if (h := held.get(m.to)) in moving and h != m.entry}
    if all(first < n for n, first in needs.items()):
        return list(range(len(moves)))
    order: list[int] = []
    placed: set[int] = set()
    for n in range(len(moves)):
        way: list[int] = []
        at: int | None = n
        while at is not None and at not in placed:
            placed.add(at)
            way.append(at)
            at = needs.get(at)
        order += reversed(way)
    return order
