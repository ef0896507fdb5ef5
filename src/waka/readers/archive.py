"""ZIP archives as what they are: the list of what is inside. Nothing is unpacked."""

from waka.readers.paged import Opened, clean
from waka.readers.typeset import Block, Typeset
from waka.readers.zipped import opened
from waka.words import readings
from waka.words.readings import remark

_LISTED = 500


def open_zip(path: str) -> Opened:
    """The list of an archive's files."""
    with opened(path) as file:
        inside = [i for i in file.infolist() if not i.is_dir()]
    total = sum(i.file_size for i in inside)
    note = remark("archive", count=len(inside), bytes=total)
    rows = [
        Block(cells=(clean(i.filename, 200), f"{i.file_size:,}", "{:04}-{:02}-{:02}".format(*i.date_time[:3])))
        for i in inside[:_LISTED]
    ]
    more = [Block(f"… and {len(inside) - _LISTED:,} more")] if len(inside) > _LISTED else []
    return Opened(Typeset([Block("Archive", 2), Block(readings.note(note)), *rows, *more]), notes=[note])
