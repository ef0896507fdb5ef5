"""The catalogue: every code that is kept has words, no words are left over, and parameters are filled in."""

import ast
import re
from functools import cache
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from waka.core.changes.registry import SPECS
from waka.store.postgres.gate.expectations import EXPECTATIONS
from waka.words import lines, manifests, office, readings, register, rules, sources, stacks, trail, watched
from waka.words.sentence import UNKNOWN, Catalogue, Sentence

SOURCE = Path(__file__).parents[2] / "src" / "waka"
CATALOGUES = {
    "problems": lines.PROBLEMS,
    "notes": lines.NOTES,
    "no version": lines.NO_VERSION,
    "titles": manifests.TITLES,
    "of manifests": manifests.PROBLEMS,
    "readings": readings.PROBLEMS,
    "notes of readings": readings.NOTES,
    "sources": sources.PARTS,
    "register": register.REVISIONS,
    "watched": watched.PROBLEMS,
    "trail": trail.TRAIL,
    "of the office": office.TRAIL,
    "told": office.TOLD,
    "stacks": stacks.CUTS,
    "asked by rules": rules.ASKS,
    "tests of rules": rules.TESTS,
}
ALL = [(name, code) for name, catalogue in CATALOGUES.items() for code in catalogue]
#: Parts of codes that are put together, and what is asked there.
OPEN = {"taken:", "list", "is_folder", " found", " with all", "party "}
each = pytest.mark.parametrize(("name", "code"), ALL, ids=[f"{name}: {code}" for name, code in ALL])
VALUES = (
    st.text(st.characters(exclude_characters="{}[]|"), min_size=1, max_size=20)
    | st.integers(0, 10**7)
    | st.lists(st.text("abc", min_size=1), min_size=1, max_size=3)
)


def _literals() -> tuple[set[str], set[str]]:
    """All texts in the source outside of the catalogue, and the beginnings of those that are put together."""
    texts, begun = set(), set()
    for path in SOURCE.rglob("*.py"):
        if "words" in path.parts:
            continue
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Constant) and isinstance(node.value, str):
                texts.add(node.value)
                texts.update(re.findall(r"""["']code["'](?:, |: )["']([^"']+)["']""", node.value))
            elif isinstance(node, ast.JoinedStr) and isinstance(node.values[0], ast.Constant):
                begun.add(str(node.values[0].value))
    return texts, begun


@cache
def _calls() -> list[ast.Call]:
    """Every call by a plain name in the source outside of the catalogue."""
    trees = [ast.parse(path.read_text()) for path in SOURCE.rglob("*.py") if "words" not in path.parts]
    return [
        node
        for tree in trees
        for node in ast.walk(tree)
        if isinstance(node, ast.Call) and isinstance(node.func, ast.Name)
    ]


def _codes_of(names: set[str], at: int) -> set[str]:
    """The codes with which these are made in the source."""
    found = set()
    for call in _calls():
        if isinstance(call.func, ast.Name) and call.func.id in names and len(call.args) > at:
            for part in ast.walk(call.args[at]):
                if isinstance(part, ast.Constant) and isinstance(part.value, str):
                    found.add(part.value)
    return found


def test_every_code_has_words() -> None:
    used = _codes_of({"Skipped"}, 0) | _codes_of({"Problem"}, 1) | {code for _, code in EXPECTATIONS.values()}
    assert len(used) > 40
    assert _codes_of({"title"}, 0) - set(manifests.TITLES) - OPEN == set()
    assert _codes_of({"problem"}, 0) - set(manifests.PROBLEMS) - OPEN == set()
    assert _codes_of({"because"}, 0) - set(sources.PARTS) - OPEN == set()
    assert (
        _codes_of({"did"}, 0) - set(register.REVISIONS) == set()
        and _codes_of({"left"}, 0) - set(watched.PROBLEMS) == set()
    )
    unreadable = _codes_of({"Unreadable", "Locked", "ReaderFailed"}, 0)
    assert unreadable - set(readings.PROBLEMS) == set() and _codes_of({"remark"}, 0) - set(readings.NOTES) == set()
    assert _codes_of({"cut_for"}, 0) - set(stacks.CUTS) == set()
    assert used - set(lines.PROBLEMS) - OPEN == set()


def test_each_kind_of_change_has_words_in_the_trail() -> None:
    kinds = {code.partition(":")[0] for code in trail.TRAIL}
    assert kinds - {"arrived"} == set(SPECS)
    row = dict.fromkeys(("from_parent", "from_name", "to_parent", "to_name", "of_name", "undo_of")) | {
        "whom": "Lise Brandt"
    }
    for kind in SPECS:
        to = {"level": 1, "until": None} if kind == "grant" else 1
        data = {"was_head": 1, "to": to, "version": 2, "add": ["wet"], "remove": []}
        for another in (False, True):
            said = trail.say({**row, "kind": kind, "data": data, "another": another}, {})
            assert (said and UNKNOWN not in said.replace("“…”", "")) or kind in ("fact", "place")


def test_no_words_are_left_over() -> None:
    texts, begun = _literals()
    unused = [
        code
        for name, code in ALL
        if name != "trail"
        and code not in texts
        and not (f"{code.partition(':')[0]}:" in begun and code.partition(":")[2] in texts)
        and not ("party " in begun and code.removeprefix("party ") in texts)
        and code.removesuffix(" found").removesuffix(" with all") not in texts
    ]
    assert unused == []


@each
@settings(max_examples=12)
@given(data=st.data())
def test_parameters_are_filled_in(name: str, code: str, data: st.DataObject) -> None:
    sentence = CATALOGUES[name][code]
    given_values = {p: data.draw(VALUES, label=p) for p in sorted(sentence.parameters)}
    said = sentence.say({**given_values, "unasked": "than it asks for"})
    for value in given_values.values():
        if isinstance(value, str):
            assert value in said
    for shown in (said, sentence.say({})):
        assert shown and not set(shown) & set("{}[]|")


def test_a_sentence_counts_and_leaves_out() -> None:
    sentence = Sentence("{n|line|lines} of {names}[ at {at}][, {who} did it]")
    assert sentence.say({"n": 1, "names": ["a", "b"], "at": 1200}) == "1 line of a, b at 1,200"
    assert sentence.say({"n": 2_000, "who": "Imre"}) == "2,000 lines of …, Imre did it"
    assert Sentence("{n|line|lines}").say({}) == "…"
    with pytest.raises(KeyError):
        Catalogue({}).say("none", {})
    with pytest.raises(KeyError):
        Catalogue({"one": "One {thing}"}).kept("two")
    assert Catalogue({"one": "One {thing}"}).kept("one", thing="oar") == {"code": "one", "thing": "oar"}


def test_why_a_document_is_no_version_is_part_of_the_reason() -> None:
    said = lines.problem("taken:no version", {"name": "keel.pdf", "no_version": "places"})
    assert said == "taken by “keel.pdf”; it cannot be its new version: it has other places too"
