"""Tables that are taken away: CSV (RFC 4180) in UTF-8, with the mark by which spreadsheets know that."""

from collections.abc import Iterable, Sequence
from urllib.parse import quote

from flask import Response

from waka.core.tables.csv_text import write


def csv_response(name: str, head: Sequence[str], rows: Iterable[Sequence[object]]) -> Response:
    """Rows as a file called ``name``."""
    response = Response("\ufeff" + write(head, rows), mimetype="text/csv")
    response.headers["Content-Disposition"] = f"attachment; filename*=UTF-8''{quote(name)}.csv"
    return response
