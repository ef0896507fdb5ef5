"""The schema: applied once, checked by hash, and the application's role cannot change what was written for good."""

import psycopg
import pytest

from tests.conftest import TestServer
from tests.world import World
from waka.store.postgres.database import fetch_all
from waka.store.schema import SchemaProblem, apply_schema


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


def test_a_first_place_bears_its_documents_number(world: World) -> None:
    filed = world.file(world.yard, ["Keel.pdf", "Mast.pdf"])
    assert [entry for _, entry in filed] == [document for document, _ in filed]
    assert not set(world.ids(4)[1]) & {document for document, _ in filed}, "both draw from one sequence"


def test_a_drive_from_before_the_first_release_is_refused_and_left_as_it_is(server: TestServer) -> None:
    with server.fresh() as conninfo:
        info = owner(conninfo, server)
        with psycopg.connect(info) as conn:
            conn.execute("UPDATE schema_step SET name = '0001_frame.sql' WHERE name = '0001'")
            had = conn.execute("SELECT * FROM schema_step").fetchall()
        with pytest.raises(SchemaProblem, match="before its first release"):
            apply_schema(info)
        with psycopg.connect(info) as conn:
            assert conn.execute("SELECT * FROM schema_step").fetchall() == had
