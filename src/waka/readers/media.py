"""The type of a content, told by its bytes; the extension is only a hint that may turn out wrong."""

import magic

PDF = "application/pdf"

#: Types by extension, for pointing out a mismatch; only types that the bytes tell reliably.
_BY_EXTENSION = {
    "pdf": PDF,
    "png": "image/png",
    "jpg": "image/jpeg",
    "jpeg": "image/jpeg",
    "gif": "image/gif",
    "tif": "image/tiff",
    "tiff": "image/tiff",
    "zip": "application/zip",
    "txt": "text/plain",
}
_EXTENSION_OF = {
    PDF: "pdf",
    "image/png": "png",
    "image/jpeg": "jpg",
    "image/gif": "gif",
    "image/tiff": "tif",
    "text/plain": "txt",
}

#: What a browser may show in place; everything else is handed over as an attachment.
SHOWN_IN_PLACE = frozenset([PDF, "image/png", "image/jpeg", "image/gif", "image/webp", "text/plain"])


def media_type(head: bytes) -> str:
    """The type told by the first bytes (4 kB are enough), as a media type; ``application/x-empty`` for none."""
    if b"%PDF-" in head[:1024]:
        return PDF
    return str(magic.from_buffer(head, mime=True)) if head else "application/x-empty"


def mismatch(extension: str, media: str) -> str | None:
    """What to tell where the extension says another type than the bytes; None where they agree or nobody knows."""
    expected = _BY_EXTENSION.get(extension)
    if expected is None or expected == media:
        return None
    return f"its name ends in .{extension}, but its content is {media}"


def extension_for(extension: str, media: str) -> str:
    """The extension that a document gets: its own where it fits the content, else the content's usual one."""
    if mismatch(extension, media) is None:
        return extension
    return _EXTENSION_OF.get(media, extension)
