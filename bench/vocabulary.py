"""The words of the labelled documents: names, goods, labels in two languages."""

OWN = "Otterholt Rowing Trust"
OWN_ADDRESS = ("Ferry House", "12 Weir Bank", "Otterholt OH2 7KD")
FIRST = ("Amberley", "Birkwood", "Cinderford", "Dunlin", "Eskdale", "Fallowfield", "Gannet", "Hartmoor", "Inkpen", "Juniper", "Kestrel",
          "Lockhart", "Maplin", "Nettlecombe", "Osprey", "Pinfold", "Quillon", "Ravensby", "Sedge", "Thornbury")  # fmt: skip
TRADES = ("Ironmongers", "Joinery Ltd", "Office Supplies", "Marine Surveys", "Cleaning Services", "Kanzlei", "Bootsbau GmbH", "Elektro AG",
           "Water Company", "Insurance plc", "Couriers", "Catering")  # fmt: skip
GOODS = ("Copper nails 40 mm", "Hire of hall", "Annual service", "Paper A4 white", "Lunch for twelve", "Survey of hull", "Parcel to Leith",
          "Window cleaning", "Schrauben M6", "Beratung, Stunde", "Wartung", "Farbe weiss 5 l")  # fmt: skip
SUBJECTS = ("Renewal of your policy", "Works at the north gate", "Minutes of the last visit", "Change of address", "Parking permit",
             "Umbau der Werkstatt", "Kündigung des Stellplatzes", "Ihre Anfrage vom Frühjahr", "Access to the lower quay", "Season tickets")  # fmt: skip
PEOPLE = (
    ("Ada", "Brand"),
    ("Tom", "Fairweather"),
    ("Noor", "El-Amin"),
    ("Jonas", "Weiss"),
    ("Mia", "van Holt"),
    ("Owen", "Pryce"),
)
COURSES = ("Rigging", "Boat Carpentry 2", "Engines and Pumps", "Segelmachen")
TASKS = ("Splicing", "Task 3 Scarf joint", "Ölwechsel", "Service log", "Whipping and seizing")
EN_MONTHS = (
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
DE_MONTHS = (
    "Januar",
    "Februar",
    "März",
    "April",
    "Mai",
    "Juni",
    "Juli",
    "August",
    "September",
    "Oktober",
    "November",
    "Dezember",
)

WORDS: dict[str, dict[str, tuple[str, ...]]] = {
    "en": {
        "invoice": ("INVOICE", "Invoice", "Tax invoice"), "credit note": ("CREDIT NOTE", "Credit note"), "receipt": ("RECEIPT", "Receipt"),
        "ref": ("Invoice no.", "Invoice number", "Number", "Our ref", "Document no", "Reference"),
        "issued": ("Date", "Invoice date", "Issue date", "Date of issue", "Issued"), "due": ("Due date", "Pay by", "Payment due", "Due"),
        "net": ("Net", "Subtotal", "Total excl. VAT"), "tax": ("VAT 20%", "VAT", "Tax"), "gross": ("Total", "Amount due", "Total due", "Balance due", "Grand total"),
        "terms": ("Payment within {} days.", "Terms: {} days net", "Please pay in {} days."), "dear": ("Dear Sir or Madam,", "Dear Ms Holt,", "Dear treasurer,"),
        "subject": ("Re: ", "Subject: ", ""), "to": ("Bill to", "To", "Customer", ""), "close": ("Yours sincerely", "Kind regards"),
        "noise": ("Order no. 77-{}", "Customer number: {}", "Tel 01234 {}", "IBAN GB33 OTTR 2020 1555 5{}", "Delivered by van {}", "Company reg. no. 0{}"),
    },
    "de": {
        "invoice": ("RECHNUNG", "Rechnung"), "credit note": ("Gutschrift", "GUTSCHRIFT"), "receipt": ("Quittung", "QUITTUNG"),
        "ref": ("Rechnungsnummer", "Rechnungs-Nr.", "Nr.", "Unser Zeichen", "Belegnummer"), "issued": ("Datum", "Rechnungsdatum", "Ausgestellt am"),
        "due": ("Fällig am", "Zahlbar bis"), "net": ("Netto", "Zwischensumme", "Nettobetrag"), "tax": ("MwSt 19%", "USt", "Umsatzsteuer 19 %"),
        "gross": ("Gesamtbetrag", "Rechnungsbetrag", "Zu zahlen", "Summe", "Endbetrag"), "terms": ("Zahlbar innerhalb von {} Tagen.", "Zahlungsziel: {} Tage netto"),
        "dear": ("Sehr geehrte Damen und Herren,", "Sehr geehrte Frau Holt,"), "subject": ("Betreff: ", ""), "to": ("Rechnung an", "Kunde", ""),
        "close": ("Mit freundlichen Grüßen",), "noise": ("Bestellung 77-{}", "Kundennummer: {}", "Telefon 030 {}", "IBAN DE02 1203 0000 0000 2{}", "Steuernummer 12/{}/777"),
    },
}  # fmt: skip
