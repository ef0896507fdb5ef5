"""The log: one JSON line an event on standard error, with the request or job it belongs to."""

import contextlib
import json
import sys
from datetime import UTC, datetime
from typing import Any


def log(event: str, **facts: Any) -> None:
    """Write one event. ``facts`` are JSON values; the time is UTC (RFC 3339). What cannot be written is lost: a full disk ends nothing."""
    line = {"at": datetime.now(UTC).isoformat(timespec="milliseconds"), "event": event, **facts}
    with contextlib.suppress(OSError):
        sys.stderr.write(json.dumps(line, ensure_ascii=False, default=str) + "\n")
        sys.stderr.flush()
