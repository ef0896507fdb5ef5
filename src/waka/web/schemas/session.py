"""Sessions, health, the words that screens choose from."""

from datetime import datetime

from pydantic import Field

from waka.core.names.drive_fields import Editor
from waka.web.schemas.base import Form, Out


class Login(Form):
    login: str = Field(max_length=200)
    password: str = Field(max_length=1000)


class Me(Out):
    id: int
    name: str
    administrator: bool
    csrf: str


class CodeForm(Form):
    """A code of the second factor, or a recovery code."""

    code: str = Field(max_length=100)


class ProofForm(Form):
    password: str = Field(max_length=1000)
    code: str | None = Field(default=None, max_length=100)


class TroubleOut(Out):
    loop: str
    at: datetime


class Health(Out):
    ok: bool
    database: bool
    worker: bool
    troubles: list[TroubleOut]
    jobs: dict[str, int]
    version: str


class Pulse(Out):
    stamp: str
    arrivals: int


class KindOut(Out):
    key: str
    label: str
    expects: list[str]


class FieldOut(Out):
    """A fact's field, how it is edited, and shapes that it may have in a name (other shapes can be written; none: not in names).

    ``built_in``: known of every document, no fact that a person writes.
    """

    field: str
    label: str
    editor: Editor
    built_in: bool
    recurs: bool
    shapes: list[str]


class Vocabulary(Out):
    """Kinds, fields and currencies: what the choices of slips and patterns are made of."""

    kinds: list[KindOut]
    fields: list[FieldOut]
    currencies: list[str]
