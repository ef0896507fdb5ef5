"""ZIP directories under limits: how much there is of one is asked before it is taken into memory (APPNOTE 6.3.10, 4.3.12 to 4.3.16)."""

import contextlib
import lzma
import struct
import zipfile
import zlib
from collections.abc import Iterator
from pathlib import Path
from typing import BinaryIO

from waka.readers.outcome import Unreadable

MAX_ENTRIES = 100_000
#: An entry has 46 bytes and its name; of so many bytes, Python makes at most about 150 MB of objects.
MAX_DIRECTORY = 12 << 20
#: What reading a part of a damaged archive raises: by zipfile, by what unpacks, by what reads numbers and names.
BROKEN = (zipfile.BadZipFile, zipfile.LargeZipFile, zlib.error, lzma.LZMAError, EOFError, OSError, RuntimeError, ValueError, KeyError,
          IndexError, struct.error)  # fmt: skip
_END, _END64, _LOCATOR = b"PK\x05\x06", b"PK\x06\x06", b"PK\x06\x07"
_END_SIZE, _LOCATOR_SIZE, _END64_SIZE, _LONGEST_REMARK = 22, 20, 56, 65_535


def directory(file: BinaryIO) -> tuple[int, int]:
    """How many entries the directory of an archive has by its own word, and its size in bytes; Unreadable where there is none."""
    size = file.seek(0, 2)
    start = max(0, size - _END_SIZE - _LONGEST_REMARK)
    file.seek(start)
    tail = file.read()
    at = tail.rfind(_END)
    if at < 0 or len(tail) - at < _END_SIZE:
        raise Unreadable("archive damaged")
    entries, length = struct.unpack_from("<HI", tail, at + 10)
    # what stands in the larger record counts for whoever reads it: the larger of both is what may come
    file.seek(max(0, start + at - _LOCATOR_SIZE))
    if (locator := file.read(_LOCATOR_SIZE)).startswith(_LOCATOR) and len(locator) == _LOCATOR_SIZE:
        # zipfile looks for it right before its locator, whatever the locator says
        for where in (start + at - _LOCATOR_SIZE - _END64_SIZE, struct.unpack_from("<Q", locator, 8)[0]):
            if not 0 <= where < size:
                continue
            file.seek(where)
            record = file.read(_END64_SIZE)
            if record.startswith(_END64) and len(record) == _END64_SIZE:
                entries = max(entries, *struct.unpack_from("<QQ", record, 24))
                length = max(length, struct.unpack_from("<Q", record, 40)[0])
    return entries, length


@contextlib.contextmanager
def opened(path: str | Path) -> Iterator[zipfile.ZipFile]:
    """The archive, its directory read. Unreadable where it is damaged, or where its directory is larger than MAX_DIRECTORY."""
    with Path(path).open("rb") as file:
        entries, length = directory(file)
        if length > MAX_DIRECTORY or entries > MAX_ENTRIES:
            raise Unreadable("archive too long", entries=entries, bytes=length, most=MAX_ENTRIES)
        try:
            archive = zipfile.ZipFile(file)
        except BROKEN as error:
            raise Unreadable("archive damaged") from error
        with archive:
            yield archive
