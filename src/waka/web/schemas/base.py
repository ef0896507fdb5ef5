"""What the API takes and gives, as pydantic models; the OpenAPI document and the TypeScript client come from these."""

import unicodedata
from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field


def _one_line(text: str) -> str:
    if any(unicodedata.category(c) in ("Cc", "Cs") for c in text):
        raise ValueError("control characters and halves of characters cannot be kept; leave them out")
    return text


#: A text of one line that the database can keep.
Line = Annotated[str, AfterValidator(_one_line)]
#: An id as the database can hold it.
Id = Annotated[int, Field(ge=1, lt=2**62)]
Revision = Annotated[int, Field(ge=0, lt=2**31)]


class Form(BaseModel):
    """What comes in: unknown fields are refused."""

    model_config = ConfigDict(extra="forbid", str_max_length=4000)


class Out(BaseModel):
    """What goes out."""
