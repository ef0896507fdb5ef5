"""What is said of areas: what they are for, who answers for them; and where a new one stands among the others."""

from waka.store.postgres.database import Connection, execute, fetch_one


def put(
    conn: Connection, area: int, *, purpose: str | None = None, answers: int | None = None, nobody: bool = False
) -> None:
    """Keep what is given; ``nobody``: nobody answers for it any more."""
    execute(
        conn,
        """INSERT INTO area (folder, purpose, answers) VALUES (%(f)s, coalesce(%(p)s, ''), %(a)s)
        ON CONFLICT (folder) DO UPDATE SET purpose = coalesce(%(p)s, area.purpose),
            answers = CASE WHEN %(n)s THEN NULL ELSE coalesce(%(a)s, area.answers) END""",
        {"f": area, "p": purpose, "a": answers, "n": nobody},
    )


def stand(conn: Connection, area: int, position: int) -> None:
    """Where an area that was made just now stands among the others."""
    execute(conn, "UPDATE folder SET position = %s WHERE id = %s", [position, area])


def hanging_on(conn: Connection, area: int) -> str | None:
    """What keeps an area from being removed: entries, arrivals, parties, a template of folders, a watched folder; None for nothing."""
    row = fetch_one(
        conn,
        """SELECT CASE
            WHEN EXISTS (SELECT FROM entry WHERE parent = %(a)s) THEN 'entries'
            WHEN EXISTS (SELECT FROM arrival WHERE area = %(a)s) THEN 'arrivals'
            WHEN EXISTS (SELECT FROM party WHERE area = %(a)s) THEN 'parties'
            WHEN EXISTS (SELECT FROM tree_template WHERE area = %(a)s) THEN 'template'
            WHEN EXISTS (SELECT FROM watched WHERE area = %(a)s) THEN 'watched' END AS what""",
        {"a": area},
    )
    return row["what"] if row else None
