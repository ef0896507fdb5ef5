"""What papers of the calibrating maker say."""

from typing import Any

TITLES: dict[str, dict[str, list[str]]] = {
    "en": {
        "invoice": ["Invoice", "TAX INVOICE", "INVOICE", "Maintenance invoice", "Invoice for work done", "Final invoice", "Hire invoice"], "credit note": ["CREDIT NOTE", "Credit Note", "Credit memorandum"], "receipt": ["RECEIPT", "Official receipt", "Receipt of payment", "Till receipt"],
        "statement": ["Account statement", "STATEMENT OF ACCOUNT", "Monthly statement"], "reminder": ["Final reminder", "PAYMENT REMINDER", "First reminder", "Overdue notice"], "delivery note": ["DELIVERY NOTE", "Packing list", "Dispatch note", "Goods delivery note"], "quote": ["QUOTATION", "Our quotation", "Estimate of costs"],
        "order": ["PURCHASE ORDER", "Order acknowledgement", "Work order"], "remittance": ["REMITTANCE ADVICE", "Remittance"], "proforma": ["PROFORMA INVOICE", "Pro forma"], "payslip": ["PAYSLIP", "Salary slip", "Pay statement"], "contract": ["TENANCY AGREEMENT", "Berthing agreement", "Contract of hire", "Licence agreement", "Storage contract"],
        "minutes": ["MINUTES OF THE GENERAL MEETING", "Minutes: working group", "Minutes of meeting", "Committee minutes"], "coursework": ["COURSEWORK", "Practical assignment", "Homework", "Course work cover page", "Portfolio"], "paper": ["NOTICE", "Certificate of competence", "Safety report", "Survey report", "Checklist", "Programme of events", "Members' newsletter", "Tide table"],
    },
    "de": {
        "invoice": ["RECHNUNG", "Rechnung", "Wartungsrechnung", "Endrechnung", "Mietrechnung"], "credit note": ["GUTSCHRIFT", "Korrekturrechnung", "Storno"], "receipt": ["QUITTUNG", "Barquittung", "Zahlungsbestätigung"], "statement": ["KONTOAUSZUG", "Offene Posten"], "reminder": ["MAHNUNG", "1. Mahnung", "Zahlungserinnerung"],
        "delivery note": ["LIEFERSCHEIN", "Versandanzeige"], "quote": ["ANGEBOT", "Kostenvoranschlag"], "order": ["AUFTRAGSBESTÄTIGUNG", "Bestellung"], "remittance": ["ZAHLUNGSAVIS"], "proforma": ["PROFORMA-RECHNUNG"], "payslip": ["LOHNABRECHNUNG", "Verdienstabrechnung"], "contract": ["MIETVERTRAG", "Liegeplatzvertrag", "Rahmenvertrag", "Dienstleistungsvertrag"],
        "minutes": ["PROTOKOLL", "Ergebnisprotokoll", "Protokoll der Mitgliederversammlung"], "coursework": ["HAUSARBEIT", "Facharbeit", "Deckblatt", "Werkstattaufgabe"], "paper": ["MERKBLATT", "Sicherheitsbericht", "Aushang", "Einladung", "Bescheid", "Gezeitentafel", "Zeugnis"],
    },
    "fr": {"invoice": ["FACTURE", "Facture d'acompte"], "credit note": ["AVOIR"], "receipt": ["REÇU"], "quote": ["DEVIS"], "letter": [""]},
    "nl": {"invoice": ["FACTUUR", "Verkoopfactuur"], "credit note": ["CREDITFACTUUR"], "receipt": ["KWITANTIE"], "quote": ["OFFERTE"], "letter": [""]},
    "es": {"invoice": ["FACTURA"], "credit note": ["NOTA DE ABONO"], "receipt": ["RECIBO"], "quote": ["PRESUPUESTO"], "letter": [""]},
    "it": {"invoice": ["FATTURA"], "credit note": ["NOTA DI ACCREDITO"], "receipt": ["RICEVUTA"], "quote": ["PREVENTIVO"], "letter": [""]},
}  # fmt: skip
_EN = {
    "numbers": {"invoice": ["Invoice No:", "Invoice number", "Inv no", "Invoice ref:", "Doc. number", "Our reference", "Number:"], "credit note": ["Credit note number", "Credit no.", "Number", "Reference:"], "receipt": ["Receipt No.", "Receipt number:", "Reference", "Transaction"], "contract": ["Agreement no.", "Contract number:", "Ref:"], "*": ["Number", "Ref.", "Reference no.", "Document"]},
    "days": ["Date:", "Invoice date", "Date of invoice", "Issued on", "DATE", "Issue date:", "Tax date"], "plain days": ["Date:", "Date", "Issued on", "Dated"], "dues": ["Due date:", "Payment due by", "Due on", "Last day of payment", "Please pay before", "Payment deadline", "Due"],
    "sums": ["Total to pay", "Amount payable", "Total (GBP)", "TOTAL DUE", "Total including VAT", "Gross total", "Amount due:", "Total"], "backs": ["Total credited", "Credit amount", "Total"], "hads": ["Received with thanks", "Total received", "Amount:", "Total paid"], "nets": ["Net total", "Sub total", "Total before VAT", "Net"], "taxes": ["VAT at 20%", "VAT 20.0 %", "plus VAT", "Tax"],
    "other numbers": ["Customer number", "Your reference", "Order number:", "Account:", "Our VAT no", "Cust. ID", "Purchase order", "Boat reg.", "Berth", "Quotation no.", "Delivery note", "Telephone", "Charity no.", "Previous invoice", "Policy no."], "other days": ["Order date", "Delivered on", "Date of delivery", "Work done on", "Statement period", "Booking date", "Next inspection", "Valid to", "Print date"],
    "columns": [["Particulars", "Hours", "Rate", "Amount"], ["No.", "Description", "Price"], ["Goods", "Quantity", "Each", "Sum"], ["Description of work", "Charge"], ["Code", "Item", "Qty", "Net", "VAT"]],
    "things": ["Anodes, zinc", "Caulking cotton", "Hauling out", "Pressure washing", "Mast unstepping", "Oak frames", "Copper sheathing", "Bilge pump", "Rigging check", "Antifouling", "Use of the shed", "Winch service", "Life jackets", "Tiller extension"], "to whom": ["Invoiced to", "For the attention of", "Client", "Delivered to"],
    "hello": ["Dear Mr Castellan,", "Dear members,", "Good morning,", "Dear colleagues,", "Dear Madam,"], "bye": ["Yours truly,", "With kind regards,", "Yours sincerely", "Best regards,"], "about": ["Subject:", "Re.", "Concerning:", ""],
    "topics": ["Lifting dates in autumn", "Repairs to the pontoon", "Your letter about the mast", "New rules for the paint store", "Renewal of the mooring", "Change of address", "Offer of a place on the course", "Claim after the storm", "Sale of the old crane", "Reference for Jonas Quist"],
    "talk": ["We write to tell you how the works are going.", "Nothing has changed since we last spoke.", "The pontoon has been taken out and will be back in spring.", "Could you let the office know which week suits you?", "A copy of the plan is with the caretaker.", "The storm did less harm than we had feared.", "Members are asked to leave the slip clear.", "There was a good deal of laughter about the tiller.", "We hope that you will join us for the launch.", "All tools are to be cleaned and hung up."],
    "within": ["Payment terms: {n} days", "To be paid within {n} days of receipt", "{n} days net", "Kindly pay in {n} days"], "told": ["Refers to your purchase order {x} dated {t}.", "This cancels our invoice {x} of {t}.", "We have received {m} on account, thank you.", "Goods remain ours until paid for.", "As quoted under {x}.", "Late payment is charged with {m}."],
    "agreed": ["This contract is made on {t} between the Boatyard and the Hirer.", "Agreement dated {t} between the parties named below."], "there": ["Attending", "Apologies received", "Chair"], "agenda": ["Welcome", "Finances", "The crane", "Volunteers", "Dates", "Thanks"], "who": ["Name of student", "Learner", "Handed in by", "Written by", "Candidate name"], "what course": ["Course title", "Module", "Programme", "Course"], "what task": ["Assignment", "Task", "Title of work", "Exercise"], "what try": ["Attempt", "Attempt number"], "when": ["Date handed in", "Submission date", "Date"], "teacher": ["Marked by", "Teacher", "Instructor"],
    "courses": ["Foundations of boatbuilding", "Rigging 1", "Diesel basics", "Chart work", "Lofting"], "tasks": ["Task 2", "Eye splice and whipping", "Exercise 5", "Laying out a frame", "Assignment 1: Tools"], "paged": "Page {i} of {n}", "months": "January February March April May June July August September October November December", "writes": ["{d} {M} {y}", "{d:02}/{m:02}/{y}", "{d} {b} {y}", "{d:02}-{m:02}-{y}", "{M} {d}, {y}", "{y}-{m:02}-{d:02}", "{d:02}.{m:02}.{y}", "{d:02} {b} {s}"], "money": ["£{a}", "{a} GBP", "{a}", "£ {a}"], "marks": (",", "."),
    "earned": ["Salary", "Bonus", "National insurance", "Net pay"],
}  # fmt: skip
_DE = {
    "numbers": {"invoice": ["Rechnungs-Nr.:", "Rechnungsnummer", "Rechnung Nr.", "RE-Nr.", "Belegnr.", "Nummer:"], "credit note": ["Gutschrift-Nr.", "Gutschriftnummer:", "Nummer"], "receipt": ["Beleg-Nr.", "Quittung Nr.", "Belegnummer:"], "contract": ["Vertrags-Nr.", "Vertragsnummer:"], "*": ["Nummer", "Nr.", "Zeichen"]},
    "days": ["Rechnungsdatum:", "Datum", "Datum:", "Ausgestellt:", "Belegdatum"], "plain days": ["Datum:", "Datum", "Stand:"], "dues": ["Fällig zum", "Zahlbar bis zum", "Fälligkeit:", "Zahlungsfrist", "Fällig am"], "sums": ["Gesamtbetrag", "Zu zahlender Betrag", "Rechnungssumme", "Gesamt brutto", "Endsumme", "Bruttosumme"], "backs": ["Gutschriftbetrag", "Gesamtbetrag"], "hads": ["Erhaltener Betrag", "Gesamtbetrag", "Summe"], "nets": ["Summe netto", "Netto gesamt", "Warenwert netto"], "taxes": ["19 % MwSt.", "Umsatzsteuer 19%", "zzgl. MwSt 19 %"],
    "other numbers": ["Kundennr.", "Ihre Kundennummer", "Auftrags-Nr.", "Bestell-Nr.:", "Lieferschein", "St.-Nr.", "Liegeplatz", "Ihr Zeichen", "Tel.", "Vereinsregister", "Frühere Rechnung"], "other days": ["Lieferdatum:", "Auftragsdatum", "Leistungszeitraum", "Bestellt am", "Gültig bis", "Druck vom"], "columns": [["Pos", "Leistung", "Preis"], ["Bezeichnung", "Anzahl", "Einzel", "Betrag"], ["Text", "Betrag EUR"]],
    "things": ["Zinkanoden", "Kalfatern", "Aufslippen", "Hochdruckreinigung", "Mast legen", "Eichenspanten", "Bilgepumpe", "Antifouling", "Hallenplatz"], "to whom": ["Rechnungsempfänger", "Kunde", "An"], "hello": ["Sehr geehrter Herr Castellan,", "Sehr geehrte Damen und Herren,", "Liebe Mitglieder,", "Guten Morgen,"], "bye": ["Mit freundlichem Gruß", "Viele Grüße", "Hochachtungsvoll"], "about": ["Betreff:", "Betrifft:", "", ""],
    "topics": ["Krantermine im Herbst", "Reparatur des Stegs", "Ihr Schreiben zum Mast", "Neue Regeln im Farblager", "Verlängerung des Liegeplatzes", "Adressänderung", "Schaden nach dem Sturm"], "talk": ["Wir möchten Ihnen den Stand der Arbeiten mitteilen.", "Der Steg ist abgebaut und kommt im Frühjahr zurück.", "Bitte sagen Sie dem Büro, welche Woche Ihnen passt.", "Der Sturm hat weniger Schaden gemacht als befürchtet.", "Die Werkzeuge sind zu reinigen und aufzuhängen.", "Wir würden uns über Ihr Kommen sehr freuen."],
    "within": ["Zahlungsbedingungen: {n} Tage netto", "Zahlbar in {n} Tagen", "Bitte innerhalb von {n} Tagen überweisen"], "told": ["Bezug: Ihre Bestellung {x} vom {t}.", "Die Rechnung {x} vom {t} ist damit hinfällig.", "Über {m} haben wir bereits abgerechnet."], "agreed": ["Dieser Vertrag wurde am {t} zwischen der Werft und dem Mieter geschlossen."], "there": ["Teilnehmer", "Entschuldigt", "Leitung"], "agenda": ["Begrüßung", "Kasse", "Der Kran", "Termine", "Dank"],
    "who": ["Name", "Verfasserin", "Auszubildender"], "what course": ["Lehrgang", "Kurs", "Fach"], "what task": ["Aufgabe", "Thema"], "what try": ["Versuch"], "when": ["Abgabe am", "Datum"], "teacher": ["Ausbilder", "Lehrer"], "courses": ["Grundlagen Bootsbau", "Takelung 1", "Kartenkunde"], "tasks": ["Aufgabe 2", "Augspleiß", "Übung 5", "Spantenriss"], "paged": "Seite {i} von {n}", "months": "Januar Februar März April Mai Juni Juli August September Oktober November Dezember", "writes": ["{d:02}.{m:02}.{y}", "{d}. {M} {y}", "{d:02}.{m:02}.{s}", "{d}.{m}.{y}"], "money": ["{a} €", "{a} EUR", "{a}"], "marks": (".", ","),
    "earned": ["Grundgehalt", "Zulage", "Lohnsteuer", "Auszahlungsbetrag"],
}  # fmt: skip


def _small(**more: Any) -> dict[str, Any]:
    return more


SAYS: dict[str, dict[str, Any]] = {
    "en": _EN, "de": _DE,
    "fr": _small(numbers={"*": ["N° de facture", "Facture n°", "Numéro", "Réf."]}, days=["Date", "Date de facturation", "Émise le"], dues=["Échéance", "Payable avant le"], sums=["Total TTC", "Total à payer"], backs=["Total TTC"], hads=["Total payé"], nets=["Total HT"], taxes=["TVA 20%"], columns=[["Libellé", "Qté", "P.U.", "Total"]], things=["Peinture marine", "Grutage"], months="janvier février mars avril mai juin juillet août septembre octobre novembre décembre", writes=["{d:02}/{m:02}/{y}", "{d} {M} {y}"], money=["{a} €"], marks=(" ", ","), **{"other numbers": ["Client n°", "N° de TVA", "Commande"], "other days": ["Date de livraison"], "to whom": ["Client"], "within": ["Règlement à {n} jours"], "paged": "Page {i} sur {n}", "hello": ["Madame, Monsieur,"], "bye": ["Cordialement,"], "about": ["Objet :"], "topics": ["Réparation du ponton"], "talk": ["Nous vous écrivons au sujet des travaux.", "La tempête a fait moins de dégâts que nous le pensions."], "plain days": ["Date"]}),
    "nl": _small(numbers={"*": ["Factuurnummer", "Factuur nr.", "Nummer", "Ons kenmerk"]}, days=["Factuurdatum", "Datum"], dues=["Vervaldatum", "Betalen voor"], sums=["Totaal te betalen", "Totaal incl. btw"], backs=["Totaal"], hads=["Ontvangen bedrag"], nets=["Totaal excl. btw"], taxes=["21% btw"], columns=[["Omschrijving", "Aantal", "Prijs", "Totaal"]], things=["Scheepsverf", "Hijsen"], months="januari februari maart april mei juni juli augustus september oktober november december", writes=["{d:02}-{m:02}-{y}", "{d} {M} {y}"], money=["€ {a}"], marks=(".", ","), **{"other numbers": ["Klantnr.", "BTW nr.", "Uw bestelling"], "other days": ["Leverdatum"], "to whom": ["Aan"], "within": ["Betaling binnen {n} dagen"], "paged": "Pagina {i} van {n}", "hello": ["Geachte heer Castellan,"], "bye": ["Met vriendelijke groet,"], "about": ["Betreft:"], "topics": ["Herstel van de steiger"], "talk": ["Wij schrijven u over het werk aan de steiger.", "De storm heeft minder schade gedaan dan gevreesd."], "plain days": ["Datum"]}),
    "es": _small(numbers={"*": ["Factura nº", "Nº de factura", "Número", "Referencia"]}, days=["Fecha", "Fecha de factura"], dues=["Vencimiento", "Fecha límite de pago"], sums=["TOTAL A PAGAR", "Total factura"], backs=["Total"], hads=["Total pagado"], nets=["Base imponible"], taxes=["IVA 21%"], columns=[["Concepto", "Cant.", "Precio", "Importe"]], things=["Pintura marina", "Grúa"], months="enero febrero marzo abril mayo junio julio agosto septiembre octubre noviembre diciembre", writes=["{d:02}/{m:02}/{y}", "{d} de {M} de {y}"], money=["{a} €"], marks=(".", ","), **{"other numbers": ["Cliente nº", "NIF", "Pedido"], "other days": ["Fecha de entrega"], "to whom": ["Cliente"], "within": ["Pago a {n} días"], "paged": "Página {i} de {n}", "hello": ["Estimados señores:"], "bye": ["Atentamente,"], "about": ["Asunto:"], "topics": ["Reparación del pantalán"], "talk": ["Les escribimos sobre las obras del pantalán.", "La tormenta hizo menos daño de lo que temíamos."], "plain days": ["Fecha"]}),
    "it": _small(numbers={"*": ["Fattura n.", "Numero fattura", "Numero", "Rif."]}, days=["Data", "Data fattura"], dues=["Scadenza", "Pagare entro il"], sums=["Totale da pagare", "Totale fattura"], backs=["Totale"], hads=["Totale pagato"], nets=["Totale imponibile"], taxes=["IVA 22%"], columns=[["Descrizione", "Q.tà", "Prezzo", "Importo"]], things=["Vernice", "Alaggio"], months="gennaio febbraio marzo aprile maggio giugno luglio agosto settembre ottobre novembre dicembre", writes=["{d:02}/{m:02}/{y}", "{d} {M} {y}"], money=["€ {a}"], marks=(".", ","), **{"other numbers": ["Cod. cliente", "P.IVA", "Ordine"], "other days": ["Data consegna"], "to whom": ["Cliente"], "within": ["Pagamento a {n} giorni"], "paged": "Pagina {i} di {n}", "hello": ["Gentile signor Castellan,"], "bye": ["Cordiali saluti"], "about": ["Oggetto:"], "topics": ["Riparazione del pontile"], "talk": ["Le scriviamo per i lavori al pontile.", "La tempesta ha fatto meno danni del previsto."], "plain days": ["Data"]}),
}  # fmt: skip
FIRMS = [
    "Harrow Quay Chandlers",
    "Lund & Daughters",
    "Sea Pie Bakery",
    "Mast and Spar Co-op",
    "Bootsbau Ingwersen",
    "Ebbe Elektrik GmbH",
    "Greywater Plumbing",
    "Tidewise Insurance",
    "The Rope Walk",
    "Nordsand Verlag",
]
FOLK = [
    ("Bryn", "Acker"),
    ("Dora", "Lindqvist"),
    ("Piet", "van Hoorn"),
    ("Sanne", "Vos"),
    ("Emil", "Thode"),
    ("Ruth", "Garrow"),
    ("Noor", "Haddad"),
]
TOWNS = ["Ebbsand", "Marrow Point", "Holmhaven", "Lee-on-Quay"]
