"""Names of months as names of documents write them: the stand-alone forms of Unicode CLDR 44, one spelling a language, no dots.

Each language has its wide forms (``MMMM``) and its abbreviated ones (``MMM``). A drive has one language; what a page says
is read in all of them (``core/lexicon``).
"""

from collections.abc import Mapping
from dataclasses import dataclass


@dataclass(frozen=True)
class Months:
    """The twelve months of one language, January first."""

    wide: tuple[str, ...]
    short: tuple[str, ...]


def _months(wide: str, short: str) -> Months:
    return Months(tuple(wide.split()), tuple(short.split()))


MONTH_NAMES: Mapping[str, Months] = {
    "en": _months(
        "January February March April May June July August September October November December",
        "Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec",
    ),
    "de": _months(
        "Januar Februar März April Mai Juni Juli August September Oktober November Dezember",
        "Jan Feb Mär Apr Mai Jun Jul Aug Sep Okt Nov Dez",
    ),
    "fr": _months(
        "janvier février mars avril mai juin juillet août septembre octobre novembre décembre",
        "janv févr mars avr mai juin juil août sept oct nov déc",
    ),
    "nl": _months(
        "januari februari maart april mei juni juli augustus september oktober november december",
        "jan feb mrt apr mei jun jul aug sep okt nov dec",
    ),
    "es": _months(
        "enero febrero marzo abril mayo junio julio agosto septiembre octubre noviembre diciembre",
        "ene feb mar abr may jun jul ago sept oct nov dic",
    ),
    "it": _months(
        "gennaio febbraio marzo aprile maggio giugno luglio agosto settembre ottobre novembre dicembre",
        "gen feb mar apr mag giu lug ago set ott nov dic",
    ),
}
#: The language of a drive that says no other.
ENGLISH = "en"
