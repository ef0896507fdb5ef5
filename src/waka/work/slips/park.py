"""Park: an arrival that cannot be filed yet is put aside with a note and a day to come back."""

from dataclasses import dataclass
from datetime import date

from waka.store.postgres import arrivals
from waka.work.acting import reach
from waka.work.actor import Absent, Actor, Refused
from waka.work.drive import Drive, today

_LONGEST_DAYS = 366


@dataclass(frozen=True)
class Parking:
    """Until which day, and why."""

    until: date
    note: str = ""


def park(drive: Drive, actor: Actor, document: int, parking: Parking | None) -> None:
    """Put an arrival aside, or (None) bring it back to what waits now. The claim on it ends.

    Refused for a day that is past or more than a year away; where somebody else has it in hand.
    """
    if parking is not None and not 0 < (parking.until - today()).days <= _LONGEST_DAYS:
        raise Refused("Choose a day to come back that is tomorrow or later, within a year.", code="day", field="until")
    with drive.database.transaction() as conn:
        row = arrivals.arrival_row(conn, document, reach(conn, actor), lock=True)
        if row is None:
            raise Absent("arrival")
        if row["claim_holds"] and row["claimed_by"] != actor.person:
            raise Refused(f"{row['claimed_name']} has it in hand.", code="claimed")
        arrivals.set_parked(
            conn,
            document,
            parking.until if parking else None,
            parking.note if parking else "",
            actor.person if parking else None,
        )
