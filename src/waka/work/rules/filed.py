"""What is filed, through the rules: the changes that they decide for one document, and what they come to by themselves."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from waka.core.access.permissions import Permissions
from waka.core.changes.kinds import (
    AlsoFile,
    Change,
    Copy,
    DocumentId,
    EntryId,
    FolderId,
    Location,
    Place,
)
from waka.core.names.fields import Party
from waka.core.names.portable import entry_key, join_extension
from waka.core.rules.deciding import Decision, Question
from waka.core.rules.documents import Document
from waka.store.postgres import documents, planning, plans, rule_inputs, rule_runs
from waka.store.postgres.database import Connection, Row
from waka.store.postgres.gate import lines
from waka.words.manifests import title
from waka.words.rules import ASKS
from waka.words.sentence import Kept
from waka.work.acting import reach
from waka.work.actor import Actor, Refused
from waka.work.drive import Drive, area_settings, known_parties, name_settings, office_now
from waka.work.gate.apply import apply_in
from waka.work.manifests.by_rules import known_changes
from waka.work.rulebooks import Ruling, areas_reached, asked_for, filed, ready, seen_to_json
from waka.work.target_folders import NewFolders

#: So many documents are looked up at once.
CHUNK = 500


@dataclass
class Ground:
    """What a pass over filed documents stands on: whose rules, what they reach, the register, now by the office's clock."""

    area: int
    name: str
    ruling: Ruling
    permissions: Permissions
    parties: Mapping[int, Party]
    now: datetime
    #: Areas that may be filed in, by folded name.
    areas: dict[str, int]

    def documents(self, conn: Connection, rows: Sequence[Row]) -> list[Document]:
        """Rows of ``rule_inputs.filed_documents`` as rules see them."""
        texts, senders = asked_for(conn, self.ruling.subjects, rows)
        ways = planning.chains(conn, list({row["parent"] for row in rows}))
        paths = {folder: "/".join(name for _, name in way) for folder, way in ways.items()}
        return [filed(row, paths[row["parent"]], self.parties, self.now, texts, senders) for row in rows]


def ground(conn: Connection, actor: Actor, row: Row, area_name: str) -> Ground:
    """What a kept revision stands on for an actor."""
    permissions, now = reach(conn, actor), office_now(conn)
    parties = known_parties(conn, permissions)
    settings = area_settings(name_settings(conn), plans.plan_of(conn, row["area"]))
    ruling = ready(conn, row, area_name, parties, settings, now.date())
    areas = areas_reached(conn, row["area"], area_name)
    return Ground(row["area"], area_name, ruling, permissions, parties, now, areas)


def changes_of(conn: Connection, on: Ground, row: Row, decision: Decision) -> list[Change]:
    """The changes that a decision means for a filed document as it is now; none where all is so already. Refused for a place."""
    number, new = DocumentId(row["document"]), NewFolders(conn)
    changes = known_changes(row, decision, on.parties)
    here = Location(FolderId(row["parent"]), row["name"])
    making, parent = (
        new.at(on.areas, decision.place) if decision.place is not None and not decision.leave else ([], row["parent"])
    )
    name = join_extension(decision.name, row["extension"]) if decision.name is not None else row["name"]
    there = Location(FolderId(parent), name)
    if there != here:
        changes += [*making, Place(EntryId(row["entry"]), here, there, document=number)]
    held = {p["parent"] for p in documents.places(conn, number, on.permissions)}
    for path in decision.also:
        making, folder = new.at(on.areas, path)
        if folder not in held and folder != parent:
            entry = lines.allot(conn, "entry_id", 1)[0]
            changes += [*making, AlsoFile(number, EntryId(entry), Location(FolderId(folder), name))]
    for path in decision.copies:
        making, folder = new.at(on.areas, path)
        # a name that is there already is the copy that was made before
        if not documents.keys_held(conn, folder, [entry_key(name)]):
            copy = lines.allot(conn, "entry_id", 1)[0]
            changes += [
                *making,
                Copy(DocumentId(copy), EntryId(copy), Location(FolderId(folder), name), number, row["head"]),
            ]
    return changes


def ask_about(drive: Drive, row: Row, area_name: str, document: int, event: str) -> str:
    """Ask a revision about a filed document at an event and do what it decides, in one transaction; what came of it."""
    actor = Actor.of_rulebook(row["area"], area_name)
    try:
        with drive.database.transaction() as conn:
            on = ground(conn, actor, row, area_name)
            found = rule_inputs.filed_documents(conn, on.permissions, row["area"], documents=[document])
            if not found:
                return "left alone"
            return _ask(conn, actor, on, found[0], event)
    except Refused as refused:
        with drive.database.transaction() as conn:
            return _failed(conn, ground(conn, actor, row, area_name), document, event, str(refused))


def _failed(conn: Connection, on: Ground, document: int, event: str, why: str) -> str:
    """What was decided could not be done: keep why, unless there is nothing to be done any more."""
    found = rule_inputs.filed_documents(conn, on.permissions, on.area, documents=[document])
    if not found:
        return "left alone"
    seen = on.documents(conn, found)[0]
    decision = on.ruling.decide(seen, event)
    if not decision.applied:
        return "nothing to do"
    _keep(conn, on, found[0], seen, decision, event, "failed", [_reason(on, decision, ASKS.kept("gate", why=why))])
    return "failed"


def _reason(on: Ground, decision: Decision, why: Kept) -> Kept:
    rule, line = on.ruling.decider.line_of_place(decision)
    return Question(rule, line, why).to_json()


def _ask(conn: Connection, actor: Actor, on: Ground, row: Row, event: str) -> str:
    seen = on.documents(conn, [row])[0]
    decision = on.ruling.decide(seen, event)
    asks: list[Kept] = [one.to_json() for one in decision.ask]
    if decision.archive and not asks:
        asks.append(_reason(on, decision, ASKS.kept("archive")))
    if asks:
        _keep(conn, on, row, seen, decision, event, "asked", asks)
        return "asked"
    changes = changes_of(conn, on, row, decision) if decision.applied else []
    if not changes:
        return "nothing to do"
    told = title("change by rules", count=1, rules=list(decision.applied))
    manifest = apply_in(conn, actor, changes, told).manifest
    _keep(conn, on, row, seen, decision, event, "done", [], manifest)
    return "done"


def _keep(
    conn: Connection, on: Ground, row: Row, seen: Document, decision: Decision, event: str, outcome: str,
    reasons: Sequence[Kept], manifest: int | None = None,
) -> None:  # fmt: skip
    """Keep what came of it; what is asked, or failed, as the last time is not kept again."""
    rules = decision.concerned
    last = rule_runs.last_of(conn, row["document"]) if manifest is None else None
    if last is not None and (last["outcome"], last["revision"], last["rules"]) == (outcome, on.ruling.revision, rules):
        return
    rule_runs.keep(
        conn, area=on.area, revision=on.ruling.revision, document=row["document"], event=event, outcome=outcome, rules=rules,
        reasons=reasons, seen=seen_to_json(seen, row["facts"]), today=on.now.date(), manifest=manifest,
    )  # fmt: skip
