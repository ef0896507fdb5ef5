"""Backing up a Waka that runs: the records as they are at one moment, then every content that they need. People go on working."""

import json
import os
import shutil
import subprocess
import uuid
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path

import psycopg
from psycopg.types.json import Jsonb

from waka import VERSION
from waka.launch import cluster
from waka.launch.backup_folder import Backup, BackupFolder, copied, sha256_of
from waka.launch.home import KEYS, Home
from waka.launch.trouble import Trouble
from waka.words.office import happened

_TOLD = 20
#: What no version holds is swept sooner or later.
_NEEDED = """SELECT encode(sha256, 'hex'), size FROM content c WHERE state = 'present'
    AND EXISTS (SELECT FROM version v WHERE v.content = c.sha256) ORDER BY sha256"""


def back_up(home: Home, database_port: int, folder: Path, say: Callable[[str], None], *, check: bool = False) -> Backup:
    """Back up into ``folder``, which is empty or holds a backup (then only new contents are copied; ``check``: the others are
    read and compared too).

    A content file is never overwritten and the records name every one they need, so the records come first. The backup that is
    there stays the one that counts until this one is whole. Trouble where it cannot be made; ``damaged`` tells what the home
    itself lacks.
    """
    there = BackupFolder(folder.resolve())
    if there.root.is_relative_to(home.folder):
        raise Trouble(
            "A backup inside the data folder would be lost with it.", "Choose another folder, on another disk."
        )
    there.prepare()
    id_ = f"{datetime.now(UTC):%Y%m%dT%H%M%S}-{uuid.uuid4().hex[:6]}"
    try:
        made_at = datetime.now(UTC).isoformat(timespec="seconds")
        _dump(home, database_port, there, id_)
        _copy_keys(home, there, id_)
        new, size, damaged = _copy_contents(home, there, id_, check=check)
        _copy_watched(home, there, id_)
        contents = list(there.needed(id_))
        backup = Backup(
            id_, made_at, VERSION, sha256_of(there.dump(id_)), sha256_of(there.list(id_)), len(contents),
            sum(size for _, size in contents), tuple(damaged),
        )  # fmt: skip
        there.finish(backup)
        _note(home, database_port, made_at)
    except OSError as error:
        raise Trouble(
            f"The backup broke off: {error.strerror}. What was whole before still is.",
            f"See whether {folder} has room.",
        ) from error
    say(f"{len(contents):,} contents and the records are in {folder}; {new:,} were new ({size >> 20:,} MB)")
    return backup


def _dump(home: Home, port: int, there: BackupFolder, id_: str) -> None:
    """The records and the list of contents that they need, both as they are at one moment."""
    info = home.conninfo(port, "owner")
    with psycopg.connect(info) as conn:
        conn.execute("SET TRANSACTION ISOLATION LEVEL REPEATABLE READ, READ ONLY")
        row = conn.execute("SELECT pg_export_snapshot()").fetchone()
        with there.list(id_).open("w", encoding="ascii") as file:
            for sha256, size in conn.execute(_NEEDED):
                file.write(f"{sha256} {size}\n")
            file.flush()
            os.fsync(file.fileno())
        command = [
            str(cluster.binaries() / "pg_dump"),
            "--format=custom",
            f"--snapshot={row[0] if row else ''}",
            f"--file={there.dump(id_)}",
        ]
        done = subprocess.run(command, env=environment(home, port, "waka"), capture_output=True, text=True, check=False)
    if done.returncode != 0:
        raise Trouble(f"The records could not be copied: {done.stderr.strip()[-300:]}", "See whether the disk is full.")
    with there.dump(id_).open("rb") as dumped:
        os.fsync(dumped.fileno())


def _copy_keys(home: Home, there: BackupFolder, id_: str) -> None:
    secret = home.secrets()
    handle = os.open(there.keys(id_), os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
    with os.fdopen(handle, "w", encoding="utf-8") as file:
        json.dump({name: secret[name] for name in KEYS}, file)
        file.flush()
        os.fsync(file.fileno())


def _note(home: Home, port: int, made_at: str) -> None:
    """When the last backup was made: administrators see it, and are told where there is none."""
    with psycopg.connect(home.conninfo(port, "owner")) as conn:
        conn.execute(
            "INSERT INTO drive_setting VALUES ('last_backup', %s) ON CONFLICT (key) DO UPDATE SET value = excluded.value",
            [Jsonb(made_at)],
        )
        conn.execute("INSERT INTO office_trail (what) VALUES (%s)", [Jsonb(dict(happened("backup")))])


def environment(home: Home, port: int, database: str) -> dict[str, str]:
    """How PostgreSQL's programs reach a home's server: the password stands on no command line."""
    return {
        "PGHOST": "127.0.0.1", "PGPORT": str(port), "PGUSER": "waka_owner", "PGDATABASE": database,
        "PGPASSWORD": home.secrets()["owner"], "LC_ALL": "C", "PATH": "/usr/bin:/bin",
    }  # fmt: skip


def _copy_contents(home: Home, there: BackupFolder, id_: str, *, check: bool) -> tuple[int, int, list[str]]:
    """Copy what is not there yet, hash by hash; how many and how large it was, and what the home lacks or has damaged."""
    new, size, damaged = 0, 0, []
    for sha256, length in there.needed(id_):
        target = there.content(sha256)
        if target.exists() and target.stat().st_size == length and not (check and sha256_of(target) != sha256):
            continue
        source = home.contents / sha256[:2] / sha256[2:4] / sha256
        try:
            right = copied(source, target) == sha256
        except FileNotFoundError:
            right = False
        if not right:
            target.unlink(missing_ok=True)
            damaged.append(sha256)
            continue
        new, size = new + 1, size + length
    return new, size, damaged


def _copy_watched(home: Home, there: BackupFolder, id_: str) -> None:
    """What lies in the watched folders and was not taken yet, or was put away there. What goes meanwhile was taken."""
    for path in sorted(home.watched.rglob("*")):
        target = there.watched(id_) / path.relative_to(home.watched)
        if path.is_symlink():
            continue
        try:
            if path.is_dir():
                target.mkdir(parents=True, exist_ok=True)
            elif path.is_file():
                copied(path, target)
                shutil.copystat(path, target)
        except FileNotFoundError:
            continue


def describe_damage(backup: Backup) -> str:
    """The contents that a backup lacks, in words."""
    first = ", ".join(one[:12] for one in backup.damaged[:_TOLD])
    more = f" and {len(backup.damaged) - _TOLD} more" if len(backup.damaged) > _TOLD else ""
    return f"{len(backup.damaged)} contents are damaged or missing in the data folder itself: {first}{more}."
