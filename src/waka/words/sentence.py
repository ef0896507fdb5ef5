"""Sentences with gaps: text as it is said, filled with parameters; and what is kept in place of one."""

import re
from collections.abc import Iterator, Mapping
from typing import Any

#: ``{name}``, or ``{count|line|lines}`` for a number with the word that it counts.
_GAP = re.compile(r"\{([a-z_]++)(?:\|([^|{}]*+)\|([^|{}]*+))?\}")
#: ``[…]``: said only where all parameters in it are known.
_OPTION = re.compile(r"\[([^\[\]]*+)\]")
UNKNOWN = "…"
#: What is kept in place of a sentence: its code with the parameters.
Kept = Mapping[str, Any]


class Sentence:
    """A sentence as it stands in the catalogue.

    ``{name}`` is a parameter (… where it is not known, a list with commas), ``{n|line|lines}`` a number with its word, and what stands in
    ``[…]`` is left out where one of its parameters is not known.
    """

    def __init__(self, text: str) -> None:
        self.text = text
        self.parameters = frozenset(gap[1] for gap in _GAP.finditer(text))

    def say(self, parameters: Mapping[str, Any]) -> str:
        """The sentence with its parameters; more than it asks for do no harm."""

        def gap(found: re.Match[str]) -> str:
            value = parameters.get(found[1])
            if found[2] is not None and isinstance(value, int):
                return f"{value:,} {found[2] if value == 1 else found[3]}"
            return UNKNOWN if value is None else _shown(value)

        def option(found: re.Match[str]) -> str:
            known = all(parameters.get(inside[1]) is not None for inside in _GAP.finditer(found[1]))
            return found[1] if known else ""

        return _GAP.sub(gap, _OPTION.sub(option, self.text))


def _shown(value: Any) -> str:
    if isinstance(value, list | tuple):
        return ", ".join(_shown(one) for one in value)
    return f"{value:,}" if isinstance(value, int) else str(value)


class Catalogue(Mapping[str, Sentence]):
    """Sentences by code."""

    def __init__(self, texts: Mapping[str, str]) -> None:
        self._sentences = {code: Sentence(text) for code, text in texts.items()}

    def __getitem__(self, code: str) -> Sentence:
        return self._sentences[code]

    def __iter__(self) -> Iterator[str]:
        return iter(self._sentences)

    def __len__(self) -> int:
        return len(self._sentences)

    def kept(self, code: str, **parameters: Any) -> Kept:
        """A code with its parameters, as it is kept. KeyError for one that has no words."""
        if code not in self._sentences:
            raise KeyError(code)
        return {"code": code, **parameters}

    def say(self, code: str, parameters: Mapping[str, Any]) -> str:
        """The words of a code. KeyError for one that is not in the catalogue."""
        return self._sentences[code].say(parameters)
