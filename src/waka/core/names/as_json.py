"""Facts and outcomes of the language as JSON, both ways: what ``waka pattern`` and the API speak.

Dates are ISO 8601, partial ones truncated (``2026-03``; month alone ``--03``), other parts by name; people are
``{"given", "family"}``; parties are full names; numbers are numbers, with decimals texts.
"""

from collections.abc import Mapping
from decimal import Decimal
from typing import Any

from waka.core.names.fields import DateParts, FieldType, Party, Person, Raw, ReadValue, Value

_MAX_TEXT = 1000


class FactMalformed(ValueError):
    """A fact in JSON that is not of its field's type; says which and what it should be."""


def value_from_json(field: str, kind: FieldType, told: Any, parties: Mapping[str, Party]) -> Value:
    """The value of a fact told in JSON; ``parties`` are the known ones by full name. Raises FactMistold."""
    match kind, told:
        case FieldType.DATE, str():
            try:
                return DateParts.from_iso(told)
            except ValueError as error:
                raise FactMalformed(f"“{field}” should be a date as 2026-03-18, not {told!r}") from error
        case FieldType.DATE, dict():
            return _date_parts(field, told)
        case FieldType.PERSON, {"given": str() as given, "family": str() as family}:
            return Person(given[:_MAX_TEXT], family[:_MAX_TEXT])
        case FieldType.PARTY, str():
            return parties.get(told) or Party(told[:_MAX_TEXT])
        case ((FieldType.TEXT | FieldType.CAPTURE | FieldType.NUMBER), str()):
            return told[:_MAX_TEXT]
        case ((FieldType.TEXT | FieldType.CAPTURE | FieldType.NUMBER), (int() | float())) if not isinstance(told, bool):
            return told if isinstance(told, int) else Decimal(str(told))
        case _:
            raise FactMalformed(f"“{field}” should be a {kind.value}, not {told!r}"[:200])


def _date_parts(field: str, told: dict[str, Any]) -> DateParts:
    kinds = {name: str if name in ("fy", "season") else int for name in DateParts.__dataclass_fields__}
    if not told or any(k not in kinds or type(v) is not kinds[k] for k, v in told.items()):
        raise FactMalformed(f"“{field}” should have parts of a date such as year and quarter, not {told!r}"[:200])
    if not 1 <= told.get("month", 1) <= 12 or not 0 < told.get("year", 1) <= 9999:
        raise FactMalformed(f"“{field}” has no such month or year: {told!r}")
    return DateParts(**told)


def value_to_json(value: ReadValue | Party) -> Any:
    """The value in JSON; raw values as they stood."""
    match value:
        case DateParts():
            return value.iso()
        case Raw():
            return value.text
        case Party():
            return value.name
        case Person():
            return {"given": value.given, "family": value.family}
        case Decimal():
            return str(value)
        case _:
            return value
