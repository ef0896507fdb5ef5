"""What a person is asked before a document is filed: the questions of an arrival, in the words it shows."""

from collections.abc import Mapping, Sequence

from waka.core.facts.kinds import expected_facts
from waka.core.facts.sure import SURE
from waka.core.facts.values import Found
from waka.core.names.drive_fields import FIELDS, label_of
from waka.words.sources import say


def is_sure(found: Found) -> bool:
    """Whether a found fact may stand without a person's look."""
    return found.confidence >= SURE and not found.alternatives


def questions(
    kind: str | None,
    found: Mapping[str, Found],
    given: Mapping[str, object],
    needed: Sequence[str],
    planned: Sequence[str] | None = None,
) -> list[tuple[str, str]]:
    """(field, question) for what is open: unknown or doubtful facts that kind or plan expect, or the name needs."""
    asked: list[tuple[str, str]] = []
    if kind is None:
        asked.append(("kind", "What kind of document is it?"))
    for field in dict.fromkeys([*needed, *expected_facts(kind, planned)]):
        if field in given or field == "kind":
            continue
        label = label_of(field)
        value = found.get(field)
        if value is None:
            if field in needed:
                asked.append((field, FIELDS[field].asks()))
        elif value.source.way == "contradicted":
            asked.append((field, f"{label}: {say(value.source.why)}. Which is right?"))
        elif len(value.alternatives) and any(one["code"] == "two ways" for one in value.source.why):
            asked.append((field, f"Which date? {value.source.text} reads two ways"))
        elif not is_sure(value):
            asked.append((field, f"{label}: is “{value.source.text}” right?"))
    found_kind = found.get("kind")
    if kind is not None and "kind" not in given and found_kind is not None and not is_sure(found_kind):
        article = "an" if kind[0] in "aeiou" else "a"
        question = "Is it of another kind than those known here?" if kind == "other" else f"Is it {article} {kind}?"
        asked.insert(0, ("kind", question))
    return asked
