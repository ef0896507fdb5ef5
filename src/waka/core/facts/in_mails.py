"""Papers that are the text of a mail: what a mail says of itself holds for a letter, not for a bill that is written into it."""

from collections.abc import Iterable, Sequence
from dataclasses import replace

from waka.core.facts.stated import Stated
from waka.core.facts.sure import SURE
from waka.core.facts.text import Word
from waka.core.facts.values import Box, Found

#: What a mail is, as long as nothing on it says otherwise.
_LETTER = "letter"
#: A paper that is so likely something else is asked about.
_LIKELY = 0.5
#: The mail's day, for a bill that bears none.
_BY_THE_MAIL = 0.9


def is_mail(stated: Iterable[Stated]) -> bool:
    """Whether the facts are stated by a mail of itself."""
    return any(one.field == "kind" and one.where == "mail" for one in stated)


def without_its_day(words: Iterable[Word], stated: Iterable[Stated]) -> list[Word]:
    """The words but those that tell when the mail was sent: the paper in it has a day of its own."""
    boxes = [one.box for one in stated if one.field == "issued" and one.box is not None]
    return [word for word in words if not any(_inside(word.box, box) for box in boxes)]


def _inside(box: Box, around: Box) -> bool:
    middle = (box.top + box.bottom) / 2
    return (
        box.page == around.page
        and around.top <= middle <= around.bottom
        and box.left < around.right
        and around.left < box.right
    )


def what_holds(stated: Sequence[Found], read: Sequence[Found]) -> list[Found]:
    """What a mail states that holds beside what was read in it.

    Of a letter all does. Of what surely is something else its kind does not, and its day only where no other stands there; what is
    likely something else is asked about.
    """
    kind = next((one for one in read if one.field == "kind"), None)
    if kind is None or kind.value == _LETTER or kind.confidence < _LIKELY:
        return list(stated)
    if kind.confidence < SURE or kind.alternatives:
        return [
            replace(one, confidence=min(one.confidence, _BY_THE_MAIL), alternatives=(kind.value,))
            if one.field == "kind"
            else one
            for one in stated
        ]
    dated = any(one.field == "issued" for one in read)
    held = []
    for one in stated:
        if one.field == "issued" and not dated:
            held.append(replace(one, confidence=_BY_THE_MAIL))
        elif one.field not in ("kind", "issued"):
            held.append(one)
    return held
