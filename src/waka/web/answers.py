"""JSON answers from forms."""

from flask import Response, make_response
from pydantic import BaseModel


def answer(form: BaseModel, status: int = 200) -> Response:
    """The form as a JSON response."""
    response = make_response(form.model_dump_json(), status)
    response.content_type = "application/json"
    return response
