"""Lines in the text format of COPY: what PostgreSQL reads is what was written, whatever stands in the names."""

import hypothesis.strategies as st
from hypothesis import HealthCheck, given, settings

from tests.world import World
from waka.core.changes.wire import LineRow
from waka.store.postgres.database import fetch_all
from waka.store.postgres.gate import copy_text, lines
from waka.words.manifests import title

_NUMBERS = st.none() | st.integers(1, 2**62)
_TEXTS = st.none() | st.sampled_from(["\\N", "None", "a\tb", "c\nd", "\r", "\\", "x\\ty", "\\."]) | st.text(
    st.characters(exclude_categories=["Cs"], exclude_characters="\0"), min_size=1, max_size=8
)  # fmt: skip
_DATA = st.none() | st.dictionaries(
    st.sampled_from(["note", "told"]), st.text(st.characters(exclude_categories=["Cs"], exclude_characters="\0"))
)
_ROWS = st.builds(
    LineRow, st.sampled_from(["place", "place", "absorb"]), _NUMBERS, _NUMBERS, _NUMBERS, _NUMBERS, _TEXTS, _NUMBERS, _TEXTS,
    _TEXTS, _DATA, _DATA, _TEXTS, st.none() | st.integers(0, 2**31 - 1),
)  # fmt: skip
#: As planning makes them, but for what stands in the names.
_PLACED = st.builds(
    lambda was, to, keys: LineRow("place", 7, None, 8, 2, was or "was", 3, to or "to", *(keys, None, None, keys)),
    _TEXTS, _TEXTS, _TEXTS,
)  # fmt: skip


@settings(max_examples=40, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.lists(_ROWS | _PLACED, max_size=30))
def test_what_is_written_is_read_back(world: World, rows: list[LineRow]) -> None:
    with world.drive.database.transaction() as conn:
        manifest = lines.open_manifest(conn, title("given", text="Odd names"), world.keeper.person, None)
        assert lines.write_rows(conn, manifest, rows, first=3) == len(rows)
        kept = fetch_all(conn, "SELECT * FROM manifest_line WHERE manifest = %s ORDER BY line", [manifest])
    assert [row["line"] for row in kept] == list(range(3, 3 + len(rows)))
    assert [LineRow(*(row[column] for column in LineRow._fields)) for row in kept] == rows


def test_long_lists_go_in_blocks_numbered_through() -> None:
    rows = [LineRow("place", n, None, n, 1, f"{n}.pdf", 2, f"{n}.pdf") for n in range(4_001)]
    rows[2_500] = rows[2_500]._replace(from_name="a\tb.pdf")
    blocks = list(copy_text.blocks(9, 10, rows))
    assert [len(block.columns[0]) for block in blocks] == [2_000, 2_000, 1]
    told = "".join(block.text for block in blocks).splitlines()
    assert [line.split("\t")[:2] for line in told] == [["9", str(n)] for n in range(10, 4_011)]
    assert told[2_500].split("\t")[blocks[0].filled.index("from_name")] == "a\\tb.pdf"


def test_a_block_has_the_columns_that_some_line_of_it_fills(world: World) -> None:
    rows = [LineRow("place", n, None, n, 1, f"{n}.pdf", 2, f"{n}.pdf") for n in range(4_500)]
    rows[2_000] = rows[2_000]._replace(problem={"why": "left out"}, key="k")
    first, second, third = copy_text.blocks(9, 0, rows)
    assert set(second.filled) - set(first.filled) == {"problem", "key"}
    assert third.filled == first.filled
    assert {len(line.split("\t")) for line in first.text.splitlines()} == {len(first.filled)}
    with world.drive.database.transaction() as conn:
        manifest = lines.open_manifest(conn, title("given", text="Blocks"), world.keeper.person, None)
        assert lines.write_rows(conn, manifest, rows) == len(rows)
        kept = fetch_all(
            conn, "SELECT line, key, problem FROM manifest_line WHERE manifest = %s ORDER BY line", [manifest]
        )
    assert [row["line"] for row in kept] == list(range(len(rows)))
    assert [tuple(row.values()) for row in kept if row["problem"] or row["key"]] == [(2_000, "k", {"why": "left out"})]
