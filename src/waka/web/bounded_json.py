"""JSON bodies with a bound to how deep they nest: Python's reader goes as deep as they do, and breaks off with its stack."""

from typing import Any

from flask.json.provider import DefaultJSONProvider

#: No form nests deeper than a handful.
MAX_DEPTH = 60


class NestedTooDeeply(ValueError):
    """A body nests deeper than any form does."""

    def __init__(self) -> None:
        super().__init__(f"it nests deeper than {MAX_DEPTH} levels")


def _deepest(data: str) -> int:
    """How deep arrays and objects nest, whatever else is wrong; brackets in strings do not count."""
    depth = deepest = 0
    inside = escaped = False
    for letter in data:
        if inside:
            if escaped:
                escaped = False
            elif letter == "\\":
                escaped = True
            elif letter == '"':
                inside = False
        elif letter == '"':
            inside = True
        elif letter in "[{":
            depth += 1
            deepest = max(deepest, depth)
        elif letter in "]}":
            depth -= 1
    return deepest


class BoundedJson(DefaultJSONProvider):
    """As Flask reads and writes JSON, but for what nests too deeply: a ValueError, as for any other body that is no JSON."""

    def loads(self, s: str | bytes, **kwargs: Any) -> Any:
        """Read JSON text; raises ValueError."""
        text = s.decode("utf-8", "replace") if isinstance(s, bytes) else s
        # most bodies hold few brackets at all
        if text.count("[") + text.count("{") > MAX_DEPTH and _deepest(text) > MAX_DEPTH:
            raise NestedTooDeeply
        return super().loads(s, **kwargs)
