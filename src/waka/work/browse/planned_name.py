"""The name that the plan of an area gives a document by its facts."""

from collections.abc import Mapping

from waka.core.facts.values import Json, name_value
from waka.core.names.fields import Party
from waka.core.names.pattern import compile_pattern
from waka.core.names.portable import join_extension, split_extension
from waka.core.plan.area_plan import AreaPlan, KindRule
from waka.store.postgres.database import Connection
from waka.work.drive import area_settings, name_settings


def planned_name(
    conn: Connection, plan: AreaPlan, rule: KindRule, facts: Mapping[str, Json], parties: Mapping[int, Party], name: str
) -> str | None:
    """What a document called ``name`` would be called by its facts; None where the plan has no name for it, or a fact is lacking."""
    if not rule.name:
        return None
    settings = area_settings(name_settings(conn), plan)
    stem, extension = split_extension(name)
    values = {f: v for f, told in facts.items() if (v := name_value(f, told, parties)) is not None}
    printed = compile_pattern(rule.name, settings.language).print(
        {**values, "name": stem}, settings, extension=extension
    )
    return join_extension(printed.name, extension) if printed.name is not None else None
