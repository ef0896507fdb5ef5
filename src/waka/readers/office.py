"""Office files: text, tables and properties of DOCX, PPTX, XLSX (ISO/IEC 29500) and ODT, ODS, ODP (ISO/IEC 26300)."""

import datetime
import zipfile
from collections.abc import Callable, Iterator
from typing import IO, cast
from xml.etree.ElementTree import Element

import openpyxl
from defusedxml import ElementTree

from waka.readers.outcome import Unreadable
from waka.readers.paged import Opened, clean
from waka.readers.typeset import Block, Typeset, notes_on
from waka.readers.zipped import BROKEN, opened
from waka.words import readings
from waka.words.readings import remark

_MAX_PART = 64 << 20
_MAX_ROWS = 3_000
_MAX_CELLS = 30


def _part(file: zipfile.ZipFile, name: str) -> Element | None:
    """One part as XML; None where there is none. Unreadable where it is larger than any office file's."""
    try:
        info = file.getinfo(name)
    except KeyError:
        return None
    if info.flag_bits & 1:
        raise Unreadable("office locked")
    with file.open(info) as held:
        data = held.read(_MAX_PART + 1)
    if len(data) > _MAX_PART:
        raise Unreadable("unpacks")
    try:
        root: Element = ElementTree.fromstring(data, forbid_dtd=True)
    except Exception as error:  # expat's errors and defusedxml's refusals
        raise Unreadable("office damaged") from error
    return root


def _tag(element: Element) -> str:
    return str(element.tag).rpartition("}")[2]


def _attribute(element: Element, name: str) -> str:
    return next((v for k, v in element.attrib.items() if k.rpartition("}")[2] == name), "")


def _open(path: str, blocks_of: Callable[[zipfile.ZipFile], Iterator[Block]], properties: str) -> Opened:
    try:
        with opened(path) as file:
            blocks = list(blocks_of(file))
            told = _properties(_part(file, properties))
    except BROKEN as error:
        raise Unreadable("office damaged") from error
    pages = Typeset(blocks)
    notes = [block.note for block in blocks if block.note]
    return Opened(pages, told, notes=[*notes, *notes_on(pages)])


_PROPERTIES = {"title": "title", "creator": "author", "initial-creator": "author", "subject": "subject", "created": "created",
               "creation-date": "created", "modified": "modified", "date": "modified"}  # fmt: skip


def _properties(root: Element | None) -> dict[str, str]:
    if root is None:
        return {}
    return {_PROPERTIES[_tag(e)]: clean(e.text) for e in root.iter() if _tag(e) in _PROPERTIES and e.text}


# word processing ------------------------------------------------------------------------------------------------------


def open_docx(path: str) -> Opened:
    """A DOCX: its heads (where letterheads stand), then its text."""
    return _open(path, _docx_blocks, "docProps/core.xml")


def _docx_blocks(file: zipfile.ZipFile) -> Iterator[Block]:
    for name in sorted(n for n in file.namelist() if n.startswith("word/header") and n.endswith(".xml"))[:3]:
        head = _part(file, name)
        if head is not None:
            yield from _docx_body(head)
    document = _part(file, "word/document.xml")
    if document is None:
        raise Unreadable("office damaged")
    yield from _docx_body(next((e for e in document if _tag(e) == "body"), document))


def _docx_body(body: Element) -> Iterator[Block]:
    for element in body:
        if _tag(element) == "p":
            style = next((_attribute(e, "val") for e in element.iter() if _tag(e) == "pStyle"), "")
            level = (
                int(style[-1]) if style.startswith("Heading") and style[-1:] in "123" else 1 if style == "Title" else 0
            )
            text = _docx_text(element)
            if text.strip():
                yield Block(text, level)
        elif _tag(element) == "tbl":
            for row in (e for e in element if _tag(e) == "tr"):
                cells = tuple(
                    " ".join(_docx_text(p) for p in cell.iter() if _tag(p) == "p") for cell in row if _tag(cell) == "tc"
                )
                if any(cells):
                    yield Block(cells=cells)
        elif _tag(element) in ("sdt", "sdtContent"):
            yield from _docx_body(element)


def _docx_text(paragraph: Element) -> str:
    marks = {"tab": "   ", "br": "\n", "cr": "\n", "noBreakHyphen": "-"}
    return "".join(e.text or "" if _tag(e) == "t" else marks.get(_tag(e), "") for e in paragraph.iter())


def open_odt(path: str) -> Opened:
    """An ODT: its page heads, then its text."""
    return _open(path, _odt_blocks, "meta.xml")


def _odt_blocks(file: zipfile.ZipFile) -> Iterator[Block]:
    styles = _part(file, "styles.xml")
    if styles is not None:
        for head in (e for e in styles.iter() if _tag(e) == "header"):
            yield from _odf_body(head)
    yield from _odf_body(_odf_content(file, "text"))


def _odf_content(file: zipfile.ZipFile, what: str) -> Element:
    content = _part(file, "content.xml")
    body = (
        None
        if content is None
        else next((e for e in content.iter() if _tag(e) == what and "office:1.0" in str(e.tag)), None)
    )
    if body is None:
        manifest = _part(file, "META-INF/manifest.xml")
        if manifest is not None and any(_tag(e) == "encryption-data" for e in manifest.iter()):
            raise Unreadable("office locked")
        raise Unreadable("office damaged")
    return body


def _odf_body(body: Element) -> Iterator[Block]:
    for element in body:
        tag = _tag(element)
        if tag == "h":
            yield Block(_odf_text(element), min(int(_attribute(element, "outline-level") or 1), 3))
        elif tag == "p":
            text = _odf_text(element)
            if text.strip():
                yield Block(text)
        elif tag == "table":
            yield from _odf_rows(element)
        elif tag in (
            "section",
            "list",
            "list-item",
            "list-header",
            "text-box",
            "frame",
            "index-body",
            "table-of-content",
        ):
            yield from _odf_body(element)


def _odf_text(paragraph: Element) -> str:
    parts = [paragraph.text or ""]
    for child in paragraph:
        tag = _tag(child)
        parts.append(
            {"tab": "   ", "line-break": "\n", "s": " "}.get(
                tag, "" if tag in ("annotation", "note") else _odf_text(child)
            )
        )
        parts.append(child.tail or "")
    return "".join(parts)


def _left_out(table: str, rows: int, wide: bool) -> Iterator[Block]:
    """What a table has more than is shown."""
    called = clean(table, 80) or None
    found = []
    if rows > _MAX_ROWS:
        found.append(remark("rows left out", table=called, shown=_MAX_ROWS, more=rows - _MAX_ROWS))
    if wide:
        found.append(remark("columns left out", table=called, shown=_MAX_CELLS))
    for note in found:
        yield Block(readings.note(note), note=note)


def _odf_rows(table: Element) -> Iterator[Block]:
    count, wide = 0, False
    for row in (e for e in table.iter() if _tag(e) == "table-row"):
        cells: list[str] = []
        for cell in (c for c in row if _tag(c) in ("table-cell", "covered-table-cell")):
            text = " ".join(_odf_text(p) for p in cell if _tag(p) == "p")
            repeated = int(_attribute(cell, "number-columns-repeated") or 1)
            wide = wide or bool(text and len(cells) + repeated > _MAX_CELLS)
            cells += [text] * min(repeated, _MAX_CELLS - len(cells))
        while cells and not cells[-1]:
            cells.pop()
        if any(cells):
            count += 1
            if count <= _MAX_ROWS:
                yield Block(cells=tuple(cells))
    yield from _left_out(_attribute(table, "name"), count, wide)


# tables ---------------------------------------------------------------------------------------------------------------


def open_ods(path: str) -> Opened:
    """An ODS: every sheet under its name."""
    return _open(path, _ods_blocks, "meta.xml")


def _ods_blocks(file: zipfile.ZipFile) -> Iterator[Block]:
    for sheet in (e for e in _odf_content(file, "spreadsheet") if _tag(e) == "table"):
        yield Block(_attribute(sheet, "name"), 2)
        yield from _odf_rows(sheet)


def open_xlsx(path: str) -> Opened:
    """An XLSX: every sheet under its name, values as they were last computed."""
    return _open(path, _xlsx_blocks, "docProps/core.xml")


def _xlsx_blocks(file: zipfile.ZipFile) -> Iterator[Block]:
    try:
        book = openpyxl.load_workbook(cast(IO[bytes], file.fp), read_only=True, data_only=True)
        for sheet in book.worksheets:
            yield Block(sheet.title, 2)
            wide = False
            for row in sheet.iter_rows(max_row=_MAX_ROWS, max_col=_MAX_CELLS + 1, values_only=True):
                cells = [_cell(v) for v in row]
                wide = wide or bool(any(cells[_MAX_CELLS:]))
                cells = cells[:_MAX_CELLS]
                while cells and not cells[-1]:
                    cells.pop()
                if any(cells):
                    yield Block(cells=tuple(cells))
            yield from _left_out(sheet.title, sheet.max_row or 0, wide)
    except (
        KeyError,
        ValueError,
        TypeError,
        AttributeError,
        IndexError,
        SyntaxError,
    ) as error:  # what it raises for damaged parts
        raise Unreadable("office damaged") from error


def _cell(value: object) -> str:
    if value is None:
        return ""
    if isinstance(value, datetime.datetime) and value.time() == datetime.time():
        return value.date().isoformat()
    if isinstance(value, float):
        return f"{value:.2f}" if value != int(value) else str(int(value))
    return str(value)


# slides ---------------------------------------------------------------------------------------------------------------


def open_pptx(path: str) -> Opened:
    """A PPTX: the text of every slide in its order."""
    return _open(path, _pptx_blocks, "docProps/core.xml")


def _pptx_blocks(file: zipfile.ZipFile) -> Iterator[Block]:
    names = [n for n in file.namelist() if n.startswith("ppt/slides/slide") and n.endswith(".xml")]
    for number, name in enumerate(sorted(names, key=lambda n: (len(n), n)), 1):
        slide = _part(file, name)
        yield Block(f"Slide {number}", 3)
        for paragraph in (e for e in slide.iter() if _tag(e) == "p") if slide is not None else ():
            text = "".join(e.text or "" for e in paragraph.iter() if _tag(e) == "t")
            if text.strip():
                yield Block(text)


def open_odp(path: str) -> Opened:
    """An ODP: the text of every slide."""
    return _open(path, _odp_blocks, "meta.xml")


def _odp_blocks(file: zipfile.ZipFile) -> Iterator[Block]:
    for number, slide in enumerate((e for e in _odf_content(file, "presentation") if _tag(e) == "page"), 1):
        yield Block(f"Slide {number}", 3)
        yield from (Block(_odf_text(e)) for e in slide.iter() if _tag(e) in ("p", "h") and _odf_text(e).strip())
