"""Papers of other sorts than PDF, as small as each format allows: office files, invoice data, mail."""

import io
import zipfile
from collections.abc import Mapping, Sequence
from datetime import UTC, date, datetime, time
from email.message import EmailMessage
from email.utils import format_datetime
from xml.sax.saxutils import escape

import openpyxl
import pypdfium2 as pdfium

from waka.demo.papers import Bill
from waka.demo.parties import TRUST

#: Parts bear one time, so that the same paper always gives the same bytes.
_WHEN = (2026, 3, 20, 9, 0, 0)


def zipped(parts: Mapping[str, str | bytes]) -> bytes:
    """A ZIP of parts."""
    held = io.BytesIO()
    with zipfile.ZipFile(held, "w") as file:
        for name, part in parts.items():
            file.writestr(zipfile.ZipInfo(name, _WHEN), part, zipfile.ZIP_DEFLATED)
    return held.getvalue()


def docx(head: str, paragraphs: Sequence[str]) -> bytes:
    """A DOCX with a letterhead."""
    space = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"'
    body = "".join(f"<w:p><w:r><w:t>{escape(p)}</w:t></w:r></w:p>" for p in paragraphs)
    types = (
        '<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">'
        '<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>'
        '<Override PartName="/word/document.xml" '
        'ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>'
    )
    related = (
        '<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" '
        'Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>'
    )
    titled = f'<w:p><w:pPr><w:pStyle w:val="Title"/></w:pPr><w:r><w:t>{escape(head)}</w:t></w:r></w:p>'
    return zipped({
        "[Content_Types].xml": types,
        "_rels/.rels": related,
        "word/document.xml": f'<?xml version="1.0"?><w:document {space}><w:body>{titled}{body}</w:body></w:document>',
    })  # fmt: skip


def odt(head: str, paragraphs: Sequence[str]) -> bytes:
    """An ODT."""
    space = 'xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0"'
    body = f'<text:h text:outline-level="1">{escape(head)}</text:h>' + "".join(
        f"<text:p>{escape(p)}</text:p>" for p in paragraphs
    )
    kind = "application/vnd.oasis.opendocument.text"
    manifest = (
        '<?xml version="1.0"?><manifest:manifest xmlns:manifest="urn:oasis:names:tc:opendocument:xmlns:manifest:1.0">'
        f'<manifest:file-entry manifest:full-path="/" manifest:media-type="{kind}"/>'
        '<manifest:file-entry manifest:full-path="content.xml" manifest:media-type="text/xml"/></manifest:manifest>'
    )
    content = f'<?xml version="1.0"?><office:document-content {space} office:version="1.3"><office:body><office:text>{body}</office:text></office:body></office:document-content>'  # noqa: E501 - one element
    return zipped({"mimetype": kind, "content.xml": content, "META-INF/manifest.xml": manifest})


def xlsx(sheet: str, rows: Sequence[Sequence[str | float]]) -> bytes:
    """An XLSX of one sheet."""
    book = openpyxl.Workbook()
    book.properties.created = book.properties.modified = datetime(2026, 3, 20)
    page = book.worksheets[0]
    page.title = sheet
    for row in rows:
        page.append(list(row))
    held = io.BytesIO()
    book.save(held)
    return held.getvalue()


def ubl(bill: Bill) -> bytes:
    """A bill as UBL 2.1 invoice data."""
    space = "urn:oasis:names:specification:ubl:schema:xsd:"
    lines = "".join(
        f"<cac:InvoiceLine><cbc:InvoicedQuantity>{count}</cbc:InvoicedQuantity><cbc:LineExtensionAmount>{count * price / 100:.2f}"
        f"</cbc:LineExtensionAmount><cac:Item><cbc:Name>{escape(text)}</cbc:Name></cac:Item><cac:Price><cbc:PriceAmount>{price / 100:.2f}"
        "</cbc:PriceAmount></cac:Price></cac:InvoiceLine>"
        for text, count, price in bill.lines
    )
    return f"""<?xml version="1.0" encoding="UTF-8"?>
<Invoice xmlns="{space}Invoice-2" xmlns:cac="{space}CommonAggregateComponents-2" xmlns:cbc="{space}CommonBasicComponents-2">
<cbc:ID>{bill.ref}</cbc:ID><cbc:IssueDate>{bill.day}</cbc:IssueDate><cbc:InvoiceTypeCode>380</cbc:InvoiceTypeCode>
<cbc:DocumentCurrencyCode>GBP</cbc:DocumentCurrencyCode>
<cac:AccountingSupplierParty><cac:Party><cac:PartyName><cbc:Name>{escape(bill.party.name)}</cbc:Name></cac:PartyName>
<cac:PartyTaxScheme><cbc:CompanyID>{bill.party.vat}</cbc:CompanyID></cac:PartyTaxScheme></cac:Party></cac:AccountingSupplierParty>
<cac:AccountingCustomerParty><cac:Party><cac:PartyName><cbc:Name>{TRUST}</cbc:Name></cac:PartyName></cac:Party></cac:AccountingCustomerParty>
<cac:TaxTotal><cbc:TaxAmount>{bill.tax / 100:.2f}</cbc:TaxAmount></cac:TaxTotal>
<cac:LegalMonetaryTotal><cbc:TaxExclusiveAmount>{bill.net / 100:.2f}</cbc:TaxExclusiveAmount>
<cbc:TaxInclusiveAmount>{(bill.net + bill.tax) / 100:.2f}</cbc:TaxInclusiveAmount></cac:LegalMonetaryTotal>{lines}</Invoice>""".encode()


def hybrid(page: bytes, data: bytes) -> bytes:
    """A PDF with invoice data inside."""
    document = pdfium.PdfDocument(page)
    document.new_attachment("invoice.xml").set_data(data)
    held = io.BytesIO()
    document.save(held)
    return held.getvalue()


def mail(sender: str, subject: str, day: date, text: str, attached: Mapping[str, bytes]) -> bytes:
    """A mail to the trust."""
    message = EmailMessage()
    message["From"], message["To"], message["Subject"] = sender, "office@saltmarsh.example", subject
    message["Date"] = format_datetime(datetime.combine(day, time(9, 12), UTC))
    message.set_content(text)
    for name, data in attached.items():
        message.add_attachment(data, maintype="application", subtype="octet-stream", filename=name)
    if attached:
        message.set_boundary("saltmarsh-boundary")
    return message.as_bytes()


def stacked(*papers: bytes, blank_after: Sequence[int] = ()) -> bytes:
    """PDFs as one, as when a pile goes through a scanner; a blank page after those whose number (from 1) is given."""
    whole = pdfium.PdfDocument.new()
    for number, paper in enumerate(papers, 1):
        whole.import_pages(pdfium.PdfDocument(paper))
        if number in blank_after:
            whole.new_page(595, 842)
    held = io.BytesIO()
    whole.save(held)
    return held.getvalue()
