"""Portable names: what a name may hold so that every common file system and every colleague can keep it.

Rules of the pattern language's section "Printing": NFC, no control or format characters, none of ``" ? * < > |``,
``: / \\`` become ``-``, no reserved device name, at most 255 bytes as UTF-8 with the extension.
"""

import functools
import re
import unicodedata
from dataclasses import dataclass

UNICODE_VERSION = unicodedata.unidata_version
MAX_BYTES = 255
MAX_CHARACTERS = 80

_GONE = re.compile(r'["?*<>|]')
_DASHED = re.compile(r"[:/\\]")
_SPACES = re.compile(r"\s+")
_OWN_MARK = re.compile(r"~(?=[0-9]+$)")
_MARK = re.compile(r"~([2-9]|[1-9][0-9]+)$")
#: Nearly every name: nothing in it to clean, so that a long manifest is checked quickly.
_PLAIN = re.compile(r"(?:[A-Za-z0-9_.,+()&'-]++ ?)++")
#: Digits as they are, a space for whatever else.
_DIGITS = bytes(n if n in b"0123456789" else 0x20 for n in range(256))
_DEVICES = frozenset(["CON", "PRN", "AUX", "NUL", *(f"COM{n}" for n in range(10)), *(f"LPT{n}" for n in range(10))])
_EXTENSION = re.compile(r"[a-z0-9]{1,12}")


@dataclass(frozen=True)
class NameRefused(ValueError):
    """A name that cannot be used. ``name`` is the name, ``why`` the reason in an office worker's words."""

    name: str
    why: str

    def __str__(self) -> str:
        shown = self.name if len(self.name) <= 60 else f"{self.name[:40]}…{self.name[-15:]}"
        return f"“{shown}” cannot be a name: {self.why}"


def clean_text(value: str) -> str:
    """The value without what no portable name may hold; marks of meaning become ``-``. May be empty."""
    if _PLAIN.fullmatch(value):
        return value
    text = unicodedata.normalize("NFC", value)
    text = _SPACES.sub(" ", text)
    text = "".join(c for c in text if unicodedata.category(c) not in ("Cc", "Cf", "Cs"))
    text = _DASHED.sub("-", _GONE.sub("", text))
    while text and unicodedata.combining(text[0]):
        text = text[1:]
    return unicodedata.normalize("NFC", text)


_NARROW_PLAIN = re.compile(r"[A-Za-z0-9._-]*")
#: Letters that Unicode does not decompose, as their nearest letters of ASCII.
_SPELT = str.maketrans({
    "ß": "ss", "ẞ": "SS", "æ": "ae", "Æ": "AE", "œ": "oe", "Œ": "OE", "ø": "o", "Ø": "O", "đ": "d", "Đ": "D", "ð": "d",
    "Ð": "D", "þ": "th", "Þ": "Th", "ł": "l", "Ł": "L", "ı": "i", "ħ": "h", "Ħ": "H", "’": "", "–": "-", "—": "-",
})  # fmt: skip


def narrow_text(value: str) -> str:
    """The value in ASCII letters, digits and ``. _ -``: letters spelt by decomposition (UAX 15), a space as ``-``."""
    text = clean_text(value)
    if _NARROW_PLAIN.fullmatch(text):
        return text
    spelt = unicodedata.normalize("NFKD", text.translate(_SPELT)).replace(" ", "-")
    return "".join(c for c in spelt if c.isascii() and (c.isalnum() or c in "._-"))


_WORDS = r"(?!(?i:con|prn|aux|nul|com[0-9]|lpt[0-9]))[A-Za-z0-9_.,+()&'-]++(?: [A-Za-z0-9_.,+()&'-]++)*+"
_PLAIN_PATH = re.compile(f"{_WORDS}(?:/{_WORDS})*+")


def is_plain(path: str, limit: int) -> bool:
    """Whether nearly every check of a path can be left out: plain ASCII, short levels, nothing to tidy, no device name."""
    return (
        len(path) - path.rfind("/") <= limit + 1
        and len(path) <= MAX_BYTES - 16
        and _PLAIN_PATH.fullmatch(path) is not None
        and path[0] != "."
        and path[-1] != "."
        and "/." not in path
        and "./" not in path
    )


def room_for(extension: str) -> int:
    """The bytes that a stem may have beside ``.extension`` and a duplicate mark."""
    return MAX_BYTES - 6 - (len(extension.encode()) + 1 if extension else 0)


def tidy_level(level: str) -> str:
    """A whole level cleaned: values' rules, one space for a run of white space, no space or dot at the ends."""
    text = _SPACES.sub(" ", clean_text(level)).strip(" .")
    return _OWN_MARK.sub("-", text)


def check_level(level: str, *, extension: str = "") -> None:
    """Raise NameRefused when ``level`` (a folder's name, or a document's without its extension) is not portable."""
    full = f"{level}.{extension}" if extension else level
    if not level:
        raise NameRefused(full, "nothing is left of the name")
    if is_device(level):
        raise NameRefused(full, f"“{level.split('.')[0].rstrip()}” is a reserved device name")
    if len(full.encode("utf-8")) > MAX_BYTES:
        raise NameRefused(
            full, f"it is too long: at most {MAX_BYTES} bytes (a plain letter takes one, an accented one two)"
        )
    if not unicodedata.is_normalized("NFC", level):
        raise NameRefused(full, "it is not in Unicode normal form C")
    if level != _SPACES.sub(" ", clean_text(level)).strip(" ."):
        raise NameRefused(full, 'it begins or ends with a space or dot, or holds one of " ? * < > | : / \\')


def is_device(level: str) -> bool:
    """True for CON, PRN, AUX, NUL, COM0-9, LPT0-9 before the first dot, in any case."""
    return level.split(".")[0].rstrip().upper() in _DEVICES


def name_key(name: str) -> str:
    """What two names share when they are the same name: no regard to case or normal form (Unicode UAX 15, UAX 44)."""
    if name.isascii():
        return name.lower()
    return unicodedata.normalize("NFC", unicodedata.normalize("NFC", name).casefold())


def entry_key(name: str) -> str:
    """The key that an entry is kept under: two names share it when name_key says they are the same; it sorts naturally.

    Each run of digits is written as its length without leading zeros (three digits) and those digits, so that 10 comes
    after 2; the leading zeros follow at the end, so that ``a1`` and ``a01`` stay two names.
    """
    rest = name_key(name)
    natural = zeros = ""
    # runs are found by a table of bytes: that is quicker than an expression
    for run in rest.encode("utf-8", "surrogatepass").translate(_DIGITS).decode().split():
        before, _, rest = rest.partition(run)
        digits, leading = _padded(run)
        natural += before + digits
        zeros += leading
    natural += rest
    return f"{natural}\x01{zeros[1:]}" if zeros.strip(".0") else natural


@functools.lru_cache(maxsize=1 << 14)
def _padded(run: str) -> tuple[str, str]:
    digits = run.lstrip("0") or "0"
    return f"{len(digits):03d}{digits}", f".{len(run) - len(digits)}"


def without_mark(stem: str) -> str:
    """The name without its duplicate mark (``~2``, ``~3`` …)."""
    return _MARK.sub("", stem)


def with_mark(stem: str, number: int, *, extension: str = "") -> str:
    """The name with the duplicate mark ``~number``, cut so that the whole stays within MAX_BYTES with ``.extension``."""
    tail = f"~{number}"
    room = MAX_BYTES - len(tail.encode()) - (len(extension.encode()) + 1 if extension else 0)
    base = without_mark(stem)
    while len(base.encode("utf-8")) > room:
        base = base[:-1]
    return base.rstrip(" .") + tail


def split_extension(name: str) -> tuple[str, str]:
    """Stem and extension (lower case, without the dot; empty when there is none that looks like one)."""
    stem, dot, extension = name.rpartition(".")
    if dot and stem.strip(" .") and _EXTENSION.fullmatch(extension.lower()):
        return stem, extension.lower()
    return name, ""


def join_extension(stem: str, extension: str) -> str:
    """The full name: stem, dot, extension; the stem alone where there is no extension."""
    return f"{stem}.{extension}" if extension else stem
