"""``waka rules``: the rulebook language as a filter. JSON lines in, one JSON line out for each, in order; no database.

- ``{"do":"parse","text":T,"register":{…}}`` → ``{"rules":[…],"warnings":[…]}``, or ``{"errors":[{"line","column","length","expected","mend"}]}``
- ``{"do":"format","text":T}`` → ``{"text":…}`` or errors
- ``{"do":"decide","text":T,"event":…,"by":"itself"|"proposal","now":"2026-03-18T09:00","document":{…},"area":…,"granted":[…]}`` → what is
  decided, and why, or errors

With ``register`` (parties by name, each with ``short``, ``code``, ``aliases``) parties are looked up. A line may set
``financial_year_starts``, ``max_characters``, ``narrow`` and ``language``, as for ``waka pattern``.
"""

import re
from collections.abc import Mapping
from dataclasses import replace
from datetime import date, datetime
from typing import Any

from waka.commands.pattern import LineMistold, main, request_in, settings_of
from waka.core.names.as_json import FactMalformed
from waka.core.rules.as_json import decision_to_json, document_from_json, errors_to_json, rulebook_to_json
from waka.core.rules.deciding import decide
from waka.core.rules.documents import Where
from waka.core.rules.parsing import TextWrong, parse
from waka.core.rules.printing import print_rulebook
from waka.core.rules.values import Entry, Register, same

Told = dict[str, Any]
_EVENT = re.compile(r"arrival|change|hand|daily (?:[01][0-9]|2[0-3]):[0-5][0-9]")


def answer(line: bytes, today: date) -> Told:
    """The answer to one line; ``today`` stands where the line says no ``now``."""
    try:
        return _answer(request_in(line), today)
    except TextWrong as wrong:
        return errors_to_json(wrong.errors)
    except (LineMistold, FactMalformed) as error:
        return {"error": str(error)}


def _answer(asked: Told, today: date) -> Told:
    do, text = asked.get("do"), asked.get("text")
    if do not in ("parse", "format", "decide"):
        raise LineMistold("“do” should be one of parse, format, decide")
    if not isinstance(text, str):
        raise LineMistold("“text” should be a text")
    register = _register(asked)
    rulebook = parse(text, register)
    if do == "format":
        return {"text": print_rulebook(rulebook)}
    if do == "parse":
        return rulebook_to_json(rulebook)
    now = _now(asked, today)
    event, by, area, granted = asked.get("event"), asked.get("by"), asked.get("area"), asked.get("granted", [])
    if not isinstance(event, str) or not _EVENT.fullmatch(event):
        raise LineMistold("“event” should be arrival, change, hand or daily 06:30")
    if by not in ("itself", "proposal"):
        raise LineMistold("“by” should be itself or proposal")
    if not isinstance(area, str) or not area:
        raise LineMistold("“area” should be an area's name")
    if not isinstance(granted, list) or not all(isinstance(one, str) for one in granted):
        raise LineMistold("“granted” should be a list of areas")
    if not isinstance(asked.get("document"), Mapping):
        raise LineMistold("“document” should be an object")
    by_name = {same(entry.name): entry for entry in register or ()}
    where = Where(area, frozenset(granted), by_name, replace(settings_of(asked, today), today=now), now)
    return decision_to_json(
        decide(rulebook, document_from_json(asked["document"]), event, where, by_itself=by == "itself")
    )


def _now(asked: Told, today: date) -> date:
    try:
        return datetime.fromisoformat(asked["now"]).date() if "now" in asked else today
    except (TypeError, ValueError) as error:
        raise LineMistold("“now” should be a local time as 2026-03-18T09:00") from error


def _register(asked: Told) -> Register | None:
    told = asked.get("register")
    if told is None:
        return None
    if not isinstance(told, Mapping) or not all(isinstance(entry, Mapping) for entry in told.values()):
        raise LineMistold("“register” should be an object of parties by name")
    entries = []
    for name, entry in told.items():
        aliases = entry.get("aliases", [])
        texts = [
            name,
            entry.get("short", ""),
            entry.get("code", ""),
            *(aliases if isinstance(aliases, list) else [None]),
        ]
        if not all(isinstance(text, str) for text in texts):
            raise LineMistold(f"the party “{name}” should have texts: short, code, and a list of aliases")
        entries.append(Entry(name, texts[1], texts[2], tuple(texts[3:])))
    return tuple(entries)


if __name__ == "__main__":
    main(answer)
