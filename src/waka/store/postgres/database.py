"""The one pool of connections, and transactions on it."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any

import psycopg
from psycopg import sql
from psycopg.rows import DictRow, dict_row
from psycopg.types.json import Jsonb
from psycopg_pool import ConnectionPool, PoolTimeout


class DatabaseGone(Exception):
    """The database cannot be reached, or cannot go on: what it said. Nothing was changed. ``disk_full``: it has no room."""

    def __init__(self, said: str, *, disk_full: bool = False) -> None:
        super().__init__(said)
        self.disk_full = disk_full


#: A NUL or a surrogate in a text (psycopg itself: no state), too long, a number, a day or an offset beyond bounds, no
#: character of the database's encoding (PostgreSQL's manual, appendix A). Other data errors are faults of a statement.
_ABOUT_A_VALUE = frozenset({None, "22001", "22003", "22008", "22009", "22021", "22P05"})


class CannotKeep(Exception):
    """A value is none that the database can hold: NUL in a text, a number or a day beyond all bounds. Nothing was changed."""


Connection = psycopg.Connection[DictRow]
Row = dict[str, Any]


class Database:
    """Connections to the drive's PostgreSQL as the application's role.

    ``conninfo`` is a libpq connection string; at most ``size`` connections are open.
    """

    def __init__(self, conninfo: str, *, size: int = 12) -> None:
        self.conninfo = conninfo
        self._pool: ConnectionPool[Connection] = ConnectionPool(
            conninfo,
            min_size=1,
            max_size=size,
            kwargs={"row_factory": dict_row, "options": "-c timezone=UTC -c jit=off"},
            open=True,
            check=ConnectionPool.check_connection,
            timeout=8,
        )

    @contextmanager
    def transaction(self) -> Iterator[Connection]:
        """A READ COMMITTED transaction: committed at the end, rolled back on any error. Raises DatabaseGone."""
        try:
            with self._pool.connection() as conn:
                yield conn
        except psycopg.errors.DiskFull as full:
            raise DatabaseGone("the disk of the records is full", disk_full=True) from full
        except psycopg.DataError as wrong:
            if wrong.sqlstate in _ABOUT_A_VALUE:
                raise CannotKeep from wrong
            raise
        except (psycopg.OperationalError, PoolTimeout) as gone:
            raise DatabaseGone(str(gone).strip()) from gone

    def guarded(self, check: Callable[[Connection], None]) -> "Database":
        """The same connections, but each transaction begins with ``check``, which may raise to end it."""
        return _Guarded(self, check)

    def notices(self, channel: str, *, seconds: float) -> Iterator[bool]:
        """Listen on ``channel``: True when something was notified, False when ``seconds`` passed. DatabaseGone ends it."""
        try:
            with psycopg.connect(self.conninfo, autocommit=True) as conn:
                conn.execute(sql.SQL("LISTEN {}").format(sql.Identifier(channel)))
                while True:
                    yield bool(list(conn.notifies(timeout=seconds, stop_after=1)))
        except psycopg.OperationalError as gone:
            raise DatabaseGone(str(gone).strip()) from gone

    def analyze(self) -> None:
        """Fresh statistics for the planner, after much has changed."""
        with self.transaction() as conn:
            conn.execute("ANALYZE")

    def close(self) -> None:
        """Close every connection."""
        self._pool.close()


class _Guarded(Database):
    """See ``Database.guarded``."""

    def __init__(self, of: Database, check: Callable[[Connection], None]) -> None:
        self.conninfo, self._pool, self._check = of.conninfo, of._pool, check

    @contextmanager
    def transaction(self) -> Iterator[Connection]:
        with super().transaction() as conn:
            self._check(conn)
            yield conn


def fetch_one(conn: Connection, query: str, parameters: Any = None) -> Row | None:
    """The first row of a query, or None."""
    return conn.execute(query.encode(), parameters).fetchone()


#: The ways in which the server joins rows.
JOINS = ("nestloop", "hashjoin", "mergejoin")


def allow_joins(conn: Connection, *ways: str) -> None:
    """Until the transaction ends, or the next call: join rows in these of JOINS only, where anything else will do."""
    for way in JOINS:
        conn.execute(f"SET LOCAL enable_{way} = {'on' if way in ways else 'off'}".encode())


#: From this many rows on, the planner is told how to join them. Its statistics may be old.
_MANY = 2_000
#: If fewer than one in this many rows of a table is asked for, each is looked up. Otherwise the whole table is read.
_FEW = 5


@contextmanager
def force_join(conn: Connection, table: str, count: int) -> Iterator[None]:
    """Queries inside join ``count`` rows with as many rows of ``table``, in the way that is right for that many."""
    if count <= _MANY:
        yield
        return
    row = fetch_one(conn, "SELECT reltuples AS n FROM pg_class WHERE oid = %s::regclass", [table])
    few = row is not None and count * _FEW < row["n"]
    allow_joins(conn, "nestloop" if few else "hashjoin")
    yield
    allow_joins(conn, *JOINS)


def sort_in_memory(conn: Connection) -> None:
    """Until the transaction ends, very many rows are sorted and hashed in memory."""
    conn.execute("SET LOCAL work_mem = '64MB'")


@contextmanager
def force_hash_aggregate(conn: Connection) -> Iterator[None]:
    """Queries inside group rows by hashing, not by sorting. Right for many new rows, of which statistics know nothing yet."""
    conn.execute("SET LOCAL enable_sort = off")
    yield
    conn.execute("SET LOCAL enable_sort = on")


def jsonb(value: Any) -> Jsonb | None:
    """A value for a JSON column; NULL for None, which is another thing there than JSON's null."""
    return None if value is None else Jsonb(value)


def fetch_all(conn: Connection, query: str, parameters: Any = None) -> list[Row]:
    """All rows of a query."""
    return conn.execute(query.encode(), parameters).fetchall()


def execute(conn: Connection, query: str, parameters: Any = None) -> int:
    """Run a statement; how many rows it touched."""
    return conn.execute(query.encode(), parameters).rowcount
