"""The pattern language's test vectors (a copy of the shared ones), case by case."""

import json
from datetime import date
from pathlib import Path
from typing import Any

import pytest

from waka.core.names.as_json import value_from_json, value_to_json
from waka.core.names.drive_fields import DRIVE_FIELDS
from waka.core.names.fields import FieldType, Fit, Misfit, Party, Settings, Value
from waka.core.names.parse import PatternError
from waka.core.names.pattern import compile_pattern
from waka.core.names.rewrite import Old, compile_rewrite

VECTORS = json.loads((Path(__file__).parent / "patterns_vectors.json").read_text())
SETTINGS = Settings(date.fromisoformat(VECTORS["today"]), VECTORS["financial_year_starts"])


PARTIES = {n: Party(n, p.get("short", ""), p.get("code", "")) for n, p in VECTORS["register"].items()}


def value(field: str, told: Any) -> Value:
    return value_from_json(field, DRIVE_FIELDS.get(field, FieldType.CAPTURE), told, PARTIES)


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
        assert {k: value_to_json(v) for k, v in read.facts.items()} == case["expect"]["facts"]


@pytest.mark.parametrize("case", VECTORS["refuse"], ids=lambda c: f"{c['pattern']!r}")
def test_refuse(case: dict[str, Any]) -> None:
    with pytest.raises(PatternError) as refused:
        compile_pattern(case["pattern"])
    assert refused.value.why and refused.value.mend
    assert 0 <= refused.value.at <= len(case["pattern"])


@pytest.mark.parametrize("case", VECTORS["rewrite"], ids=lambda c: f"{c['from']} → {c['to']}")
def test_rewrite(case: dict[str, Any]) -> None:
    (done,) = compile_rewrite(case["from"], case["to"]).apply([Old(case["name"])], SETTINGS)
    assert done.name == case["expect"]
