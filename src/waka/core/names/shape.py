"""What every shape offers: its form, and both directions."""

from abc import ABC, abstractmethod
from typing import Literal

from waka.core.names.fields import ReadValue, Settings, Value

Run = Literal["digits", "letters"]


class Shape(ABC):
    """How one field's value is written in a name. Two shapes are equal when their class and name are."""

    name: str

    @property
    def free(self) -> bool:
        """Whether any text fits."""
        return False

    @property
    def letters(self) -> str:
        """Free text's class of characters, as a regular expression of one character."""
        return ""

    @property
    def run_of_letters(self) -> str:
        """As many of ``letters`` as there are, at least one, never given back."""
        return f"{self.letters}++"

    @property
    def lead(self) -> str:
        """What free text begins with before its last word, as a regular expression; empty where there is nothing."""
        return ""

    @property
    def fixed_width(self) -> bool:
        """Whether it always prints the same number of characters."""
        return False

    @property
    def run(self) -> Run | None:
        """The class of characters that it is a run of, if it is one: it takes the most it can and never gives back."""
        return None

    @property
    def numeric_start(self) -> bool:
        """Whether it begins with a digit."""
        return False

    @property
    def numeric_end(self) -> bool:
        """Whether it ends with a digit."""
        return False

    def form(self) -> str:
        """The regular expression of what it prints; without groups that capture."""
        return f"{self.lead}{self.letters}+?"

    @abstractmethod
    def print(self, value: Value, settings: Settings) -> str:
        """The value as text, not yet cleaned. Raises NotKnown."""

    @abstractmethod
    def read(self, text: str, settings: Settings) -> ReadValue | None:
        """The value of ``text``, which fits the form; None where it means nothing (30 February)."""
