"""What the search for facts knows besides the words of a paper."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date

from waka.core.facts.parties import RegisterEntry
from waka.core.facts.stated import Stated


@dataclass(frozen=True)
class Context:
    """The day, the register, the names the receiving house goes by, what the file states, its pages' sizes.

    ``currency``: the office's. ``day_first``: which reading of days in figures is usual. ``scanned``: the words are recognised.
    ``file_name``: what the file was called as it came, without its ending.
    """

    today: date
    register: tuple[RegisterEntry, ...]
    own_names: tuple[str, ...] = ()
    currency: str = "GBP"
    day_first: bool = True
    stated: tuple[Stated, ...] = ()
    scanned: bool = False
    sizes: Mapping[int, tuple[float, float]] = field(default_factory=dict)
    file_name: str = ""
