"""Room on the disk: changes are refused in words before the records meet a full disk, which they would not survive."""

import shutil
from pathlib import Path

from waka.work.actor import Refused
from waka.work.drive import Drive

#: With less than that free nothing is changed any more: what is being written down comes to its end with it.
LEAST_FREE = 64 << 20


def _free(folder: Path) -> int:
    return shutil.disk_usage(folder).free


def check_room(drive: Drive, more: int = 0) -> None:
    """Refused (code ``disk``) where the drive's disk has no room for a change that brings ``more`` bytes."""
    free = _free(drive.contents.root)
    if free < LEAST_FREE + more:
        raise Refused(
            f"The disk is nearly full ({free >> 20:,} MB are free), so nothing can be changed or brought in. Make room, then try again.",
            code="disk",
        )


def has_room(drive: Drive) -> bool:
    """Whether there is room for work that nobody waits for in words."""
    return _free(drive.contents.root) >= LEAST_FREE
