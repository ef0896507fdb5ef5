"""English."""

from waka.core.facts.languages.table import Language

_MONTHS = (
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December",
)

ENGLISH = Language(
    name="English",
    months=tuple(tuple(dict.fromkeys((m, m[:3], *(("Sept",) if m == "September" else ())))) for m in _MONTHS),
    titles={
        "credit note": ("credit note", "credit memo"),
        "receipt": ("payment received", "receipt"),
        "minutes": ("minutes of", "minutes"),
        "contract": ("contract", "agreement", "lease"),
        "coursework": ("coursework", "course work", "assignment"),
        "invoice": ("tax invoice", "invoice"),
    },
    dates={
        "due": ("due date", "payment due", "due by", "pay by", "payable by", "due on", "due"),
        "issued": ("invoice date", "date of issue", "issue date", "issued on", "issued", "credit note date", "receipt date",
                   "document date", "tax point", "handed in", "submitted on", "dated", "date"),
    },
    refs=(
        "invoice number", "invoice no", "invoice #", "credit note number", "credit note no", "receipt number", "receipt no",
        "document number", "document no", "contract number", "contract no", "agreement number", "agreement no",
    ),
    weak_refs=("our reference", "our ref", "reference", "ref", "number", "no"),
    totals=("amount due", "total due", "grand total", "total to pay", "balance due", "total credit", "total incl. vat", "total including vat",
            "total incl. tax", "invoice total", "amount payable", "amount paid", "total paid", "total payable", "please pay", "total"),
    weak_totals=("amount",),
    not_totals=("subtotal", "sub-total", "net total", "total net", "vat total", "total vat", "total excl", "total tax", "tax total",
                "total before", "total discount"),
    subjects=("subject", "re", "regarding", "concerning"),
    openings=("dear", "to whom it may concern", "good morning", "good afternoon"),
    terms=(r"(?:within|in|net|terms:?)\s+([0-9]{1,3})\s+days", r"\b([0-9]{1,3})\s+days\s+(?:net|from|after)"),
    persons=("student name", "student", "apprentice", "trainee", "candidate", "submitted by", "author", "name"),
    courses=("course title", "course", "module", "unit"),
    tasks=("task", "assignment", "exercise"),
    attempts=("attempt", "submission no", "try"),
    to=("bill to", "invoice to", "sold to", "deliver to", "ship to", "customer", "to"),
    pages=(r"\bpage\s+([0-9]{1,3})(?:\s*(?:of|/)\s*([0-9]{1,3}))?\b",),
)  # fmt: skip
