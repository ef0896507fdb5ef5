"""Sums that are kept of a manifest's lines: always what adding them up anew gives, or none."""

from collections.abc import Callable

import hypothesis.strategies as st
import pytest
from hypothesis import HealthCheck, given, settings

from tests.world import World
from waka.core.changes.batch import Problem
from waka.core.changes.wire import LineRow
from waka.store.postgres import manifests as store
from waka.store.postgres.database import Connection, execute, fetch_all
from waka.store.postgres.gate import lines, sums
from waka.store.postgres.gate.scope import Scope
from waka.words.manifests import title

pytestmark = pytest.mark.usefixtures("sums_kept")

_FOLDERS = st.none() | st.integers(1, 3)
_LINES = st.lists(
    st.builds(
        lambda kind, folder, was, to, problem: LineRow(kind, 7, folder, None, was, "a", to, "b", problem=problem),
        st.sampled_from(["place", "discard", "tag folder"]), st.none() | st.just(5), _FOLDERS, _FOLDERS, st.none() | st.just({"why": "so"}),
    ), min_size=1, max_size=12,
)  # fmt: skip


def _kept(conn: Connection, manifest: int) -> bool:
    return bool(fetch_all(conn, "SELECT FROM line_sum WHERE manifest = %s", [manifest]))


def _anew(conn: Connection, manifest: int) -> sums.Summary:
    """Added up line by line: a scope that ends is never answered by what is kept."""
    return sums.summary(conn, Scope(manifest, past=1_000))


def _written(world: World, conn: Connection, rows: list[LineRow]) -> int:
    manifest = lines.open_manifest(conn, title("given", text="Sums"), world.keeper.person, None)
    assert lines.write_rows(conn, manifest, rows) == len(rows)
    return manifest


@settings(max_examples=40, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(_LINES)
def test_kept_while_lines_are_written_they_are_what_adding_up_gives(world: World, rows: list[LineRow]) -> None:
    with world.drive.database.transaction() as conn:
        manifest = _written(world, conn, rows)
        assert _kept(conn, manifest) == any(row.problem is None for row in rows)
        assert sums.summary(conn, Scope(manifest)) == _anew(conn, manifest)


_PLACES = [LineRow("place", n, None, n, 1 + n % 2, f"{n}", 3, f"{n}") for n in range(4)]


@pytest.mark.parametrize(
    "change",
    [
        lambda conn, m: lines.mark_problems(conn, m, [Problem(1, "stale")]),
        lambda conn, m: execute(conn, "UPDATE manifest_line SET to_parent = 9 WHERE manifest = %s AND line = 2", [m]),
        lambda conn, m: execute(conn, "DELETE FROM manifest_line WHERE manifest = %s AND line = 2", [m]),
        lambda conn, m: lines.write_rows(conn, m, _PLACES[:1], first=len(_PLACES)),
    ],
)
def test_they_go_when_a_line_changes(world: World, change: Callable[[Connection, int], object]) -> None:
    with world.drive.database.transaction() as conn:
        manifest, other = _written(world, conn, _PLACES), _written(world, conn, _PLACES)
        before = sums.summary(conn, Scope(manifest))
        change(conn, manifest)
        assert not _kept(conn, manifest)
        assert sums.summary(conn, Scope(manifest)) == _anew(conn, manifest) != before
        assert _kept(conn, other)


def test_lines_written_anew_have_sums_of_their_own(world: World) -> None:
    with world.drive.database.transaction() as conn:
        manifest = _written(world, conn, _PLACES)
        store.clear_lines(conn, manifest)
        lines.write_rows(conn, manifest, _PLACES[:1])
        assert _kept(conn, manifest)
        assert sums.summary(conn, Scope(manifest)).counts == {("place", 1, 3): 1}


def test_none_are_kept_of_lines_that_others_stand_before_nor_of_very_many(
    world: World, monkeypatch: pytest.MonkeyPatch
) -> None:
    with world.drive.database.transaction() as conn:
        manifest = lines.open_manifest(conn, title("given", text="Sums"), world.keeper.person, None)
        lines.write_rows(conn, manifest, _PLACES, first=3)
        assert not _kept(conn, manifest)
        monkeypatch.setattr(sums, "_MOST", 1)
        manifest = _written(world, conn, _PLACES)
        assert not _kept(conn, manifest)
        assert sums.summary(conn, Scope(manifest)).counts == {("place", 1, 3): 2, ("place", 2, 3): 2}


def test_inverses_have_them_turned_round(world: World) -> None:
    with world.drive.database.transaction() as conn:
        manifest = _written(world, conn, _PLACES)
        lines.close_manifest(conn, manifest, "done", world.keeper.person, len(_PLACES))
        row = lines.lock_manifest(conn, manifest)
        assert row is not None
        for chosen, kept in ((None, True), ({0, 1}, False)):
            undoing = lines.open_manifest(conn, title("given", text="Undo: Sums"), world.keeper.person, None)
            lines.write_inverses(conn, row, undoing, chosen)
            assert _kept(conn, undoing) is kept
            assert sums.summary(conn, Scope(undoing)) == _anew(conn, undoing)
            assert {way[2] for way in sums.summary(conn, Scope(undoing)).counts} == {1, 2}
