"""Secrets of people: hashes of passwords, random tokens, what is sealed because it must be read again."""

import hashlib
import hmac
import secrets
import threading

import argon2
from cryptography.exceptions import InvalidTag
from cryptography.hazmat.primitives.ciphers.aead import AESGCM

from waka.core.accounts.passwords import MIN_CHARACTERS, judge
from waka.work.actor import Refused, SlowDown
from waka.work.drive import Keys

_hasher = argon2.PasswordHasher()
#: Checked against when there is no password, so that both answers take the same time.
_NOBODY = _hasher.hash(secrets.token_hex(16))
#: A password is hashed slowly on purpose: one at a time in each process (two serve), so that guessing keeps no processor busy.
_hashing = threading.BoundedSemaphore(1)
_HASHING_SECONDS = 3.0
_NONCE_BYTES = 12


def token() -> str:
    """256 random bits, as text that stands in an address."""
    return secrets.token_urlsafe(32)


def hash_of(secret: str) -> bytes:
    """The hash that a random secret is kept as (SHA-256: it has nothing to guess)."""
    return hashlib.sha256(secret.encode("utf-8", "surrogatepass")).digest()


def lookup_hash(keys: Keys, secret: str) -> bytes:
    """The keyed hash (HMAC-SHA-256) by which a program's password is found: a stolen copy of the records is of no use."""
    return hmac.new(keys.lookup, secret.encode("utf-8", "surrogatepass"), hashlib.sha256).digest()


def seal(keys: Keys, secret: str, whose: int) -> bytes:
    """A secret that can be read again (AES-256-GCM, bound to its person)."""
    nonce = secrets.token_bytes(_NONCE_BYTES)
    return nonce + AESGCM(keys.seal).encrypt(nonce, secret.encode(), str(whose).encode())


def unseal(keys: Keys, sealed: bytes, whose: int) -> str:
    """What was sealed. Refused where the key is another: the records came without it."""
    try:
        return AESGCM(keys.seal).decrypt(sealed[:_NONCE_BYTES], sealed[_NONCE_BYTES:], str(whose).encode()).decode()
    except InvalidTag as wrong:
        raise Refused(
            "The second factor cannot be read: this Waka has another key than the one that sealed it. An administrator switches"
            " it off with ./waka user second-factor-off.",
            code="sealed",
        ) from wrong


def hash_password(password: str) -> str:
    """The hash that a password is kept as (argon2id)."""
    return _hasher.hash(password)


def is_password(hashed: str | None, password: str) -> bool:
    """Whether a password is the one; for who has none it takes as long. Raises SlowDown where too many ask at once."""
    if not _hashing.acquire(timeout=_HASHING_SECONDS):
        raise SlowDown(2)
    try:
        return _hasher.verify(hashed or _NOBODY, password) and hashed is not None
    except (argon2.exceptions.VerificationError, argon2.exceptions.InvalidHashError):
        return False
    finally:
        _hashing.release()


def check_password(password: str, words: list[str]) -> None:
    """Raise Refused for a password that is too short, or one that everybody tries first (``words``: names around the person)."""
    why = judge(password, words).problem
    if why == "short":
        raise Refused(f"A password has at least {MIN_CHARACTERS} characters.", code="password", field="password")
    if why == "common":
        raise Refused(
            "This password is among the first that anybody tries. Choose another.", code="password", field="password"
        )
