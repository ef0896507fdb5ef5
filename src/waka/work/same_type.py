"""A version is of the same type as its document."""

from waka.readers import media
from waka.work.actor import Refused


def check_same_type(extension: str, brought: str, media_type: str) -> None:
    """Raise Refused where what was brought is of another type than a document with this extension."""
    if media.mismatch(extension, media_type) is not None:
        raise Refused(
            f"“{brought}” is {media.said(media_type)}, the document ends in .{extension}: a version is of the same type. "
            "Bring it in as a document of its own.",
            code="type",
        )
