"""Made rulebooks and documents: plain text and plain values, by code that shares nothing with what decides."""

import random
from datetime import date, timedelta

from waka.core.rules.documents import Document

KINDS = ("invoice", "credit note", "receipt", "letter", "contract", "minutes", "photo", "other")
PARTIES = tuple(f"Party {n}" for n in range(120))
_WORDS = ("rope", "sail", "keel", "mooring", "timber", "paint", "oar", "tide", "slipway", "winch", "survey", "harbour")


def rulebook(count: int, seed: int = 1) -> str:
    """The text of a rulebook of ``count`` rules of one to four tests, one in five goes on."""
    draw = random.Random(seed)
    rules = []
    for n in range(count):
        tests = [f"kind is {draw.choice(KINDS)}", f"party is {draw.choice(PARTIES)} or {draw.choice(PARTIES)}"]
        tests += draw.sample(_tests(draw), draw.randint(0, 2))
        draw.shuffle(tests)
        joined = "\n    and ".join(
            tests if draw.random() < 0.8 else [*tests[:-1], f"({tests[-1]} or size is above 5 MB)"]
        )
        goes_on = "\n  go on" if draw.random() < 0.2 else ""
        does = f'tag "t{n % 9}"' if goes_on else "place Post/<kind>/<issued yyyy>\n  name <issued yyyy-MM-dd>_<subject>"
        rules.append(f'rule "Rule {n}"\n  on arrival, change\n  when {joined}\n  {does}{goes_on}\n')
    return "\n".join(rules)


def _tests(draw: random.Random) -> list[str]:
    return [
        f"amount is above {draw.randint(1, 5000)} GBP",
        f'subject contains "{draw.choice(_WORDS)}"',
        f"issued is within the last {draw.randint(1, 11)} months",
        f'name starts with "{draw.choice(_WORDS)[:3]}"',
        f'text contains "{draw.choice(_WORDS)}" or "{draw.choice(_WORDS)}"',
        f"tag is not {draw.choice(_WORDS)}",
        "not source is mail",
        f"pages is at most {draw.randint(1, 9)}",
        "ref is known",
    ]


def documents(count: int, today: date, seed: int = 2, *, doubts: float = 0.0) -> list[Document]:
    """Documents with some of their facts missing, ``doubts`` of them with one that is doubtful."""
    draw = random.Random(seed)
    return [_document(draw, today, doubts) for _ in range(count)]


def _document(draw: random.Random, today: date, doubts: float) -> Document:
    facts = {
        "kind": draw.choice(KINDS),
        "party": draw.choice(PARTIES),
        "issued": (today - timedelta(days=draw.randint(0, 700))).isoformat(),
        "amount": {"value": f"{draw.randint(1, 999_999) / 100:.2f}", "currency": draw.choice(("GBP", "GBP", "EUR"))},
        "subject": " ".join(draw.sample(_WORDS, 3)),
        "ref": f"R-{draw.randint(1, 99_999)}",
    }
    missing = draw.sample(sorted(facts), draw.choice((0, 0, 1, 2)))
    kept = {name: value for name, value in facts.items() if name not in missing}
    doubtful = frozenset(draw.sample(sorted(kept), 1)) if draw.random() < doubts else frozenset[str]()
    return Document(
        kept, doubtful, f"{draw.choice(_WORDS)}{draw.randint(1, 9999)}", "pdf", draw.randint(9_000, 900_000), draw.randint(1, 12),
        draw.choice(("mail", "scanner", "folder")), None, "Imre", None, tuple(draw.sample(_WORDS, draw.choice((0, 0, 1)))),
        " ".join(draw.choice(_WORDS) for _ in range(200)), None,
    )  # fmt: skip
