"""What a backup is on disk: the records as one dump, contents by their hashes, the watched folders, and what says that it is whole.

backup.json          names the dump, its hash, how many contents; written last, in one step: without it there is no backup
records/<id>.dump    PostgreSQL's custom format
records/<id>.list    the contents that these records need: SHA-256 and size, a line each
records/<id>.keys    the keys that sealed what must be read again (JSON): whoever has the backup has these, so guard it
content/ab/cd/<sha>  as in the home
watched/<id>/        what lay in the watched folders
"""

import hashlib
import json
import os
import shutil
from collections.abc import Iterator
from dataclasses import asdict, dataclass
from pathlib import Path

from waka.launch.trouble import Trouble
from waka.store.content.files import sync_folder

_CHUNK = 1 << 20


@dataclass(frozen=True)
class Backup:
    """A backup that is whole. ``made_at``: UTC, ISO 8601; ``damaged``: contents that were damaged or missing in the home already."""

    id: str
    made_at: str
    version: str
    records_sha256: str
    list_sha256: str
    contents: int
    bytes: int
    damaged: tuple[str, ...] = ()


@dataclass(frozen=True)
class BackupFolder:
    """The folder of a backup."""

    root: Path

    @property
    def mark(self) -> Path:
        """What says that the backup is whole."""
        return self.root / "backup.json"

    def dump(self, id_: str) -> Path:
        """The records of a backup."""
        return self.root / "records" / f"{id_}.dump"

    def list(self, id_: str) -> Path:
        """The contents that a backup needs."""
        return self.root / "records" / f"{id_}.list"

    def keys(self, id_: str) -> Path:
        """What the sealed secrets in the records need (second factors), and the hashes of programs' passwords."""
        return self.root / "records" / f"{id_}.keys"

    def watched(self, id_: str) -> Path:
        """What lay in the watched folders."""
        return self.root / "watched" / id_

    def content(self, sha256: str) -> Path:
        """Where a content stands, by the hexadecimal digits of its hash."""
        return self.root / "content" / sha256[:2] / sha256[2:4] / sha256

    def prepare(self) -> None:
        """Make the folder, for its owner alone. Trouble where it cannot be, or holds something else."""
        try:
            self.root.mkdir(parents=True, exist_ok=True)
            others = {p.name for p in self.root.iterdir()} - {"backup.json", "records", "content", "watched"}
            self.root.chmod(0o700)
            for name in ("records", "content", "watched"):
                (self.root / name).mkdir(exist_ok=True)
        except OSError as error:
            raise Trouble(
                f"The folder {self.root} cannot be written to: {error.strerror}.",
                "Choose another, or let the user who runs Waka write to it.",
            ) from error
        if others:
            raise Trouble(
                f"The folder {self.root} holds other things ({', '.join(sorted(others)[:3])}).",
                "Choose an empty folder, or one that holds a backup.",
            )

    def read(self) -> Backup:
        """The backup that is whole here; Trouble where there is none."""
        try:
            told = json.loads(self.mark.read_text(encoding="utf-8"))
            return Backup(**{**told, "damaged": tuple(told["damaged"])})
        except FileNotFoundError as error:
            what = "a backup that broke off" if (self.root / "records").is_dir() else "no backup"
            raise Trouble(f"{self.root} holds {what}.", "Make a backup there: ./waka backup DIR.") from error
        except (OSError, ValueError, TypeError, KeyError) as error:
            raise Trouble(f"{self.mark} cannot be read; it is damaged.", "Use another backup.") from error

    def finish(self, backup: Backup) -> None:
        """Say that a backup is whole; from now on it is this one. What only the ones of before needed goes."""
        beside = self.root / "backup.json.new"
        with beside.open("w", encoding="utf-8") as file:
            json.dump(asdict(backup), file, indent=1)
            file.flush()
            os.fsync(file.fileno())
        beside.replace(self.mark)
        sync_folder(self.root)
        for old in [*(self.root / "records").iterdir(), *(self.root / "watched").iterdir()]:
            if old.name.partition(".")[0] != backup.id:
                shutil.rmtree(old) if old.is_dir() else old.unlink()

    def needed(self, id_: str) -> Iterator[tuple[str, int]]:
        """The contents that a backup needs: hash and size."""
        with self.list(id_).open(encoding="ascii") as file:
            for line in file:
                sha256, _, size = line.strip().partition(" ")
                yield sha256, int(size)


def copied(source: Path, target: Path) -> str:
    """Copy a file, flushed to disk and put into its place in one step; the SHA-256 of what was copied."""
    digest = hashlib.sha256()
    target.parent.mkdir(parents=True, exist_ok=True)
    beside = target.with_name(f"{target.name}.new")
    with source.open("rb") as read, beside.open("wb") as written:
        while chunk := read.read(_CHUNK):
            digest.update(chunk)
            written.write(chunk)
        written.flush()
        os.fsync(written.fileno())
    beside.replace(target)
    return digest.hexdigest()


def sha256_of(path: Path) -> str:
    """The SHA-256 of a file."""
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()
