"""The parent of reading children: started once with the libraries loaded, it forks a confined child for each content.

``python -I -m waka.readers.forkserver``: one JSON object a line on its input, ``{"task", "media", "content", "folder",
"deadline"}``; one a line on its output, ``{"status"}``: the child's exit status, negative for a signal, ``null`` where it was
stopped at its deadline (seconds). The child has nothing of the one before: it is a fresh copy of a parent that never reads.
"""

import json
import os
import select
import signal
import sys
import traceback
from pathlib import Path
from typing import Any, NoReturn

from waka.readers.child import confine, do


def _child(request: dict[str, Any]) -> NoReturn:
    """Become the child of one request: no terminal, no other files, an environment and a folder of its own."""
    status = 1
    try:
        os.setsid()
        folder = request["folder"]
        nothing = os.open(os.devnull, os.O_RDWR)
        told = os.open(Path(folder) / "errors", os.O_WRONLY | os.O_CREAT, 0o600)
        for wanted, had in ((0, nothing), (1, nothing), (2, told)):
            os.dup2(had, wanted)
        os.closerange(3, 1024)
        os.environ.clear()
        os.environ.update({"LANG": "C.UTF-8", "HOME": folder, "TMPDIR": folder})
        os.chdir(folder)
        confine(request["media"])
        do(request["task"], request["media"], request["content"], Path(folder), None)
        status = 0
    except BaseException:
        traceback.print_exc()
    finally:
        sys.stderr.flush()
        os._exit(status)


def _waited(child: int, deadline: float) -> int | None:
    """The child's exit status; None where it was stopped at its deadline, or as nobody is there any more who asked."""
    handle = os.pidfd_open(child)
    try:
        poll = select.poll()
        poll.register(handle, select.POLLIN)
        poll.register(sys.stdin, 0)  # hung up: whoever asked was killed
        ended = poll.poll(deadline * 1000)
        if any(one == handle for one, _ in ended):
            return os.waitstatus_to_exitcode(os.waitpid(child, 0)[1])
        os.kill(child, signal.SIGKILL)
        os.waitpid(child, 0)
        return None
    finally:
        os.close(handle)


def main() -> None:
    """Serve requests until the input ends."""
    # what reading most contents needs is loaded once, before any content is seen
    import waka.readers.content_type
    import waka.readers.einvoice
    import waka.readers.fact_finding
    import waka.readers.formats
    import waka.readers.mail
    import waka.readers.office
    import waka.readers.pdf

    waka.readers.content_type.media_type(b"its tables are loaded with the first bytes")
    waka.readers.fact_finding.warm_up()
    for line in sys.stdin:
        request = json.loads(line)
        child = os.fork()
        if child == 0:
            _child(request)
        sys.stdout.write(json.dumps({"status": _waited(child, request["deadline"])}) + "\n")
        sys.stdout.flush()


if __name__ == "__main__":
    main()
