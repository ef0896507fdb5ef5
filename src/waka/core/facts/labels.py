"""The words that stand beside facts on documents, as data: one table a language."""

import re
from collections.abc import Mapping

#: Titles by kind; the longer ones come first, so that "credit note" is found before "note".
TITLES: Mapping[str, tuple[str, ...]] = {
    "credit note": ("credit note", "credit memo"),
    "receipt": ("receipt", "payment received"),
    "minutes": ("minutes of", "minutes"),
    "contract": ("contract", "agreement", "lease"),
    "invoice": ("tax invoice", "invoice"),
}

DATE_LABELS: Mapping[str, tuple[str, ...]] = {
    "due": ("due date", "payment due", "due by", "pay by", "payable by", "due"),
    "issued": ("invoice date", "date of issue", "issue date", "issued", "credit note date", "dated", "date"),
}

REF_LABELS = (
    "invoice number", "invoice no", "invoice #", "credit note number", "credit note no", "receipt number", "receipt no",
    "document number", "document no", "our reference", "our ref", "reference", "ref", "number", "no",
)  # fmt: skip

TOTAL_LABELS = ("amount due", "total due", "grand total", "total to pay", "balance due", "total credit", "total incl. vat",
                "total paid", "total", "amount")  # fmt: skip
NOT_TOTAL_LABELS = ("subtotal", "sub-total", "net total", "total net", "vat total", "total vat", "total excl")

SUBJECT_LABELS = ("subject", "re", "regarding", "concerning")

LETTER_OPENINGS = re.compile(r"^(dear|to whom it may concern|good morning|good afternoon)\b", re.I)


def label_pattern(labels: tuple[str, ...]) -> re.Pattern[str]:
    """An expression that finds any of ``labels`` as whole words, the longest first, with what closes a label."""
    words = "|".join(re.escape(label) for label in sorted(labels, key=len, reverse=True))
    return re.compile(rf"(?<![\w-])({words})(?![\w])\.?\s*[:#]?", re.I)
