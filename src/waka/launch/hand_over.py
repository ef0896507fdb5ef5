"""Hands files over to the system user as copies: root reads them, Waka never runs as root.

``python -m waka.launch.hand_over SPOOL [FOLDER]``: lines of ``waka facts`` from standard input (or one for each file of a folder) go
to standard output with the path of a copy in SPOOL; who reads it removes it. Needs nothing beside Python's own packages.
"""

import json
import os
import shutil
import sys
from collections.abc import Iterator
from pathlib import Path

#: Names the folder of copies to who reads them.
SPOOL = "WAKA_SPOOL"


def handed_over(line: bytes, spool: Path, number: int) -> bytes:
    """The line with a copy's path; as it is where it names no file that can be read (``waka facts`` says what is wrong)."""
    try:
        asked = json.loads(line.decode("utf-8"))
        path = Path(asked["file"])
        if not path.is_file():
            return line
        copy = spool / f"{number}{path.suffix[:12]}"
        shutil.copyfile(path, copy)
    except (ValueError, KeyError, TypeError, RecursionError, OSError):
        return line
    owner = spool.stat()
    os.chown(copy, owner.st_uid, owner.st_gid)
    return json.dumps({**asked, "file": str(copy), "name": str(path)}).encode()


def lines_of(folder: Path) -> Iterator[bytes]:
    """A line for every file in a folder and below it, in the order of their paths; hidden ones are left out."""
    for path in sorted(folder.rglob("*")):
        if path.is_file() and not any(part.startswith(".") for part in path.relative_to(folder).parts):
            yield json.dumps({"file": str(path)}).encode()


def main() -> None:
    """Hand over every line."""
    spool = Path(sys.argv[1])
    lines = lines_of(Path(sys.argv[2])) if len(sys.argv) > 2 else iter(sys.stdin.buffer.readline, b"")
    for number, line in enumerate(lines):
        if line.strip():
            sys.stdout.buffer.write(handed_over(line.strip(), spool, number) + b"\n")
            sys.stdout.buffer.flush()


if __name__ == "__main__":
    main()
