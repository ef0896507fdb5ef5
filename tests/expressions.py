"""Every regular expression of the program, and strings made to keep each of them busy for as long as it can be."""

import ast
import importlib
import pkgutil
import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import waka

#: What stands in texts, names and files anyway, repeated: spaces, lines, words, numbers, marks and what lies between.
ANYWAY = (
    " ", "\n", "\t", "a", "0", ".", "-", "~", "_", "/", "a ", "a-", "a.", "A1", "1 ", "1.", "1,", "0-", "1/2 ", "\n ", "\n\n", " \n",
    "A: b\r\n", "\r\n x", "<!---->", "<!-- ", "(", "\\'", "{\\", "ä", "é ", "12.03.2026 ", "1,234.56 ", "€ ", "\x00", "No. ", "Dr. ",
)  # fmt: skip


def _held(value: object) -> Iterator[re.Pattern[Any]]:
    if isinstance(value, re.Pattern):
        yield value
    elif isinstance(value, list | tuple | set | frozenset):
        for one in value:
            yield from _held(one)
    elif isinstance(value, dict):
        yield from _held(list(value.values()))


def _written(path: Path) -> Iterator[re.Pattern[Any]]:
    """The expressions that are written where they are used."""
    for node in ast.walk(ast.parse(path.read_text(encoding="utf-8"))):
        if (
            isinstance(node, ast.Call)
            and isinstance(node.func, ast.Attribute)
            and isinstance(node.func.value, ast.Name)
            and node.func.value.id == "re"
            and node.args
            and isinstance(node.args[0], ast.Constant)
            and isinstance(node.args[0].value, str | bytes)
        ):
            yield re.compile(node.args[0].value)


def expressions() -> dict[str, re.Pattern[Any]]:
    """All of them, each once."""
    found: dict[str, re.Pattern[Any]] = {}
    for module in pkgutil.walk_packages(waka.__path__, "waka."):
        if module.name.endswith("__main__"):
            continue
        held = importlib.import_module(module.name)
        mine = [one for value in vars(held).values() for one in _held(value)]
        for one in [*mine, *_written(Path(held.__file__ or ""))]:
            found[f"{one.pattern!r}{one.flags}"] = one
    return found


def _sample(parsed: Any) -> str:
    """A short string that fits a parsed expression, as far as that is easily told."""
    made = []
    for name, argument in parsed:
        match str(name):
            case "LITERAL":
                made.append(chr(argument))
            case "NOT_LITERAL":
                made.append("b" if argument == ord("a") else "a")
            case "ANY":
                made.append("a")
            case "IN":
                made.append(_one_of(argument))
            case "MAX_REPEAT" | "MIN_REPEAT" | "POSSESSIVE_REPEAT":
                made.append(_sample(argument[2]) * max(1, argument[0]))
            case "SUBPATTERN":
                made.append(_sample(argument[3]))
            case "ATOMIC_GROUP":
                made.append(_sample(argument))
            case "BRANCH":
                made.append(_sample(argument[1][0]))
            case _:
                pass
    return "".join(made)


_LETTERS = [*map(chr, range(32, 127)), "\t", "\n", "ä", "\x00"]


def _one_of(members: Any) -> str:
    turned = bool(members) and str(members[0][0]) == "NEGATE"
    for letter in ["a", "1", " ", "A", *_LETTERS]:
        if _within(letter, members) != turned:
            return letter
    return "a"


def _within(letter: str, members: Any) -> bool:
    for name, argument in members:
        match str(name):
            case "LITERAL" if ord(letter) == argument:
                return True
            case "RANGE" if argument[0] <= ord(letter) <= argument[1]:
                return True
            case "CATEGORY":
                sort = str(argument).removeprefix("CATEGORY_").removeprefix("UNI_")
                told = {
                    "DIGIT": r"\d",
                    "SPACE": r"\s",
                    "WORD": r"\w",
                    "NOT_DIGIT": r"\D",
                    "NOT_SPACE": r"\S",
                    "NOT_WORD": r"\W",
                }
                if re.match(told[sort], letter):
                    return True
            case _:
                pass
    return False


def _repeats(parsed: Any, before: str = "") -> Iterator[tuple[str, str]]:
    """For everything that repeats in an expression: what comes before it, and what it repeats."""
    for at, (name, argument) in enumerate(parsed):
        prefix = before + _sample(parsed[:at])
        match str(name):
            case "MAX_REPEAT" | "MIN_REPEAT" | "POSSESSIVE_REPEAT":
                if argument[1] > 3:
                    yield prefix, _sample(argument[2])
                yield from _repeats(argument[2], prefix)
            case "SUBPATTERN":
                yield from _repeats(argument[3], prefix)
            case "ATOMIC_GROUP":
                yield from _repeats(argument, prefix)
            case "BRANCH":
                for branch in argument[1]:
                    yield from _repeats(branch, prefix)
            case _:
                pass


def hostile(expression: re.Pattern[Any], size: int) -> Iterator[str | bytes]:
    """Strings of about ``size`` characters: each repeated part of the expression pumped up, then broken off; and what stands anywhere."""
    parsed = re._parser.parse(expression.pattern, expression.flags & ~re.UNICODE)  # type: ignore[attr-defined]
    made = {("", one) for one in ANYWAY} | set(_repeats(parsed)) | {("", body) for _, body in _repeats(parsed)}
    whole = _sample(parsed)
    made |= {("", whole), ("", whole[: max(1, len(whole) // 2)]), (whole, whole[-1:] or "a")}
    for prefix, body in sorted(made):
        if body:
            text = prefix + body * (size // len(body)) + "\x01!"
            yield text.encode("utf-8", "replace") if isinstance(expression.pattern, bytes) else text
