"""The front end's build: made once for its sources, with the Node that the Python environment brings."""

import hashlib
import os
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path

from waka.launch.trouble import Trouble

PROJECT = Path(__file__).resolve().parents[3]
FRONTEND = PROJECT / "frontend"
DIST = FRONTEND / "dist"


def _digest(paths: list[Path]) -> str:
    digest = hashlib.sha256()
    for path in paths:
        digest.update(str(path.relative_to(PROJECT)).encode() + b"\0" + path.read_bytes() + b"\0")
    return digest.hexdigest()


def _npm(*arguments: str) -> None:
    programs = Path(sys.executable).parent
    env = dict(os.environ) | {"PATH": f"{programs}:{os.environ.get('PATH', '')}", "CI": "true"}
    done = subprocess.run(
        [programs / "npm", *arguments], cwd=FRONTEND, env=env, capture_output=True, text=True, check=False
    )
    if done.returncode != 0:
        said = (done.stdout + done.stderr).strip().splitlines()[-12:]
        raise Trouble(
            f"npm {' '.join(arguments)} failed:\n  " + "\n  ".join(said),
            "See whether the npm registry can be reached.",
        )


def install_packages(say: Callable[[str], None]) -> None:
    """Install the front end's packages from its lock, unless they are there."""
    stamp = FRONTEND / "node_modules" / ".waka-stamp"
    wanted = _digest([FRONTEND / "package.json", FRONTEND / "package-lock.json"])
    if stamp.exists() and stamp.read_text() == wanted:
        return
    say("installing the front end's packages (npm, about a minute)")
    _npm("ci", "--no-audit", "--no-fund")
    stamp.write_text(wanted)


def build(say: Callable[[str], None]) -> Path:
    """The folder of the built front end; built now where its sources changed."""
    sources = sorted(
        p for p in [*FRONTEND.glob("*.json"), *FRONTEND.glob("*.ts"), FRONTEND / "index.html",
                    *(FRONTEND / "src").rglob("*"), *(FRONTEND / "public").rglob("*")] if p.is_file()
    )  # fmt: skip
    wanted = _digest(sources)
    stamp = DIST / ".waka-stamp"
    if stamp.exists() and stamp.read_text() == wanted:
        return DIST
    install_packages(say)
    say("building the front end")
    _npm("run", "build")
    stamp.write_text(wanted)
    return DIST
