"""Mail (RFC 5322, MIME): its heads and text as pages; what it brought as attachments of their own."""

from collections.abc import Iterator
from datetime import UTC
from email import message_from_binary_file, policy
from email.message import EmailMessage
from email.utils import getaddresses, parsedate_to_datetime
from pathlib import Path
from typing import Any

from waka.readers.markup import decoded, html_blocks, text_blocks
from waka.readers.outcome import Unreadable
from waka.readers.paged import Opened, clean
from waka.readers.typeset import Block, Typeset
from waka.words.readings import remark

_MAX_ATTACHED = 200
_MAX_BYTES = 128 << 20
#: So many names of what was left out are told.
_MAX_TOLD = 40


def open_mail(path: str) -> Opened:
    """A mail as it was sent; its attachments with their names."""
    with Path(path).open("rb") as file:
        mail = message_from_binary_file(file, policy=policy.default)
    if not isinstance(mail, EmailMessage) or not (mail["from"] or mail["subject"] or mail["received"]):
        raise Unreadable("no mail")
    sender = next(iter(getaddresses([_head(mail, "from")])), ("", ""))
    sent = _sent(mail)
    subject = _head(mail, "subject")
    blocks = [Block(subject or "(no subject)", 2, states="subject")]
    for label, text, states in (
        ("From", _head(mail, "from"), "party"),
        ("To", _head(mail, "to"), None),
        ("Copy", _head(mail, "cc"), None),
        ("Sent", sent or _head(mail, "date"), "issued"),
    ):
        if text:
            blocks.append(Block(cells=(label, text), states=states))
    attached, left_out = _attached(mail)
    if attached:
        blocks.append(Block(cells=("Attached", ", ".join(name for name, _ in attached))))
    blocks += _body(mail)
    pages = Typeset(blocks)
    stated: list[dict[str, Any]] = [{"field": "kind", "value": "letter", "where": "mail", "text": "a mail"}]
    if subject:
        stated.append({"field": "subject", "value": subject, "where": "subject line of the mail", "text": subject})
    if sent:
        stated.append({"field": "issued", "value": sent, "where": "date of the mail", "text": sent})
    if sender[1]:
        party = {"name": sender[0] or sender[1], "numbers": [sender[1]]}
        stated.append({"field": "party", "value": party, "where": "sender of the mail", "text": _head(mail, "from")})
    properties = {k: clean(v) for k, v in (("from", _head(mail, "from")), ("to", _head(mail, "to")), ("subject", subject),
                                           ("sent", sent), ("message-id", _head(mail, "message-id"))) if v}  # fmt: skip
    notes = [remark("attachments", count=len(attached))] if attached else []
    if left_out:
        more = len(left_out) - _MAX_TOLD if len(left_out) > _MAX_TOLD else None
        told = remark(
            "attachments left out",
            most=_MAX_ATTACHED,
            megabytes=_MAX_BYTES >> 20,
            names=left_out[:_MAX_TOLD],
            more=more,
        )
        notes.append(told)
    return Opened(pages, properties, [{**s, "box": pages.locations.get(s["field"])} for s in stated], notes, attached)


def _head(mail: EmailMessage, name: str) -> str:
    """A head's text; of one that is broken, what can be read of it."""
    try:
        return clean(" ".join(str(mail.get(name, "")).split()), 500)
    except (
        ValueError,
        IndexError,
        AttributeError,
        TypeError,
    ):  # the library's parser of structured heads fails on some
        return next((clean(" ".join(str(v).split()), 500) for k, v in mail.raw_items() if k.lower() == name), "")


def _sent(mail: EmailMessage) -> str:
    """The day it was sent, in the sender's own time zone, as ISO 8601; nothing where no day can be read."""
    try:
        sent = parsedate_to_datetime(_head(mail, "date"))
    except (ValueError, TypeError, IndexError):
        return ""
    return (sent if sent.tzinfo else sent.replace(tzinfo=UTC)).date().isoformat()


def _body(mail: EmailMessage) -> list[Block]:
    parts = [p for p in mail.walk() if not p.is_multipart() and p.get_content_disposition() != "attachment"]
    for kind in ("text/plain", "text/html"):
        for part in parts:
            if part.get_content_type() == kind and (data := _payload(part)):
                text = _decoded(part, data)
                return text_blocks(text) if kind == "text/plain" else html_blocks(text)[0]
    return []


def _decoded(part: EmailMessage, data: bytes) -> str:
    try:
        return data.decode(part.get_content_charset("utf-8"))
    except (LookupError, UnicodeDecodeError):
        return decoded(data)


def _payload(part: EmailMessage) -> bytes:
    try:
        payload = part.get_payload(decode=True)
    except (ValueError, AssertionError, LookupError):
        return b""
    return payload if isinstance(payload, bytes) else b""


def _attached(mail: EmailMessage) -> tuple[list[tuple[str, bytes]], list[str]]:
    """Files that it brought: attachments, and whatever has a file name; a forwarded mail as a mail of its own. And the names of
    those that are more, or larger, than is taken.
    """
    room = _MAX_BYTES
    taken: list[tuple[str, bytes]] = []
    left_out: list[str] = []
    for count, part in enumerate(_parts(mail), 1):
        inner = part.get_payload(0) if part.get_content_type() == "message/rfc822" and part.is_multipart() else None
        name = _file_name(part) or ("forwarded.eml" if inner is not None else f"attachment {count}")
        if len(taken) >= _MAX_ATTACHED:
            left_out.append(name)
            continue
        data = inner.as_bytes() if isinstance(inner, EmailMessage) else _payload(part)
        if len(data) > room:
            left_out.append(f"{name} ({len(data) / (1 << 20):.0f} MB)")
        elif data:
            room -= len(data)
            taken.append((name, data))
    return taken, left_out


def _file_name(part: EmailMessage) -> str:
    try:
        return clean(part.get_filename() or "", 200)
    except (ValueError, IndexError, TypeError):
        return ""


def _is_file(part: EmailMessage) -> bool:
    """Whether a part is a file of its own; pictures that only adorn the text are not."""
    shown = part.get_content_disposition() == "inline" and part.get_content_maintype() == "image"
    return not shown and bool(part.get_content_disposition() == "attachment" or part.get_filename())


def _parts(mail: EmailMessage) -> Iterator[EmailMessage]:
    waiting: list[EmailMessage] = [mail]
    while waiting:
        part = waiting.pop(0)
        if part.get_content_type() == "message/rfc822" and part is not mail:
            yield part
        elif part.is_multipart():
            waiting = [p for p in part.get_payload() if isinstance(p, EmailMessage)] + waiting
        elif part is not mail and _is_file(part):
            yield part
