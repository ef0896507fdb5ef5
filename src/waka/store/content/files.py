"""Content files in a local folder: ``ab/cd/<sha256>``, written beside, flushed to disk, then renamed; never overwritten."""

import contextlib
import fcntl
import hashlib
import os
import uuid
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import BinaryIO, Protocol

_CHUNK = 1 << 20


class Bytes(Protocol):
    """Where bytes come from."""

    def read(self, size: int, /) -> bytes:
        """At most ``size`` bytes; none at the end."""
        ...


class BrokenOff(Exception):
    """The bytes that came are not as many as were announced."""

    def __init__(self, announced: int, came: int) -> None:
        super().__init__(f"{came:,} of {announced:,} bytes came")
        self.announced, self.came = announced, came


class NotThere(Exception):
    """Another part of an upload was expected: ``here`` bytes are here."""

    def __init__(self, here: int) -> None:
        super().__init__(f"{here:,} bytes are here")
        self.here = here


class ContentDamaged(Exception):
    """A content file is missing or no longer what its hash says."""


@dataclass(frozen=True)
class Staged:
    """Bytes that were received whole and wait to be published: the temporary file, its hash and size, its first bytes."""

    path: Path
    sha256: bytes
    size: int
    head: bytes


class ContentFiles:
    """The folder of content files. Everything in it is named by its SHA-256."""

    def __init__(self, root: Path) -> None:
        self.root = root
        self._staging = root / "staging"
        self._staging.mkdir(parents=True, exist_ok=True)
        self._parts = root / "parts"

    def path(self, sha256: bytes) -> Path:
        """Where the content with this hash stands."""
        name = sha256.hex()
        return self.root / name[:2] / name[2:4] / name

    def stage(self, stream: Bytes, announced: int) -> Staged:
        """Receive ``announced`` bytes; raises BrokenOff (and leaves nothing) where fewer come."""
        path = self._staging / uuid.uuid4().hex
        digest, size, head = hashlib.sha256(), 0, b""
        try:
            with path.open("xb") as file:
                while size < announced:
                    chunk = stream.read(min(_CHUNK, announced - size))
                    if not chunk:
                        raise BrokenOff(announced, size)
                    head = head or chunk[:4096]
                    digest.update(chunk)
                    size += len(chunk)
                    file.write(chunk)
                file.flush()
                os.fsync(file.fileno())
        except BaseException:
            path.unlink(missing_ok=True)
            raise
        return Staged(path, digest.digest(), size, head)

    def append(self, key: str, at: int, stream: Bytes, length: int) -> int:
        """Add up to ``length`` bytes to the part ``key``, of which ``at`` bytes are here already; how many are here then.

        What comes is kept even where the stream breaks off. Raises NotThere where not exactly ``at`` bytes are here.
        """
        path = self._parts / key
        self._parts.mkdir(exist_ok=True)
        with path.open("ab") as file:
            try:  # two senders of one part would mix their bytes
                fcntl.flock(file, fcntl.LOCK_EX | fcntl.LOCK_NB)
            except BlockingIOError as error:
                raise NotThere(path.stat().st_size) from error
            here = file.seek(0, os.SEEK_END)
            if here != at:
                raise NotThere(here)
            came = 0
            while came < length:
                chunk = stream.read(min(_CHUNK, length - came))
                if not chunk:
                    break
                file.write(chunk)
                came += len(chunk)
            file.flush()
            os.fsync(file.fileno())
        return here + came

    def part_size(self, key: str) -> int:
        """How many bytes of the part ``key`` are here; none where there is no such part."""
        path = self._parts / key
        return path.stat().st_size if path.exists() else 0

    @contextlib.contextmanager
    def whole_part(self, key: str) -> Iterator[BinaryIO]:
        """A part that is whole, for reading; it is gone afterwards unless reading it failed."""
        path = self._parts / key
        with path.open("rb") as file:
            yield file
        path.unlink(missing_ok=True)

    def publish(self, staged: Staged) -> None:
        """Put a staged file into its place, unless the same bytes stand there. Call it under the content row's lock."""
        target = self.path(staged.sha256)
        if target.exists():
            staged.path.unlink(missing_ok=True)
            return
        for folder in (target.parent.parent, target.parent):
            folder.mkdir(exist_ok=True)
        staged.path.rename(target)
        for folder in (target.parent, target.parent.parent, self.root):
            sync_folder(folder)

    def drop(self, staged: Staged) -> None:
        """Forget a staged file."""
        staged.path.unlink(missing_ok=True)

    def remove(self, sha256: bytes) -> None:
        """Remove a content file. Call it under the content row's lock."""
        self.path(sha256).unlink(missing_ok=True)

    def open(self, sha256: bytes) -> BinaryIO:
        """The content for reading; ContentDamaged where the file is gone."""
        try:
            return self.path(sha256).open("rb")
        except FileNotFoundError as error:
            raise ContentDamaged(f"the content {sha256.hex()[:12]}… is missing from the store") from error

    def forget_staging(self, older_than_seconds: float, now: float) -> int:
        """Remove staged files left by crashes; how many. ``now`` is seconds since the epoch."""
        removed = 0
        for path in self._staged_files():
            with contextlib.suppress(FileNotFoundError):
                if now - path.stat().st_mtime > older_than_seconds:
                    path.unlink()
                    removed += 1
        return removed

    def _staged_files(self) -> Iterator[Path]:
        yield from self._staging.iterdir()

    def forget_parts(self, older_than_seconds: float, now: float) -> int:
        """Remove parts of uploads that nobody went on with; how many."""
        removed = 0
        for path in self._parts.iterdir() if self._parts.exists() else ():
            with contextlib.suppress(FileNotFoundError):
                if now - path.stat().st_mtime > older_than_seconds:
                    path.unlink()
                    removed += 1
        return removed


def sync_folder(folder: Path) -> None:
    """Flush a folder's names to disk."""
    handle = os.open(folder, os.O_RDONLY | os.O_DIRECTORY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)
