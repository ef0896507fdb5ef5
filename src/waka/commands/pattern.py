"""``waka pattern``: the pattern language as a filter. JSON lines in, one JSON line out for each, in order.

It needs no database and no packages beside Python's own, so that it starts at once. Lines are UTF-8:

- ``{"do":"print","pattern":P,"facts":{…},"register":{…}}`` → ``{"name":N,"noted":[…]}``, ``{"missing":[…]}``, ``{"refused":why}``
- ``{"do":"read","pattern":P,"name":N,"register":{…}}`` → ``{"facts":{…},"inexact":[…]}``, ``{"misfit":{"at":k,"expected":…}}``
- ``{"do":"rewrite","from":A,"to":B,"name":N}`` → ``{"name":N}``, ``{"misfit":…}``, ``{"missing":[…]}``, ``{"refused":why}``
- ``{"do":"check","pattern":P}`` → ``{"ok":true}``, ``{"error":why,"at":k,"mend":…}``

A line may set ``today`` (ISO 8601), ``financial_year_starts`` (month), ``max_characters``, ``narrow`` and ``extension``.
"""

import json
import os
import sys
from collections.abc import Callable
from datetime import date
from typing import Any, BinaryIO

from waka.core.names.as_json import FactMalformed, value_from_json, value_to_json
from waka.core.names.fields import Misfit, Party, Settings
from waka.core.names.months import ENGLISH, MONTH_NAMES
from waka.core.names.parse import PatternError
from waka.core.names.pattern import compile_pattern
from waka.core.names.portable import MAX_CHARACTERS
from waka.core.names.resolve import Register, resolve
from waka.core.names.rewrite import Old, compile_rewrite

Told = dict[str, Any]


class LineMistold(ValueError):
    """A line that is no request; the message says what is wrong with it."""


def answer(line: bytes, today: date) -> Told:
    """The answer to one line; ``today`` stands where the line sets none."""
    try:
        asked = request_in(line)
        do = _VERBS.get(str(asked.get("do")))
        if do is None:
            raise LineMistold(f"“do” should be one of {', '.join(_VERBS)}")
        return do(asked, settings_of(asked, today))
    except PatternError as error:
        return {"error": error.why, "at": error.at, "mend": error.mend}
    except (LineMistold, FactMalformed) as error:
        return {"error": str(error)}


def request_in(line: bytes) -> Told:
    """The JSON object that a line is; raises LineMistold."""
    try:
        asked = json.loads(line.decode("utf-8"))
    except (ValueError, RecursionError) as error:
        raise LineMistold("the line is no JSON in UTF-8") from error
    if not isinstance(asked, dict):
        raise LineMistold("the line is no JSON object")
    return asked


def _text(asked: Told, key: str) -> str:
    text = asked.get(key)
    if not isinstance(text, str):
        raise LineMistold(f"“{key}” should be a text")
    return text


def settings_of(asked: Told, today: date) -> Settings:
    """The settings that a line has; raises LineMistold."""
    starts, most, narrow = (
        asked.get("financial_year_starts", 4),
        asked.get("max_characters", MAX_CHARACTERS),
        asked.get("narrow", False),
    )
    if type(starts) is not int or not 1 <= starts <= 12:
        raise LineMistold("“financial_year_starts” should be a month, 1 to 12")
    if type(most) is not int or not 8 <= most <= 255 or not isinstance(narrow, bool):
        raise LineMistold("“max_characters” should be 8 to 255, and “narrow” true or false")
    try:
        day = date.fromisoformat(_text(asked, "today")) if "today" in asked else today
    except ValueError as error:
        raise LineMistold("“today” should be a date as 2026-03-18") from error
    language = asked.get("language", ENGLISH)
    if language not in MONTH_NAMES:
        raise LineMistold(f"“language” should be one of {', '.join(MONTH_NAMES)}")
    return Settings(day, starts, most, narrow, language)


def _parties(asked: Told) -> list[tuple[Party, list[str]]]:
    register = asked.get("register", {})
    if not isinstance(register, dict):
        raise LineMistold("“register” should be an object of parties by name")
    parties = []
    for name, party in register.items():
        short, code, aliases = (
            (party.get("short", ""), party.get("code", ""), party.get("aliases", []))
            if isinstance(party, dict)
            else (None, None, None)
        )
        if not (isinstance(short, str) and isinstance(code, str) and isinstance(aliases, list)):
            raise LineMistold(f"“register”: {name!r} should have “short” and “code” as texts")
        parties.append((Party(name, short, code), [a for a in aliases if isinstance(a, str)]))
    return parties


def _register(asked: Told) -> Register:
    parties = _parties(asked)
    return Register([p for p, _ in parties], {p.name: aliases for p, aliases in parties})


def _print(asked: Told, settings: Settings) -> Told:
    pattern = compile_pattern(_text(asked, "pattern"), settings.language)
    given = asked.get("facts")
    if not isinstance(given, dict):
        raise LineMistold("“facts” should be an object")
    types = {c.field: c.type for s in pattern.slots for c in s.choices}
    parties = {p.name: p for p, _ in _parties(asked)}
    facts = {
        f: value_from_json(f, types[f], told, parties) for f, told in given.items() if f in types and told is not None
    }
    extension = _text(asked, "extension") if "extension" in asked else ""
    printed = pattern.print(facts, settings, extension=extension)
    if printed.name is not None:
        return {"name": printed.name, "noted": list(printed.noted)}
    return {"missing": list(printed.missing)} if printed.missing else {"refused": printed.refused}


def _misfit(misfit: Misfit) -> Told:
    return {"misfit": {"at": misfit.at, "expected": misfit.expected}}


def _read(asked: Told, settings: Settings) -> Told:
    pattern = compile_pattern(_text(asked, "pattern"), settings.language)
    read = pattern.read(_text(asked, "name"), settings)
    if isinstance(read, Misfit):
        return _misfit(read)
    inexact = resolve(pattern, read, _register(asked), settings).inexact
    facts = {field: value_to_json(value) for field, value in read.facts.items()}
    return {"facts": facts, "inexact": list(inexact)} if inexact else {"facts": facts}


def _rewrite(asked: Told, settings: Settings) -> Told:
    reads, prints, name = _text(asked, "from"), _text(asked, "to"), _text(asked, "name")
    compile_pattern(reads, settings.language)
    compile_pattern(prints, settings.language)
    try:
        rewrite = compile_rewrite(reads, prints, language=settings.language)
    except PatternError as error:
        return {"refused": f"{error.why}; {error.mend}"}
    (done,) = rewrite.apply([Old(name)], settings, _register(asked))
    if done.misfit is not None:
        return _misfit(done.misfit)
    if done.name is not None:
        return {"name": done.name}
    return {"missing": list(done.missing)} if done.missing else {"refused": done.refused}


def _check(asked: Told, settings: Settings) -> Told:
    warnings = compile_pattern(_text(asked, "pattern"), settings.language).warnings
    return {"ok": True, "warnings": list(warnings)} if warnings else {"ok": True}


_VERBS: dict[str, Callable[[Told, Settings], Told]] = {
    "print": _print,
    "read": _read,
    "rewrite": _rewrite,
    "check": _check,
}


def run(source: BinaryIO, sink: BinaryIO, today: date, answers: Callable[[bytes, date], Told] = answer) -> None:
    """Answer each line of ``source`` on ``sink`` as soon as it is there."""
    for line in source:
        told = answers(line, today)
        try:
            sink.write(json.dumps(told, ensure_ascii=False).encode("utf-8") + b"\n")
        except UnicodeEncodeError:  # a lone surrogate that came as \ud800 goes back the same way
            sink.write(json.dumps(told).encode("ascii") + b"\n")
        sink.flush()


def main(answers: Callable[[bytes, date], Told] = answer) -> None:
    """Standard input to standard output. Root's rights are given up first: nothing of Waka runs as root."""
    if os.geteuid() == 0:
        os.setgroups([])
        os.setresgid(65534, 65534, 65534)
        os.setresuid(65534, 65534, 65534)
    try:
        run(sys.stdin.buffer, sys.stdout.buffer, date.today(), answers)
    except BrokenPipeError:  # whoever reads has seen enough
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    except KeyboardInterrupt:
        raise SystemExit(130) from None


if __name__ == "__main__":
    main()
