"""A rule from what a person did: papers of a kind and party that were filed alike, not as plan and rules have it, or tagged alike."""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from waka.core.rules.tree import Action, All, Rule, Test
from waka.core.rules.values import same

#: So many papers that were filed alike make a rule worth offering.
ENOUGH = 2


@dataclass(frozen=True)
class Filing:
    """A paper as a person filed it: below its area, and where plan and rules have it (None: nowhere); ``issued`` as ISO 8601."""

    document: int
    kind: str
    party: str
    path: str
    planned: str | None
    issued: str | None
    tags: tuple[str, ...]
    planned_tags: tuple[str, ...]


@dataclass(frozen=True)
class Offer:
    """A rule that would have done what the person did with some papers."""

    rule: Rule
    documents: tuple[int, ...]


def offers_of(filings: Iterable[Filing], taken_names: Iterable[str] = ()) -> list[Offer]:
    """The rules that are worth offering, those of most papers first. ``taken_names``: what rules are called already."""
    groups: dict[tuple[str, str], list[Filing]] = defaultdict(list)
    for filing in filings:
        groups[filing.kind, filing.party].append(filing)
    names = {same(name) for name in taken_names}
    found = [
        offer for (kind, party), group in groups.items() if (offer := _offer(kind, party, group, names)) is not None
    ]
    return sorted(found, key=lambda offer: (-len(offer.documents), offer.rule.name))


def _offer(kind: str, party: str, group: Sequence[Filing], names: set[str]) -> Offer | None:
    placed: dict[str, list[int]] = defaultdict(list)
    tagged: dict[str, list[int]] = defaultdict(list)
    for filing in group:
        if filing.path and (filing.planned is None or same(filing.path) != same(filing.planned)):
            placed[_pattern(filing)].append(filing.document)
        planned = {same(tag) for tag in filing.planned_tags}
        for tag in filing.tags:
            if same(tag) not in planned:
                tagged[tag].append(filing.document)
    place = max((p for p, those in placed.items() if len(those) >= ENOUGH), key=lambda p: len(placed[p]), default=None)
    tags = tuple(sorted(tag for tag, those in tagged.items() if len(those) >= ENOUGH))
    if place is None and not tags:
        return None
    actions = [Action("place", text=place)] if place is not None else []
    actions += [Action("tag", tags=tags)] if tags else []
    documents = sorted({*(placed[place] if place is not None else ()), *(d for tag in tags for d in tagged[tag])})
    when = All((Test("kind", "is", (kind,)), Test("party", "is", (party,))))
    # where it only tags, the others go on to say where it goes
    rule = Rule(
        _name(f"{party}: {kind}", names), 0, None, None, False, ("arrival",), when, tuple(actions), place is None
    )
    return Offer(rule, tuple(documents))


def _pattern(filing: Filing) -> str:
    """The path as a place pattern: levels that are the year, or the month below one, of the paper's issue become slots."""
    year, month = (filing.issued or "")[:4], (filing.issued or "")[5:7]
    levels: list[str] = []
    for level in filing.path.split("/"):
        if year and level == year:
            levels.append("<issued yyyy>")
        elif month and level == month and levels and levels[-1] == "<issued yyyy>":
            levels.append("<issued MM>")
        else:
            levels.append(level.replace("<", "").replace(">", ""))
    return "/".join(levels)


def _name(wanted: str, names: set[str]) -> str:
    """A name that no rule has."""
    name, number = wanted, 2
    while same(name) in names:
        name, number = f"{wanted} {number}", number + 1
    return name
