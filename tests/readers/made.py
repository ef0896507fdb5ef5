"""Small documents of every format, made here: what a reader must find in each is known."""

import io
import zipfile
from email.message import EmailMessage

import openpyxl
import pypdfium2 as pdfium
from PIL import Image, ImageDraw, ImageFont
from reportlab.pdfgen.canvas import Canvas

_W = 'xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"'
_O = (
    'xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0" '
    'xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" xmlns:draw="urn:oasis:names:tc:opendocument:xmlns:drawing:1.0"'
)


def zipped(parts: dict[str, str | bytes]) -> bytes:
    held = io.BytesIO()
    with zipfile.ZipFile(held, "w", zipfile.ZIP_DEFLATED) as file:
        for name, part in parts.items():
            file.writestr(name, part)
    return held.getvalue()


def docx() -> bytes:
    body = (
        '<w:p><w:pPr><w:pStyle w:val="Heading1"/></w:pPr><w:r><w:t>Slipway rules</w:t></w:r></w:p>'
        "<w:p><w:r><w:t>Keep the winch </w:t></w:r><w:r><w:t>clear.</w:t></w:r></w:p>"
        "<w:tbl><w:tr><w:tc><w:p><w:r><w:t>Boat</w:t></w:r></w:p></w:tc><w:tc><w:p><w:r><w:t>Lugger</w:t></w:r></w:p></w:tc></w:tr></w:tbl>"
    )
    core = (
        '<p xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:title>Rules</dc:title><dc:creator>A. Keel</dc:creator></p>'
    )
    return zipped({
        "[Content_Types].xml": "<Types/>",
        "word/document.xml": f"<w:document {_W}><w:body>{body}</w:body></w:document>",
        "word/header1.xml": f"<w:hdr {_W}><w:p><w:r><w:t>Tollgate Timber</w:t></w:r></w:p></w:hdr>",
        "docProps/core.xml": core,
    })  # fmt: skip


def _odf(kind: str, what: str, inside: str) -> bytes:
    content = f"<office:document-content {_O}><office:body><office:{what}>{inside}</office:{what}></office:body></office:document-content>"
    return zipped({"mimetype": f"application/vnd.oasis.opendocument.{kind}", "content.xml": content})


def odt() -> bytes:
    return _odf(
        "text",
        "text",
        '<text:h text:outline-level="1">Slipway rules</text:h><text:p>Keep the winch<text:s/>clear.</text:p>',
    )


def ods(first: str = "Larch", second: str = "412.50") -> bytes:
    cells = "".join(f"<table:table-cell><text:p>{cell}</text:p></table:table-cell>" for cell in (first, second))
    return _odf(
        "spreadsheet",
        "spreadsheet",
        f'<table:table table:name="Stock"><table:table-row>{cells}</table:table-row></table:table>',
    )


def odp() -> bytes:
    return _odf(
        "presentation",
        "presentation",
        "<draw:page><draw:frame><draw:text-box><text:p>Open day</text:p></draw:text-box></draw:frame></draw:page>",
    )


def xlsx() -> bytes:
    book = openpyxl.Workbook()
    book.active.title = "Stock"  # type: ignore[union-attr]
    book.active.append(["Larch", 412.5, "2026-03-18"])  # type: ignore[union-attr]
    held = io.BytesIO()
    book.save(held)
    return held.getvalue()


def pptx() -> bytes:
    a = 'xmlns:a="http://schemas.openxmlformats.org/drawingml/2006/main"'
    slide = f"<sld {a}><a:p><a:r><a:t>Open day</a:t></a:r></a:p></sld>"
    return zipped({"ppt/presentation.xml": "<p/>", "ppt/slides/slide1.xml": slide})


def ubl(*, total: str = "994.80", ref: str = "TT-40917") -> bytes:
    space = "urn:oasis:names:specification:ubl:schema:xsd:"
    return f"""<?xml version="1.0" encoding="UTF-8"?>
<Invoice xmlns="{space}Invoice-2" xmlns:cac="{space}CommonAggregateComponents-2" xmlns:cbc="{space}CommonBasicComponents-2">
<cbc:ID>{ref}</cbc:ID><cbc:IssueDate>2026-03-18</cbc:IssueDate><cbc:DueDate>2026-04-17</cbc:DueDate>
<cbc:InvoiceTypeCode>380</cbc:InvoiceTypeCode><cbc:DocumentCurrencyCode>GBP</cbc:DocumentCurrencyCode>
<cac:AccountingSupplierParty><cac:Party><cac:PartyName><cbc:Name>Tollgate Timber</cbc:Name></cac:PartyName>
<cac:PartyTaxScheme><cbc:CompanyID>XV 204 1178 33</cbc:CompanyID></cac:PartyTaxScheme></cac:Party></cac:AccountingSupplierParty>
<cac:AccountingCustomerParty><cac:Party><cac:PartyName><cbc:Name>Saltmarsh Boatyard Trust</cbc:Name></cac:PartyName></cac:Party></cac:AccountingCustomerParty>
<cac:TaxTotal><cbc:TaxAmount currencyID="GBP">165.80</cbc:TaxAmount></cac:TaxTotal>
<cac:LegalMonetaryTotal><cbc:TaxExclusiveAmount>829.00</cbc:TaxExclusiveAmount><cbc:TaxInclusiveAmount>{total}</cbc:TaxInclusiveAmount></cac:LegalMonetaryTotal>
<cac:InvoiceLine><cbc:InvoicedQuantity>2</cbc:InvoicedQuantity><cbc:LineExtensionAmount>829.00</cbc:LineExtensionAmount>
<cac:Item><cbc:Name>Larch boards</cbc:Name></cac:Item><cac:Price><cbc:PriceAmount>414.50</cbc:PriceAmount></cac:Price></cac:InvoiceLine>
</Invoice>""".encode()


def cii() -> bytes:
    return b"""<rsm:CrossIndustryInvoice xmlns:rsm="urn:un:unece:uncefact:data:standard:CrossIndustryInvoice:100" xmlns:ram="r" xmlns:udt="u">
<rsm:ExchangedDocument><ram:ID>CE-77</ram:ID><ram:TypeCode>381</ram:TypeCode><ram:IssueDateTime><udt:DateTimeString format="102">20260305</udt:DateTimeString>
</ram:IssueDateTime></rsm:ExchangedDocument><rsm:SupplyChainTradeTransaction><ram:ApplicableHeaderTradeAgreement><ram:SellerTradeParty>
<ram:Name>Corvid Electrical</ram:Name></ram:SellerTradeParty></ram:ApplicableHeaderTradeAgreement><ram:ApplicableHeaderTradeSettlement>
<ram:InvoiceCurrencyCode>EUR</ram:InvoiceCurrencyCode><ram:SpecifiedTradeSettlementHeaderMonetarySummation><ram:GrandTotalAmount>12.00</ram:GrandTotalAmount>
</ram:SpecifiedTradeSettlementHeaderMonetarySummation></ram:ApplicableHeaderTradeSettlement></rsm:SupplyChainTradeTransaction></rsm:CrossIndustryInvoice>"""


def before_cii() -> bytes:
    return b"""<rsm:CrossIndustryDocument xmlns:rsm="urn:ferd:CrossIndustryDocument:invoice:1p0" xmlns:ram="r" xmlns:udt="u">
<rsm:HeaderExchangedDocument><ram:ID>RE-118</ram:ID><ram:TypeCode>380</ram:TypeCode><ram:IssueDateTime>
<udt:DateTimeString format="102">20140305</udt:DateTimeString></ram:IssueDateTime></rsm:HeaderExchangedDocument>
<rsm:SpecifiedSupplyChainTradeTransaction><ram:ApplicableSupplyChainTradeAgreement><ram:SellerTradeParty><ram:Name>Nordmole Werft</ram:Name>
</ram:SellerTradeParty></ram:ApplicableSupplyChainTradeAgreement><ram:ApplicableSupplyChainTradeSettlement>
<ram:InvoiceCurrencyCode>EUR</ram:InvoiceCurrencyCode><ram:SpecifiedTradePaymentTerms><ram:DueDateDateTime>
<udt:DateTimeString format="102">20140404</udt:DateTimeString></ram:DueDateDateTime></ram:SpecifiedTradePaymentTerms>
<ram:SpecifiedTradeSettlementMonetarySummation><ram:TaxBasisTotalAmount currencyID="EUR">100.00</ram:TaxBasisTotalAmount>
<ram:TaxTotalAmount currencyID="EUR">19.00</ram:TaxTotalAmount><ram:GrandTotalAmount currencyID="EUR">119.00</ram:GrandTotalAmount>
</ram:SpecifiedTradeSettlementMonetarySummation></ram:ApplicableSupplyChainTradeSettlement></rsm:SpecifiedSupplyChainTradeTransaction>
</rsm:CrossIndustryDocument>"""


def hybrid(page: bytes, data: bytes) -> bytes:
    """A PDF with invoice data inside."""
    document = pdfium.PdfDocument(page)
    document.new_attachment("factur-x.xml").set_data(data)
    held = io.BytesIO()
    document.save(held)
    return held.getvalue()


def mail(*attachments: tuple[str, bytes]) -> bytes:
    message = EmailMessage()
    message["From"] = "Tollgate Timber <office@tollgate.example>"
    message["To"] = "office@saltmarsh.example"
    message["Subject"] = "Larch prices from spring"
    message["Date"] = "Mon, 16 Mar 2026 09:12:00 +0000"
    message.set_content("Good morning,\n\nlarch has become scarce.\n")
    for name, data in attachments:
        message.add_attachment(data, maintype="application", subtype="octet-stream", filename=name)
    return message.as_bytes()


RTF = rb"{\rtf1\ansi\ansicpg1252{\fonttbl{\f0 Arial;}}\pard Caf\'e9 by the quay\par \b Keep\b0  the winch clear.\u8212?done\par}"
HTML = b"<!DOCTYPE html><html><head><title>Tide table</title><script>alert(1)</script></head><body><h1>High water</h1><table><tr><td>Mon</td><td>06:12</td></tr></table></body></html>"
OLD_TEXT = "Prüfung der Spanten: alles für gut befunden, größere Schäden keine.\r\nGrüße".encode("cp1252")


def picture_of(text: list[str], *, lean: float = 0.0, form: str = "PNG") -> bytes:
    """A white sheet at 200 dpi with lines of text, turned by some degrees."""
    image = Image.new("L", (1654, 2339), 255)
    draw = ImageDraw.Draw(image)
    for n, line in enumerate(text):
        draw.text(
            (180, 220 + n * 90),
            line,
            font=ImageFont.truetype("/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf", 40),
            fill=15,
        )
    held = io.BytesIO()
    image.rotate(lean, resample=Image.Resampling.BICUBIC, fillcolor=255).save(held, form)
    return held.getvalue()


def pages(*texts: str) -> bytes:
    """A PDF with a page for each text; lines of one are parted by line breaks."""
    held = io.BytesIO()
    canvas = Canvas(held)
    for text in texts:
        for n, line in enumerate(text.split("\n")):
            canvas.drawString(80, 780 - 24 * n, line)
        canvas.showPage()
    canvas.save()
    return held.getvalue()


def drawing() -> bytes:
    """A page with lines and no words."""
    held = io.BytesIO()
    canvas = Canvas(held)
    for n in range(12):
        canvas.line(100, 200 + 30 * n, 500, 700 - 30 * n)
    canvas.showPage()
    canvas.save()
    return held.getvalue()
