"""Which reader opens which type. Each is imported only where it is needed: the child starts for one content."""

from collections.abc import Callable
from functools import partial

from waka.readers import media
from waka.readers.outcome import Unreadable
from waka.readers.paged import Opened


def _pdf(path: str, password: str | None) -> Opened:
    from waka.readers import pdf

    return pdf.open_pdf(path, password)


def _office(name: str, path: str, _password: str | None) -> Opened:
    from waka.readers import office

    opener: Callable[[str], Opened] = getattr(office, f"open_{name}")
    return opener(path)


def _markup(name: str, path: str, _password: str | None) -> Opened:
    from waka.readers import markup

    opener: Callable[[str], Opened] = getattr(markup, f"open_{name}")
    return opener(path)


def _image(path: str, _password: str | None) -> Opened:
    from waka.readers import scans

    return scans.open_image(path)


def _invoice(path: str, _password: str | None) -> Opened:
    from waka.readers import einvoice

    return einvoice.open_invoice(path)


def _mail(path: str, _password: str | None) -> Opened:
    from waka.readers import mail

    return mail.open_mail(path)


def _zip(path: str, _password: str | None) -> Opened:
    from waka.readers import archive

    return archive.open_zip(path)


_OPENERS: dict[str, Callable[[str, str | None], Opened]] = {
    media.PDF: _pdf,
    media.DOCX: partial(_office, "docx"),
    media.XLSX: partial(_office, "xlsx"),
    media.PPTX: partial(_office, "pptx"),
    media.ODT: partial(_office, "odt"),
    media.ODS: partial(_office, "ods"),
    media.ODP: partial(_office, "odp"),
    media.MAIL: _mail,
    media.XML: _invoice,
    media.HTML: partial(_markup, "html"),
    media.RTF: partial(_markup, "rtf"),
    media.TEXT: partial(_markup, "text"),
    media.ZIP: _zip,
    **dict.fromkeys(media.IMAGES, _image),
}


def open_content(path: str, kind: str, password: str | None = None) -> Opened:
    """The content opened by the reader of its media type; Unreadable where there is none, or it is damaged."""
    opener = _OPENERS.get(kind)
    if opener is None:
        raise Unreadable("unknown type", type=media.said(kind))
    return opener(path, password)


def readable(kind: str) -> bool:
    """Whether there is a reader for a media type."""
    return kind in _OPENERS
