"""Outlines of areas to begin with: a name, what belongs there, and a plan for its kinds. All may be changed at once."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date
from types import MappingProxyType

from waka.core.names.drive_fields import DRIVE_FIELDS
from waka.core.names.fields import DateParts, Party, Person, Printed, Settings, Value
from waka.core.names.pattern import compile_pattern
from waka.core.plan.area_plan import KindRule

_BILL = "<issued yyyy-MM-dd>_<party short>_<ref>"
_DATED = "<issued yyyy-MM-dd>_<subject hyphen>"
_LETTER = "<issued yyyy-MM-dd>_<party short>_<subject hyphen>"


@dataclass(frozen=True)
class Outline:
    """An area to begin with. ``restricted``: only who is given access to it reads it, administrators included."""

    key: str
    name: str
    purpose: str
    kinds: Mapping[str, KindRule] = field(default_factory=lambda: MappingProxyType({}))
    restricted: bool = False


OUTLINES: Mapping[str, Outline] = {
    outline.key: outline
    for outline in (
        Outline(
            "accounts", "Accounts", "Invoices, credit notes and receipts, by year and month.",
            {
                "invoice": KindRule(_BILL, "Invoices/<issued yyyy>/<issued MM>"),
                "credit note": KindRule(_BILL, "Credit notes/<issued yyyy>"),
                "receipt": KindRule(_BILL, "Receipts/<issued yyyy>"),
            },
        ),
        Outline(
            "letters", "Letters", "Letters in and out, by whom they are from or to.",
            {
                "letter": KindRule(_LETTER, "<party>/<issued yyyy>"),
                "other": KindRule(_DATED, "Other/<issued yyyy>"),
            },
        ),
        Outline(
            "meetings", "Meetings", "Minutes and papers of meetings, by year.",
            {
                "minutes": KindRule(_DATED, "Minutes/<issued yyyy>"),
                "other": KindRule(_DATED, "Papers/<issued yyyy>"),
            },
        ),
        Outline(
            "contracts", "Contracts", "Agreements that hold, by party.",
            {"contract": KindRule("<party short>_<ref>_<subject hyphen>", "<party>")},
        ),
        Outline(
            "staff", "Staff", "Papers of those who work here. Only whom you name reads them.",
            {
                "contract": KindRule("<issued yyyy-MM-dd>_<subject hyphen>", "Agreements"),
                "letter": KindRule(_DATED, "Letters/<issued yyyy>"),
                "other": KindRule(_DATED, "Other"),
            },
            restricted=True,
        ),
        Outline(
            "projects", "Projects", "All that belongs to a piece of work, in a folder of its own.",
            {
                "letter": KindRule(_LETTER, "Letters"),
                "photo": KindRule(_DATED, "Photos/<issued yyyy>"),
                "other": KindRule(_DATED, "Papers"),
            },
        ),
        Outline(
            "teaching", "Teaching", "Coursework, by course and person.",
            {
                "coursework": KindRule(
                    "<person last-first>_<task hyphen>_<attempt 00>", "<course>/<person last-first>"
                )
            },
        ),
        Outline(
            "property", "Property", "Surveys, photos and papers of houses, land and things.",
            {
                "photo": KindRule(_DATED, "Photos/<issued yyyy>"),
                "contract": KindRule("<party short>_<ref>_<subject hyphen>", "Agreements"),
                "other": KindRule(_DATED, "Papers/<issued yyyy>"),
            },
        ),
    )
}  # fmt: skip


def sample(today: date) -> Mapping[str, Value]:
    """Facts of a made-up document, with which a pattern can be tried before anything is filed."""
    facts: dict[str, Value] = {
        "issued": DateParts.of(today), "due": DateParts.of(today), "party": Party("Larkspur Supplies", "Larkspur", "lar"),
        "ref": "L-2041", "subject": "Spring order", "amount": "128.40", "person": Person("Robin", "Marlow"), "course": "Carpentry",
        "task": "Scarf joint", "attempt": 1, "name": "scan 12",
    }  # fmt: skip
    return {key: value for key, value in facts.items() if key in DRIVE_FIELDS or key == "name"}


def tried(name: str, place: str, settings: Settings) -> tuple[Printed, Printed]:
    """What patterns make of the made-up document: name and place. Raises PatternError."""
    facts = sample(settings.today)
    return (
        compile_pattern(name, settings.language).print(facts, settings, extension="pdf"),
        compile_pattern(place, settings.language).print(facts, settings),
    )
