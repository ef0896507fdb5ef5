"""German."""

from waka.core.facts.languages.table import Language

GERMAN = Language(
    name="German",
    months=(
        ("Januar", "Jänner", "Jan"), ("Februar", "Feb"), ("März", "Maerz", "Mär", "Mrz"), ("April", "Apr"), ("Mai",), ("Juni", "Jun"),
        ("Juli", "Jul"), ("August", "Aug"), ("September", "Sept", "Sep"), ("Oktober", "Okt"), ("November", "Nov"), ("Dezember", "Dez"),
    ),
    titles={
        "credit note": ("rechnungskorrektur", "stornorechnung", "gutschrift"),
        "receipt": ("zahlungsbeleg", "quittung", "kassenbeleg"),
        "minutes": ("sitzungsprotokoll", "protokoll", "niederschrift"),
        "contract": ("mietvertrag", "wartungsvertrag", "kaufvertrag", "vertrag", "vereinbarung"),
        "coursework": ("kursarbeit", "hausarbeit", "übungsblatt"),
        "invoice": ("rechnung",),
    },
    dates={
        "due": ("fällig am", "fälligkeitsdatum", "zahlbar bis", "fällig bis", "fällig", "zu zahlen bis"),
        "issued": ("rechnungsdatum", "ausstellungsdatum", "belegdatum", "ausgestellt am", "abgegeben am", "datum"),
    },
    refs=(
        "rechnungsnummer", "rechnungs-nr", "rechnungsnr", "rechnung nr", "gutschriftnummer", "gutschrift nr", "belegnummer", "beleg-nr",
        "quittung nr", "vertragsnummer", "vertrag nr",
    ),
    weak_refs=("unser zeichen", "aktenzeichen", "referenz", "nummer", "nr"),
    totals=("rechnungsbetrag", "gesamtbetrag", "zahlbetrag", "endbetrag", "gesamtsumme", "zu zahlen", "bruttobetrag", "gutschriftsbetrag",
            "summe brutto", "betrag erhalten", "gesamt"),
    weak_totals=("summe", "betrag"),
    not_totals=("zwischensumme", "nettobetrag", "summe netto", "gesamt netto", "netto gesamt", "nettosumme", "mwst-betrag", "umsatzsteuerbetrag",
                "steuerbetrag", "gesamtbetrag netto"),
    subjects=("betreff", "betrifft", "betr"),
    openings=("sehr geehrte", "sehr geehrter", "guten tag", "liebe", "lieber"),
    terms=(r"(?:innerhalb\s+von|innerhalb|binnen|in)\s+([0-9]{1,3})\s+tagen", r"\b([0-9]{1,3})\s+tage\s+(?:netto|nach)"),
    persons=("vorgelegt von", "auszubildende", "auszubildender", "lehrling", "verfasser", "verfasserin", "name"),
    courses=("lehrgang", "kurs", "modul"),
    tasks=("aufgabe", "übung"),
    attempts=("versuch", "abgabe nr"),
    to=("rechnung an", "rechnungsempfänger", "empfänger", "kunde", "an"),
    pages=(r"\bseite\s+([0-9]{1,3})(?:\s*(?:von|/)\s*([0-9]{1,3}))?\b",),
    day_first=True,
)  # fmt: skip
