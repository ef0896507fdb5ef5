"""What rules ask, and why they applied or did not: kept as codes with parameters, said in one sentence each."""

from waka.words.sentence import Catalogue

#: Why a rule's filing waits for a person.
ASKS = Catalogue({
    "in words": "{words}",
    "doubtful": "Whether it applies hangs on what is doubtful: {facts}.",
    "lacks": "What it prints is not known, or doubtful: {facts}.",
    "refused": "The name cannot be used: {why}",
    "not granted": "A keeper of {area} has not granted this rulebook to file there.",
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
