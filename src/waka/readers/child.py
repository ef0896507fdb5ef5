"""The child process in which contents are read: ``python -I -m waka.readers.child TASK CONTENT OUT``.

It drops what it does not need before it touches the content: new privileges, the network where the kernel allows,
memory and time beyond its limits. Its answer is a JSON file ``answer`` and pictures ``<page>.webp`` in the folder OUT.
"""

import ctypes
import json
import os
import resource
import sys
from pathlib import Path

MEMORY_LIMIT = 1 << 30
CPU_SECONDS = 40
FILE_LIMIT = 256 << 20
_PR_SET_NO_NEW_PRIVS = 38
_CLONE_NEWUSER, _CLONE_NEWNET = 0x10000000, 0x40000000


def confine() -> None:
    """Set the limits of this process; they cannot be raised again."""
    libc = ctypes.CDLL(None, use_errno=True)
    libc.unshare(_CLONE_NEWUSER | _CLONE_NEWNET)  # not every kernel allows it; the other limits stand regardless
    libc.prctl(_PR_SET_NO_NEW_PRIVS, 1, 0, 0, 0)
    for what, limit in (
        (resource.RLIMIT_AS, MEMORY_LIMIT),
        (resource.RLIMIT_CPU, CPU_SECONDS),
        (resource.RLIMIT_FSIZE, FILE_LIMIT),
        (resource.RLIMIT_CORE, 0),
        (resource.RLIMIT_NPROC, 0),
    ):
        resource.setrlimit(what, (limit, limit))
    os.nice(5)


def read(content: str, out: Path) -> dict[str, object]:
    """Read a PDF whole; pictures of its first pages are made as well."""
    from waka.readers import outcome, pdf

    try:
        document = pdf.open_pdf(content)
        pages: list[dict[str, float]] = []
        words: list[list[list[object]]] = []
        total = 0
        for number in range(1, len(document) + 1):
            page = document[number - 1]
            width, height = page.get_size()
            pages.append({"width": round(width, 1), "height": round(height, 1)})
            # a document of endless words is read as far as anybody would read it
            words.append(pdf.page_words(page) if total < outcome.MAX_WORDS else [])
            total += len(words[-1])
            page.close()
        answer: dict[str, object] = {"pages": pages, "words": words, "properties": pdf.properties(document)}
        for number in range(1, min(len(document), outcome.MAX_PICTURES) + 1):
            (out / f"{number}.webp").write_bytes(pdf.picture(document, number))
    except pdf.Unreadable as unreadable:
        return {"problem": str(unreadable)}
    return answer


def draw(content: str, out: Path, number: int) -> dict[str, object]:
    """Make the picture of one page."""
    from waka.readers import pdf

    try:
        (out / f"{number}.webp").write_bytes(pdf.picture(pdf.open_pdf(content), number))
    except pdf.Unreadable as unreadable:
        return {"problem": str(unreadable)}
    return {}


def main(arguments: list[str]) -> None:
    """Do one task: ``read`` or ``draw:<page>``."""
    task, content, folder = arguments
    out = Path(folder)
    # imported before the limits: libraries map more address space than a small document needs
    import waka.readers.pdf  # noqa: F401

    confine()
    answer = read(content, out) if task == "read" else draw(content, out, int(task.partition(":")[2]))
    (out / "answer").write_text(json.dumps(answer), encoding="utf-8")


if __name__ == "__main__":
    main(sys.argv[1:])
