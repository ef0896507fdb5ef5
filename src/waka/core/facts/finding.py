"""Finding the facts of a document: what the models read on its pages, who it is from, what corrections taught, what the file states."""

from collections.abc import Callable, Sequence
from dataclasses import replace

from waka.core.facts.candidates.texts import text_candidates
from waka.core.facts.context import Context
from waka.core.facts.in_file_name import author_in
from waka.core.facts.in_mails import is_mail, what_holds, without_its_day
from waka.core.facts.kind_signs import best_title, opening
from waka.core.facts.kinds import INNER
from waka.core.facts.learning import Lesson, look_again
from waka.core.facts.model.reading import Read, Reading, read
from waka.core.facts.paper import Paper
from waka.core.facts.reasons import reasons
from waka.core.facts.sender import find_senders
from waka.core.facts.stated import stated_facts, with_contradictions
from waka.core.facts.sure import SURE, confidence, speaks_against
from waka.core.facts.text import Word, lines_of
from waka.core.facts.values import Box, Found, Json, Source
from waka.words.sources import because

__all__ = ["Context", "find_facts"]

#: Below this chance a value, or a kind, is no help to who files: nothing is shown.
_SHOWN, _KIND_SHOWN = 0.3, 0.5
#: So likely *other* is told where nothing on the paper says so, and so much has to stand on it.
_FOR_WANT, _SOME_WORDS = 0.8, 20
#: Another value with so much chance beside one that is not sure is shown too.
_RIVAL = 0.12
#: What was learnt for a kind (its key) and any of some parties.
Lessons = Callable[[str, int], Sequence[Lesson]]


def find_facts(words: Sequence[Word], context: Context, lessons: Lessons = lambda _kind, _party: ()) -> list[Found]:
    """The facts found on the pages and stated by the file, one a field at most, each with its reason and a confidence.

    ``lessons`` gives what corrections taught for a kind and a party.
    """
    stated = stated_facts(context.stated, context.register)
    if is_mail(context.stated):
        read_in_it = _on_pages(without_its_day(words, context.stated), context, None, lessons)
        return with_contradictions(what_holds(stated, read_in_it), read_in_it)
    kind = next((f.value for f in stated if f.field == "kind"), None)
    return with_contradictions(stated, _on_pages(words, context, kind, lessons))


def paper_of(words: Sequence[Word], context: Context) -> Paper:
    """The words of a document as a paper that can be read."""
    return Paper(words, context.sizes, context.today, day_first=context.day_first)


def _on_pages(words: Sequence[Word], context: Context, stated_kind: str | None, lessons: Lessons) -> list[Found]:
    paper = paper_of(words, context)
    if not paper.cells:
        return []
    reading = read(paper, context.currency)
    found: dict[str, Found] = {}
    kind = _kind(paper, reading, context)
    if kind is not None:
        found["kind"] = kind
    what = stated_kind or (kind.value if kind else None)
    lines = lines_of(paper.words)
    senders = find_senders(paper, reading.labels, lines, context) if what != "coursework" else []
    if senders:
        first = senders[0]
        source = Source("page", first.why, first.box, first.text)
        found["party"] = Found("party", {"party": first.party}, source, first.confidence)
    for field, got in reading.facts.items():
        one = _fact(field, got, context, paper.languages[0].name)
        if one is not None and not (field == "issued" and what == "coursework" and one.confidence < SURE):
            found[field] = one
    if what == "coursework" and context.file_name:
        people = text_candidates(paper, reading.labels, "person", reading.titles, "coursework")
        author = author_in(context.file_name, reading.facts.get("person"), people)
        if author is not None and ("person" not in found or found["person"].confidence < SURE):
            found["person"] = author
    if what is not None and senders:
        for lesson in lessons(what, senders[0].party):
            taught = look_again(lines, lesson, paper.dates_in, context.currency)
            if taught is not None:
                found[lesson.field] = _with_lesson(found.get(lesson.field), taught)
    return list(found.values())


def _kind(paper: Paper, reading: Reading, context: Context) -> Found | None:
    kinds = reading.kinds()
    kind, chance = next(iter(kinds.items()))
    own = [key for key in sorted(reading.inner, key=lambda k: -reading.inner[k]) if INNER[key].kind == kind]
    title = next((t for key in own if (t := best_title(paper, reading.titles, key)) is not None), None)
    opened = opening(paper) if kind == "letter" else None
    for_want = kind == "other" and title is None
    words = sum(len(cell.words) for cell in paper.cells)
    if chance < (_FOR_WANT if for_want else _KIND_SHOWN) or (for_want and words < _SOME_WORDS):
        return None
    box: Box | None
    if title is not None and kind != "letter":
        box, text = title.cell.box_of(title.start, title.end), title.cell.text[title.start : title.end]
        parts = (because("stands on it", text=text),)
    elif opened is not None:
        box, text, parts = opened.box, opened.text, (because("opens as a letter"),)
    else:
        box, text, parts = None, kind, (because("likeliest kind"),)
    # *other* for want of signs is never sure
    sure = confidence("kind", chance, scanned=context.scanned, doubtful=for_want)
    return Found("kind", kind, Source("page", parts, box, text), sure)


def _fact(field: str, got: Read, context: Context, language: str) -> Found | None:
    if got.chance < _SHOWN:
        return None
    one = got.best
    against = speaks_against(field, one, scanned=context.scanned, language=language)
    sure = confidence(field, got.chance, scanned=context.scanned, doubtful=against)
    why, alternatives = reasons(one), one.alternatives
    if sure < SURE and got.rival is not None and got.rival_chance >= _RIVAL and not alternatives:
        why, alternatives = (*why, because("rival")), (got.rival.value,)
    return Found(
        field, one.value, Source("page", why, one.cell.box_of(one.start, one.end), one.text), sure, alternatives
    )


def _with_lesson(read_one: Found | None, taught: Found) -> Found:
    """What a lesson leads to; where the page surely says otherwise, both are shown and asked."""
    if read_one is None or read_one.value == taught.value or read_one.confidence < SURE:
        return taught
    doubt: Json = read_one.value
    return replace(taught, confidence=min(taught.confidence, 0.6), alternatives=(doubt,))
