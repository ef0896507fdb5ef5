"""The demo's people: who may do what at the Saltmarsh Boatyard Trust. Invented, all of them."""

from dataclasses import dataclass


@dataclass(frozen=True)
class DemoPerson:
    """An account of the demo; the password is printed at start."""

    login: str
    password: str
    name: str
    what: str
    administrator: bool = False


PEOPLE = (
    DemoPerson("odalys", "larch-and-oak", "Odalys Brink", "files for Accounts and Office"),
    DemoPerson("imre", "tide-tables-1", "Imre Castellan", "keeps Accounts and Office"),
    DemoPerson("lise", "copper-rivets", "Lise Brandt", "reads Office, and what others share with her"),
    DemoPerson("petra", "slipway-lights", "Petra Holm", "administrator", administrator=True),
)
