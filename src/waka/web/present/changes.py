"""What a change did."""

from waka.web.schemas.changes import DoneOut, UndoneOut
from waka.words.manifests import say_title
from waka.work.gate.apply import Applied
from waka.work.gate.undo import Queued, Undone


def done_out(applied: Applied, title: str) -> DoneOut:
    """What a change did."""
    return DoneOut(manifest=applied.manifest, title=title, lines=applied.lines)


def undone_out(done: Undone | Queued) -> UndoneOut:
    """What an undo did, or is going to do."""
    if isinstance(done, Queued):
        return UndoneOut(
            manifest=done.manifest, queued=True, title=say_title(done.title), lines=done.lines, left_out=[], arrivals=[]
        )
    return UndoneOut(
        manifest=done.applied.manifest, queued=False, title=say_title(done.title), lines=done.applied.lines,
        left_out=[p.why for p in done.left_out[:200]], arrivals=list(done.arrivals),
    )  # fmt: skip
