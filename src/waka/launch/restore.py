"""Restoring a backup into a new home. Everything is checked by its hash; a restore that broke off is never taken for whole."""

import json
import shutil
import subprocess
from collections.abc import Callable
from pathlib import Path

import psycopg
from psycopg.types.json import Jsonb

from waka.launch import cluster
from waka.launch.backup import environment
from waka.launch.backup_folder import Backup, BackupFolder, copied, sha256_of
from waka.launch.home import Home, free_port
from waka.launch.part import Part
from waka.launch.trouble import Trouble
from waka.store.schema import apply_schema
from waka.words.office import happened

#: What is never restored: who was logged in, and where.
_FORGOTTEN = ("login_session", "known_browser", "one_time_link", "login_try", "worker")


def restore(folder: Path, home: Home, say: Callable[[str], None]) -> Backup:
    """Make ``home`` (which is empty, or not there) what the backup in ``folder`` holds; all sessions are ended.

    Trouble where the home is not empty, where the backup is not whole, and where anything in it is not what its hash says: then
    the home is removed again.
    """
    there = BackupFolder(folder.resolve())
    backup = there.read()
    if home.folder.exists() and any(home.folder.iterdir()):
        raise Trouble(f"The data folder {home.folder} is not empty.", "Choose a new one with --home DIR.")
    for path, digest in ((there.dump(backup.id), backup.records_sha256), (there.list(backup.id), backup.list_sha256)):
        if not path.exists() or sha256_of(path) != digest:
            raise Trouble(f"The backup is damaged: {path.name} is not what it was.", "Use another backup.")
    home.prepare()
    home.restoring.touch()
    try:
        _restore_contents(there, backup, home)
        if there.watched(backup.id).exists():
            shutil.copytree(there.watched(backup.id), home.watched, dirs_exist_ok=True)
        _restore_keys(there.keys(backup.id), home)
        _restore_records(there.dump(backup.id), home, backup.made_at)
    except BaseException as error:
        shutil.rmtree(home.folder, ignore_errors=True)
        if isinstance(error, OSError):
            raise Trouble(
                f"The restore broke off: {error.strerror}.", "See whether the disk has room, then try again."
            ) from error
        raise
    home.restoring.unlink()
    say(
        f"the backup of {backup.made_at} is in {home.folder}: {backup.contents:,} contents and the records; all sessions were ended"
    )
    return backup


def _restore_contents(there: BackupFolder, backup: Backup, home: Home) -> None:
    damaged = set(backup.damaged)
    for sha256, _ in there.needed(backup.id):
        if sha256 in damaged:
            continue
        source = there.content(sha256)
        if not source.exists():
            raise Trouble(f"The backup is damaged: the content {sha256[:12]} is missing.", "Use another backup.")
        if copied(source, home.contents / sha256[:2] / sha256[2:4] / sha256) != sha256:
            raise Trouble(
                f"The backup is damaged: the content {sha256[:12]} is not what its hash says.", "Use another backup."
            )


def _restore_keys(keys: Path, home: Home) -> None:
    """The keys that sealed secrets need; a backup of before there were any has none."""
    if keys.exists():
        home.put_secrets(home.secrets() | json.loads(keys.read_text(encoding="utf-8")))


def _restore_records(dump: Path, home: Home, made_at: str) -> None:
    """The records into a server of their own, brought up to this program's schema."""
    cluster.make_cluster(home)
    port = free_port()
    server = Part(
        "postgres", cluster.server_command(home, port), {"PATH": "/usr/bin:/bin", "LC_ALL": "C"}, cluster.STOP, 60.0
    )
    server.start(home)
    try:
        cluster.wait_for_server(home, port, server.process)
        cluster.make_empty_database(home, port)
        command = [
            str(cluster.binaries() / "pg_restore"),
            "--exit-on-error",
            "--single-transaction",
            "--no-owner",
            "--dbname=waka",
            str(dump),
        ]
        done = subprocess.run(command, env=environment(home, port, "waka"), capture_output=True, text=True, check=False)
        if done.returncode != 0:
            raise Trouble(f"The records could not be restored: {done.stderr.strip()[-300:]}", "Use another backup.")
        apply_schema(home.conninfo(port, "owner"))
        with psycopg.connect(home.conninfo(port, "owner")) as conn:
            conn.execute(f"TRUNCATE {', '.join(_FORGOTTEN)}".encode())
            told = Jsonb(dict(happened("restored", day=made_at)))
            conn.execute("INSERT INTO office_trail (what) VALUES (%s)", [told])
            conn.execute("ANALYZE")
    finally:
        server.ask_to_stop()
        server.wait_stopped()
