"""`./waka scanner`: the simulated scanner drops scans of demo letters into the watched folder of an area."""

from datetime import date, timedelta
from pathlib import Path

import click

from waka.commands.running import home_argument, opened, reporting_trouble, running
from waka.demo.parties import PARTIES
from waka.launch.trouble import Trouble
from waka.store.postgres import watched

_FORMS = ("PDF", "TIFF", "JPEG", "PNG")
_ENDINGS = {"PDF": "pdf", "TIFF": "tif", "JPEG": "jpg", "PNG": "png"}
_MATTERS = (
    "Slipway inspection",
    "Berth renewal",
    "Change of address",
    "Reading of the meter",
    "Proofs of the handbook",
)


@click.command()
@home_argument
@click.option("--count", default=3, type=click.IntRange(1, 200), show_default=True, help="How many sheets to scan.")
@click.option("--seed", default=1, show_default=True, help="The same seed scans the same sheets.")
def scanner(folder: Path | None, count: int, seed: int) -> None:
    """Scan demo letters into a watched folder: skewed, grey, speckled, as scanners do."""
    # what sets pages and draws them takes a while to load: no other command needs it
    from waka.demo import papers
    from waka.simulators import scanner as device

    with reporting_trouble(1):
        with opened(*running(folder)) as drive:
            with drive.database.transaction() as conn:
                rows = watched.all_watched(conn)
            if not rows:
                raise Trouble(
                    "No folder is watched.", "A keeper sets one on the Arrivals screen, under “Watched folders”."
                )
            target = drive.watched / rows[0]["folder"]
        for number, condition in zip(range(count), device.random_conditions(seed), strict=False):
            party = PARTIES[(seed + number) % len(PARTIES)]
            day = date(2026, 3, 1) + timedelta(days=number % 20)
            sheet = papers.letter_pdf(
                party, day, _MATTERS[number % len(_MATTERS)], ["Please see to it before the season begins."]
            )
            form = _FORMS[number % len(_FORMS)]
            path = device.drop_into(
                target, f"SCAN{seed:02d}{number:04d}.{_ENDINGS[form]}", device.scan(sheet, condition, form=form)
            )
            click.echo(f"scanned {path}")
