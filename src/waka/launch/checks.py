"""What ``./waka test`` runs: types, format, lint and layers, two at a time, then the front end's tests, then all others."""

import os
import subprocess
import sys
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from functools import partial
from pathlib import Path

from waka.launch import frontend
from waka.launch.trouble import Trouble

PROJECT = frontend.PROJECT


Check = tuple[str, list[str], Path]


def _run(check: Check, *, told_at_once: bool) -> bool:
    """Run one check; what it prints is shown as it comes, or when it has ended."""
    name, command, cwd = check
    programs = Path(sys.executable).parent
    env = dict(os.environ) | {"PATH": f"{programs}:{os.environ.get('PATH', '')}"}
    started = time.monotonic()
    if told_at_once:
        print(f"\n== {name}", flush=True)
        good, told = subprocess.call(command, cwd=cwd, env=env) == 0, ""
    else:
        ended = subprocess.run(
            command, cwd=cwd, env=env, check=False, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True
        )
        good, told = ended.returncode == 0, f"\n== {name}\n{ended.stdout}"
    print(f"{told}   {'passed' if good else 'FAILED'} in {time.monotonic() - started:.1f} s", flush=True)
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
    # these take one processor each
    short: list[Check] = [
        ("types (Python)", [python, "-m", "mypy"], PROJECT),
        ("types (TypeScript)", [npx, "tsc", "--noEmit"], frontend.FRONTEND),
        ("format (Python)", [python, "-m", "ruff", "format", "--check", "."], PROJECT),
        ("lint (Python)", [python, "-m", "ruff", "check", "."], PROJECT),
        ("layers", [str(Path(python).parent / "lint-imports")], PROJECT),
        ("format and lint (TypeScript)", [npx, "biome", "check", "src", "vite.config.ts"], frontend.FRONTEND),
    ]
    # and these take two
    long: list[Check] = [
        ("front-end units", [npx, "vitest", "run"], frontend.FRONTEND),
        # three at a time on two processors: the database's and the browser's waits overlap
        ("tests", [python, "-m", "pytest", "-q", "-n", "3", "--dist", "loadfile", "--no-loadscope-reorder"], PROJECT),
    ]
    with ThreadPoolExecutor(2) as beside:
        passed = list(beside.map(partial(_run, told_at_once=False), short))
    passed += [_run(check, told_at_once=True) for check in long]
    failed = [name for (name, _, _), good in zip(short + long, passed, strict=True) if not good]
    print("\n" + (f"FAILED: {', '.join(failed)}" if failed else "All checks passed."), flush=True)
    return 1 if failed else 0
