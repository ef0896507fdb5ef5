"""A file of 2 GB brought in: how much memory web and worker take, and how long it takes beside hashing and writing it here."""

import hashlib
import http.client
import json
import os
import time
import uuid
from collections.abc import Iterator
from pathlib import Path

from bench.figures import Figure
from bench.large import peak_megabytes
from bench.serving import Client, jobs_left, served
from waka.work.intake.arrive import MAX_BYTES

_BLOCK = os.urandom(1 << 20)


def _blocks() -> Iterator[bytes]:
    """2 GB that are no known type, block by block."""
    for number in range(MAX_BYTES // len(_BLOCK)):
        yield number.to_bytes(8, "big") + _BLOCK[8:]


def _send(client: Client) -> float:
    connection = http.client.HTTPConnection("127.0.0.1", client.port, timeout=600)
    started = time.perf_counter()
    head = {"Content-Length": str(MAX_BYTES), "Cookie": client.cookie, "X-Waka-CSRF": client.csrf}
    connection.request("PUT", f"/api/uploads/{uuid.uuid4()}?name=tide%20film.bin", _blocks(), head)
    answer = connection.getresponse()
    told = json.loads(answer.read())
    if answer.status != 201:
        raise RuntimeError(f"{answer.status}: {told}")
    return time.perf_counter() - started


def _written_here(folder: Path) -> float:
    started = time.perf_counter()
    digest = hashlib.sha256()
    with (folder / "peer").open("wb") as file:
        for block in _blocks():
            digest.update(block)
            file.write(block)
        file.flush()
        os.fsync(file.fileno())
    return time.perf_counter() - started


def measure() -> Iterator[Figure]:
    """The most that may come at once, beside hashing and writing as much on this disk."""
    with served() as (supervisor, client):
        took = _send(client)
        while jobs_left(client):
            time.sleep(0.25)
        state = supervisor.home.state()
        web, worker = (peak_megabytes(state[part]) for part in ("web", "worker"))
        peer = _written_here(supervisor.home.folder)
    told = f"web {web:.0f} MB, worker {worker:.0f} MB at most"
    yield Figure("memory for a file of 2 GB", web + worker, "MB", 400, told)
    yield Figure("2 GB brought in : hashed and written", took / peer, "ratio", 3.0, f"{took:.0f} s : {peer:.0f} s")
