"""Names that say nothing of who, what or when: what a camera, a scanner or a program calls its files, and copies of such."""

import re

from waka.core.names.portable import name_key, split_extension

# Words that devices and programs call files by, and that people add to them; English and German.
_DEVICES = """img image images imgp dsc dscf dscn mvi vid pic pict picture pictures pxl photo photos foto fotos bild bilder scan
    scans scanned scanner eingescannt fax mfp page pages seite seiten screenshot bildschirmfoto"""
_PROGRAMS = """doc docs docx pdf document documents dokument dokumente file files datei dateien untitled unbenannt titel title
    noname unnamed unknown unbekannt new neu neue neuer neues download downloads attachment attachments anhang anlage export print
    printout druck ausdruck output temp tmp test mail email message nachricht book sheet mappe tabelle presentation"""
_PEOPLE = """copy copies kopie kopien duplicate final finale fertig version ver rev draft entwurf old alt misc sonstiges stuff
    thing of von the an der die das and und my mein meine no nr ohne without"""
_EMPTY = frozenset(f"{_DEVICES} {_PROGRAMS} {_PEOPLE}".split())
# Words that say what kind of paper it is, and nothing more.
_PAPERS = """bill invoice rechnung letter brief receipt quittung beleg note notiz contract vertrag minutes protokoll form formular
    paper papers papier coursework report bericht"""
_KINDS = frozenset(_PAPERS.split())
_WORD = re.compile(r"[^\W\d_]+")
#: What looks like a number that somebody gave it, or a year.
_NUMBER = re.compile(r"[0-9]{3}")
#: Names that programs draw: hexadecimal numbers, in groups or not (RFC 4122 is one way of it).
_DRAWN = re.compile(r"[0-9a-f]{8,}(-[0-9a-f]{4,}){0,8}")


def says_nothing(name: str) -> bool:
    """Whether a document's name (with its extension) tells nobody what it is: ``scan0001.pdf``, ``Document (3).pdf``, ``IMG_2231.jpg``.

    A kind with a number or a day (``invoice 40112``, ``letter 2026-03-18``) says something, a kind alone does not.
    """
    key = name_key(split_extension(name)[0])
    if _DRAWN.fullmatch(key.strip("{}() ")) and any(c.isdigit() for c in key):
        return True
    words = {word for word in _WORD.findall(key) if len(word) > 1}
    if words - _EMPTY - _KINDS:
        return False
    return not (words & _KINDS and _NUMBER.search(key))
