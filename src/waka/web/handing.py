"""Files handed over to who asked: by the server in front where there is one (it holds no thread of ours), else by ourselves."""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import cast
from urllib.parse import quote

from cryptography import x509
from flask import Response, current_app, make_response, request

#: What the server in front says of who calls; it sets this itself, whatever the caller sent.
_CALLER = "X-Waka-Caller"


@dataclass(frozen=True)
class Fronted:
    """A server stands in front, which may read these folders and is reached by nobody but through it."""

    contents: Path
    pictures: Path


def front() -> Fronted | None:
    """The server in front, where there is one."""
    return cast("Fronted | None", current_app.extensions["waka front"])


def caller() -> str:
    """The address of who calls, as text. A head that tells it is believed only where nobody but our own front reaches us."""
    return (request.headers.get(_CALLER, "") if front() is not None else request.remote_addr) or "unknown"


def certificate_ends() -> datetime | None:
    """When the certificate ends that we are served with (UTC); None where it is none of ours."""
    path = cast("Path | None", current_app.config["WAKA_CERTIFICATE"])
    return x509.load_pem_x509_certificate(path.read_bytes()).not_valid_after_utc if path is not None else None


def _chunks(path: Path) -> Iterator[bytes]:
    with path.open("rb") as file:
        while chunk := file.read(1 << 18):
            yield chunk


def _handed_over(path: Path, before: Fronted) -> str:
    for name, folder in (("content", before.contents), ("pictures", before.pictures)):
        if path.is_relative_to(folder):
            return f"/handed-over/{name}/{quote(str(path.relative_to(folder)))}"
    raise ValueError(f"{path} is none of the folders that may be handed over")


def unchanged(etag: str) -> Response | None:
    """The answer for who has this already (RFC 9110, 13.1.2); None where they have not."""
    if request.if_none_match.contains_weak(etag):
        response = make_response("", 304)
        _kept_with_care(response, etag)
        return response
    return None


def file_response(path: Path, media_type: str, etag: str) -> Response:
    """A file as a response. ``etag`` (without quotes) is its content's name: a browser asks each time whether it still may see it."""
    before = front()
    if before is not None:
        response = make_response("")
        response.headers["X-Accel-Redirect"] = _handed_over(path, before)
        del response.headers["Content-Length"]
    else:
        response = Response(_chunks(path))
        response.headers["Content-Length"] = str(path.stat().st_size)
    response.content_type = media_type
    _kept_with_care(response, etag)
    return response


def bytes_response(data: bytes, media_type: str, etag: str) -> Response:
    """What was made for this request alone, under the same rules as a file."""
    response = make_response(data)
    response.content_type = media_type
    _kept_with_care(response, etag)
    return response


def _kept_with_care(response: Response, etag: str) -> None:
    response.set_etag(etag)
    response.headers["Cache-Control"] = "private, no-cache"
