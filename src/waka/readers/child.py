"""The child process in which contents are read: ``python -I -m waka.readers.child TASK MEDIA CONTENT OUT``.

It drops what it does not need before it touches the content: new privileges, the network where the kernel allows,
memory and time beyond its limits. Its answer is a JSON file ``answer`` and pictures ``<page>.webp`` in the folder OUT;
pages to recognise are ``<page>.png``, attachments ``attached-<n>``. A password comes as the first line of its input.
"""

import ctypes
import json
import os
import resource
import signal
import sys
from pathlib import Path

MEMORY_LIMIT = 3 << 29
CPU_SECONDS = 50
#: Many pictures are drawn when pages are put together.
ASSEMBLING_SECONDS = 240
FILE_LIMIT = 256 << 20
_PR_SET_NO_NEW_PRIVS, _PR_SET_PDEATHSIG = 38, 1
_CLONE_NEWUSER, _CLONE_NEWNET = 0x10000000, 0x40000000
TESSERACT = "/usr/bin/tesseract"


#: Types whose library decodes in threads, and fails without.
THREADED = ("image/heic", "image/heif", "image/avif")
_THREADS = 16


def _tasks() -> int:
    """How many processes and threads this user has: the system's limit counts them all."""
    own = os.getuid()
    count = 0
    for process in Path("/proc").glob("[0-9]*"):
        try:
            if process.stat().st_uid == own:
                count += sum(1 for _ in (process / "task").iterdir())
        except OSError:  # it ended meanwhile
            continue
    return count


def die_with_parent() -> None:
    """End when the thread that started this process ends: it waits for this one, and was killed."""
    ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGKILL, 0, 0, 0)


def confine(media: str = "", *, seconds: int = CPU_SECONDS) -> None:
    """Set the limits of this process, as contents of a media type need them; they cannot be raised again."""
    tasks = _tasks() + _THREADS if media in THREADED else 0
    libc = ctypes.CDLL(None, use_errno=True)
    libc.unshare(_CLONE_NEWUSER | _CLONE_NEWNET)  # not every kernel allows it; the other limits stand regardless
    libc.prctl(_PR_SET_NO_NEW_PRIVS, 1, 0, 0, 0)
    for what, limit in (
        (resource.RLIMIT_AS, MEMORY_LIMIT),
        (resource.RLIMIT_CPU, seconds),
        (resource.RLIMIT_FSIZE, FILE_LIMIT),
        (resource.RLIMIT_CORE, 0),
        (resource.RLIMIT_NPROC, tasks),
    ):
        resource.setrlimit(what, (limit, limit))
    os.nice(5)


def read(media: str, content: str, out: Path, password: str | None) -> dict[str, object]:
    """Read a content whole; pictures of its first pages are made as well, and scans of those that must be recognised."""
    from waka.readers import formats, outcome, paged, scans
    from waka.words.readings import remark

    try:
        opened = formats.open_content(content, media, password)
        pages = opened.pages
        sizes = pages.sizes()
        words: list[list[paged.WordRow]] = []
        scanned: list[int] = []
        blank: set[int] = set()
        total, unread, unrecognised, crowded = 0, 0, 0, []
        for number in range(1, len(sizes) + 1):
            # a document of endless words is read as far as anybody would read it
            found = pages.words(number) if total < outcome.MAX_WORDS else []
            unread += total >= outcome.MAX_WORDS
            unrecognised += found is None and len(scanned) >= outcome.MAX_SCANNED
            if found and len(found) >= outcome.MAX_WORDS_A_PAGE:
                crowded.append(number)
            if found is None and len(scanned) < outcome.MAX_SCANNED:
                scan = pages.scan(number)
                if scans.is_blank(scan):
                    blank.add(number)
                else:
                    scan.save(out / f"{number}.png", compress_level=1)
                    scanned.append(number)
            elif found == [] and len(blank) < outcome.MAX_SCANNED and scans.is_blank(pages.picture(number)):
                blank.add(number)
            words.append(found or [])
            total += len(words[-1])
        # with a password that is not kept, no page could be drawn later
        most = outcome.MAX_SCANNED if password else outcome.MAX_PICTURES
        for number in range(1, min(len(sizes), most) + 1):
            (out / f"{number}.webp").write_bytes(paged.as_webp(pages.picture(number)))
    except outcome.Locked as locked:
        return {"problem": locked.kept, "locked": True}
    except outcome.Unreadable as unreadable:
        return {"problem": unreadable.kept}
    notes = [*opened.notes]
    if unread:
        notes.append(remark("words left out", pages=unread, most=outcome.MAX_WORDS))
    if unrecognised:
        notes.append(remark("pages not recognised", most=outcome.MAX_SCANNED, more=unrecognised))
    if crowded:
        notes.append(remark("crowded pages", pages=crowded[:10], most=outcome.MAX_WORDS_A_PAGE))
    for n, (_, data) in enumerate(opened.attachments):
        (out / f"attached-{n}").write_bytes(data)
    return {
        "pages": [
            {
                "width": round(w, 1),
                "height": round(h, 1),
                **({"blank": True} if n in blank else {}),
                **({"sheet": opened.sheets[n]} if n in opened.sheets else {}),
            }
            for n, (w, h) in enumerate(sizes, 1)
        ],
        "words": words,
        "properties": opened.properties,
        "stated": opened.stated,
        "notes": notes,
        "scanned": scanned,
        "attachments": [name for name, _ in opened.attachments],
    }


def draw(media: str, content: str, out: Path, number: int, *, uncut: bool = False) -> dict[str, object]:
    """Make the picture of one page; ``uncut``: of a photo as it came."""
    from waka.readers import formats, outcome, paged, scans

    try:
        picture = (
            scans.open_frame(content, number) if uncut else formats.open_content(content, media).pages.picture(number)
        )
        (out / f"{number}.webp").write_bytes(paged.as_webp(picture))
    except outcome.Unreadable as unreadable:
        return {"problem": unreadable.kept}
    return {}


def recognise(languages: str, picture: str, out: Path) -> None:
    """Become the program that recognises letters, under the same limits; its answer is ``<name>.tsv`` in OUT."""
    confine()
    base = out / Path(picture).stem
    os.execve(  # noqa: S606 - one fixed program, no shell
        TESSERACT,
        [TESSERACT, picture, str(base), "-l", languages, "--dpi", "300", "--psm", "3", "tsv"],
        {"OMP_THREAD_LIMIT": "1", "LANG": "C.UTF-8", "TMPDIR": str(out)},
    )


def do(task: str, media: str, content: str, out: Path, password: str | None) -> None:
    """Do ``tell``, ``read``, ``find``, ``cut``, ``draw:<page>``, ``uncut:<page>`` or ``assemble``, and leave the answer in OUT."""
    what, _, page = task.partition(":")
    if what == "tell":
        from waka.readers import content_type

        answer: dict[str, object] = {"media": content_type.media_type_of(Path(content))}
    elif what in ("find", "cut"):
        from waka.readers import fact_finding

        answer = (fact_finding.find if what == "find" else fact_finding.cut)(Path(content))
    elif what == "assemble":
        from waka.readers import assemble

        answer = assemble.assemble(Path(content), out)
    elif page:
        answer = draw(media, content, out, int(page), uncut=what == "uncut")
    else:
        answer = read(media, content, out, password)
    (out / "answer").write_text(json.dumps(answer), encoding="utf-8")


def main(arguments: list[str]) -> None:
    """Do one task: those of ``do``, or ``recognise`` (MEDIA are its languages then)."""
    die_with_parent()
    task, media, content, folder = arguments
    if task == "recognise":
        recognise(media, content, Path(folder))
    password = sys.stdin.readline().rstrip("\n") or None
    # imported before the limits: libraries map more address space than a small document needs
    import waka.readers.formats

    if media.startswith("image/") or media == "application/pdf":
        import waka.readers.assemble
        import waka.readers.pdf  # noqa: F401
    confine(media, seconds=ASSEMBLING_SECONDS if task == "assemble" else CPU_SECONDS)
    do(task, media, content, Path(folder), password)


if __name__ == "__main__":
    main(sys.argv[1:])
