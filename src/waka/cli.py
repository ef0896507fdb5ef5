"""The command line: ./waka demo | serve | stop | status | user | test | bench … Every command is also a use case."""

import json
import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import click

from waka import VERSION
from waka.commands import facts as facts_command
from waka.commands import pattern as pattern_command
from waka.commands import rules as rules_command
from waka.commands.backup import backup, restore
from waka.commands.manifest import manifest
from waka.commands.rulebook import rulebook
from waka.commands.running import default_home, homes, opened, reporting_trouble, running
from waka.commands.scanner import scanner
from waka.launch import frontend
from waka.launch.home import Home, alive
from waka.launch.orphans import end_orphans
from waka.launch.reach import Tls
from waka.launch.supervisor import Supervisor
from waka.work.accounts import people
from waka.work.config import first_hour, set_up
from waka.work.drive import Drive

PROJECT = frontend.PROJECT
DEFAULT_PORT = 8620


def _say(text: str) -> None:
    click.echo(f"  {text}")


home_option = click.option(
    "--home", "folder", type=click.Path(path_type=Path), default=default_home, help="The data folder."
)
port_option = click.option("--port", type=click.IntRange(1, 65535), default=DEFAULT_PORT, show_default=True)


@click.group(context_settings={"help_option_names": ["-h", "--help"]})
@click.version_option(VERSION, prog_name="waka")
def cli() -> None:
    """Waka files documents by their facts, changes the drive by manifests, finds records."""


def _tell_set_up(drive: Drive, address: str) -> bool:
    """Print a new address for the set-up, where there is no administrator yet."""
    secret = first_hour.secret(drive.database)
    if secret is not None:
        click.echo(f"Begin your office here. This address is good once, for a day:\n\n  {address}/set-up#{secret}\n")
    return secret is not None


def _serve(folder: Path, port: int, *, demo: bool, size: int = 0, workers: int = 1, tls: Tls | None = None) -> None:
    home = Home(folder.resolve())
    with reporting_trouble(1):
        if tls is not None:
            tls.check()
        supervisor = Supervisor(home, port=port, frontend=frontend.DIST, say=_say, workers=workers, tls=tls)
        try:
            frontend.build(_say)
            supervisor.start_database()
            if demo:
                from waka.demo.filing_rules import load_rulebooks
                from waka.demo.sharing import load_sharing
                from waka.demo.sorts import load_sorts
                from waka.demo.trust import load_demo

                with opened(home, supervisor.database_port, connections=4) as drive:
                    load_demo(drive, _say, size=size)
                    load_sorts(drive, _say)
                    load_sharing(drive, _say)
                    load_rulebooks(drive, _say)
            supervisor.start_services()
            supervisor.obey()
            if not demo:
                with opened(home, supervisor.database_port) as drive:
                    _tell_set_up(drive, supervisor.address())
            click.echo(f"\nWaka is at {supervisor.address()}   (Ctrl+C stops it)\n")
            if demo:
                from waka.demo.people import PEOPLE

                for person in PEOPLE:
                    click.echo(f"  {person.login:<8} {person.password:<18} {person.name}, {person.what}")
                click.echo(f"\n  Begin an office of your own beside it: ./waka serve --port {port + 1}\n")
            sys.stdout.flush()
            supervisor.watch()
        finally:
            supervisor.stop()
    click.echo("Waka stopped.")


@cli.command()
@home_option
@port_option
@click.option(
    "--workers",
    type=click.IntRange(1, 16),
    default=1,
    show_default=True,
    help="How many worker processes read and plan.",
)
@click.option(
    "--tls",
    nargs=2,
    type=click.Path(path_type=Path, dir_okay=False, exists=True),
    metavar="CERT KEY",
    help="Serve other machines, over TLS with these PEM files; read again on SIGHUP.",
)
def serve(folder: Path, port: int, workers: int, tls: tuple[Path, Path] | None) -> None:
    """Start Waka and keep it running until Ctrl+C."""
    files = Tls(tls[0].resolve(), tls[1].resolve()) if tls else None
    _serve(folder, port, demo=False, workers=workers, tls=files)


cli.add_command(backup)
cli.add_command(manifest)
cli.add_command(restore)
cli.add_command(rulebook)
cli.add_command(scanner)


@cli.command()
def pattern() -> None:
    """Check, print, read and rewrite names: JSON lines in, JSON lines out (docs/names.md)."""
    pattern_command.main()


@cli.command()
def rules() -> None:
    """Check, print and try an area's filing rules: JSON lines in, JSON lines out (docs/rules.md)."""
    pattern_command.main(rules_command.answer)


@cli.command()
@click.argument("folder", type=click.Path(path_type=Path, file_okay=False, exists=True), required=False)
@click.option(
    "--picture",
    "pictures",
    type=click.Path(path_type=Path, file_okay=False),
    help="Draw what was seen, page by page, into this folder.",
)
def facts(folder: Path | None, pictures: Path | None) -> None:
    """Read files and tell their facts: JSON lines in (or a folder), JSON lines out (docs/reading.md)."""
    facts_command.main(folder, pictures)


@cli.command()
@click.option("--home", "folder", type=click.Path(path_type=Path), default=None, help="The data folder.")
@port_option
@click.option(
    "--size", type=click.IntRange(0, 5_000_000), default=0, help="File so many documents more of earlier years."
)
def demo(folder: Path | None, port: int, size: int) -> None:
    """Start Waka with the documents of the Saltmarsh Boatyard Trust."""
    _serve(folder or default_home().with_name("demo"), port, demo=True, size=size)


@cli.command()
@click.option("--home", "folder", type=click.Path(path_type=Path), default=None, help="The data folder.")
def stop(folder: Path | None) -> None:
    """Stop a Waka that runs (without --home: this project's, demo or not)."""
    stopped = False
    for home in homes(folder):
        pid = home.state().get("supervisor", 0)
        if pid and alive(pid):
            os.kill(pid, signal.SIGTERM)
            deadline = time.monotonic() + 45
            while alive(pid) and time.monotonic() < deadline:
                time.sleep(0.1)
            if alive(pid):
                click.echo(f"waka: {home.folder} does not stop; see its logs.", err=True)
                sys.exit(1)
        elif not end_orphans(home, _say):
            continue
        click.echo(f"Stopped {home.folder}.")
        stopped = True
    if not stopped:
        click.echo("Nothing was running.")


@cli.command()
@click.option("--home", "folder", type=click.Path(path_type=Path), default=None, help="The data folder.")
@click.option("--json", "as_json", is_flag=True)
def status(folder: Path | None, as_json: bool) -> None:
    """Say what runs. Exit status 0 where something does."""
    told = []
    for home in homes(folder):
        state = home.state()
        runs = bool(state) and alive(state.get("supervisor", 0))
        told.append({"home": str(home.folder), "running": runs, **(state if runs else {})})
    for one in told:
        if as_json:
            click.echo(json.dumps(one))
        else:
            where = f"runs at http://127.0.0.1:{one['port']}" if one["running"] else "does not run"
            click.echo(f"{one['home']}: {where}")
    sys.exit(0 if any(one["running"] for one in told) else 3)


@cli.command("set-up")
@click.option("--home", "folder", type=click.Path(path_type=Path), default=None, help="The data folder.")
def set_up_command(folder: Path | None) -> None:
    """Print a new address for setting up a Waka that runs and has no administrator yet; the address before is void."""
    with reporting_trouble(1):
        home, port = running(folder)
        with opened(home, port) as drive:
            if not _tell_set_up(drive, home.address()):
                click.echo("Waka is set up: it has an administrator.", err=True)


@cli.group()
def user() -> None:
    """Accounts of a Waka that runs."""


@user.command("add")
@click.argument("login")
@click.option("--name", required=True)
@click.option("--administrator", is_flag=True)
@click.password_option(help="Asked for where it is not given.")
@click.option("--home", "folder", type=click.Path(path_type=Path), default=None)
def user_add(login: str, name: str, administrator: bool, password: str, folder: Path | None) -> None:
    """Add an account. The first administrator also keeps the drive."""
    with reporting_trouble(1):
        home, port = running(folder)
        with opened(home, port) as drive:
            people.add_account(drive.database, login, name, password, administrator=administrator)
        click.echo(f"Added {login}.")


@user.command("password")
@click.argument("login")
@click.password_option(help="Asked for where it is not given.")
@click.option("--home", "folder", type=click.Path(path_type=Path), default=None)
def user_password(login: str, password: str, folder: Path | None) -> None:
    """Set an account's password; its sessions end."""
    with reporting_trouble(1):
        home, port = running(folder)
        with opened(home, port) as drive:
            people.set_password(drive.database, login, password)
        click.echo(f"The password of {login} is set.")


@user.command("second-factor-off")
@click.argument("login")
@click.option("--home", "folder", type=click.Path(path_type=Path), default=None)
def user_second_factor_off(login: str, folder: Path | None) -> None:
    """Switch an account's second factor off: the last way in for who lost it, and all recovery codes."""
    with reporting_trouble(1):
        home, port = running(folder)
        with opened(home, port) as drive:
            people.second_factor_off(drive.database, login)
        click.echo(f"The second factor of {login} is off.")


@user.command("list")
@click.option("--home", "folder", type=click.Path(path_type=Path), default=None)
def user_list(folder: Path | None) -> None:
    """List the accounts."""
    with reporting_trouble(1):
        home, port = running(folder)
        with opened(home, port) as drive:
            rows = people.list_people(drive.database)
        for row in rows:
            click.echo(f"{row['login']:<16} {row['name']}{', administrator' if row['administrator'] else ''}")


@cli.command()
@click.argument("name", required=False)
@click.argument("value", required=False)
@click.option("--home", "folder", type=click.Path(path_type=Path), default=None)
def setting(name: str | None, value: str | None, folder: Path | None) -> None:
    """Show the settings of a Waka that runs, or set one: setting language de."""
    with reporting_trouble(1):
        home, port = running(folder)
        with opened(home, port) as drive:
            if name is not None and value is not None:
                set_up.put(drive.database, name, value)
            for key, now in set_up.settings_now(drive.database).items():
                if name in (None, key):
                    shown = "; ".join(now) if isinstance(now, list) else now
                    click.echo(f"{key:<22} {shown!s:<20} {set_up.SETTINGS[key].what}")


@cli.command(context_settings={"ignore_unknown_options": True})
@click.argument("arguments", nargs=-1, type=click.UNPROCESSED)
def test(arguments: tuple[str, ...]) -> None:
    """Check everything: format, lint, types, layers, and all tests. ARGUMENTS go to pytest and skip the checks."""
    from waka.launch.checks import run_checks

    sys.exit(run_checks(list(arguments), _say))


@cli.command(context_settings={"ignore_unknown_options": True})
@click.argument("arguments", nargs=-1, type=click.UNPROCESSED)
def bench(arguments: tuple[str, ...]) -> None:
    """Run the benchmarks: [NAME…] [--json]."""
    sys.exit(subprocess.call([sys.executable, str(PROJECT / "bench" / "run.py"), *arguments]))


@cli.command(context_settings={"ignore_unknown_options": True}, hidden=True)
@click.argument("command", nargs=-1, required=True, type=click.UNPROCESSED)
def dev(command: tuple[str, ...]) -> None:
    """Run any command in the project's environment."""
    programs = Path(sys.executable).parent
    env = dict(os.environ) | {"PATH": f"{programs}:{os.environ.get('PATH', '')}"}
    sys.exit(subprocess.call(list(command), env=env, cwd=PROJECT))


def main() -> None:
    """Run the command line."""
    cli(prog_name="waka")


if __name__ == "__main__":
    main()
