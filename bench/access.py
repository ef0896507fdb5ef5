"""Who reads what, over many documents, people, groups and classes: seconds until a change is in force, and what looking at it takes.

``WAKA_BENCH_DOCUMENTS=1000000`` measures over so many (100,000 where it is not said). The drive is made by plain SQL, which shares
nothing with what is measured; who reads what in it is then worked out by the code itself.
"""

import os
import statistics
import threading
import time
from collections.abc import Callable, Iterator

from tests.world import World

from bench.figures import Figure, world
from waka.core.changes.origin import Search
from waka.store.postgres import access, groups
from waka.store.postgres.database import Connection, execute, fetch_all
from waka.work.actor import Actor
from waka.work.browse import find, walk
from waka.work.sharing import effects, give, readers, reports
from waka.work.sharing.give import Wish

DOCUMENTS = int(os.environ.get("WAKA_BENCH_DOCUMENTS", "100000"))
FOLDERS = 10_000
PEOPLE, GROUPS, SINGLE = 5_000, 200, 5_000
TIMES = 5


def _many_documents(conn: Connection, top: int, count: int) -> list[int]:
    """``count`` documents in ``FOLDERS`` folders below ``top``, by plain SQL: a tree of two levels, a hundred folders each."""
    execute(
        conn,
        """CREATE TEMP TABLE made AS SELECT nextval('folder_id') AS id, n, CASE WHEN n >= 100 THEN mod(n - 100, 100) END AS above
            FROM generate_series(0, %(f)s - 1) n""",
        {"f": FOLDERS},
    )
    execute(
        conn,
        """INSERT INTO folder (id, access_class) SELECT m.id, f.access_class FROM made m JOIN folder f ON f.id = %s""",
        [top],
    )
    execute(
        conn,
        """INSERT INTO entry (id, parent, name, key, folder)
        SELECT nextval('entry_id'), coalesce(a.id, %s), 'F' || m.n, 'f' || lpad(m.n::text, 8, '0'), m.id
        FROM made m LEFT JOIN made a ON a.n = m.above""",
        [top],
    )
    execute(
        conn,
        "INSERT INTO folder_closure SELECT id, id, 0 FROM made UNION ALL SELECT a.id, m.id, 1 FROM made m JOIN made a ON a.n = m.above",
    )
    execute(
        conn,
        """INSERT INTO folder_closure SELECT c.ancestor, m.id, c.depth + CASE WHEN m.above IS NULL THEN 1 ELSE 2 END
        FROM made m CROSS JOIN folder_closure c WHERE c.descendant = %s""",
        [top],
    )
    execute(
        conn,
        """INSERT INTO content (sha256, size, media_type, state, lease_until)
        VALUES (sha256('bench'), 5, 'text/plain', 'present', now())""",
    )
    execute(
        conn,
        """CREATE TEMP TABLE paper AS SELECT nextval('entry_id') AS id, g.n, f.id AS folder FROM generate_series(0, %(c)s - 1) g(n)
            JOIN made f ON f.n = mod(g.n, %(f)s)""",
        {"c": count, "f": FOLDERS},
    )
    execute(conn, "INSERT INTO document (id, extension, state) SELECT id, 'pdf', 'filed' FROM paper")
    execute(
        conn,
        "INSERT INTO version (document, number, content, original_name) SELECT id, 1, sha256('bench'), 'scan.pdf' FROM paper",
    )
    execute(
        conn,
        """INSERT INTO entry (id, parent, name, key, document, issued, size)
        SELECT id, folder, 'paper ' || n || '.pdf', 'paper ' || lpad(n::text, 9, '0'), id, date '2024-01-01' + n %% 700, 5 FROM paper""".replace(
            "%%", "%"
        ),
    )
    execute(
        conn,
        """INSERT INTO search_row (document, access_class, kind, issued, size)
        SELECT p.id, f.access_class, 'letter', date '2024-01-01' + mod(p.n, 700), 5 FROM paper p JOIN folder f ON f.id = p.folder""",
    )
    execute(
        conn,
        "INSERT INTO folder_count SELECT p.folder, f.access_class, count(*), now() FROM paper p JOIN folder f ON f.id = p.folder GROUP BY 1, 2",
    )
    return [r["id"] for r in fetch_all(conn, "SELECT id FROM made ORDER BY n")]


def _many_people(conn: Connection) -> tuple[list[int], list[int]]:
    """``PEOPLE`` people in ``GROUPS`` groups; their numbers."""
    people = fetch_all(
        conn,
        """WITH made AS (INSERT INTO principal (kind, name) SELECT 'person', 'P' || n FROM generate_series(1, %s) n RETURNING id),
        there AS (INSERT INTO person (id, login) SELECT id, 'p' || id FROM made RETURNING id)
        INSERT INTO person_principal SELECT id, id FROM there RETURNING person AS id""",
        [PEOPLE],
    )
    made = [groups.add_group(conn, f"Group {n}") for n in range(GROUPS)]
    ids = [r["id"] for r in people]
    execute(
        conn,
        "INSERT INTO membership SELECT p, (%(g)s::bigint[])[1 + mod(p, %(n)s)] FROM unnest(%(p)s::bigint[]) p",
        {"p": ids, "g": made, "n": GROUPS},
    )
    execute(conn, "INSERT INTO person_principal SELECT member, group_id FROM membership ON CONFLICT DO NOTHING")
    return ids, made


def _seconds(act: Callable[[], object]) -> float:
    started = time.perf_counter()
    act()
    return time.perf_counter() - started


def _median(act: Callable[[], object]) -> float:
    act()
    return statistics.median(_seconds(act) for _ in range(TIMES))


def measure() -> Iterator[Figure]:
    """All figures; documents by thousands in their names."""
    with world() as w:
        area = w.folder(w.yard, "Many")
        with w.drive.database.transaction() as conn:
            folders = _many_documents(conn, area, DOCUMENTS)
            people, made = _many_people(conn)
        w.drive.database.analyze()
        yield from _changes(w, area, people)
        yield from _groups(w, people)
        yield from _looking(w, area, folders, people)
        yield from _reading(w, folders, people, made)


def _changes(w: World, area: int, people: list[int]) -> Iterator[Figure]:
    """Grants and restrictions over all documents, and what lists of that area take meanwhile."""
    many, of = f"{DOCUMENTS // 1000}k", f"{DOCUMENTS:,} documents in {FOLDERS:,} folders"
    goal = 3.0 if DOCUMENTS <= 100_000 else 30.0
    give.AT_ONCE = DOCUMENTS * 2  # measured here, not left to a worker

    def did(*wishes: Wish) -> float:
        return _seconds(lambda: give.give(w.drive, w.keeper, list(wishes)))

    slow: list[float] = []
    going = threading.Event()

    def list_meanwhile() -> None:
        while not going.wait(0.05):
            slow.append(_seconds(lambda: walk.view(w.drive, w.keeper, area, below=False)))

    lister = threading.Thread(target=list_meanwhile)
    lister.start()
    yield Figure(f"first grant, {many}", did(Wish(folder=area, principal=people[0], level=1)), "s", goal, of)
    yield Figure(f"further grant, {many}", did(Wish(folder=area, principal=people[1], level=1)), "s", 1.0, of)
    yield Figure(f"grant changed, {many}", did(Wish(folder=area, principal=people[1], level=3)), "s", 1.0, of)
    yield Figure(f"grant taken away, {many}", did(Wish(folder=area, principal=people[1], level=None)), "s", 1.0, of)
    keep = Wish(folder=area, principal=w.keeper.person, level=4)
    yield Figure(f"restricted, {many}", did(keep, Wish(folder=area, restricted=True)), "s", goal, of)
    yield Figure(f"restriction lifted, {many}", did(Wish(folder=area, restricted=False)), "s", goal, of)
    going.set()
    lister.join()
    p95 = sorted(slow)[int(len(slow) * 0.95)] * 1000
    yield Figure("lists meanwhile, p95", p95, "ms", 400, f"{len(slow)} views of the folder by its keeper")


def _groups(w: World, people: list[int]) -> Iterator[Figure]:
    with w.drive.database.transaction() as conn:
        big, over, late = groups.add_group(conn, "Big"), groups.add_group(conn, "Over"), people[-1]
        execute(conn, "INSERT INTO membership SELECT p, %s FROM unnest(%s::bigint[]) p", [big, people[:-1]])
        execute(conn, "INSERT INTO person_principal SELECT p, %s FROM unnest(%s::bigint[]) p", [big, people[:-1]])
        execute(
            conn,
            """INSERT INTO access_class (folders) SELECT ARRAY[1000000 + n] FROM generate_series(1, 200) n""",
        )
        execute(
            conn,
            "INSERT INTO class_reader SELECT id, %s, 1, 'infinity' FROM access_class WHERE folders[1] > 1000000",
            [big],
        )

    def put(group: int, member: int) -> None:
        with w.drive.database.transaction() as conn:
            groups.put_in(conn, group, member)

    yield Figure(
        "a person into a group", _seconds(lambda: put(big, late)), "s", 0.2, f"of {PEOPLE:,} that reads 200 areas"
    )
    yield Figure("a group into another", _seconds(lambda: put(over, big)), "s", 1.0, f"of {PEOPLE:,} people")


def _looking(w: World, area: int, folders: list[int], people: list[int]) -> Iterator[Figure]:
    some = w.folder(w.yard, "Some")
    with w.drive.database.transaction() as conn:
        for person in people[:500]:
            execute(conn, "INSERT INTO access_grant (folder, principal, level) VALUES (%s, %s, 1)", [some, person])
        access.derive_folders(conn, [some])
    w.drive.database.analyze()
    yield Figure(
        "who reads this", _median(lambda: readers.look(w.drive, w.keeper, folder=some)), "s", 0.1, "500 principals"
    )
    with w.drive.database.transaction() as conn:
        for person in people[:500]:
            access.set_grant(conn, area, person, access.READ)
    wishes = [Wish(folder=area, principal=person, level=None) for person in people[:500]]
    yield Figure(
        "gains and losses",
        _median(lambda: effects.look(w.drive, w.keeper, wishes)),
        "s",
        1.0,
        f"500 people over {DOCUMENTS:,} documents",
    )
    administrator = Actor(w.administrator.person, "", True)
    yield Figure(
        "report of one person",
        _median(lambda: reports.of_person(w.drive, administrator, people[0])),
        "s",
        2.0,
        f"{len(folders):,} folders",
    )


def _reading(w: World, folders: list[int], people: list[int], made: list[int]) -> Iterator[Figure]:
    """The same lists and searches before and after there are many classes, for who reads everything by many groups."""
    reader = Actor(people[2], "")
    with w.drive.database.transaction() as conn:
        # an office gives to groups: what was given to people one by one, above, goes
        bore = fetch_all(conn, "SELECT DISTINCT folder FROM access_grant WHERE principal = ANY(%s::bigint[])", [people])
        execute(conn, "DELETE FROM access_grant WHERE principal = ANY(%s::bigint[])", [people])
        access.derive_readers(conn, access.classes_of(conn, [r["folder"] for r in bore]))
        access.set_grant(conn, w.yard, reader.person, access.READ)
    w.drive.database.analyze()

    def asked() -> float:
        listed = _median(lambda: walk.view(w.drive, reader, folders[0], below=True))
        return listed + _median(lambda: find.find(w.drive, reader, Search("paper 1234")))

    all_rights = asked()
    with w.drive.database.transaction() as conn:
        for n, group in enumerate(made):
            for folder in folders[100 + n * 25 : 125 + n * 25]:
                execute(conn, "INSERT INTO access_grant (folder, principal, level) VALUES (%s, %s, 1)", [folder, group])
        execute(
            conn,
            """INSERT INTO access_grant (document, principal, level)
            SELECT document, %s, 1 FROM search_row ORDER BY document LIMIT %s""",
            [people[3], SINGLE],
        )
        access.derive_folders(conn, [w.yard])
        single = [
            r["document"] for r in fetch_all(conn, "SELECT document FROM access_grant WHERE document IS NOT NULL")
        ]
        access.count_places(conn, single, -1)
        access.refresh_search(conn, single)
        access.count_places(conn, single, 1)
        execute(
            conn,
            "INSERT INTO person_principal SELECT %s, unnest(%s::bigint[]) ON CONFLICT DO NOTHING",
            [reader.person, made],
        )
        classes = fetch_all(conn, "SELECT count(*) AS n FROM access_class")[0]["n"]
    w.drive.database.analyze()
    yield Figure(
        "reading under access : all rights",
        asked() / all_rights,
        "×",
        1.3,
        f"{classes:,} classes, {SINGLE:,} single documents, {GROUPS} groups",
    )
