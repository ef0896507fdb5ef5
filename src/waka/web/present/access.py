"""Access as the API takes and gives it: levels by their words."""

from collections.abc import Mapping
from typing import Any, cast

from waka.store.postgres.database import Row
from waka.web.schemas.access import (
    GrantSource,
    Level,
    ReaderOut,
    ReadersOut,
    RightOut,
    SharedOut,
    SightChange,
    WishForm,
)
from waka.web.schemas.people import PrincipalOut
from waka.work.sharing.effects import Seen
from waka.work.sharing.give import Wish
from waka.work.sharing.readers import Reader, Readers, Source

LEVELS: tuple[Level, ...] = ("read", "comment", "file", "keep")


def level_out(level: int) -> Level:
    """A level's word."""
    return LEVELS[level - 1]


def level_or_none(level: int) -> Level | None:
    """A level's word; None for no level."""
    return LEVELS[level - 1] if level else None


def number(level: Level) -> int:
    """A level by its word."""
    return LEVELS.index(level) + 1


def wish(form: WishForm) -> Wish:
    """A change that is wished for."""
    level = number(form.level) if form.level is not None else None
    one: dict[str, object] = {
        "folder": form.folder, "document": form.document, "entry": form.entry, "principal": form.principal, "level": level, "until": form.until,
        "word": form.word, "restricted": form.restricted,
    }  # fmt: skip
    if form.stale:
        seen = form.seen
        until = seen.until.isoformat() if seen is not None and seen.until else None
        one["seen"] = None if seen is None else {"level": number(seen.level), "until": until}
        if form.restricted is not None:
            one["seen"] = not form.restricted
    return Wish(**one)  # type: ignore[arg-type]


def access_line(kind: str, told: Mapping[str, Any], whom: str | None) -> dict[str, str]:
    """What a manifest's line says of access, or of the order of areas: as the line's two names."""

    def right(given: Mapping[str, Any] | None) -> str:
        until = f" until {given['until']}" if given and given["until"] else ""
        return f"{whom or 'somebody'}: {level_out(given['level']) if given else 'nothing'}{until}"

    if kind == "grant":
        return {"from_name": right(told["was"]), "to_name": right(told["to"])}
    if kind == "restrict":
        words = {False: "open to what is given above", True: "restricted"}
        return {"from_name": words[told["was"]], "to_name": words[told["to"]]}
    return {"from_name": f"number {told['was']}", "to_name": f"number {told['to']}"}


def principal_out(row: Row) -> PrincipalOut:
    """A person or group."""
    return PrincipalOut(id=row["id"], kind=row["kind"], name=row["name"], login=row["login"])


def source_out(source: Source) -> GrantSource:
    """One grant that counts."""
    return GrantSource(**{**vars(source), "level": level_out(source.level)})


def readers_out(told: Readers) -> ReadersOut:
    """Who reads a thing."""
    thing = told.thing
    return ReadersOut(
        name=thing.name, folder=thing.folder, document=thing.document, restricted=thing.restricted, keeps=thing.keeps,
        rows=[_reader(r) for r in told.rows or ()], mine=[source_out(s) for s in told.mine], keepers=list(told.keepers),
    )  # fmt: skip


def _reader(reader: Reader) -> ReaderOut:
    here = reader.here
    return ReaderOut(
        id=reader.id, kind=reader.kind, name=reader.name, login=reader.login, level=level_or_none(reader.level),
        here=None if here is None else RightOut(level=level_out(here["level"]), until=here["until"]),
        sources=[source_out(s) for s in reader.sources], people=list(reader.people),
    )  # fmt: skip


def sight_out(seen: Seen) -> SightChange:
    """One person, and what a change does to what they see."""
    return SightChange(
        person=principal_out(seen.person),
        documents=seen.documents,
        was=level_or_none(seen.was),
        now=level_or_none(seen.now),
    )


def shared_out(row: Row, paths: Mapping[int, str]) -> SharedOut:
    """Something that was given."""
    within = row["folder"] if row["folder"] is not None else row["within"]
    plain = ("id", "folder", "document", "name", "kind", "issued", "extension", "until", "word", "given_at", "principal",
        "whom", "whom_kind", "fresh")  # fmt: skip
    return SharedOut(
        **{name: row[name] for name in plain}, path=paths.get(cast(int, within), ""), level=level_out(row["level"]),
        given_by=row["given_by_name"],
    )  # fmt: skip
