"""Why a content cannot be read, and what a person should know of a reading: kept as a code with parameters."""

from collections.abc import Mapping

from waka.words.sentence import Catalogue, Kept

PROBLEMS = Catalogue({
    "archive damaged": "The archive is damaged or cut off. Ask for it again.",
    "archive too long": "The archive lists {entries} files ({bytes} bytes of names); {most} are the most that is looked at.",
    "office damaged": "It is damaged or not what its name says. Ask for it again.",
    "office locked": "It is locked with a password. Ask the sender for an open copy.",
    "unpacks": "It unpacks to far more than a document should; it is not read.",
    "no mail": "It looks like a mail, but has neither sender nor subject.",
    "no invoice": "It is XML, but no invoice that can be read here ({error}).",
    "text too long": "It is {size} MB of text; {most} MB are the most that is read.",
    "unknown type": "Nothing here reads it: it is {type}. It can be filed, with its facts typed.",
    "picture too large": "It is larger than any page could be. Ask for a smaller picture.",
    "picture damaged": "The picture is damaged or cut off ({error}). Ask for it again.",
    "no picture page": "The picture is damaged or has no page {page}.",
    "locked": "It is locked with a password. Enter it once, or ask the sender for an open copy.",
    "wrong password": "That password does not open it. It is locked with a password. Enter it once, or ask the sender for an open copy.",
    "pdf damaged": "It is damaged: it begins like a PDF, but cannot be opened. Ask for it again.",
    "no pages": "It has no pages.",
    "too many pages": "It has {pages} pages; {most} are the most that are read.",
    "page size": "Page {page} has an impossible size.",
    "page damaged": "A page is damaged and cannot be put into another document ({error}).",
    "busy": "Very many pages are being drawn just now. Try again shortly.",
    "reader ended early": "The reader ended early. The content is kept as it came.",
    "reader without answer": "The reader ended without an answer. The content is kept as it came.",
    "reader failed": "The reader failed on it; it may be damaged. The content is kept as it came.",
    "too slow": "Reading it took longer than {seconds|second|seconds} and was stopped.",
    "too much time": "Reading it took too much time and was stopped.",
    "too much memory": "Reading it took too much memory and was stopped.",
    "picture without text": "No text stands in it; it is a picture. Its facts have to be typed.",
    "empty": "No text stands in it; it is empty. Its facts have to be typed.",
    "given up": "Reading it failed ({error}). Its facts have to be typed.",
})  # fmt: skip

NOTES = Catalogue({
    "archive": "An archive: {count|file|files}, {bytes} bytes when unpacked.",
    "words left out": "The words of its last {pages} pages are left out: it has more than {most}.",
    "pages not recognised": "{most} of its scanned pages are recognised; {more} more are shown, but not read.",
    "crowded pages": "Of page {pages} only the first {most} words are read.",
    "attachments": "It brought {count|attachment|attachments}.",
    "attachments left out": (
        "Left out, of more than {most} attachments or {megabytes} MB in all: {names}[ and {more} more]. Save them from the mail "
        "and bring them in by themselves."
    ),
    "rows left out": "Of the table[ “{table}”] the first {shown} rows are shown; {more} are left out.",
    "columns left out": "Of the table[ “{table}”] the first {shown} columns are shown; those after them are left out.",
    "lines left out": "It is long: the first {pages} pages are shown and can be found; {more|more line is|more lines are} left out.",
    "pages left out": "Of {pages} pages the first {shown} are shown.",
    "cut out": "The sheet was cut out of the photo and drawn flat; the photo is kept as it came.",
    "invoice data": "Invoice data for programs stands inside; its facts come from there.",
    "damaged pages": "Damaged and shown empty: page {pages}[ and {more} more].",
    "facts not found": "Its facts were not looked for to the end, and have to be typed: {reason}",
    "cuts not found": "Whether it is several documents was not found out: {reason}",
    "no recogniser": "Pictures of text are not read here: the program tesseract-ocr (with tesseract-ocr-eng) is missing.",
    "not recognised": "Page {page} could not be recognised: {reason}",
    "found by its beginning": "It is found by the words of its first {kept} characters; {more} more are left out of that.",
    "not brought": "What it brought did not come in: {reason}",
})  # fmt: skip

#: What a person should know of a reading, as it is kept.
remark = NOTES.kept


def problem(kept: Kept | None) -> str | None:
    """Why a content cannot be read, in words; None where it can."""
    return None if kept is None else PROBLEMS.say(kept["code"], kept)


def note(kept: Kept) -> str:
    """What a person should know of a reading, in words."""
    if isinstance(kept.get("reason"), Mapping):
        return NOTES.say(kept["code"], {**kept, "reason": problem(kept["reason"])})
    return NOTES.say(kept["code"], kept)
