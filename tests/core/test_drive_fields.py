"""The registry of fields: each entry has all that the program asks of it."""

import pytest

from waka.core.facts.doubt import questions
from waka.core.facts.kinds import KINDS
from waka.core.facts.values import FactRefused, Json, check_value, name_value
from waka.core.names.drive_fields import DRIVE_FIELDS, FACT_FIELDS, FIELDS, LEARNT_FIELDS, Editor, editor_of, label_of
from waka.core.names.fields import FieldType, Party
from waka.web.present.facts import display_fact

#: For each editor: a value, what a person reads, and one that it refuses.
VALUES: dict[Editor, tuple[Json, str, Json]] = {
    Editor.KIND: ("credit note", "Credit note", "tide table"),
    Editor.PARTY: ({"party": 4}, "Tollgate Timber", {"party": "four"}),
    Editor.PERSON: ({"given": "Ada", "family": "Fenn"}, "Ada Fenn", {"given": "Ada"}),
    Editor.DATE: ("2026-03-18", "18 Mar 2026", "2026-02-30"),
    Editor.MONEY: ({"value": "1994.80", "currency": "EUR"}, "1,994.80 EUR", {"value": "much", "currency": "EUR"}),
    Editor.NUMBER: (2, "2", -1),
    Editor.CODE: ("TT-40917", "TT-40917", ""),
    Editor.TEXT: ("2026-03-18", "2026-03-18", 7),
}
PARTIES = {4: Party("Tollgate Timber")}


@pytest.mark.parametrize("field", FIELDS)
def test_a_field_takes_shows_and_refuses_values_by_its_editor(field: str) -> None:
    value, shown, wrong = VALUES[editor_of(field)]
    assert check_value(field, value) == value
    assert check_value(field, None) is None
    assert display_fact(field, value, PARTIES) == shown
    with pytest.raises(FactRefused) as refused:
        check_value(field, wrong)
    assert refused.value.field == field
    assert (name_value(field, value, PARTIES) is not None) == (field in DRIVE_FIELDS)


def test_a_field_of_nobody_is_refused_and_reads_as_itself() -> None:
    with pytest.raises(FactRefused, match="no fact called “tide”"):
        check_value("tide", "high")
    assert label_of("tide") == "tide" and editor_of("tide") is Editor.TEXT


def test_every_expected_fact_is_a_field_and_has_a_question_and_a_label() -> None:
    assert {f for kind in KINDS.values() for f in kind.expects} <= set(FACT_FIELDS)
    assert len({one.label for one in FIELDS.values()}) == len(FIELDS)
    for field in FACT_FIELDS:
        asked = dict(questions("letter", {}, {"party": 4, "issued": 1, "subject": 1} | {"kind": "letter"}, [field]))
        assert field in ("party", "issued", "subject") or FIELDS[field].label.lower() in asked[field].lower()


def test_what_is_learnt_and_what_names_take_are_facts_of_the_registry() -> None:
    assert set(LEARNT_FIELDS) <= set(FACT_FIELDS)
    types = {Editor.DATE: FieldType.DATE, Editor.PARTY: FieldType.PARTY, Editor.PERSON: FieldType.PERSON,
             Editor.NUMBER: FieldType.NUMBER}  # fmt: skip
    for one in FIELDS.values():
        assert one.type in (None, types.get(one.editor, FieldType.TEXT)), one.key
