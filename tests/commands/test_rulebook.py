"""``./waka rulebook``: texts in and out, errors, trials and what rules did; against a real drive handed in."""

import json
from collections.abc import Callable, Iterator
from contextlib import contextmanager

import pytest
from click.testing import CliRunner, Result

from tests.world import World, bill
from waka.commands import rulebook
from waka.commands.running import reporting_trouble
from waka.work.accounts import people
from waka.work.actor import Actor
from waka.work.drive import Drive
from waka.work.rules.arrivals import file_by_rules

RULES = 'rule "Bills"\n  when kind is invoice\n  name <ref>\n  place Bills\n'
Waka = Callable[..., Result]


@pytest.fixture
def waka(world: World, monkeypatch: pytest.MonkeyPatch) -> Waka:
    """The command on the test's own drive: only finding the Waka that runs is left out."""

    @contextmanager
    def acting(_folder: object, login: str | None) -> Iterator[tuple[Drive, Actor]]:
        with reporting_trouble():
            yield world.drive, people.actor_for(world.drive.database, login)

    monkeypatch.setattr(rulebook, "acting", acting)
    return lambda *arguments, text="": CliRunner().invoke(rulebook.rulebook, list(arguments), input=text)


def test_what_is_put_is_shown_and_an_earlier_revision_too(waka: Waka) -> None:
    assert waka("put", "Books", "--why", "first", text=RULES).stdout == "revision 1 is running\n"
    changed = RULES.replace("Bills\n", "Bills/<issued yyyy>\n")
    assert json.loads(waka("put", "Books", "--json", text=changed).stdout) == {"revision": 2}
    assert waka("show", "Books").stdout == changed
    assert waka("show", "Books", "--revision", "1").stdout == RULES
    stale = waka("put", "Books", "--revision", "1", text=RULES)
    assert stale.exit_code == 2 and "meanwhile" in stale.stderr
    assert waka("show", "Books").stdout == changed


def test_all_that_is_wrong_with_a_text_is_told_and_nothing_is_kept(waka: Waka) -> None:
    wrong = RULES + 'rule "Other"\n  when amont is known\n  leave\nrule\n'
    told = waka("put", "Books", text=wrong)
    assert told.exit_code == 2
    assert told.stderr.count("waka: line ") == 2 and "amount?" in told.stderr
    assert len(json.loads(waka("put", "Books", "--json", text=wrong).stdout)["errors"]) == 2
    assert waka("show", "Books").stdout == ""
    nowhere = waka("show", "Nowhere")
    assert nowhere.exit_code == 2 and "Books" in nowhere.stderr


def test_a_trial_tells_each_document_and_the_log_what_was_done(world: World, waka: Waka) -> None:
    arrival = world.bring_in(bill(7), area=world.books)
    tried = waka("try", "Books", text=RULES)
    assert tried.exit_code == 1
    assert tried.stdout == "scan.pdf: files (new); Bills; Books / Bills / TT-00007.pdf\n"
    assert waka("log", "Books").stdout == ""
    waka("put", "Books", "--by-itself", text=RULES)
    assert file_by_rules(world.drive, arrival) == "done"
    assert waka("try", "Books", text=RULES).exit_code == 0, "nothing waits"
    (line,) = waka("log", "Books", "--json").stdout.splitlines()
    told = json.loads(line)
    assert (told["document"], told["outcome"], told["rules"]) == (arrival, "done", ["Bills"])
    assert "done: TT-00007.pdf; Bills" in waka("log", "Books").stdout
