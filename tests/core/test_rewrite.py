"""From → to: what is read, what is printed, what is left alone; raw values, parties, counts, facts."""

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from waka.core.names import rewrite as rewriting
from waka.core.names.fields import DateParts, Fit, Misfit, Party, Raw, Settings, Value
from waka.core.names.parse import PatternError
from waka.core.names.pattern import compile_pattern
from waka.core.names.resolve import Register, folded, resolve
from waka.core.names.rewrite import Old, Rewritten, compile_rewrite

SETTINGS = Settings(date(2026, 11, 23))
TIMBER = Party("Tollgate Timber", "tollgate", "tt")
OTHER = Party("Tollgate Towage", "towage", "tt")
REGISTER = Register([TIMBER, Party("Lowtide Paints", "lowtide", "low")], {"Tollgate Timber": ["Tollgate & Sons"]})


def rewrite(reads: str, prints: str, *names: str, register: Register | None = REGISTER) -> list[Rewritten]:
    return list(compile_rewrite(reads, prints).apply([Old(n) for n in names], SETTINGS, register))


def one(reads: str, prints: str, name: str, register: Register | None = REGISTER) -> str | None:
    return rewrite(reads, prints, name, register=register)[0].name


def test_what_does_not_fit_is_left_alone_with_its_place() -> None:
    fits, not_so = rewrite("scan<n digits>", "berth <n 000>", "scan17", "scam17")
    assert fits.name == "berth 017"
    assert not_so.name is None and not_so.misfit == Misfit(3, "“n”")


def test_raw_values_go_through_their_own_shape_and_through_others_only_by_the_register() -> None:
    assert one("<party short>_<ref>", "<ref> <party short>", "tollgate_A", None) == "A tollgate"
    assert one("<party short>_<ref>", "<ref> <party>", "tollgate_A") == "A Tollgate Timber"
    assert rewrite("<party short>_<ref>", "<party>", "tollgate_A", register=None)[0].missing == ("party",)
    assert rewrite("<party short>_<ref>", "<party>", "nobody_A")[0].missing == ("party",)
    assert one("<party>_<ref>", "<party code>-<ref>", "Tollgate & Sons_A") == "tt-A", "an alias is the party"
    assert one("<ref lower>", "x<ref lower>", "abc") == "xabc"


def test_a_code_of_two_parties_stays_unknown() -> None:
    two = Register([TIMBER, OTHER])
    assert rewrite("<party code> <n>", "<party> <n>", "tt 1", register=two)[0].missing == ("party",)


def test_count_runs_with_what_fits_from_its_first_number() -> None:
    got = rewrite("<a>-<b>", "<count 010> <b>", "x-y", "no", "x-z")
    assert [g.name for g in got] == ["010 y", None, "011 z"]
    assert [g.name for g in rewrite("<name>", "<count 01> <name>", "a", "b")] == ["01 a", "02 b"]
    assert one("<any>", "<count> <any>", "a") == "1 a"


def test_built_ins_and_facts_of_the_document_fill_what_from_does_not_read() -> None:
    plan = compile_rewrite("scan<n digits>", "<issued yyyy-MM-dd>_<folder>_<name>")
    assert plan.asks_facts == ("issued",)
    given: dict[str, Value | Raw] = {"issued": DateParts.of(date(2026, 3, 18)), "folder": "Yard"}
    known, lacking = plan.apply([Old("scan1", "pdf", given), Old("scan2", "pdf", {"folder": "Yard"})], SETTINGS)
    assert known.name == "2026-03-18_Yard_scan1"
    assert lacking.missing == ("issued",)
    assert one("Yard/<a>", "<name>", "Yard/keel") == "keel", "the name is the last level"


def test_what_was_read_wins_over_what_is_known() -> None:
    plan = compile_rewrite("<ref>_<x>", "<ref>")
    assert next(iter(plan.apply([Old("A_1", given={"ref": "B"})], SETTINGS))).name == "A"


def test_a_new_name_that_would_read_otherwise_is_told() -> None:
    plain, odd = rewrite("<a> <b>", "<b>-<a>", "x y", "x y-z")
    assert plain.reads_back and plain.name == "y-x"
    assert not odd.reads_back and odd.name == "y-z-x"


@pytest.mark.parametrize(
    ("reads", "prints", "at", "why"),
    [("<a>", "x <b>", 2, "does not read it"), ("<a", "x", 0, "not closed")],
)
def test_what_cannot_be_is_refused_before_anything_is_read(reads: str, prints: str, at: int, why: str) -> None:
    with pytest.raises(PatternError, match=why) as refused:
        compile_rewrite(reads, prints)
    assert refused.value.at == at


def test_a_field_keeps_its_type_on_both_sides() -> None:
    with pytest.raises(PatternError, match="used as number and as capture"):
        compile_rewrite("<x 00>", "<x 00>.<x letters>")
    assert one("<x 00>", "<x>", "07") == "7"


def test_forms_of_one_party_side_by_side_come_out_as_they_were() -> None:
    assert one("<party short>/<party code> <n>", "<party code> <n> <party short>", "zz/q 4", None) == "q 4 zz"


def test_resolving_tells_parties_doubt_and_disagreement() -> None:
    pattern = compile_pattern("<party short>/<party code>_<ref lower>")

    def resolved(name: str) -> object:
        fit = pattern.read(name, SETTINGS)
        assert isinstance(fit, Fit)
        done = resolve(pattern, fit, REGISTER, SETTINGS)
        return done.facts["party"], done.inexact, done.disagree

    assert resolved("tollgate/tt_abc") == (TIMBER, ("ref",), ())
    assert resolved("tollgate/low_abc") == (Raw("tollgate", "short"), ("party", "ref"), ("party",))
    assert resolved("nobody/low_abc") == (Raw("nobody", "short"), ("party", "ref"), ())


def test_a_value_that_another_choice_could_have_printed_is_inexact() -> None:
    pattern = compile_pattern("<issued yyyy-MM-dd|ref>_<n digits>")
    for name, inexact in (("2026-03-18_1", ("issued",)), ("A-1_1", ())):
        fit = pattern.read(name, SETTINGS)
        assert isinstance(fit, Fit)
        assert resolve(pattern, fit, REGISTER, SETTINGS).inexact == inexact


def test_spellings_that_are_the_same() -> None:
    assert folded("Brine-Lane_ Chandlery.") == folded("brine lane  CHANDLERY") == "brine lane chandlery"
    assert folded("ﬁr") == "fir"


def test_narrow_areas_spell_in_ascii() -> None:
    narrow = Settings(date(2026, 11, 23), narrow=True)
    pattern = compile_pattern("<subject>_<ref>")
    assert pattern.print({"subject": "Größe: Møller’s Åre", "ref": "A 1"}, narrow).name == "Grosse--Mollers-Are_A-1"
    assert pattern.print({"subject": "船", "ref": "A"}, narrow).missing == ("subject",)
    assert pattern.printer(narrow)({"subject": "é", "ref": "A"}, "").name == "e_A"


def test_parts_with_letters_between_them_are_warned_of() -> None:
    assert compile_pattern("<a>x<b>").warnings
    assert not compile_pattern("<a>_x_<b>").warnings
    printed = compile_pattern("<a>x<b>").print({"a": "boxx", "b": "y"}, SETTINGS)
    assert printed.refused == "<a> and <b> cannot be told apart in the name"


def test_parts_of_to_may_touch_so_that_a_text_inside_is_cut() -> None:
    rewrite = compile_rewrite("<before> (copy)<after text>", "<before><after>")
    (done,) = rewrite.apply([Old("keel (copy) drawing")], SETTINGS)
    assert (done.name, done.reads_back) == ("keel drawing", True)
    with pytest.raises(PatternError, match="is not closed"):
        compile_rewrite("<a>_<b>", "<a><b")
    with pytest.raises(PatternError, match="nothing stands between"):
        compile_rewrite("<a><b>", "<a>_<b>")


_PARTS = (
    "<issued yyyy-MM-dd>",
    "<issued yyyy>",
    "<ref>",
    "<ref upper>",
    "<x>",
    "<n 000>",
    "<amount>",
    "<party short>",
    "<party>",
)
_NAMES = st.from_regex(
    r"\A[A-Za-z0-9_. /~-]{0,12}[_ -](2026-0[1-9]-[0-3][0-9]|[0-9]{1,4}|[a-zé ]{0,5})([_ -][A-Z0-9~.]{0,6})?\Z"
)
_ALL = st.lists(st.sampled_from(_PARTS), min_size=1, max_size=3, unique_by=lambda p: p.split(" ")[0].strip("<>"))


@given(_ALL, _ALL, st.sampled_from("_ -"), st.lists(_NAMES, max_size=6), st.booleans())
def test_the_straight_way_says_what_the_long_one_says(
    reads: list[str], prints: list[str], mark: str, names: list[str], known: bool
) -> None:
    plan = compile_rewrite(mark.join(reads), "_".join(prints), ["issued", "ref", "x", "n", "amount", "party"])
    olds = [Old(n, "pdf", {"ref": "given"}) for n in names]
    quick = list(plan.apply(olds, SETTINGS, REGISTER if known else None))
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(rewriting, "fast_rewrite", lambda *_: None)
        assert quick == list(plan.apply(olds, SETTINGS, REGISTER if known else None))


def test_most_names_go_the_straight_way(monkeypatch: pytest.MonkeyPatch) -> None:
    plan = compile_rewrite("<issued yyyy-MM-dd>_<p>_<ref>", "<issued yyyy>/<ref upper>_<p>")
    monkeypatch.setattr(type(plan), "_long_way", lambda *_: pytest.fail("the long way was taken"))
    got = plan.apply([Old("2026-03-18_oak planks_r-7"), Old("2026-03-19_oak planks_r-8")], SETTINGS, REGISTER)
    assert [g.name for g in got] == ["2026/R-7_oak planks", "2026/R-8_oak planks"]


@pytest.mark.parametrize(("reads", "prints", "name", "new"), [
    ("keel", "oar", "keel", "oar"), ("<a>", "oar", "keel", "oar"), ("<a>_<b>", "100%{b} <b>", "keel_oar", "100%{b} oar"),
    ("{a}_<a>", "<a>{a}", "{a}_keel", "keel{a}"), ("keel", "keel_<ref>", "keel", None),
])  # fmt: skip
def test_patterns_of_text_alone_and_marks_of_other_languages_are_text(
    reads: str, prints: str, name: str, new: str | None
) -> None:
    (done, other) = compile_rewrite(reads, prints).apply([Old(name), Old("rib")], SETTINGS)
    assert done.name == new
    assert (other.misfit is None) == (reads == "<a>")
    reader = compile_pattern(reads).reader(SETTINGS)
    assert (reader(name), reader("rib")) == (
        {"keel": {}, "<a>": {"a": "keel"}, "<a>_<b>": {"a": "keel", "b": "oar"}, "{a}_<a>": {"a": "keel"}}[reads],
        {"a": "rib"} if reads == "<a>" else None,
    )
