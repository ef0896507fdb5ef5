"""What the fitting maker writes, by language: titles, labels, items, sentences."""

from typing import Any

L: dict[str, dict[str, Any]] = {
    "en": {
        "title": {
            "invoice": ["INVOICE", "Invoice", "Tax Invoice", "Sales invoice", "Service invoice", "Annual invoice", "VAT INVOICE", "Bill", "Invoice for services"],
            "credit note": ["Credit note", "CREDIT NOTE", "Credit memo", "Credit"], "receipt": ["Receipt", "RECEIPT", "Payment receipt", "Sales receipt", "Cash receipt"],
            "statement": ["Statement", "Statement of account", "STATEMENT", "Customer statement"], "reminder": ["Reminder", "Payment reminder", "Final notice", "Overdue account", "Second reminder"],
            "delivery note": ["Delivery note", "DELIVERY NOTE", "Packing slip", "Despatch note"], "quote": ["Quotation", "QUOTE", "Estimate", "Quote"],
            "order": ["Purchase order", "PURCHASE ORDER", "Order confirmation", "Order"], "remittance": ["Remittance advice", "REMITTANCE ADVICE", "Payment advice"],
            "proforma": ["Proforma invoice", "PRO FORMA INVOICE", "Pro-forma"], "payslip": ["Payslip", "PAY SLIP", "Pay advice"],
            "contract": ["Agreement", "Contract", "Service Agreement", "LEASE AGREEMENT", "Maintenance agreement", "Hire agreement", "Contract for services"],
            "minutes": ["Minutes", "Minutes of the yard meeting", "Minutes of the trustees' meeting", "MINUTES", "Meeting minutes"], "coursework": ["Coursework", "Assignment cover sheet", "Assignment", "Lab report", "Coursework submission", "Worksheet"],
            "paper": ["Certificate of insurance", "Notice to members", "Price list", "Inspection report", "Newsletter", "Risk assessment", "Agenda", "Form", "Certificate", "Memorandum", "Timetable"],
        },
        "own": {"invoice": ["Invoice", "Inv."], "credit note": ["Credit note", "Credit"], "receipt": ["Receipt"], "statement": ["Statement"], "reminder": ["Reminder"], "delivery note": ["Delivery note", "Delivery"], "quote": ["Quote", "Quotation"], "order": ["Order", "PO"], "remittance": ["Remittance"], "proforma": ["Proforma"], "payslip": ["Payroll"], "contract": ["Contract", "Agreement"], "minutes": ["Meeting"], "coursework": ["Submission"], "paper": ["Document"]},
        "number": ["{o} number", "{o} no.", "{o} no", "{o} #", "{o} No", "{o} ref", "{o} reference", "No.", "Number", "Reference", "Our ref", "Document no.", "Ref.", "{o} ID", "{o}"],
        "issued": ["{o} date", "Date", "Date of issue", "Issued", "Dated", "Issue date", "Tax point", "{o} date", "Date issued", "Created"],
        "due": ["Due date", "Payment due", "Due", "Pay by", "Please pay by", "Payable by", "Due by", "Payment due by", "To be paid by", "Payment date"],
        "total": ["Total", "TOTAL", "Total due", "Amount due", "Grand total", "Total incl. VAT", "Invoice total", "Total payable", "Balance due", "To pay", "Total amount", "Total inc VAT", "Please pay"],
        "credit total": ["Total credit", "Credit total", "Total", "Amount credited", "Total refunded"], "receipt total": ["Total paid", "Amount received", "Total", "Amount paid", "TOTAL", "Paid"],
        "net": ["Subtotal", "Net", "Sub-total", "Total net", "Net amount", "Total excl. VAT", "Goods total"], "tax": ["VAT 20%", "VAT", "VAT @ 20%", "Sales tax", "Tax", "VAT (20%)"],
        "paid": ["Deposit paid", "Less paid", "Paid to date", "Payments received"], "balance": ["Balance due", "Amount due", "Balance", "Still to pay"], "discount": ["Discount", "Less discount"], "carriage": ["Carriage", "Delivery", "Shipping", "Postage"],
        "decoy number": ["Customer no.", "Account number", "Your order", "Order no.", "PO number", "Customer ID", "Your ref", "VAT no.", "Company no.", "Job no.", "Project", "Delivery note no.", "Quote no.", "Contract no.", "Tel.", "Fax", "Original invoice", "Meter no.", "Membership no.", "Client"],
        "decoy day": ["Delivery date", "Order date", "Date of supply", "Service date", "Period from", "Printed", "Your order of", "Date of birth", "Last payment", "Valid until", "Start date", "Despatched"],
        "bank": ["IBAN", "Sort code", "Account no."], "heads": [["Description", "Qty", "Price", "Amount"], ["Item", "Quantity", "Unit price", "Total"], ["Qty", "Details", "Rate", "Value"], ["Date", "Work done", "Hours", "Amount"], ["Description", "Amount"], ["Item", "VAT", "Net", "Gross"]],
        "items": ["Copper rivets 20 mm", "Larch planks", "Marine varnish", "Slipway hire", "Engine service", "Rope 12 mm", "Hull survey", "Berth rent", "Sail repair", "Diesel filter", "Labour", "Bronze screws", "Mooring fee", "Paint, red lead", "Water and power", "Crane lift", "Winter storage"],
        "to": ["Bill to", "Invoice to", "To", "Customer", "Sold to", "Deliver to"], "opening": ["Dear Trustees,", "Dear Ms Holm,", "Dear Sir or Madam,", "Dear Imre,", "To whom it may concern,"], "closing": ["Yours sincerely,", "Kind regards,", "Yours faithfully,", "Best wishes,"],
        "re": ["Re:", "Subject:", "RE:", "Regarding:", ""], "subjects": ["Repair of the north slipway", "Your berth for the coming season", "Opening hours of the chandlery", "Change of our bank details", "Insurance of the workshop", "Survey of the ketch", "Invitation to the launching", "Complaint about the last delivery", "Harbour dues next year", "Access to the crane on Sundays", "Your application as an apprentice", "Thank you for your help", "Minutes of the last meeting", "Your invoice of last month", "Contract for the new crane", "Order of the paint", "Certificate for the engine", "Report on the works", "Our quotation of last week", "Agenda for the autumn"],
        "prose": ["Thank you for the time that you gave us last week.", "We should be glad to hear from you before the end of the month.", "The work went on as agreed and the hull is dry again.", "As you know, the tide will not wait for the paint.", "We enclose the papers that you asked for.", "Please let us know whether this suits you.", "The committee has talked about it at length.", "Our yard will be closed over the holidays.", "The keys are with the harbour master.", "We have looked into the matter and found no fault with the timber.", "Everybody was content with the result.", "The next steps are set out below."],
        "terms": ["Payment within {n} days.", "Terms: {n} days net", "Payable within {n} days of the invoice date.", "Net {n} days", "Please pay within {n} days."], "discount terms": ["2 % discount within 10 days, {n} days net", "3% within 8 days, otherwise within {n} days net"], "at once": ["Due on receipt.", "Payable immediately."],
        "decoy prose": ["Your order no. {r} of {d} was carried out in full.", "Invoice {r} of {d} is cancelled by this.", "This refers to our quotation {r} dated {d}.", "Thank you for your payment of {a}.", "Your deposit of {a} was received on {d}.", "An advance of {a} has been paid.", "This receipt is not an invoice.", "Please quote the invoice number when you pay.", "Registered in England, company no. {r}.", "A minimum charge of {a} applies."],
        "bill prose": ["For the work on your boat we charge {a}, to be paid by {due}. Our number is {ref}.", "We herewith invoice you {a} under number {ref}, payable by {due}."],
        "parties": ["This agreement is made on {d} between the Trust and the Tenant.", "Contract no. {ref}, made on {d}"], "present": ["Present:", "Apologies:", "In the chair:"], "points": ["Minutes of the last meeting", "Matters arising", "Treasurer's report", "State of the slipway", "Any other business", "Date of next meeting"],
        "person": ["Student", "Name", "Student name", "Submitted by", "Author", "Apprentice", "Candidate"], "course": ["Course", "Module", "Unit", "Class"], "task": ["Task", "Assignment", "Exercise", "Title"], "attempt": ["Attempt", "Submission no."], "submitted": ["Submitted on", "Date", "Handed in", "Date of submission"], "tutor": ["Tutor", "Lecturer", "Supervisor"],
        "courses": ["Ropework and rigging", "Timber I", "Boat Engines", "Navigation 2", "BT104 Hull Repair", "Sailmaking"], "tasks": ["Task 3", "Splicing a three-strand rope", "Exercise 2: Caulking", "Assignment 4", "A scarf joint in larch", "Reading a tide table"],
        "page": "Page {i} of {n}", "months": ["January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November", "December"],
        "dates": ["{d} {M} {y}", "{d}/{m:02}/{y}", "{d:02}/{m:02}/{y}", "{d:02}.{m:02}.{y}", "{y}-{m:02}-{d:02}", "{M} {d}, {y}", "{d:02}-{Mo}-{y}", "{d} {Mo} {y}", "{d:02}/{m:02}/{yy:02}", "{d}th {M} {y}"], "place": "{p}, {d}",
        "money": ["£{a}", "{a} GBP", "GBP {a}", "£ {a}", "{a}", "${a}"], "mark": [",."],
    },
    "de": {
        "title": {
            "invoice": ["Rechnung", "RECHNUNG", "Schlussrechnung", "Abschlagsrechnung", "Rechnung für Werkstattarbeiten", "Liegeplatzrechnung"], "credit note": ["Gutschrift", "GUTSCHRIFT", "Rechnungskorrektur", "Stornorechnung"], "receipt": ["Quittung", "Kassenbeleg", "QUITTUNG", "Zahlungsbeleg"],
            "statement": ["Kontoauszug", "Saldenbestätigung"], "reminder": ["Mahnung", "Zahlungserinnerung", "2. Mahnung", "Letzte Mahnung"], "delivery note": ["Lieferschein", "LIEFERSCHEIN", "Packliste"], "quote": ["Angebot", "ANGEBOT", "Kostenvoranschlag"], "order": ["Bestellung", "Auftragsbestätigung", "BESTELLUNG"],
            "remittance": ["Zahlungsavis", "Avis"], "proforma": ["Proforma-Rechnung", "Proformarechnung"], "payslip": ["Gehaltsabrechnung", "Lohnabrechnung", "Entgeltabrechnung"], "contract": ["Mietvertrag", "Vertrag", "Wartungsvertrag", "Vereinbarung", "Pachtvertrag"], "minutes": ["Protokoll", "Sitzungsprotokoll", "Protokoll der Vorstandssitzung", "Niederschrift"],
            "coursework": ["Hausarbeit", "Übungsblatt", "Projektarbeit", "Kursarbeit"], "paper": ["Bescheinigung", "Prüfbericht", "Preisliste", "Rundschreiben", "Merkblatt", "Einladung", "Zeugnis", "Tagesordnung"],
        },
        "own": {"invoice": ["Rechnungs"], "credit note": ["Gutschrifts"], "receipt": ["Beleg", "Quittungs"], "statement": ["Auszugs"], "reminder": ["Mahn"], "delivery note": ["Lieferschein"], "quote": ["Angebots"], "order": ["Auftrags", "Bestell"], "remittance": ["Avis"], "proforma": ["Proforma"], "payslip": ["Abrechnungs"], "contract": ["Vertrags"], "minutes": ["Sitzungs"], "coursework": ["Abgabe"], "paper": ["Dokument"]},
        "number": ["{o}nummer", "{o}-Nr.", "{o}nr.", "{o}-Nummer", "Nr.", "Nummer", "Belegnummer", "Beleg-Nr.", "Unser Zeichen", "{o} Nr."], "issued": ["{o}datum", "Datum", "Ausstellungsdatum", "Belegdatum", "vom", "Ausgestellt am"],
        "due": ["Fällig am", "Fälligkeitsdatum", "Zahlbar bis", "Zahlungsziel", "Fälligkeit", "Bitte zahlen bis", "fällig", "Zu zahlen bis", "Zahlung bis"], "total": ["Gesamtbetrag", "Rechnungsbetrag", "Zahlbetrag", "Endbetrag", "Gesamt", "Summe", "Bruttobetrag", "Zu zahlen", "Summe brutto", "Gesamtsumme", "Gesamtbetrag inkl. MwSt"],
        "credit total": ["Gutschriftsbetrag", "Gesamtbetrag", "Summe"], "receipt total": ["Betrag", "Summe", "Gesamt", "Betrag erhalten"], "net": ["Nettobetrag", "Zwischensumme", "Summe netto", "Netto", "Nettosumme"], "tax": ["MwSt. 19 %", "zzgl. 19% USt", "Umsatzsteuer 19 %", "MwSt", "USt 7%"],
        "paid": ["abzgl. Anzahlung", "Anzahlung", "bereits bezahlt"], "balance": ["Restbetrag", "Noch zu zahlen", "Offener Betrag"], "discount": ["Rabatt", "Nachlass"], "carriage": ["Versand", "Fracht", "Porto"],
        "decoy number": ["Kundennummer", "Kunden-Nr.", "Ihre Bestellung", "Bestellnummer", "Auftragsnummer", "USt-IdNr.", "Steuernummer", "HRB", "Projekt", "Lieferschein-Nr.", "Vertragsnummer", "Ihr Zeichen", "Telefon", "Fax", "Zählernummer", "Ursprüngliche Rechnung", "Mitgliedsnummer", "Debitor"], "decoy day": ["Lieferdatum", "Leistungsdatum", "Bestelldatum", "Auftragsdatum", "Leistungszeitraum ab", "Druckdatum", "Ihre Bestellung vom", "Geburtsdatum", "gültig bis", "Vertragsbeginn"],
        "bank": ["IBAN", "BLZ", "Konto"], "heads": [["Pos.", "Bezeichnung", "Menge", "Betrag"], ["Artikel", "Menge", "Einzelpreis", "Gesamt"], ["Leistung", "Std.", "Satz", "Summe"], ["Beschreibung", "Betrag"], ["Menge", "Beschreibung", "EP", "GP"]],
        "items": ["Kupfernieten 20 mm", "Lärchenbretter", "Bootslack", "Slipanlage", "Motorwartung", "Tauwerk 12 mm", "Rumpfprüfung", "Liegeplatz", "Segelreparatur", "Arbeitszeit", "Bronzeschrauben", "Krangebühr", "Winterlager", "Strom und Wasser"], "to": ["Rechnung an", "An", "Kunde", "Empfänger"],
        "opening": ["Sehr geehrte Damen und Herren,", "Sehr geehrte Frau Holm,", "Guten Tag,", "Lieber Imre,", "Sehr geehrter Herr Fenn,"], "closing": ["Mit freundlichen Grüßen", "Freundliche Grüße", "Beste Grüße"], "re": ["Betreff:", "Betr.:", "", ""],
        "subjects": ["Instandsetzung der Slipanlage", "Ihr Liegeplatz in der kommenden Saison", "Neue Öffnungszeiten", "Änderung unserer Bankverbindung", "Versicherung der Werkstatt", "Einladung zum Stapellauf", "Beschwerde über die letzte Lieferung", "Hafengebühren im nächsten Jahr", "Protokoll der letzten Sitzung", "Ihre Rechnung vom letzten Monat", "Vertrag über den neuen Kran", "Bestellung der Farbe", "Bericht über die Arbeiten", "Unser Angebot von letzter Woche"], "prose": ["Vielen Dank für Ihre Nachricht von letzter Woche.", "Wir freuen uns auf Ihre Rückmeldung bis Ende des Monats.", "Die Arbeiten sind wie vereinbart ausgeführt worden.", "Anbei erhalten Sie die gewünschten Unterlagen.", "Bitte teilen Sie uns mit, ob Ihnen das recht ist.", "Der Vorstand hat darüber lange gesprochen.", "Unsere Werft bleibt über die Feiertage geschlossen.", "Die Schlüssel liegen beim Hafenmeister."],
        "terms": ["Zahlbar innerhalb von {n} Tagen ohne Abzug.", "Zahlungsziel: {n} Tage netto", "Bitte zahlen Sie binnen {n} Tagen."], "discount terms": ["Bei Zahlung innerhalb von 10 Tagen 2 % Skonto, {n} Tage netto", "{n} Tage netto, 8 Tage 3% Skonto"], "at once": ["Zahlbar sofort ohne Abzug.", "Sofort fällig."],
        "decoy prose": ["Ihre Bestellung Nr. {r} vom {d} haben wir ausgeführt.", "Die Rechnung {r} vom {d} wird hiermit storniert.", "Wir beziehen uns auf unser Angebot {r} vom {d}.", "Ihre Zahlung über {a} haben wir erhalten.", "Die Anzahlung von {a} ist eingegangen.", "Bitte geben Sie bei der Zahlung die Rechnungsnummer an.", "Amtsgericht Küstenort HRB {r}"], "bill prose": ["Für die Arbeiten an Ihrem Boot berechnen wir {a}, zahlbar bis {due}. Unsere Nummer: {ref}.", "Hiermit stellen wir Ihnen {a} unter Nummer {ref} in Rechnung, zahlbar bis {due}."],
        "parties": ["Dieser Vertrag wird am {d} zwischen der Stiftung und dem Mieter geschlossen.", "Vertrag Nr. {ref} vom {d}"], "present": ["Anwesend:", "Entschuldigt:", "Leitung:"], "points": ["Protokoll der letzten Sitzung", "Bericht der Kasse", "Zustand der Slipanlage", "Verschiedenes", "Nächster Termin"],
        "person": ["Name", "Verfasser", "Vorgelegt von", "Auszubildende", "Teilnehmer"], "course": ["Kurs", "Lehrgang", "Modul"], "task": ["Aufgabe", "Thema", "Übung"], "attempt": ["Versuch", "Abgabe Nr."], "submitted": ["Abgegeben am", "Datum", "Abgabedatum"], "tutor": ["Dozent", "Prüfer"], "courses": ["Tauwerk und Takelage", "Holz I", "Bootsmotoren", "Navigation 2"], "tasks": ["Aufgabe 3", "Spleißen", "Übung 2: Kalfatern", "Blatt 4"],
        "page": "Seite {i} von {n}", "months": ["Januar", "Februar", "März", "April", "Mai", "Juni", "Juli", "August", "September", "Oktober", "November", "Dezember"], "dates": ["{d:02}.{m:02}.{y}", "{d}.{m}.{y}", "{d}. {M} {y}", "{d:02}.{m:02}.{yy:02}", "{d}. {Mo} {y}"], "place": "{p}, den {d}", "money": ["{a} €", "{a} EUR", "EUR {a}", "€ {a}", "{a}"], "mark": [".,"],
    },
}  # fmt: skip
SMALL: dict[str, dict[str, Any]] = {
    "fr": {
        "title": {"invoice": ["Facture", "FACTURE"], "credit note": ["Avoir", "AVOIR"], "receipt": ["Reçu"], "delivery note": ["Bon de livraison"], "quote": ["Devis"], "order": ["Bon de commande"], "reminder": ["Rappel"]}, "own": {"invoice": ["facture"], "credit note": ["avoir"], "receipt": ["reçu"], "delivery note": ["livraison"], "quote": ["devis"], "order": ["commande"], "reminder": ["rappel"]},
        "number": ["Numéro de {o}", "N° {o}", "{O} n°", "Référence"], "issued": ["Date de {o}", "Date d'émission", "Date"], "due": ["Date d'échéance", "Échéance", "À payer avant le"], "total": ["Total TTC", "Montant TTC", "Net à payer"], "credit total": ["Total TTC"], "receipt total": ["Total", "Montant payé"], "net": ["Total HT", "Sous-total HT"], "tax": ["TVA 20 %", "TVA"],
        "decoy number": ["N° client", "Votre commande", "N° TVA", "SIRET", "Tél."], "decoy day": ["Date de livraison", "Date de commande"], "heads": [["Désignation", "Quantité", "Prix unitaire", "Montant"]], "items": ["Rivets de cuivre", "Vernis marin", "Location du slip"], "to": ["Facturé à", "Client"], "page": "Page {i} sur {n}", "months": ["janvier", "février", "mars", "avril", "mai", "juin", "juillet", "août", "septembre", "octobre", "novembre", "décembre"], "dates": ["{d:02}/{m:02}/{y}", "{d} {M} {y}"], "money": ["{a} €", "{a} EUR"], "mark": [" ,"], "terms": ["Paiement sous {n} jours"],
    },
    "nl": {
        "title": {"invoice": ["Factuur", "FACTUUR"], "credit note": ["Creditnota"], "receipt": ["Kwitantie"], "delivery note": ["Pakbon"], "quote": ["Offerte"], "order": ["Bestelling"], "reminder": ["Herinnering"]}, "own": {"invoice": ["Factuur"], "credit note": ["Credit"], "receipt": ["Bon"], "delivery note": ["Pakbon"], "quote": ["Offerte"], "order": ["Order"], "reminder": ["Herinnering"]},
        "number": ["{O}nummer", "{O}nr.", "Nummer", "Kenmerk"], "issued": ["{O}datum", "Datum"], "due": ["Vervaldatum", "Te betalen voor", "Uiterlijk te betalen"], "total": ["Totaal incl. btw", "Totaal", "Te betalen", "Totaalbedrag"], "credit total": ["Totaal"], "receipt total": ["Totaal", "Betaald"], "net": ["Subtotaal", "Totaal excl. btw"], "tax": ["Btw 21%", "BTW"],
        "decoy number": ["Klantnummer", "Uw order", "Btw-nummer", "KvK", "Tel."], "decoy day": ["Leverdatum", "Besteldatum"], "heads": [["Omschrijving", "Aantal", "Prijs", "Bedrag"]], "items": ["Koperen nagels", "Bootlak", "Hellinghuur"], "to": ["Aan", "Klant"], "page": "Pagina {i} van {n}", "months": ["januari", "februari", "maart", "april", "mei", "juni", "juli", "augustus", "september", "oktober", "november", "december"], "dates": ["{d:02}-{m:02}-{y}", "{d} {M} {y}"], "money": ["€ {a}", "{a} EUR"], "mark": [".,"], "terms": ["Betaling binnen {n} dagen"],
    },
    "es": {
        "title": {"invoice": ["Factura", "FACTURA"], "credit note": ["Factura rectificativa"], "receipt": ["Recibo"], "delivery note": ["Albarán"], "quote": ["Presupuesto"], "order": ["Pedido"], "reminder": ["Recordatorio de pago"]}, "own": {"invoice": ["factura"], "credit note": ["abono"], "receipt": ["recibo"], "delivery note": ["albarán"], "quote": ["presupuesto"], "order": ["pedido"], "reminder": ["aviso"]},
        "number": ["Número de {o}", "{O} nº", "Nº {o}", "Referencia"], "issued": ["Fecha de {o}", "Fecha de emisión", "Fecha"], "due": ["Fecha de vencimiento", "Vencimiento", "Pagar antes del"], "total": ["Total factura", "Importe total", "Total a pagar", "Total"], "credit total": ["Total"], "receipt total": ["Total", "Importe pagado"], "net": ["Base imponible", "Subtotal"], "tax": ["IVA 21 %", "IVA"],
        "decoy number": ["Nº cliente", "Su pedido", "CIF", "Tel."], "decoy day": ["Fecha de entrega", "Fecha de pedido"], "heads": [["Descripción", "Cantidad", "Precio", "Importe"]], "items": ["Remaches de cobre", "Barniz marino"], "to": ["Cliente", "Facturar a"], "page": "Página {i} de {n}", "months": ["enero", "febrero", "marzo", "abril", "mayo", "junio", "julio", "agosto", "septiembre", "octubre", "noviembre", "diciembre"], "dates": ["{d:02}/{m:02}/{y}", "{d} de {M} de {y}"], "money": ["{a} €", "{a} EUR"], "mark": [".,"], "terms": ["Pago a {n} días"],
    },
    "it": {
        "title": {"invoice": ["Fattura", "FATTURA"], "credit note": ["Nota di credito"], "receipt": ["Ricevuta"], "delivery note": ["Documento di trasporto"], "quote": ["Preventivo"], "order": ["Ordine"], "reminder": ["Sollecito di pagamento"]}, "own": {"invoice": ["fattura"], "credit note": ["nota"], "receipt": ["ricevuta"], "delivery note": ["DDT"], "quote": ["preventivo"], "order": ["ordine"], "reminder": ["sollecito"]},
        "number": ["Numero {o}", "{O} n.", "N. {o}", "Riferimento"], "issued": ["Data {o}", "Data di emissione", "Data"], "due": ["Scadenza", "Data di scadenza", "Da pagare entro il"], "total": ["Totale fattura", "Totale da pagare", "Importo totale", "Totale"], "credit total": ["Totale"], "receipt total": ["Totale", "Importo pagato"], "net": ["Imponibile", "Subtotale"], "tax": ["IVA 22%", "IVA"],
        "decoy number": ["Codice cliente", "Vostro ordine", "P. IVA", "Tel."], "decoy day": ["Data consegna", "Data ordine"], "heads": [["Descrizione", "Quantità", "Prezzo", "Importo"]], "items": ["Rivetti di rame", "Vernice marina"], "to": ["Spett.le", "Cliente"], "page": "Pagina {i} di {n}", "months": ["gennaio", "febbraio", "marzo", "aprile", "maggio", "giugno", "luglio", "agosto", "settembre", "ottobre", "novembre", "dicembre"], "dates": ["{d:02}/{m:02}/{y}", "{d} {M} {y}"], "money": ["€ {a}", "{a} EUR"], "mark": [".,"], "terms": ["Pagamento entro {n} giorni"],
    },
}  # fmt: skip
HOUSES = [
    "Tollgate Timber",
    "Brine Lane Chandlery",
    "Otter & Sons",
    "Quayside Electrics",
    "Nordmole Werft",
    "Fenwick Rope Works",
    "Harbour Trust",
    "Marrow Engines Ltd",
    "Segelmacherei Lund",
    "Kestrel Insurance",
    "Tern Island Ferries",
    "Old Pier Café",
]
NAMES = [
    ("Ada", "Fenn"),
    ("Imre", "Castellan"),
    ("Odalys", "Brink"),
    ("Lise", "Brandt"),
    ("Petra", "Holm"),
    ("Jonas", "van der Meer"),
    ("Mara", "Quist"),
    ("Tobias", "Lund"),
    ("Inés", "Roca"),
    ("Hal", "Otter"),
]
PLACES = ["Port Ellery", "Saltmarsh", "Nordmole", "Brackwater"]
STREETS = ["4 Quay Road", "Hafenstr. 12", "Slipway Lane 7", "The Old Boathouse", "Am Deich 3", "PO Box 118"]
CITIES = ["Port Ellery PE4 7QX", "24103 Nordmole", "Saltmarsh SM1 2AB", "10115 Küstenort", "Brackwater, ME 04101"]
