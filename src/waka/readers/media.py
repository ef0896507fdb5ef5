"""The type of a content, told by its bytes; the extension is only a hint that may turn out wrong."""

import re
import zipfile
from pathlib import Path
from typing import IO

import magic

PDF = "application/pdf"
_OOXML = "application/vnd.openxmlformats-officedocument"
_ODF = "application/vnd.oasis.opendocument"
DOCX, XLSX, PPTX = (
    f"{_OOXML}.wordprocessingml.document",
    f"{_OOXML}.spreadsheetml.sheet",
    f"{_OOXML}.presentationml.presentation",
)
ODT, ODS, ODP = f"{_ODF}.text", f"{_ODF}.spreadsheet", f"{_ODF}.presentation"
MAIL, XML, HTML, RTF, TEXT, ZIP = "message/rfc822", "text/xml", "text/html", "text/rtf", "text/plain", "application/zip"
IMAGES = frozenset(["image/png", "image/jpeg", "image/gif", "image/tiff", "image/webp", "image/heic", "image/heif"])

#: Types by extension, for pointing out a mismatch; only types that the bytes tell reliably.
_BY_EXTENSION = {
    "pdf": PDF, "png": "image/png", "jpg": "image/jpeg", "jpeg": "image/jpeg", "gif": "image/gif", "tif": "image/tiff",
    "tiff": "image/tiff", "heic": "image/heic", "webp": "image/webp", "zip": ZIP, "docx": DOCX, "xlsx": XLSX, "pptx": PPTX,
    "odt": ODT, "ods": ODS, "odp": ODP, "rtf": RTF, "txt": TEXT, "eml": MAIL, "xml": XML, "html": HTML, "htm": HTML,
}  # fmt: skip
_EXTENSION_OF = {
    **{kind: extension for extension, kind in _BY_EXTENSION.items() if extension not in ("jpeg", "tiff", "htm")},
    "image/heif": "heic",
}
#: A text may bear any name: programs' lists, notes, tables.
_TEXTS = frozenset(["txt", "csv", "tsv", "md", "log", "json", "ini", "yaml", "yml"])
_SAID = {
    DOCX: "a DOCX text", XLSX: "an XLSX table", PPTX: "PPTX slides", ODT: "an ODT text", ODS: "an ODS table", ODP: "ODP slides",
    MAIL: "a mail", XML: "XML", HTML: "a web page", RTF: "rich text", TEXT: "plain text", ZIP: "a ZIP archive", PDF: "a PDF",
    "image/png": "a PNG picture", "image/jpeg": "a JPEG picture", "image/tiff": "a TIFF picture", "image/gif": "a GIF picture",
    "image/heic": "a HEIC picture", "application/x-empty": "empty", "application/octet-stream": "of no type that is known here",
    "application/CDFV2": "an office file of the old kind (before 2007), or a locked one",
    "application/encrypted": "a locked office file",
}  # fmt: skip

#: What a browser may show in place; everything else is handed over as an attachment.
SHOWN_IN_PLACE = frozenset([PDF, "image/png", "image/jpeg", "image/gif", "image/webp", "text/plain"])

_MAIL_HEADS = re.compile(rb"\A(?:>?From [^\n]*\n)?(?:[!-9;-~]{1,70}:[ \t][^\n]*\r?\n(?:[ \t][^\n]*\r?\n)*){2,}", re.I)
_MAIL_NAMES = re.compile(rb"^(from|received|subject|message-id|date|to|mime-version|return-path):", re.I | re.M)
_MARKED = re.compile(
    rb"\A(?:\xef\xbb\xbf)?\s*(?:<\?xml[^>]*>\s*)?(?:<!--.{0,2000}?-->\s*)*<(!doctype html|html|head|body|[a-z])",
    re.I | re.S,
)
_OFFICE_PARTS = {"word/document.xml": DOCX, "xl/workbook.xml": XLSX, "ppt/presentation.xml": PPTX}


def media_type(head: bytes) -> str:
    """The type told by the first bytes (4 kB are enough), as a media type; ``application/x-empty`` for none."""
    if not head:
        return "application/x-empty"
    if b"%PDF-" in head[:1024]:
        return PDF
    if head[:5] == b"{\\rtf":
        return RTF
    if head[4:8] == b"ftyp" and head[8:12] in (b"heic", b"heix", b"mif1", b"msf1", b"heim", b"heis"):
        return "image/heic"
    if _MAIL_HEADS.match(head) and len({m.lower() for m in _MAIL_NAMES.findall(head)}) >= 2:
        return MAIL
    start = _wide(head)
    marked = _MARKED.match(start)
    if marked:
        name = marked.group(1).lower()
        html = name in (b"!doctype html", b"html", b"head", b"body")
        if html or b"<?xml" in start[:100] or b"xmlns" in start:
            return HTML if html else XML
    told = str(magic.from_buffer(head, mime=True))
    if told in ("application/csv", "application/json", "message/news") or (
        told.startswith("text/") and told not in (XML, HTML, RTF)
    ):
        return TEXT
    return {"image/heif": "image/heic", "application/xml": XML, "application/x-zip-compressed": ZIP}.get(told, told)


def _wide(head: bytes) -> bytes:
    """UTF-16 with its mark as UTF-8, so that markup shows."""
    if head[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return head[: len(head) // 2 * 2].decode("utf-16", "replace").encode()
    return head


def media_type_of(path: Path, head: bytes) -> str:
    """The type of a whole file: a ZIP may be an office file, which its parts tell."""
    told = media_type(head)
    if told != ZIP and not told.startswith((_OOXML, _ODF)) and head[:4] != b"PK\x03\x04":
        return told
    with path.open("rb") as file:
        return _zip_type(file)


def _zip_type(file: IO[bytes]) -> str:
    try:
        with zipfile.ZipFile(file) as archive:
            names = set(archive.namelist())
            for part, kind in _OFFICE_PARTS.items():
                if part in names:
                    return kind
            if "mimetype" in names:
                with archive.open("mimetype") as held:
                    said = held.read(200).decode("ascii", "replace").strip()
                return said if said in (ODT, ODS, ODP) else ZIP
    except (zipfile.BadZipFile, NotImplementedError, OSError, ValueError, RuntimeError):
        pass
    return ZIP


def said(media: str) -> str:
    """What a person calls a type: "a DOCX text"; the type itself where nobody has a word for it."""
    return _SAID.get(media, media)


def mismatch(extension: str, media: str) -> str | None:
    """What to tell where the extension says another type than the bytes; None where they agree or nobody knows."""
    expected = _BY_EXTENSION.get(extension)
    if expected is None or expected == media or (extension in _TEXTS and media in (TEXT, HTML, XML, MAIL)):
        return None
    return f"its name ends in .{extension}, but its content is {said(media)}"


def extension_for(extension: str, media: str) -> str:
    """The extension that a document gets: its own where it fits the content, else the content's usual one."""
    if mismatch(extension, media) is None and (extension or media not in _EXTENSION_OF):
        return extension
    return _EXTENSION_OF.get(media, extension)
