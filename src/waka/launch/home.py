"""The home of one Waka: its data folder, its secrets, its ports, its processes' traces."""

import hashlib
import json
import os
import secrets
import shutil
import socket
import tempfile
from dataclasses import dataclass
from pathlib import Path

from waka.launch.trouble import Trouble

MIN_FREE_BYTES = 300 << 20
#: Bytes of the path of a socket (unix(7)).
_LONGEST_SOCKET = 107
#: Passwords of the database's two roles; what seals secrets that must be read again; what hashes by which programs are found.
KEYS = ("seal", "lookup")
SECRETS = ("owner", "app", *KEYS)


@dataclass(frozen=True)
class Home:
    """``folder`` holds everything that one Waka keeps."""

    folder: Path

    @property
    def cluster(self) -> Path:
        """PostgreSQL's data."""
        return self.folder / "postgres"

    @property
    def watched(self) -> Path:
        """The folders that are watched for what scanners and people put there."""
        return self.folder / "watched"

    @property
    def contents(self) -> Path:
        """Content files."""
        return self.folder / "content"

    @property
    def pictures(self) -> Path:
        """Page pictures; they can be made again."""
        return self.folder / "pictures"

    @property
    def logs(self) -> Path:
        """What the processes say."""
        return self.folder / "logs"

    @property
    def run(self) -> Path:
        """Process ids, sockets and the state of what runs now."""
        return self.folder / "run"

    @property
    def restoring(self) -> Path:
        """Is there while a backup is being restored: a home that has it is not whole."""
        return self.folder / "restoring"

    def worker_sign(self, slot: str) -> Path:
        """What the worker in a slot touches every two seconds, so that it is seen when it hangs."""
        return self.run / f"{slot}.sign"

    def socket(self, name: str) -> Path:
        """Where a service of this home listens: in ``run/``, or (where that path is too long for a socket) in a temporary folder."""
        folder = self.run / "sockets"
        if len(bytes(folder)) + len(name) > _LONGEST_SOCKET - 8:
            mark = hashlib.sha256(bytes(self.folder)).hexdigest()[:16]
            folder = Path(tempfile.gettempdir()) / f"waka-{os.getuid()}-{mark}"
        folder.mkdir(mode=0o700, parents=True, exist_ok=True)
        told = folder.stat()
        if told.st_uid != os.getuid() or told.st_mode & 0o077:
            raise Trouble(f"The folder {folder} is not this user's alone.", "Remove it, then start Waka again.")
        return folder / f"{name}.sock"

    def prepare(self) -> None:
        """Make the folders; Trouble where that cannot be, or where the disk is full, or where a restore broke off here."""
        if self.restoring.exists():
            raise Trouble(
                f"The restore into {self.folder} broke off; it is not whole.",
                "Remove that folder, then restore the backup again.",
            )
        try:
            for folder in (self.folder, self.contents, self.pictures, self.watched, self.logs, self.run):
                folder.mkdir(parents=True, exist_ok=True)
            self.folder.chmod(0o700)
        except OSError as error:
            raise Trouble(
                f"The data folder {self.folder} cannot be made: {error.strerror}.",
                "Choose another with --home DIR.",
            ) from error
        free = shutil.disk_usage(self.folder).free
        if free < MIN_FREE_BYTES:
            raise Trouble(
                f"The disk of {self.folder} is nearly full: {free >> 20} MB are free, {MIN_FREE_BYTES >> 20} MB are needed.",
                "Make room, or choose another place with --home DIR.",
            )

    def secrets(self) -> dict[str, str]:
        """Generated secrets, kept in a file that only this user reads; those that an older Waka did not have are put in."""
        path = self.folder / "secrets.json"
        kept = dict(json.loads(path.read_text(encoding="utf-8"))) if path.exists() else {}
        missing = [name for name in SECRETS if name not in kept]
        if missing:
            self.put_secrets(kept | {name: secrets.token_urlsafe(32) for name in missing})
            return self.secrets()
        return kept

    def put_secrets(self, kept: dict[str, str]) -> None:
        """Keep secrets, in one step."""
        beside = self.folder / "secrets.json.new"
        handle = os.open(beside, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600)
        with os.fdopen(handle, "w", encoding="utf-8") as file:
            json.dump(kept, file)
            file.flush()
            os.fsync(file.fileno())
        beside.replace(self.folder / "secrets.json")

    def state(self) -> dict[str, int]:
        """What runs now: process ids and ports by name; empty where nothing runs."""
        path = self.run / "state.json"
        try:
            return dict(json.loads(path.read_text(encoding="utf-8")))
        except (FileNotFoundError, ValueError):
            return {}

    def put_state(self, state: dict[str, int]) -> None:
        """Say what runs now."""
        beside = self.run / "state.json.new"
        beside.write_text(json.dumps(state), encoding="utf-8")
        beside.replace(self.run / "state.json")

    def put_address(self, address: str) -> None:
        """Say where people reach what runs now."""
        (self.run / "address").write_text(address, encoding="utf-8")

    def address(self) -> str:
        """Where people reach what runs now."""
        return (self.run / "address").read_text(encoding="utf-8")

    def conninfo(self, port: int, role: str = "app") -> str:
        """How to reach the database as ``app`` or ``owner``."""
        password = self.secrets()[role]
        return f"host=127.0.0.1 port={port} dbname=waka user=waka_{role} password={password} connect_timeout=5"


def alive(pid: int) -> bool:
    """Whether a process of this id runs (and is not a zombie)."""
    try:
        os.kill(pid, 0)
        state = Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0]
    except (ProcessLookupError, FileNotFoundError):
        return False
    except PermissionError:
        return True
    return state != "Z"


def free_port() -> int:
    """A port on loopback that nobody holds at this moment."""
    with socket.socket() as held:
        held.bind(("127.0.0.1", 0))
        return int(held.getsockname()[1])


def port_taken(port: int) -> bool:
    """Whether somebody listens on this port of loopback."""
    with socket.socket() as asked:
        asked.settimeout(1)
        return asked.connect_ex(("127.0.0.1", port)) == 0
