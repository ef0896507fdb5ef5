"""Invoice data for programs: UBL 2.1 (OASIS, ISO/IEC 19845) and UN/CEFACT CII (D16B), as EN 16931 uses them; ZUGFeRD 1.0 before it."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any
from xml.etree.ElementTree import Element

from defusedxml import ElementTree

from waka.readers.outcome import Unreadable
from waka.readers.paged import Opened, clean
from waka.readers.typeset import Block, Typeset

_UBL = "urn:oasis:names:specification:ubl:schema:xsd:"
_CII = "urn:un:unece:uncefact:data:standard:CrossIndustryInvoice:100"
#: The cross-industry document before CII, as ZUGFeRD 1.0 (FeRD, 2014) has it: the same tree under other names.
_BEFORE_CII = "urn:ferd:CrossIndustryDocument:invoice:1p0"
#: Document type codes of UNTDID 1001 that are credit notes.
_CREDIT = frozenset(["81", "83", "261", "296", "308", "381", "396", "532"])
_LINES = 500

#: Where UBL has what a person reads of an invoice; names without their namespaces.
_UBL_PATHS: Mapping[str, Sequence[str]] = {
    "ref": ("ID",),
    "issued": ("IssueDate",),
    "due": ("DueDate", "PaymentMeans/PaymentDueDate", "PaymentTerms/PaymentDueDate"),
    "seller": ("AccountingSupplierParty/Party/PartyName/Name", "AccountingSupplierParty/Party/PartyLegalEntity/RegistrationName"),
    "seller_id": ("AccountingSupplierParty/Party/PartyTaxScheme/CompanyID",),
    "seller_mail": ("AccountingSupplierParty/Party/Contact/ElectronicMail",),
    "buyer": ("AccountingCustomerParty/Party/PartyName/Name", "AccountingCustomerParty/Party/PartyLegalEntity/RegistrationName"),
    "net": ("LegalMonetaryTotal/TaxExclusiveAmount",),
    "tax": ("TaxTotal/TaxAmount",),
    "total": ("LegalMonetaryTotal/TaxInclusiveAmount", "LegalMonetaryTotal/PayableAmount"),
    "currency": ("DocumentCurrencyCode",),
    "note": ("Note",),
    "lines": ("InvoiceLine", "CreditNoteLine"),
    "line_text": ("Item/Name", "Item/Description"),
    "line_count": ("InvoicedQuantity", "CreditedQuantity"),
    "line_price": ("Price/PriceAmount",),
    "line_sum": ("LineExtensionAmount",),
}  # fmt: skip
_TRADE = "SupplyChainTradeTransaction/ApplicableHeaderTrade"
_CII_PATHS: Mapping[str, Sequence[str]] = {
    "ref": ("ExchangedDocument/ID",),
    "issued": ("ExchangedDocument/IssueDateTime/DateTimeString",),
    "due": (f"{_TRADE}Settlement/SpecifiedTradePaymentTerms/DueDateDateTime/DateTimeString",),
    "seller": (f"{_TRADE}Agreement/SellerTradeParty/Name",),
    "seller_id": (f"{_TRADE}Agreement/SellerTradeParty/SpecifiedTaxRegistration/ID",),
    "seller_mail": (f"{_TRADE}Agreement/SellerTradeParty/DefinedTradeContact/EmailURIUniversalCommunication/URIID",),
    "buyer": (f"{_TRADE}Agreement/BuyerTradeParty/Name",),
    "net": (f"{_TRADE}Settlement/SpecifiedTradeSettlementHeaderMonetarySummation/TaxBasisTotalAmount",),
    "tax": (f"{_TRADE}Settlement/SpecifiedTradeSettlementHeaderMonetarySummation/TaxTotalAmount",),
    "total": (f"{_TRADE}Settlement/SpecifiedTradeSettlementHeaderMonetarySummation/GrandTotalAmount",),
    "currency": (f"{_TRADE}Settlement/InvoiceCurrencyCode",),
    "note": ("ExchangedDocument/IncludedNote/Content",),
    "lines": ("SupplyChainTradeTransaction/IncludedSupplyChainTradeLineItem",),
    "line_text": ("SpecifiedTradeProduct/Name",),
    "line_count": ("SpecifiedLineTradeDelivery/BilledQuantity",),
    "line_price": ("SpecifiedLineTradeAgreement/NetPriceProductTradePrice/ChargeAmount",),
    "line_sum": ("SpecifiedLineTradeSettlement/SpecifiedTradeSettlementLineMonetarySummation/LineTotalAmount",),
}


class NoInvoice(Exception):
    """XML, but no invoice that is known here."""


@dataclass(frozen=True)
class Invoice:
    """What was parsed: facts as they are stated, and blocks that show the invoice to a person."""

    stated: list[dict[str, Any]]
    blocks: list[Block]


def _named(element: Element, paths: Sequence[str]) -> Iterator[Element]:
    """All elements at any of ``paths``, whatever their namespaces: both vocabularies use one name for one thing."""
    for path in paths:
        here = [element]
        for name in path.split("/"):
            here = [c for e in here for c in e if isinstance(c.tag, str) and c.tag.rpartition("}")[2] == name]
        yield from here


def _named_before() -> Mapping[str, Sequence[str]]:
    """The paths of CII by the names of the document before it."""
    names = {
        "SupplyChainTradeTransaction": "SpecifiedSupplyChainTradeTransaction",
        "ExchangedDocument": "HeaderExchangedDocument",
        "ApplicableHeaderTradeAgreement": "ApplicableSupplyChainTradeAgreement",
        "ApplicableHeaderTradeSettlement": "ApplicableSupplyChainTradeSettlement",
        "SpecifiedTradeSettlementHeaderMonetarySummation": "SpecifiedTradeSettlementMonetarySummation",
        "SpecifiedLineTradeDelivery": "SpecifiedSupplyChainTradeDelivery",
        "SpecifiedLineTradeAgreement": "SpecifiedSupplyChainTradeAgreement",
        "SpecifiedLineTradeSettlement": "SpecifiedSupplyChainTradeSettlement",
        "SpecifiedTradeSettlementLineMonetarySummation": "SpecifiedTradeSettlementMonetarySummation",
    }
    return {
        key: tuple("/".join(names.get(part, part) for part in path.split("/")) for path in paths)
        for key, paths in _CII_PATHS.items()
    }


def _text(element: Element, paths: Sequence[str]) -> tuple[str, str]:
    """The first text at ``paths`` and the path it stood at."""
    for path in paths:
        for found in _named(element, [path]):
            text = clean(" ".join((found.text or "").split()), 500)
            if text:
                return text, path
    return "", ""


def _day(text: str) -> str:
    """A date as ISO 8601: ``2026-03-18`` (UBL) or ``20260318`` (CII, format 102); else the text as it is."""
    digits = text.replace("-", "")[:8]
    return f"{digits[:4]}-{digits[4:6]}-{digits[6:]}" if len(digits) == 8 and digits.isdigit() else text


def parse(data: bytes) -> Invoice:
    """The invoice in ``data``; NoInvoice where it is another XML, damaged, or tries to reach beyond itself."""
    try:
        root = ElementTree.fromstring(data, forbid_dtd=True)
    except Exception as error:  # expat's errors, defusedxml's refusals, and what a broken encoding raises
        raise NoInvoice(str(error)) from error
    space, _, name = str(root.tag).lstrip("{").rpartition("}")
    if space.startswith(_UBL) and name in ("Invoice", "CreditNote"):
        paths, code = _UBL_PATHS, _text(root, ["InvoiceTypeCode", "CreditNoteTypeCode"])[0]
        credit = name == "CreditNote" or code in _CREDIT
    elif space == _CII and name == "CrossIndustryInvoice":
        paths = _CII_PATHS
        credit = _text(root, ["ExchangedDocument/TypeCode"])[0] in _CREDIT
    elif space == _BEFORE_CII and name == "CrossIndustryDocument":
        paths = _named_before()
        credit = _text(root, ["HeaderExchangedDocument/TypeCode"])[0] in _CREDIT
    else:
        raise NoInvoice(f"it is {name or 'XML'} of {space or 'no namespace'}")
    got = {key: _text(root, at) for key, at in paths.items() if not key.startswith("line")}
    kind = "credit note" if credit else "invoice"
    return Invoice(list(_stated(kind, got)), _blocks(root, kind, got, paths))


def _stated(kind: str, got: Mapping[str, tuple[str, str]]) -> Iterator[dict[str, Any]]:
    yield {"field": "kind", "value": kind, "where": "type code", "text": kind}
    for field in ("issued", "due"):
        if got[field][0]:
            yield {"field": field, "value": _day(got[field][0]), "where": got[field][1], "text": got[field][0]}
    if got["ref"][0]:
        yield {"field": "ref", "value": got["ref"][0], "where": got["ref"][1], "text": got["ref"][0]}
    if got["seller"][0]:
        numbers = [got[k][0] for k in ("seller_id", "seller_mail") if got[k][0]]
        value = {"name": got["seller"][0], "numbers": numbers}
        yield {"field": "party", "value": value, "where": got["seller"][1], "text": got["seller"][0]}
    if got["total"][0]:
        value = {k: got[k][0] for k in ("net", "tax", "total", "currency")}
        yield {
            "field": "amount",
            "value": value,
            "where": got["total"][1],
            "text": f"{got['total'][0]} {got['currency'][0]}",
        }


def _blocks(
    root: Element, kind: str, got: Mapping[str, tuple[str, str]], paths: Mapping[str, Sequence[str]]
) -> list[Block]:
    currency = got["currency"][0]
    blocks = [Block(got["seller"][0], 1, states="party"), Block(kind.capitalize(), 2, states="kind")]
    heads = (("Number", "ref", "ref"), ("Date", "issued", "issued"), ("Due", "due", "due"), ("To", "buyer", None),
             ("Tax number of the seller", "seller_id", None))  # fmt: skip
    blocks += [
        Block(cells=(label, _day(got[key][0]) if key in ("issued", "due") else got[key][0]), states=states)
        for label, key, states in heads
        if got[key][0]
    ]
    blocks.append(Block("Lines", 3))
    blocks.append(Block(cells=("What", "Count", "Price", f"Sum {currency}"), level=1))
    for line in list(_named(root, paths["lines"]))[:_LINES]:
        blocks.append(Block(cells=tuple(_text(line, paths[f"line_{k}"])[0] for k in ("text", "count", "price", "sum"))))
    blocks.append(Block("Sums", 3))
    for label, key in (("Net", "net"), ("Tax", "tax"), ("Total", "total")):
        if got[key][0]:
            blocks.append(
                Block(cells=(label, f"{got[key][0]} {currency}"), states="amount" if key == "total" else None)
            )
    if got["note"][0]:
        blocks.append(Block(got["note"][0]))
    return blocks


def open_invoice(path: str) -> Opened:
    """An XML invoice set as an invoice; Unreadable for another XML."""
    with open(path, "rb") as file:  # noqa: PTH123 - one path, as the child was given it
        data = file.read(64 << 20)
    try:
        invoice = parse(data)
    except NoInvoice as none:
        raise Unreadable("no invoice", error=clean(str(none), 100)) from none
    pages = Typeset(invoice.blocks)
    stated = [{**s, "box": pages.locations.get(s["field"])} for s in invoice.stated]
    return Opened(pages, stated=stated)
