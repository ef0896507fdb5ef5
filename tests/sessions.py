"""Sessions opened without a log-in, which is slow on purpose; tests/web/test_api.py and tests/browser log in for real."""

import hashlib
import secrets

from waka.store.postgres import people, sessions
from waka.store.postgres.database import Database


def open_session(database: Database, login: str) -> tuple[str, str]:
    """A person's new session: what its cookie bears (``guard.COOKIE``), and its CSRF token."""
    token, csrf = secrets.token_urlsafe(16), secrets.token_urlsafe(16)
    with database.transaction() as conn:
        person = people.person_by_login(conn, login)
        assert person is not None
        sessions.open_session(conn, hashlib.sha256(token.encode()).digest(), person["id"], csrf, 4)
    return token, csrf
