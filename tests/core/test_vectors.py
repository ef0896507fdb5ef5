"""The pattern language's test vectors (a copy of the shared ones), case by case."""

import json
from datetime import date
from pathlib import Path
from typing import Any

import pytest

from waka.core.names.fields import DRIVE_FIELDS, DateParts, FieldType, Fit, Misfit, Party, Person, Raw, Settings, Value
from waka.core.names.parse import PatternError
from waka.core.names.pattern import compile_pattern

VECTORS = json.loads((Path(__file__).parent / "patterns_vectors.json").read_text())
SETTINGS = Settings(date.fromisoformat(VECTORS["today"]), VECTORS["financial_year_starts"])


def value(field: str, told: Any) -> Value:
    if isinstance(told, dict):
        return Person(**told)
    kind = DRIVE_FIELDS.get(field)
    if kind is FieldType.DATE:
        return DateParts.from_iso(told)
    if kind is FieldType.PARTY:
        known = VECTORS["register"].get(told, {})
        return Party(told, known.get("short", ""), known.get("code", ""))
    return told  # type: ignore[no-any-return]


def told(read: object) -> object:
    match read:
        case DateParts():
            return read.iso()
        case Raw():
            return read.text
        case Person():
            return {"given": read.given, "family": read.family}
        case _:
            return read


def name_of(case: dict[str, Any]) -> str:
    return f"{case['pattern']} {case.get('name', '')}".strip()


@pytest.mark.parametrize("case", VECTORS["print"], ids=name_of)
def test_print(case: dict[str, Any]) -> None:
    facts = {k: value(k, v) for k, v in case["facts"].items()}
    printed = compile_pattern(case["pattern"]).print(facts, SETTINGS)
    expect = case["expect"]
    if "name" in expect:
        assert (printed.name, list(printed.noted)) == (expect["name"], expect.get("noted", []))
        assert "".join(p.text for p in printed.pieces) == expect["name"]
    elif "missing" in expect:
        assert list(printed.missing) == expect["missing"]
    else:
        assert printed.refused


@pytest.mark.parametrize("case", VECTORS["read"], ids=name_of)
def test_read(case: dict[str, Any]) -> None:
    read = compile_pattern(case["pattern"]).read(case["name"], SETTINGS)
    if "misfit" in case["expect"]:
        assert isinstance(read, Misfit)
        assert 0 <= read.at <= len(case["name"])
        assert read.expected
    else:
        assert isinstance(read, Fit)
        assert {k: told(v) for k, v in read.facts.items()} == case["expect"]["facts"]


@pytest.mark.parametrize("case", VECTORS["refuse"], ids=lambda c: f"{c['pattern']!r}")
def test_refuse(case: dict[str, Any]) -> None:
    with pytest.raises(PatternError) as refused:
        compile_pattern(case["pattern"])
    assert refused.value.why and refused.value.mend
    assert 0 <= refused.value.at <= len(case["pattern"])
