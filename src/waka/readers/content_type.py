"""The type of a content, told by its bytes. Only the confined child asks this (``sandbox.media_type_of``): bytes are hostile.

The scanners of text go through it once, whatever stands in it; what libmagic does with it nobody promises.
"""

from pathlib import Path

import magic

from waka.readers import media
from waka.readers.outcome import Unreadable
from waka.readers.zipped import BROKEN, opened

_OFFICE_PARTS = {"word/document.xml": media.DOCX, "xl/workbook.xml": media.XLSX, "ppt/presentation.xml": media.PPTX}
_MAIL_NAMES = frozenset(
    [b"from", b"received", b"subject", b"message-id", b"date", b"to", b"mime-version", b"return-path"]
)
_SPACE = b" \t\r\n\f\v"
_LONGEST_COMMENT = 2_000


def media_type(head: bytes) -> str:
    """The type told by the first bytes (4 kB are enough), as a media type; ``application/x-empty`` for none."""
    if not head:
        return "application/x-empty"
    if b"%PDF-" in head[:1024]:
        return media.PDF
    if head[:5] == b"{\\rtf":
        return media.RTF
    if head[4:8] == b"ftyp" and head[8:12] in (b"heic", b"heix", b"mif1", b"msf1", b"heim", b"heis"):
        return "image/heic"
    if _is_mail(head):
        return media.MAIL
    start = _wide(head)
    name = _first_tag(start)
    if name:
        html = name in (b"!doctype html", b"html", b"head", b"body")
        if html or b"<?xml" in start[:100] or b"xmlns" in start:
            return media.HTML if html else media.XML
    told = str(magic.from_buffer(head, mime=True))
    if told in ("application/csv", "application/json", "message/news") or (
        told.startswith("text/") and told not in (media.XML, media.HTML, media.RTF)
    ):
        return media.TEXT
    return {"image/heif": "image/heic", "application/xml": media.XML, "application/x-zip-compressed": media.ZIP}.get(
        told, told
    )


def media_type_of(path: Path) -> str:
    """The type of a whole file: a ZIP may be an office file, which its parts tell."""
    with path.open("rb") as file:
        head = file.read(4096)
    told = media_type(head)
    if told != media.ZIP and not media.is_office(told) and head[:4] != b"PK\x03\x04":
        return told
    return _zip_type(path)


def _is_mail(head: bytes) -> bool:
    """Whether it begins with two header fields at least (RFC 5322), two of them such as mails bear."""
    lines = head.split(b"\n")[:-1]  # the last one may be cut
    if lines and lines[0].lstrip(b">").startswith(b"From "):
        lines = lines[1:]
    fields, known = 0, set()
    for line in lines:
        if line[:1] in (b" ", b"\t") and fields:
            continue
        name, colon, rest = line.partition(b":")
        named = 0 < len(name) <= 70 and all(33 <= c <= 126 for c in name)
        if not colon or not named or rest[:1] not in (b" ", b"\t"):
            break
        fields += 1
        if name.lower() in _MAIL_NAMES:
            known.add(name.lower())
    return fields >= 2 and len(known) >= 2


def _first_tag(text: bytes) -> bytes:
    """The name of the first element or document type of markup, in lower case, after its declaration and comments; else nothing."""
    text = text.removeprefix(b"\xef\xbb\xbf").lstrip(_SPACE)
    if text[:5].lower() == b"<?xml":
        text = text.partition(b">")[2].lstrip(_SPACE)
    at = 0
    while text.startswith(b"<!--", at):
        end = text.find(b"-->", at + 4, at + 4 + _LONGEST_COMMENT + 3)
        if end < 0:
            return b""
        at = end + 3
        while at < len(text) and text[at] in _SPACE:
            at += 1
    tag = text[at : at + 15].lower()
    if tag.startswith(b"<!doctype html"):
        return b"!doctype html"
    for name in (b"html", b"head", b"body"):
        if tag[1:].startswith(name) and tag[:1] == b"<":
            return name
    return tag[1:2] if tag[:1] == b"<" and tag[1:2].isalpha() else b""


def _wide(head: bytes) -> bytes:
    """UTF-16 with its mark as UTF-8, so that markup shows."""
    if head[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return head[: len(head) // 2 * 2].decode("utf-16", "replace").encode()
    return head


def _zip_type(path: Path) -> str:
    try:
        with opened(path) as archive:
            names = set(archive.namelist())
            for part, kind in _OFFICE_PARTS.items():
                if part in names:
                    return kind
            if "mimetype" in names:
                with archive.open("mimetype") as held:
                    said = held.read(200).decode("ascii", "replace").strip()
                return said if said in (media.ODT, media.ODS, media.ODP) else media.ZIP
    except (Unreadable, *BROKEN):
        pass  # a damaged archive is one all the same; its reader says what is wrong with it
    return media.ZIP
