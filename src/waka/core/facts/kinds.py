"""Kinds of documents, and the facts each is expected to have."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass


@dataclass(frozen=True)
class Kind:
    """A kind: its key (as stored and printed in names), its label, its expected facts in the slip's order."""

    key: str
    label: str
    expects: tuple[str, ...]


KINDS: Mapping[str, Kind] = {
    k.key: k
    for k in (
        Kind("invoice", "Invoice", ("party", "issued", "ref", "amount")),
        Kind("credit note", "Credit note", ("party", "issued", "ref", "amount")),
        Kind("receipt", "Receipt", ("party", "issued", "ref", "amount")),
        Kind("letter", "Letter", ("party", "issued", "subject")),
        Kind("contract", "Contract", ("party", "issued", "ref", "subject")),
        Kind("minutes", "Minutes", ("issued", "subject")),
        Kind("coursework", "Coursework", ("person", "course", "task", "attempt")),
        Kind("photo", "Photo", ("issued", "subject")),
        Kind("other", "Other", ("party", "issued", "subject")),
    )
}


def expected_facts(kind: str | None, planned: Sequence[str] | None = None) -> tuple[str, ...]:
    """The fields of a slip for ``kind`` (those of "other" where it is unknown), or those that the area's plan names."""
    return tuple(planned) if planned is not None else KINDS.get(kind or "other", KINDS["other"]).expects
