"""Which moves of a list can be: against a plain model that moves names one state at a time."""

from hypothesis import given
from hypothesis import strategies as st

from waka.core.changes.settle import Clash, Move, free_first, settle

NAMES = "abcdef"


@st.composite
def drives(draw: st.DrawFn) -> tuple[dict[str, int], list[Move]]:
    """Some names held by entries, and moves of some of them (swaps, chains, cycles and clashes among them)."""
    held = {name: n for n, name in enumerate(draw(st.lists(st.sampled_from(NAMES), unique=True)), 1)}
    moving = draw(st.lists(st.sampled_from(sorted(held)), unique=True)) if held else []
    moves = [Move(held[name], (1, name), (1, draw(st.sampled_from(NAMES)))) for name in moving]
    return held, [m for m in moves if m.was != m.to]


@given(drives())
def test_what_is_let_through_leaves_no_two_under_one_name(drive: tuple[dict[str, int], list[Move]]) -> None:
    held, moves = drive
    clashes = settle(moves, {(1, name): entry for name, entry in held.items()})
    after = {entry: (1, name) for name, entry in held.items()}
    after |= {m.entry: m.to for n, m in enumerate(moves) if n not in clashes}
    assert len(set(after.values())) == len(after)


@given(drives())
def test_only_what_must_be_is_held_back(drive: tuple[dict[str, int], list[Move]]) -> None:
    held, moves = drive
    clashes = settle(moves, {(1, name): entry for name, entry in held.items()})
    stays = {m.entry for n, m in enumerate(moves) if n in clashes} | (set(held.values()) - {m.entry for m in moves})
    where = {(1, name): entry for name, entry in held.items()}
    for n, clash in clashes.items():
        if clash.line is not None:
            assert clash.line < n and moves[clash.line].to == moves[n].to
        else:
            assert clash.entry in stays and where[moves[n].to] == clash.entry


def test_swaps_cycles_and_chains_work_and_a_chain_whose_end_stays_does_not() -> None:
    a, b, c, d = (1, "a"), (1, "b"), (1, "c"), (1, "d")
    held = {a: 1, b: 2, c: 3}
    assert settle([Move(1, a, b), Move(2, b, a)], held) == {}
    assert settle([Move(1, a, b), Move(2, b, c), Move(3, c, a)], held) == {}
    assert settle([Move(1, a, b), Move(2, b, c), Move(3, c, d)], held) == {}
    assert settle([Move(1, a, b), Move(2, b, c)], held) == {1: Clash(None, 3), 0: Clash(None, 2)}
    assert settle([Move(1, a, d), Move(2, b, d)], held) == {1: Clash(0, None)}


@given(st.permutations(range(8)), st.integers(1, 8))
def test_in_the_order_given_each_name_is_free_when_it_is_taken(order: list[int], count: int) -> None:
    # entry n stands at spot n and goes to another's, so that chains and circles come about
    moves = [Move(n, (1, str(n)), (1, str(order[n]))) for n in range(count)]
    held = {(1, str(n)): n for n in range(count)}
    done = free_first(moves, held)
    assert sorted(done) == list(range(count))
    circles: set[frozenset[int]] = set()
    for n in range(count):  # entries in a circle wait for each other, whatever the order
        way = [n]
        while (at := held.get(moves[way[-1]].to)) is not None and at not in way:
            way.append(at)
        if at == n:
            circles.add(frozenset(way))
    for circle in circles:
        places = [done.index(n) for n in circle]
        assert max(places) - min(places) == len(circle) - 1, "a circle stands side by side"
    standing = dict(held)
    for n in done:
        if not any(n in circle for circle in circles):
            assert moves[n].to not in standing, f"{moves[n]} comes too early in {done}"
        standing.pop(moves[n].was, None)
        standing[moves[n].to] = n


def test_a_list_that_works_as_it_is_keeps_its_order() -> None:
    moves = [Move(1, (1, "a"), (1, "z")), Move(2, (1, "b"), (1, "a")), Move(3, (1, "c"), (1, "b"))]
    held = {(1, "a"): 1, (1, "b"): 2}
    assert free_first(moves, held) == [0, 1, 2]
    assert free_first(moves[::-1], held) == [2, 1, 0]
