"""Conditions: tests joined by ``and``, ``or``, ``not`` and brackets."""

from collections.abc import Callable

from waka.core.rules.errors import Wrong, likely
from waka.core.rules.patterns import check_read
from waka.core.rules.scanning import Scanner
from waka.core.rules.subjects import SUBJECTS, Subject, Values
from waka.core.rules.tree import All, Any, Condition, Not, Test, joined
from waka.core.rules.values import Register, Unfit, pair_of, span_of, value_of

_DEEPEST = 20
#: What stands behind ``is`` where that is not the whole test, and behind a subject; longer ones before what they begin with.
_BEHIND_IS = (
    "known", "missing", "sure", "above", "below", "at least", "at most", "between", "before", "after", "within the last",
    "within the next", "older than", "in",
)  # fmt: skip
_PARTS = ("contains", "starts with", "ends with", "reads as")
#: What follows a subject: after ``or``, words before one of these begin a new test.
_TESTING = ("is", "contains", "starts", "ends", "reads")
#: Tests whose value is a span of time.
_SPANS = ("is within the last", "is within the next", "is older than")


class ConditionReader:
    """Reads a condition of one clause. ``place``: gives the line and column of a character of the clause."""

    def __init__(self, scan: Scanner, register: Register | None, place: Callable[[int], tuple[int, int]]) -> None:
        self._scan, self._register, self._place = scan, register, place

    def read(self, depth: int = 0) -> Condition:
        """A condition, as far as it goes; raises Wrong."""
        scan = self._scan
        parts = [self._one(depth)]
        used = ""
        while (word := scan.word()) in ("and", "or") and not scan.ended:
            if used and word != used:
                raise Wrong(
                    scan.at,
                    f"brackets: “and” and “or” stand beside each other here, and “{used}” came first",
                    length=len(word),
                )
            used = word
            scan.take(word)
            parts.append(self._one(depth))
        return joined(Any if used == "or" else All, tuple(parts))

    def _one(self, depth: int) -> Condition:
        scan = self._scan
        if scan.word() == "not" or scan.text[scan.at : scan.at + 1] == "(":
            if depth >= _DEEPEST:
                raise Wrong(scan.at, f"at most {_DEEPEST} brackets and “not” in each other")
            if scan.take("not"):
                return Not(self._one(depth + 1))
            scan.take_mark("(")
            inner = self.read(depth + 1)
            if not scan.take_mark(")"):
                raise Wrong(
                    scan.at if not scan.ended else len(scan.text), "“)”, “and” or “or”", length=len(scan.word()) or 1
                )
            return inner
        return self._test()

    def _test(self) -> Test:
        scan = self._scan
        start = scan.at
        line, column = self._place(start)
        subject = self._subject()
        begins = scan.at
        test, shown = self._asked(subject)
        if test not in subject.tests:
            raise Wrong(begins, f"a test that “{subject.name}” has: {', '.join(subject.tests)}", length=shown)
        return Test(subject.name, test, self._values(subject, test), line, column)

    def _subject(self) -> Subject:
        scan = self._scan
        if scan.take("brought by"):
            return SUBJECTS["brought by"]
        word = scan.word()
        if word not in SUBJECTS or not word:
            raise Wrong(
                scan.at, "something that a rule can ask about: a fact, name, type, size, pages, source, sender, brought by, place, "
                "tag, text, age", length=len(word) or 1, mend=likely(word, SUBJECTS),
            )  # fmt: skip
        scan.take(word)
        return SUBJECTS[word]

    def _asked(self, subject: Subject) -> tuple[str, int]:
        """The test that comes, and how long its first word is; only what is no test at all is Wrong here."""
        scan = self._scan
        for part in _PARTS:
            if scan.take(part):
                return part, len(part.split()[0])
        if not scan.take("is"):
            raise Wrong(scan.at, f"a test: {', '.join(subject.tests)}", length=len(scan.word()) or 1)
        if scan.take("not"):
            wrong = next((one for one in _BEHIND_IS if scan.ahead(one)), None)
            if wrong is not None:
                better = "is missing" if wrong == "known" else f"not {subject.name} is {wrong}"
                raise Wrong(scan.at, "a value behind “is not”", length=len(wrong), mend=f"{better}?")
            return "is not", 2
        found = next((one for one in _BEHIND_IS if scan.take(one)), None)
        return (f"is {found}" if found else "is"), 2

    def _values(self, subject: Subject, test: str) -> tuple[str, ...]:
        if test in ("is known", "is missing", "is sure"):
            return ()
        if test in _PARTS:
            return self._strings(subject, test)
        if test == "is between":
            return self._pair(subject)
        if test in _SPANS:
            return (self._value(span_of),)
        read = self._reader(subject)
        values = [self._value(read)]
        while test in ("is", "is not") and self._scan.word() == "or" and self._goes_on():
            self._scan.take("or")
            values.append(self._value(read))
        return tuple(dict.fromkeys(values))

    def _reader(self, subject: Subject) -> Callable[[str], str]:
        return lambda text: value_of(subject.values, text, self._register)

    def _strings(self, subject: Subject, test: str) -> tuple[str, ...]:
        values = [self._string(subject, test)]
        while self._scan.word() == "or" and self._goes_on():
            self._scan.take("or")
            values.append(self._string(subject, test))
        return tuple(dict.fromkeys(values))

    def _string(self, subject: Subject, test: str) -> str:
        start = self._scan.at
        text = self._scan.string(exact=test == "reads as")
        if test == "reads as":
            check_read(text, start + 1)
        elif subject.values is Values.WORDS:
            self._fit(start, lambda: value_of(Values.WORDS, text))
        return text

    def _pair(self, subject: Subject) -> tuple[str, str]:
        scan = self._scan
        first_at = scan.at
        first = self._written()
        if not scan.take("and"):
            raise Wrong(
                scan.at if not scan.ended else len(scan.text), "“and” with a second value", length=len(scan.word()) or 1
            )
        second_at = scan.at
        second = self._written()
        self._fit(second_at, lambda: value_of(subject.values, second, self._register))
        try:
            return pair_of(subject.values, first, second)
        except Unfit as unfit:
            # the second is a value by itself: either the first is none, or both do not go together
            at, text = (
                (second_at, second)
                if "second" in unfit.expected or "as the first" in unfit.expected
                else (first_at, first)
            )
            raise Wrong(at, unfit.expected, length=len(text), mend=unfit.mend) from unfit

    def _value(self, read: Callable[[str], str]) -> str:
        start = self._scan.at
        text = self._written()
        return self._fit(start, lambda: read(text), len(text))

    def _written(self) -> str:
        """A value as it was written, in quotes or bare."""
        scan = self._scan
        start = scan.at
        text = scan.string() if scan.text[start : start + 1] == '"' else scan.bare()
        if not text:
            raise Wrong(start if not scan.ended else len(scan.text), "a value", length=len(scan.word()) or 1)
        return text

    def _fit(self, at: int, read: Callable[[], str], length: int = 1) -> str:
        try:
            return read()
        except Unfit as unfit:
            raise Wrong(at, unfit.expected, length=length, mend=unfit.mend) from unfit

    def _goes_on(self) -> bool:
        """Whether what stands behind the ``or`` that comes is another value of the same test, and no new test."""
        ahead = Scanner(self._scan.text, self._scan.at)
        ahead.take("or")
        if ahead.word() == "not" or ahead.text[ahead.at : ahead.at + 1] == "(":
            return False
        if ahead.text[ahead.at : ahead.at + 1] == '"':
            return True
        words = ahead.bare()
        return not (words and ahead.word() in _TESTING)
