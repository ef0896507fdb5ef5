"""The second factor: one-time codes by time (RFC 6238), recovery codes for the day the telephone is lost."""

import io
import secrets
from dataclasses import dataclass
from datetime import UTC, datetime

import pyotp
import segno

from waka.store.postgres import office_trail, people, second_factors
from waka.store.postgres.database import Connection
from waka.words.office import happened
from waka.work.accounts.secrets import hash_of, seal, unseal
from waka.work.actor import Actor, Refused
from waka.work.drive import Drive, Keys

#: Seconds of a step, and how many steps before and after the present one are taken (RFC 6238, 5.2).
_STEP, _AROUND = 30, 1
#: Recovery codes: how many, and of how many random bytes each.
_CODES, _CODE_BYTES = 10, 10
_WRONG = "The code is wrong, or was used already. Wait for the next one."


@dataclass(frozen=True)
class Begun:
    """A second factor to be confirmed: the secret in base 32, the address that an authenticator reads, and that as an SVG picture."""

    secret: str
    address: str
    picture: str


def begin(drive: Drive, actor: Actor, office: str) -> Begun:
    """Draw a secret. It counts once a code of it was given (``confirm``). Refused where there is a second factor already."""
    actor.prove()
    secret = pyotp.random_base32()
    with drive.database.transaction() as conn:
        person = people.person_by_id(conn, actor.person, lock=True)
        if person is None or person["second_factor"]:
            raise Refused("The second factor is on already. Switch it off first.", code="state")
        second_factors.begin(conn, actor.person, seal(drive.keys, secret, actor.person))
    address = pyotp.TOTP(secret).provisioning_uri(name=person["login"], issuer_name=f"Waka {office}".strip())
    picture = io.BytesIO()
    segno.make(address, error="m").save(picture, kind="svg", scale=4, border=2, xmldecl=False)
    return Begun(secret, address, picture.getvalue().decode())


def confirm(drive: Drive, actor: Actor, code: str, *, now: datetime | None = None) -> list[str]:
    """Switch it on with a first code; the recovery codes, which are shown this once. Refused for a wrong code."""
    actor.prove()
    with drive.database.transaction() as conn:
        if not _take(conn, drive.keys, actor.person, code, confirmed=False, now=now):
            raise Refused(_WRONG, code="code", field="code")
        office_trail.note(conn, happened("second factor on"), by=actor.person, whom=actor.person, address=actor.address)
        return _new_codes(conn, actor.person)


def new_codes(drive: Drive, actor: Actor) -> list[str]:
    """New recovery codes in place of those before."""
    actor.prove()
    with drive.database.transaction() as conn:
        if second_factors.factor(conn, actor.person, confirmed=True) is None:
            raise Refused("The second factor is off.", code="state")
        office_trail.note(conn, happened("recovery codes"), by=actor.person, whom=actor.person, address=actor.address)
        return _new_codes(conn, actor.person)


def switch_off(drive: Drive, actor: Actor) -> None:
    """Switch one's own off."""
    actor.prove()
    with drive.database.transaction() as conn:
        remove(conn, actor.person, by=actor.person, address=actor.address)


def remove(conn: Connection, person: int, *, by: int | None, address: str = "") -> None:
    """A person's second factor is off, recovery codes and all."""
    if second_factors.remove(conn, person):
        office_trail.note(conn, happened("second factor off"), by=by, whom=person, address=address)


def take(conn: Connection, keys: Keys, person: int, code: str, *, now: datetime | None = None) -> bool:
    """Whether a code is good now; then it is used up."""
    return _take(conn, keys, person, code, confirmed=True, now=now)


def take_recovery(conn: Connection, person: int, code: str) -> bool:
    """Whether it is one of the person's recovery codes; then it is used up."""
    plain = "".join(code.split()).replace("-", "").upper()
    return second_factors.spend_recovery_code(conn, person, hash_of(plain))


def _take(conn: Connection, keys: Keys, person: int, code: str, *, confirmed: bool, now: datetime | None) -> bool:
    row = second_factors.factor(conn, person, confirmed=confirmed)
    plain = "".join(code.split())
    if row is None or not (plain.isascii() and plain.isdigit()):
        return False
    totp = pyotp.TOTP(unseal(keys, row["sealed"], person))
    present = int((now or datetime.now(UTC)).timestamp()) // _STEP
    good = [
        step
        for step in range(present - _AROUND, present + _AROUND + 1)
        if step > row["last_step"] and secrets.compare_digest(totp.at(step * _STEP), plain)
    ]
    if good:
        second_factors.use_step(conn, person, good[0])
    return bool(good)


def _new_codes(conn: Connection, person: int) -> list[str]:
    codes = [pyotp.random_base32(32)[: _CODE_BYTES * 8 // 5] for _ in range(_CODES)]
    second_factors.put_recovery_codes(conn, person, [hash_of(code) for code in codes])
    return ["-".join(code[at : at + 4] for at in range(0, len(code), 4)) for code in codes]
