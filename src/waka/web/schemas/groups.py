"""What the API takes and gives of the drive's lines: groups, sums, choices."""

from collections.abc import Mapping
from typing import Any

from pydantic import Field

from waka.core.facts.kinds import KINDS
from waka.core.names.dateshape import MONTHS
from waka.store.postgres.listing import Group
from waka.web.schemas.base import Form, Id, Out


class AmountOut(Out):
    currency: str
    total: str


class GroupOut(Out):
    """`value` names the group in other requests; an empty one is that of the documents that have none."""

    value: str
    label: str
    documents: int
    bytes: int
    amounts: list[AmountOut]


class Groups(Out):
    groups: list[GroupOut]


class Entries(Form):
    entries: list[Id] = Field(max_length=20_000)


class Several(Form):
    entries: list[Id] = Field(min_length=1, max_length=500)


class TypeOut(Out):
    type: str
    documents: int


class ChosenSums(Out):
    documents: int
    bytes: int
    types: list[TypeOut]
    amounts: list[AmountOut]


def _amounts(told: Mapping[str, str]) -> list[AmountOut]:
    return [AmountOut(currency=c, total=t) for c, t in sorted(told.items())]


def group_out(by: Group, row: Mapping[str, Any], parties: Mapping[int, str]) -> GroupOut:
    """A group with its label in words."""
    value = row["value"]
    return GroupOut(
        value=value or "", label=_label(by, value, parties), documents=row["documents"], bytes=row["bytes"],
        amounts=_amounts(row["amounts"]),
    )  # fmt: skip


def _label(by: Group, value: str | None, parties: Mapping[int, str]) -> str:
    if not value:
        return {"kind": "kind not known", "type": "no type", "month": "no date", "year": "no date"}.get(by, f"no {by}")
    match by:
        case "kind":
            return KINDS[value].label if value in KINDS else value
        case "party":
            return parties.get(int(value), "another party")
        case "month":
            return f"{MONTHS[int(value[5:]) - 1][:3]} {value[:4]}"
        case _:
            return value


def sums_out(row: Mapping[str, Any]) -> ChosenSums:
    """What is chosen, added up."""
    types = [TypeOut(type=t, documents=n) for t, n in sorted(row["types"].items(), key=lambda t: -t[1])]
    return ChosenSums(documents=row["documents"], bytes=row["bytes"], types=types, amounts=_amounts(row["amounts"]))
