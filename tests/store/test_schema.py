"""The schema: applied once, checked by hash, and the application's role cannot change what was written for good."""

import psycopg
import pytest

from tests.conftest import TestServer
from tests.work.planned import names, told
from tests.world import World
from waka.core.changes.kinds import DocumentId, EntryId, FolderId, Location, Place
from waka.core.changes.origin import Chosen, Origin, PlanMethod
from waka.store import schema
from waka.store.postgres.database import fetch_all
from waka.store.postgres.gate import lines
from waka.store.schema import SchemaProblem, apply_schema
from waka.work.gate import undo
from waka.work.manifests import lifecycle


def owner(app: str, server: TestServer) -> str:
    secrets = server.home.secrets()
    return app.replace("waka_app", "waka_owner").replace(secrets["app"], secrets["owner"])


def owner_of(world: World, server: TestServer) -> str:
    with world.drive.database.transaction() as conn:
        (name,) = fetch_all(conn, "SELECT current_database() AS name")
    return owner(server.home.conninfo(server.port).replace("dbname=waka", f"dbname={name['name']}"), server)


def test_applying_again_does_nothing_and_a_changed_step_is_refused(server: TestServer) -> None:
    with server.fresh() as conninfo:
        info = owner(conninfo, server)
        assert apply_schema(info) == []
        with psycopg.connect(info) as conn:
            conn.execute("UPDATE schema_step SET sha256 = 'x'")
        with pytest.raises(SchemaProblem, match="was changed after it was applied"):
            apply_schema(info)


def test_a_database_of_a_newer_waka_or_other_unicode_is_refused(server: TestServer) -> None:
    with server.fresh() as conninfo:
        info = owner(conninfo, server)
        with psycopg.connect(info) as conn:
            conn.execute("INSERT INTO schema_step (name, sha256) VALUES ('9999_later.sql', 'x')")
        with pytest.raises(SchemaProblem, match="newer Waka"):
            apply_schema(info)
        with psycopg.connect(info) as conn:
            conn.execute("DELETE FROM schema_step WHERE name LIKE '9999%'")
            conn.execute("UPDATE drive_setting SET value = '\"1.0\"' WHERE key = 'unicode'")
        with pytest.raises(SchemaProblem, match=r"Unicode 1\.0"):
            apply_schema(info)


@pytest.mark.parametrize(
    "statement",
    [
        "UPDATE manifest_line SET to_name = 'x'",
        "DELETE FROM manifest_line",
        "DELETE FROM manifest",
        "DELETE FROM document_trail",
        "UPDATE plan_revision SET plan = '{}'",
        "DELETE FROM outbox",
        "DROP TABLE entry",
        "CREATE TABLE mine (x int)",
    ],
)
def test_the_applications_role_cannot_rewrite_history(world: World, statement: str) -> None:
    with pytest.raises(psycopg.errors.InsufficientPrivilege), world.drive.database.transaction() as conn:
        conn.execute(statement.encode())


def test_a_first_place_bears_its_documents_number_and_another_where_that_is_taken(world: World) -> None:
    ((document, entry),) = world.file(world.yard, ["Keel.pdf"])
    assert entry == document
    waiting, free = world.arrived(2)
    # as in a drive of before, where places were numbered apart: this number is another place's already
    with world.drive.database.transaction() as conn:
        conn.execute("INSERT INTO entry (id, parent, name, key, document) VALUES (%s, %s, 'Mast.pdf', 'mast.pdf', %s)",
                     [waiting, world.yard, document])  # fmt: skip
        other, own = lines.first_places(conn, [waiting, free])
        assert own == free and other not in (waiting, free)
        found = conn.execute("SELECT id FROM document_place WHERE document = %s ORDER BY id", [document]).fetchall()
        assert [r["id"] for r in found] == [document, waiting]
        conn.execute("DELETE FROM entry WHERE id = %s", [waiting])


@pytest.mark.parametrize("indexed", [False, True])
def test_numbers_go_on_above_those_of_a_drive_that_numbered_documents_apart(server: TestServer, indexed: bool) -> None:
    with server.fresh() as conninfo:
        info = owner(conninfo, server)
        with psycopg.connect(info) as conn:
            conn.execute("DROP VIEW document_place; DROP INDEX entry_further; ALTER TABLE entry DROP issued, DROP size")
            conn.execute("ALTER TABLE entry_words DROP document; ALTER TABLE manifest DROP bytes, DROP progress_bytes")
            conn.execute("CREATE SEQUENCE document_id; CREATE INDEX entry_document ON entry (document)")
            conn.execute("SELECT setval('document_id', 4000), setval('entry_id', 900)")
            conn.execute("DELETE FROM schema_step WHERE name = '0003_places.sql'")
            if indexed:  # the second step did that itself for a while
                (also,) = schema._ALSO_APPLIED["0002_structure.sql"]
                conn.execute("UPDATE schema_step SET sha256 = %s WHERE name LIKE '0002%%'", [also])
            else:
                conn.execute("DROP INDEX search_row_newest; CREATE INDEX search_row_issued ON search_row (issued)")
        assert apply_schema(info) == ["0003_places.sql"]
        with psycopg.connect(info) as conn:
            assert conn.execute("SELECT nextval('entry_id')").fetchone() == (4001,)
            indexes = conn.execute("SELECT indexname FROM pg_indexes WHERE tablename = 'search_row'").fetchall()
            assert ("search_row_newest",) in indexes and ("search_row_issued",) not in indexes


def test_trails_of_before_are_taken_along(world: World, server: TestServer) -> None:
    document, entry = world.file(world.yard, ["Keel.pdf", "Mast.pdf"])[0]
    place = Place(
        EntryId(entry),
        Location(FolderId(world.yard), "Keel.pdf"),
        Location(FolderId(world.books), "Keel.pdf"),
        DocumentId(document),
    )
    world.do(place)
    lifecycle.plan(world.drive, world.keeper, Origin(Chosen(folder=world.books), PlanMethod("rewrite", "<a>", "x <a>")))
    info = owner_of(world, server)
    with psycopg.connect(info) as conn:
        had = conn.execute("SELECT * FROM document_trail ORDER BY 1, 2, 3").fetchall()
        conn.execute("DROP TABLE document_trail; DROP INDEX manifest_line_other; ALTER TABLE fold_due DROP next_line")
        conn.execute(
            "ALTER TABLE fold_due RENAME TO words_due; CREATE INDEX manifest_line_document ON manifest_line (document)"
        )
        conn.execute("DELETE FROM schema_step WHERE name = '0004_trail.sql'")
    assert apply_schema(info) == ["0004_trail.sql"]
    with psycopg.connect(info) as conn:
        assert conn.execute("SELECT * FROM document_trail ORDER BY 1, 2, 3").fetchall() == had and len(had) == 3
    world.check_whole()


def test_lines_of_before_learn_what_they_took_back(world: World, server: TestServer) -> None:
    filed = world.file(world.yard, ["Keel.pdf", "Mast.pdf"])
    done = world.do(
        *(
            Place(EntryId(e), Location(FolderId(world.yard), n), Location(FolderId(world.books), n), DocumentId(d))
            for (d, e), n in zip(filed, ("Keel.pdf", "Mast.pdf"), strict=True)
        )
    )
    undo.undo(world.drive.database, world.keeper, done.manifest, [1])
    way = PlanMethod("rewrite", "<a>", "x <a>")
    stopped = lifecycle.plan(world.drive, world.keeper, Origin(Chosen(folder=world.books), way))
    info = owner_of(world, server)
    with psycopg.connect(info) as conn:
        conn.execute("DROP VIEW line_undone; ALTER TABLE manifest_line DROP undoes")
        conn.execute("DELETE FROM schema_step WHERE name = '0005_undone_lines.sql'")
        # the fourth step took along what a stopped run had not done, for a while
        (also,) = schema._ALSO_APPLIED["0004_trail.sql"]
        conn.execute("UPDATE schema_step SET sha256 = %s WHERE name LIKE '0004%%'", [also])
        had = conn.execute("SELECT * FROM document_trail ORDER BY 1, 2, 3").fetchall()
        conn.execute("UPDATE manifest SET state = 'stopped' WHERE id = %s", [stopped])
        conn.execute("INSERT INTO document_trail VALUES (%s, %s, 0)", [filed[0][0], stopped])
    assert apply_schema(info) == ["0005_undone_lines.sql"]
    with psycopg.connect(info) as conn:
        assert conn.execute("SELECT * FROM document_trail ORDER BY 1, 2, 3").fetchall() == had
    assert [line[2] for line in told(world, done.manifest)] == ["done", "undone"]
    with pytest.raises(psycopg.errors.InsufficientPrivilege), world.drive.database.transaction() as conn:
        conn.execute("UPDATE manifest_line SET undoes = 0")


@pytest.mark.usefixtures("sums_kept")
def test_a_plan_of_before_whose_lines_were_not_added_up_runs(world: World, server: TestServer) -> None:
    world.file(world.yard, ["keel.pdf", "mast.pdf"])
    kept = lifecycle.plan(
        world.drive, world.keeper, Origin(Chosen(folder=world.yard), PlanMethod("rewrite", "<a>", "x <a>"))
    )
    info = owner_of(world, server)
    with psycopg.connect(info) as conn:
        conn.execute("DROP TRIGGER manifest_line_stays_there ON manifest_line; DROP TABLE line_sum")
        conn.execute("DELETE FROM schema_step WHERE name = '0009_sums.sql'")
    assert apply_schema(info) == ["0009_sums.sql"]
    lifecycle.run(world.drive, world.keeper, kept, partial=False)
    assert names(world) == ["x keel.pdf", "x mast.pdf"]
    with pytest.raises(psycopg.errors.InsufficientPrivilege), world.drive.database.transaction() as conn:
        conn.execute("UPDATE manifest_line SET to_name = 'x'")
    anew = lifecycle.plan(
        world.drive, world.keeper, Origin(Chosen(folder=world.yard), PlanMethod("rewrite", "x <a>", "<a>"))
    )
    with world.drive.database.transaction() as conn:
        (row,) = fetch_all(conn, "SELECT * FROM line_sum")
    assert (row["manifest"], row["lines"]) == (anew, 2)
