"""What ``./waka test`` runs, in order: format, lint, types, layers, the front end's checks, then all tests."""

import os
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path

from waka.launch import frontend
from waka.launch.trouble import Trouble

PROJECT = frontend.PROJECT


def _run(name: str, command: list[str], cwd: Path = PROJECT) -> bool:
    programs = Path(sys.executable).parent
    env = dict(os.environ) | {"PATH": f"{programs}:{os.environ.get('PATH', '')}"}
    started = time.monotonic()
    print(f"\n== {name}", flush=True)
    good = subprocess.call(command, cwd=cwd, env=env) == 0
    print(f"   {'passed' if good else 'FAILED'} in {time.monotonic() - started:.1f} s", flush=True)
    return good


def run_checks(arguments: list[str], say: Callable[[str], None]) -> int:
    """Run everything (or only pytest with ``arguments``); the exit status."""
    try:
        frontend.install_packages(say)
        frontend.build(say)
    except Trouble as trouble:
        print(trouble, file=sys.stderr)
        return 1
    python = sys.executable
    if arguments:
        return subprocess.call([python, "-m", "pytest", *arguments], cwd=PROJECT)
    npx = str(Path(python).parent / "npx")
    checks = [
        ("format (Python)", [python, "-m", "ruff", "format", "--check", "."], PROJECT),
        ("lint (Python)", [python, "-m", "ruff", "check", "."], PROJECT),
        ("types (Python)", [python, "-m", "mypy"], PROJECT),
        ("layers", [str(Path(python).parent / "lint-imports")], PROJECT),
        ("format and lint (TypeScript)", [npx, "biome", "check", "src", "vite.config.ts"], frontend.FRONTEND),
        ("types (TypeScript)", [npx, "tsc", "--noEmit"], frontend.FRONTEND),
        ("front-end units", [npx, "vitest", "run"], frontend.FRONTEND),
        ("tests", [python, "-m", "pytest", "-q", "-n", "2", "--dist", "loadfile", "--no-loadscope-reorder"], PROJECT),
    ]
    failed = [name for name, command, cwd in checks if not _run(name, command, cwd)]
    print("\n" + (f"FAILED: {', '.join(failed)}" if failed else "All checks passed."), flush=True)
    return 1 if failed else 0
