"""What a manifest locks before it looks: the structure, then the rows it speaks of in id order."""

from waka.store.postgres.database import Connection, run

_STRUCTURE = 0x57414B42


def lock_structure(conn: Connection, *, exclusive: bool) -> None:
    """The structure lock until the transaction ends; exclusive for whatever moves or removes folders."""
    run(conn, f"SELECT pg_advisory_xact_lock{'' if exclusive else '_shared'}({_STRUCTURE})")


def lock_rows(conn: Connection, manifest: int) -> None:
    """The documents and entries of the manifest's lines, in id order, so that no two manifests wait for each other."""
    run(
        conn,
        "SELECT 1 FROM document WHERE id IN (SELECT document FROM manifest_line WHERE manifest = %(m)s"
        " UNION SELECT (data ->> 'arrival')::bigint FROM manifest_line WHERE manifest = %(m)s AND data ? 'arrival')"
        " ORDER BY id FOR NO KEY UPDATE",
        {"m": manifest},
    )
    run(
        conn,
        "SELECT 1 FROM entry WHERE id IN (SELECT entry FROM manifest_line WHERE manifest = %s)"
        " ORDER BY id FOR NO KEY UPDATE",
        [manifest],
    )
