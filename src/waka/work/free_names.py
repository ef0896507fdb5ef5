"""A name that is free: the wanted one with a duplicate mark."""

from collections.abc import Collection

from waka.core.names.portable import entry_key, join_extension, with_mark
from waka.store.postgres import documents
from waka.store.postgres.database import Connection


def free_name(conn: Connection, parent: int, stem: str, extension: str, taken: Collection[str] = ()) -> str:
    """The full name with the next duplicate mark that no entry of the folder and none of ``taken`` (keys) bears."""
    first = 2
    while True:
        names = [join_extension(with_mark(stem, n, extension=extension), extension) for n in range(first, first + 50)]
        keys = {name: entry_key(name) for name in names}
        held = documents.keys_held(conn, parent, list(keys.values()))
        for name, key in keys.items():
            if key not in held and key not in taken:
                return name
        first += 50
