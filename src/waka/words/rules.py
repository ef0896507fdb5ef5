"""What rules ask, and why they applied or did not: kept as codes with parameters, said in one sentence each."""

from waka.words.sentence import Catalogue

#: Why a rule's filing waits for a person.
ASKS = Catalogue({
    "in words": "{words}",
    "doubtful": "Whether it applies hangs on what is doubtful: {facts}.",
    "lacks": "What it prints is not known, or doubtful: {facts}.",
    "refused": "The name cannot be used: {why}",
    "not granted": "A keeper of {area} has not granted this rulebook to file there.",
    "archive": "Closing what is filed by a rule is not there yet: a person files it.",
    "stack": "It seems to be {count} documents in one.",
    "same": "The same content is filed already, as “{name}”.",
    "taken": "The name “{name}” is taken there.",
    "place": "The place cannot be used: {why}",
    "plan": "The plan's part is open: {question}",
    "gate": "It could not be done: {why}",
})  # fmt: skip

#: What a test came to. ``test`` is said in the rulebook's own words.
TESTS = Catalogue({
    "so": "{subject} {test}",
    "not so": "{subject} is {value}: not so that it {test}",
    "missing": "{subject} has nothing: not so that it {test}",
    "is not so": "{subject} is {value}, not {wanted}",
    "not known": "{subject} is not known",
    "doubtful": "{subject} is doubtful",
})  # fmt: skip


def doer(person: str | None, rules_of: str | None) -> str | None:
    """Who did something: a person, or the rules of an area; None where nobody is known."""
    return f"the rules of {rules_of}" if person is None and rules_of is not None else person
