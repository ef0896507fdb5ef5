"""Kinds of documents, and the facts each is expected to have; the inner kinds that papers are told apart by."""

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


@dataclass(frozen=True)
class Inner:
    """What papers are told apart by before a person sees a kind: many look like bills and are none.

    ``kind``: what it is to a person. ``concepts``: what such a paper calls itself. ``has``: the facts that it can have.
    """

    key: str
    kind: str
    concepts: frozenset[str]
    has: frozenset[str]


def _inner(key: str, kind: str, concepts: str, has: str) -> Inner:
    return Inner(key, kind, frozenset(concepts.split()), frozenset(has.split()))


INNER: Mapping[str, Inner] = {
    one.key: one
    for one in (
        _inner("invoice", "invoice", "INVOICE", "issued due ref amount"),
        _inner("credit note", "credit note", "CREDIT", "issued ref amount"),
        _inner("receipt", "receipt", "RECEIPT", "issued ref amount"),
        _inner("statement", "other", "STATEMENT", "issued subject"),
        _inner("reminder", "other", "REMINDER", "issued subject"),
        _inner("delivery note", "other", "DELIVERY", "issued subject"),
        _inner("quote", "other", "QUOTE", "issued subject"),
        _inner("order", "other", "ORDER", "issued subject"),
        _inner("remittance", "other", "REMITTANCE", "issued subject"),
        _inner("proforma", "other", "PROFORMA", "issued subject"),
        _inner("payslip", "other", "PAYSLIP", "issued subject"),
        _inner("letter", "letter", "", "issued subject"),
        _inner("contract", "contract", "CONTRACT", "issued ref subject"),
        _inner("minutes", "minutes", "MINUTES", "issued subject"),
        _inner("coursework", "coursework", "TASK COURSE", "issued person course task attempt"),
        _inner("paper", "other", "", "issued subject"),
    )
}
