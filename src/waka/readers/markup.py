"""Text with marks: web pages (HTML), rich text (RTF) and plain text in old encodings, as blocks."""

import re
from collections.abc import Iterator
from html.parser import HTMLParser
from pathlib import Path

from charset_normalizer import from_bytes

from waka.readers.outcome import Unreadable
from waka.readers.paged import Opened, clean
from waka.readers.typeset import Block, Typeset, notes_on

_MAX_BYTES = 32 << 20
_BREAKS = frozenset(
    ("p", "div", "br", "li", "ul", "ol", "section", "article", "header", "footer", "table", "address", "blockquote",
     "hr")
)  # fmt: skip
_HIDDEN = frozenset(["script", "style", "template", "noscript", "svg", "head"])


def decoded(data: bytes) -> str:
    """Bytes as text: by their mark, as UTF-8 where they are that, else by what encoding makes sense of them."""
    if data[:3] == b"\xef\xbb\xbf":
        return data[3:].decode("utf-8", "replace")
    if data[:2] in (b"\xff\xfe", b"\xfe\xff"):
        return data.decode("utf-16", "replace")
    try:
        return data.decode("utf-8")
    except UnicodeDecodeError:
        pass
    # the encodings that office machines wrote in before UTF-8
    best = from_bytes(data[:200_000], cp_isolation=["cp1252", "cp1250", "cp850", "cp437", "mac_roman"]).best()
    return data.decode(best.encoding if best else "cp1252", "replace")


class _Html(HTMLParser):
    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.blocks: list[Block] = []
        self.title = ""
        self._text: list[str] = []
        self._level = 0
        self._hidden: list[str] = []
        self._row: list[str] | None = None

    def handle_starttag(self, tag: str, _attrs: list[tuple[str, str | None]]) -> None:
        if tag in _HIDDEN:
            self._hidden.append(tag)
        elif tag == "title":
            self._text.clear()
        elif tag in ("h1", "h2", "h3", "h4"):
            self._close()
            self._level = min(int(tag[1]), 3)
        elif tag == "tr":
            self._close()
            self._row = []
        elif tag in _BREAKS and self._row is None:
            self._close()

    def handle_endtag(self, tag: str) -> None:
        if self._hidden and tag == self._hidden[-1]:
            self._hidden.pop()
        elif tag == "title":
            self.title = " ".join("".join(self._text).split())
            self._text.clear()
        elif tag in ("td", "th") and self._row is not None:
            self._row.append(" ".join("".join(self._text).split()))
            self._text.clear()
        elif tag == "tr" and self._row is not None:
            if any(self._row):
                self.blocks.append(Block(cells=tuple(self._row)))
            self._row = None
            self._text.clear()
        elif tag in ("h1", "h2", "h3", "h4") or (tag in _BREAKS and self._row is None):
            self._close()

    def handle_data(self, data: str) -> None:
        if not self._hidden or (self._hidden == ["head"] and self.lasttag == "title"):
            self._text.append(data)

    def _close(self) -> None:
        text = " ".join("".join(self._text).split())
        if text:
            self.blocks.append(Block(text, self._level))
        self._text.clear()
        self._level = 0

    def finish(self) -> None:
        self.close()
        self._close()


def html_blocks(text: str) -> tuple[list[Block], str]:
    """What stands on a web page, and its title. Nothing of it is run or fetched."""
    reader = _Html()
    reader.feed(text)
    reader.finish()
    return reader.blocks, reader.title


def text_blocks(text: str) -> list[Block]:
    """Plain text as paragraphs, its own line ends kept."""
    parts = re.split(r"\n\s*\n", text.replace("\r\n", "\n").replace("\r", "\n").replace("\f", "\n\n"))
    return [Block(part.strip("\n")) for part in parts if part.strip()]


_RTF = re.compile(
    r"\\'([0-9a-fA-F]{2})|\\([a-zA-Z]{1,32})(-?[0-9]{1,10})? ?|\\([^a-zA-Z])|([{}])|[\r\n]+|([^\\{}\r\n]+)"
)
_RTF_ASIDE = frozenset(
    ["fonttbl", "colortbl", "stylesheet", "info", "pict", "object", "themedata", "datastore", "listtable", "listoverridetable",
     "generator", "xmlnstbl", "rsidtbl", "latentstyles", "fldinst"]
)  # fmt: skip
_RTF_MARKS = {"par": "\n\n", "line": "\n", "tab": " ", "cell": "  ", "row": "\n\n", "emdash": "—", "endash": "–", "lquote": "‘",
              "rquote": "’", "ldblquote": "“", "rdblquote": "”", "bullet": "•", "page": "\n\n", "sect": "\n\n"}  # fmt: skip


def rtf_text(source: str) -> str:
    """The text of a rich text file (RTF 1.9): control words obeyed as far as they make text, all else left aside."""
    return "".join(_rtf_parts(source))


def _rtf_parts(source: str) -> Iterator[str]:
    aside, stack, encoding, skip = False, [], "cp1252", 0
    for match in _RTF.finditer(source):
        byte, word, number, symbol, brace, plain = match.groups()
        if brace == "{":
            stack.append(aside)
        elif brace == "}":
            aside = stack.pop() if stack else False
        elif word in _RTF_ASIDE or symbol == "*":
            aside = True
        elif word == "ansicpg" and number:
            encoding = f"cp{number}"
        elif aside:
            continue
        elif byte:
            if skip:
                skip -= 1
            else:
                yield _byte(byte, encoding)
        elif word == "u" and number:
            code = int(number) % 65536
            yield chr(code) if not 0xD800 <= code < 0xE000 else "\ufffd"
            skip = 1
        elif word in _RTF_MARKS:
            yield _RTF_MARKS[word]
        elif symbol in ("~", "_", "\\", "{", "}"):
            yield {"~": " ", "_": "-"}.get(symbol, symbol)
        elif plain:
            yield plain[skip:] if skip else plain
            skip = 0


def _byte(digits: str, encoding: str) -> str:
    try:
        return bytes([int(digits, 16)]).decode(encoding, "replace")
    except LookupError:
        return bytes([int(digits, 16)]).decode("cp1252", "replace")


def _bytes_of(path: str) -> bytes:
    file = Path(path)
    if file.stat().st_size > _MAX_BYTES:
        raise Unreadable("text too long", size=file.stat().st_size >> 20, most=_MAX_BYTES >> 20)
    return file.read_bytes()


def open_text(path: str) -> Opened:
    """Plain text."""
    return _set(text_blocks(decoded(_bytes_of(path))))


def open_rtf(path: str) -> Opened:
    """Rich text."""
    return _set(text_blocks(rtf_text(decoded(_bytes_of(path)))))


def open_html(path: str) -> Opened:
    """A web page that was saved."""
    blocks, title = html_blocks(decoded(_bytes_of(path)))
    return _set(blocks, {"title": clean(title)} if title else {})


def _set(blocks: list[Block], properties: dict[str, str] | None = None) -> Opened:
    pages = Typeset(blocks)
    return Opened(pages, properties or {}, notes=notes_on(pages))
