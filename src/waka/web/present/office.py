"""The office's settings as the API takes and gives them."""

from collections.abc import Mapping
from typing import Any

from waka.core.facts.values import CURRENCIES
from waka.core.names.months import MONTH_NAMES
from waka.web.schemas.office import OfficeChoices, OfficeForm, OfficeOut
from waka.work.config import set_up


def office_out(now: Mapping[str, Any]) -> OfficeOut:
    """The settings as they are."""
    return OfficeOut(**{name: now[name] for name in OfficeOut.model_fields})


def choices() -> OfficeChoices:
    """What the settings are chosen from."""
    return OfficeChoices(languages=list(MONTH_NAMES), time_zones=list(set_up.zones()), currencies=list(CURRENCIES))


def typed(form: OfficeForm) -> dict[str, str]:
    """Settings as they are typed, of those that were given."""
    given = form.model_dump(exclude_none=True)
    return {
        name: ("yes" if value else "no") if isinstance(value, bool) else str(value) for name, value in given.items()
    }
