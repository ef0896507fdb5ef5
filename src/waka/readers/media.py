"""The types of contents and what people call them; the extension is only a hint that may turn out wrong."""

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


def is_office(media: str) -> bool:
    """Whether it is a type of office files, all of which are ZIP archives."""
    return media.startswith((_OOXML, _ODF))


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
