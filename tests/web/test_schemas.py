"""The API's schemas: each name means one thing, as the client's types are made by name."""

import importlib
import pkgutil
from collections import defaultdict

from pydantic import BaseModel

from waka.web import schemas


def test_no_two_schemas_have_one_name() -> None:
    found: defaultdict[str, set[str]] = defaultdict(set)
    for module in pkgutil.iter_modules(schemas.__path__):
        for name, one in vars(importlib.import_module(f"{schemas.__name__}.{module.name}")).items():
            if isinstance(one, type) and issubclass(one, BaseModel):
                found[name].add(one.__module__)
    assert len(found) > 50
    assert {name: where for name, where in found.items() if len(where) > 1} == {}
