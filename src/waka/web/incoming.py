"""Bodies of uploads as they come: what comes too slowly, or too many at once of one session, is ended, so that others have room."""

import contextlib
import socket
import threading
import time
from collections import Counter
from collections.abc import Iterator
from typing import IO

from werkzeug.exceptions import ClientDisconnected

from waka.work.actor import Refused

#: Uploads of one session that are taken at once.
MAX_AT_ONCE = 12
#: So many bytes have to come in so many seconds (about 200 bytes a second), or the upload is ended; what came of a part is kept.
STEP_BYTES, STEP_SECONDS = 16 << 10, 80.0
_LOOK_SECONDS = 1.0


class Incoming:
    """One upload's body. Reading gives what came; nothing more once it was ended."""

    def __init__(self, stream: IO[bytes], connection: socket.socket | None) -> None:
        self._stream, self._connection = stream, connection
        self.due = time.monotonic() + STEP_SECONDS
        self.too_slow = False

    def read(self, size: int) -> bytes:
        """At most ``size`` bytes; none at the end, where it broke off, and where it was ended."""
        self.due = time.monotonic() + STEP_SECONDS
        try:
            return b"" if self.too_slow else self._stream.read(min(size, STEP_BYTES))
        except (ClientDisconnected, OSError):
            return b""

    def end(self) -> None:
        """End it: whoever reads gets what came, and nothing more."""
        self.too_slow = True
        if self._connection is not None:
            with contextlib.suppress(OSError):
                self._connection.shutdown(socket.SHUT_RD)


class _Watch:
    """Looks after all uploads of this process, in a thread that is there while there are any."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._open: dict[Incoming, int] = {}
        self._thread: threading.Thread | None = None

    def add(self, one: Incoming, session: int) -> None:
        with self._lock:
            if Counter(self._open.values())[session] >= MAX_AT_ONCE:
                raise Refused(
                    f"{MAX_AT_ONCE} documents are being brought in by you at this moment. The next ones wait for these.",
                    code="busy",
                )
            self._open[one] = session
            if self._thread is None:
                self._thread = threading.Thread(target=self._look, name="uploads", daemon=True)
                self._thread.start()

    def remove(self, one: Incoming) -> None:
        with self._lock:
            self._open.pop(one, None)

    def _look(self) -> None:
        while True:
            time.sleep(_LOOK_SECONDS)
            with self._lock:
                if not self._open:
                    self._thread = None
                    return
                late = [one for one in self._open if time.monotonic() > one.due]
            for one in late:
                one.end()


_watch = _Watch()


@contextlib.contextmanager
def incoming(stream: IO[bytes], connection: socket.socket | None, session: int) -> Iterator[Incoming]:
    """The body of one request. Refused (``busy``) where the session has very many open; ended where it comes too slowly."""
    one = Incoming(stream, connection)
    _watch.add(one, session)
    try:
        yield one
    finally:
        _watch.remove(one)
