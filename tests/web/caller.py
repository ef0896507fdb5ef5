"""Calls the API as one person, with the session cookie and the CSRF token."""

import hashlib
import secrets
from typing import Any

from flask import Flask
from werkzeug.test import TestResponse

from waka.store.postgres import people
from waka.web.guard import COOKIE


class Caller:
    """A person's browser, without the browser."""

    def __init__(self, app: Flask, login: str | None) -> None:
        self._client = app.test_client()
        self.csrf = ""
        if login is not None:
            # logging in is slow on purpose; test_api logs in for real
            token, self.csrf = secrets.token_urlsafe(16), secrets.token_urlsafe(16)
            with app.extensions["waka"].database.transaction() as conn:
                person = people.person_by_login(conn, login)
                assert person is not None
                people.open_session(conn, hashlib.sha256(token.encode()).digest(), person["id"], self.csrf, 1)
            self._client.set_cookie(COOKIE, token)

    def __call__(self, method: str, path: str, **more: Any) -> TestResponse:
        headers = {"X-Waka-CSRF": self.csrf, **more.pop("headers", {})}
        return self._client.open(path, method=method, headers=headers, **more)

    def json(self, method: str, path: str, **more: Any) -> Any:
        """The answer's JSON; the call must succeed."""
        answer = self(method, path, **more)
        assert answer.status_code < 300, answer.text
        return answer.get_json()
