"""Folders and the lines in them."""

from collections.abc import Mapping
from typing import Any

from waka.core.facts.kinds import KINDS
from waka.core.names.fields import Misfit
from waka.store.postgres.access import FILE, KEEP
from waka.web.present.facts import display_fact, pieces_out, stroke_numbers
from waka.web.schemas.folders import (
    AreaOut,
    FolderFigures,
    FolderOut,
    FolderViewOut,
    HintOut,
    KindFitOut,
    LineOut,
    Month,
)
from waka.work.browse.figures import Figures
from waka.work.browse.walk import DocumentLine, FolderView


def folder_out(row: Mapping[str, Any]) -> FolderOut:
    """A folder in a list."""
    return FolderOut(
        id=row["id"], entry=row["entry"], name=row["name"], below=row["below"], has_folders=row["has_folders"],
        changed_at=row["changed_at"], tags=row["tags"], restricted=row["restricted"], may_file=row["level"] >= FILE,
        keeps=row["level"] >= KEEP,
    )  # fmt: skip


def figures_out(told: Figures) -> FolderFigures:
    """What stands beside a folder in a list."""
    months = None if told.months is None else [Month(month=m, documents=n) for m, n in told.months]
    return FolderFigures(folder=told.folder, folders=told.folders, fit=told.fit, of=told.of, months=months)


def folder_view(view: FolderView) -> FolderViewOut:
    """A folder with what stands above its lines."""
    return FolderViewOut(
        id=view.folder["id"], entry=view.folder["entry"], name=view.folder["name"],
        path=[AreaOut(id=p["id"], name=p["name"]) for p in view.path],
        folders=[folder_out(f) for f in view.folders], here=view.here, below=view.below,
        fits=[
            KindFitOut(kind=f.kind, label=KINDS[f.kind].label, pattern=f.pattern, fit=f.fit, of=f.of, strokes=stroke_numbers(f.pattern))
            for f in view.fits
        ],
        months=[Month(month=m, documents=n) for m, n in view.months], capped=view.capped,
        changed_at=view.changed_at, tags=list(view.tags),
        hints=[HintOut(**vars(h), few=view.limits.few) for h in view.hints],
        restricted=view.folder["restricted"], may_file=view.folder["level"] >= FILE,
        keeps=view.folder["level"] >= KEEP,
    )  # fmt: skip


def _misfit(misfit: Misfit) -> str:
    where = "where the name begins" if misfit.at == 0 else f"at character {misfit.at + 1}"
    return f"expected {misfit.expected} {where}"


def line_out(line: DocumentLine) -> LineOut:
    """A document in a list."""
    row = line.row
    misfit = _misfit(line.misfit) if line.misfit else None
    return LineOut(
        entry=row["entry"], document=row["document"], name=row["name"],
        pieces=pieces_out(line.pieces) if line.pieces is not None else None, misfit=misfit,
        kind=row["kind"], issued=row["issued"], party=line.party,
        amount=display_fact("amount", row["amount"], {}) if row.get("amount") else None, person=row.get("person"),
        type=row["extension"] or row["media_type"], size=row["size"],
        filed_at=row["filed_at"], filed_by=row["filed_by"], folder=row["parent"], folder_path=line.folder_path, home=row["home"],
    )  # fmt: skip
