"""A worker process for a test: its leases are short, and what it reads takes as long as the test says."""

import sys
import time
from pathlib import Path
from unittest.mock import patch

from tests.conftest import drive_in
from waka.jobs.worker import run_worker
from waka.readers import sandbox
from waka.store.postgres.database import Database

conninfo, slot, folder, slow, lease = (
    sys.argv[1],
    sys.argv[2],
    Path(sys.argv[3]),
    float(sys.argv[4]),
    float(sys.argv[5]),
)
read = sandbox.read_content


def slowly(*given: object, **more: object) -> object:
    """Reads, says so, and takes its time before it gives what it read."""
    reading = read(*given, **more)  # type: ignore[arg-type]
    (folder / f"{slot}.reading").touch()
    time.sleep(slow)
    return reading


with patch.object(sandbox, "read_content", slowly):
    run_worker(drive_in(Database(conninfo, size=8), folder), slot=slot, threads=1, lease_seconds=lease)
