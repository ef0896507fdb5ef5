"""From text to text: where both patterns are simple, a name is rewritten without making facts of it in between."""

from collections.abc import Callable
from typing import cast

from waka.core.names.fields import NotKnown, Settings
from waka.core.names.pattern import Pattern
from waka.core.names.portable import is_plain

#: Each text of a slot is put through its shapes once. Beyond this many different texts that starts over.
_KEPT = 50_000


class _Otherwise(Exception):
    """The text has to go the long way."""


class _Through(dict[str, str]):
    """What a slot's texts become in a slot of the other pattern."""

    def __init__(self, change: Callable[[str], str | None]) -> None:
        super().__init__()
        self._change = change

    def __missing__(self, text: str) -> str:
        changed = self._change(text)
        if changed is None:
            raise _Otherwise
        if len(self) >= _KEPT:
            self.clear()
        self[text] = changed
        return changed


_REWRITER = """
def rewrite(name):
    found = match(name)
    if found is None or "~" in name:
        return None
    {texts}, = groups = found.groups()
    if " " in name and not all(map(str.strip, groups)):
        return None
    try:
        texts = ({pieces},)
    except Otherwise:
        return None
{unprinted}
    new = literal % texts
    if not is_plain(new, limit):
        return None
    again = back(new)
    return new, again is not None and again.groups() == texts
"""


def fast_rewrite(
    reads: Pattern, prints: Pattern, settings: Settings
) -> Callable[[str], tuple[str, bool] | None] | None:
    """A function that rewrites a name: the new one, and whether it reads back; None where it has to go the long way.

    None instead of a function where the patterns are not simple, or *to* prints what *from* does not read.
    """
    meanings, form = reads.meanings(settings), prints.form(settings)
    if (
        meanings is None
        or form is None
        or not form.pieces
        or not {piece.field for piece in form.pieces} <= meanings.keys()
    ):
        return None
    places = {field: n for n, field in enumerate(meanings)}

    def change_for(field: str, print_value: Callable[..., str]) -> Callable[[str], str | None]:
        meaning = meanings[field]

        def change(text: str) -> str | None:
            value = text if meaning is None else meaning[text]
            try:
                return None if value is None else print_value(value)
            except NotKnown:
                return None

        return change

    match, back, limit = reads.expression.regex.match, prints.expression.regex.match, settings.max_characters
    known = {
        "match": match,
        "back": back,
        "limit": limit,
        "literal": form.literal,
        "is_plain": is_plain,
        "Otherwise": _Otherwise,
    }
    pieces = []
    for n, piece in enumerate(form.pieces):
        text = f"text{places[piece.field]}"
        known[f"through{n}"] = _Through(change_for(piece.field, piece.text_of))
        as_it_is = piece.plain and meanings[piece.field] is None
        pieces.append(f'{text} if "/" not in {text} else through{n}[{text}]' if as_it_is else f"through{n}[{text}]")
    printed = {piece.field for piece in form.pieces}
    unprinted = []
    for field, meaning in meanings.items():
        if meaning is not None and field not in printed:
            n = places[field]
            known[f"meaning{n}"] = meaning
            unprinted += [f"    if meaning{n}[text{n}] is None:", "        return None"]
    texts = ", ".join([f"text{n}" for n in range(len(meanings))])
    source = _REWRITER.format(texts=texts, pieces=", ".join(pieces), unprinted="\n".join(unprinted))
    exec(source, known)  # noqa: S102 - nothing of the patterns is in it
    return cast("Callable[[str], tuple[str, bool] | None]", known["rewrite"])
