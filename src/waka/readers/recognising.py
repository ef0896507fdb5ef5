"""Letters recognised on the picture of a page, by a program that runs as confined as what reads contents."""

import csv
import functools
import subprocess
from pathlib import Path

from waka.readers.child import TESSERACT
from waka.readers.children import ReaderFailed, folder_for, run
from waka.readers.paged import WordRow
from waka.words.readings import remark
from waka.words.sentence import Kept

#: What one page may take; and where others wait for it.
PAGE_SECONDS, QUICK_SECONDS = 120.0, 8.0
#: Letters that the recogniser itself hardly believes in are noise.
_LEAST_CERTAIN = 30.0
#: Languages that pages are recognised in, as far as they are installed.
LANGUAGES = ("eng", "deu")


@functools.cache
def languages() -> str:
    """The installed languages for recognising (``eng+deu``); empty where the program or all of them are missing."""
    if not Path(TESSERACT).exists():
        return ""
    told = subprocess.run([TESSERACT, "--list-langs"], capture_output=True, text=True, timeout=20, check=False)
    have = set((told.stdout + told.stderr).split())
    return "+".join(one for one in LANGUAGES if one in have)


def recognised(picture: Path, page: int, *, seconds: float = PAGE_SECONDS) -> tuple[list[WordRow], Kept | None]:
    """The words on the picture of a page, or none and a note of what was in the way; its number is for that.

    ReaderFailed (too slow) only where it may take less than ``PAGE_SECONDS``: it may be tried again with these.
    """
    spoken = languages()
    if not spoken:
        return [], remark("no recogniser")
    try:
        with folder_for("recognise") as folder:
            run("recognise", spoken, picture, folder, seconds)
            return _words(folder / f"{picture.stem}.tsv"), None
    except ReaderFailed as failed:
        if failed.too_slow and seconds < PAGE_SECONDS:
            raise
        return [], remark("not recognised", page=page, reason=failed.kept)


def _words(table: Path) -> list[WordRow]:
    """The words of the recogniser's table, with how certain it is; boxes in fractions of the page, whose size its first row has."""
    if not table.exists():
        return []
    words: list[WordRow] = []
    width = height = 1
    with table.open(encoding="utf-8", newline="") as file:
        for row in csv.DictReader(file, delimiter="\t", quoting=csv.QUOTE_NONE):
            left, top, across, down = (int(row[k] or 0) for k in ("left", "top", "width", "height"))
            if row["level"] == "1":
                width, height = max(across, 1), max(down, 1)
            text = (row["text"] or "").strip()
            if row["level"] == "5" and text and float(row["conf"]) >= _LEAST_CERTAIN:
                box = (left / width, top / height, (left + across) / width, (top + down) / height)
                words.append(
                    [text, *(round(min(max(v, 0.0), 1.0), 5) for v in box), round(float(row["conf"]) / 100, 2)]
                )
    return words
