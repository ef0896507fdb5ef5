"""Calls the API as one person, with the session cookie and the CSRF token."""

from typing import Any

from flask import Flask
from werkzeug.test import TestResponse

from tests.sessions import open_session
from waka.web.guard import COOKIE


class Caller:
    """A person's browser, without the browser."""

    def __init__(self, app: Flask, login: str | None) -> None:
        self._client = app.test_client()
        self.csrf = ""
        if login is not None:
            token, self.csrf = open_session(app.extensions["waka"].database, login)
            self._client.set_cookie(COOKIE, token)

    def __call__(self, method: str, path: str, **more: Any) -> TestResponse:
        headers = {"X-Waka-CSRF": self.csrf, **more.pop("headers", {})}
        return self._client.open(path, method=method, headers=headers, **more)

    def json(self, method: str, path: str, **more: Any) -> Any:
        """The answer's JSON; the call must succeed."""
        answer = self(method, path, **more)
        assert answer.status_code < 300, answer.text
        return answer.get_json()
