"""Logs runs from a table."""

from argparse import ArgumentParser
from pathlib import Path

from django.core.management.base import BaseCommand, CommandError

from care.errors import CareError
from server.document.runs import bring_runs, look_at_runs
from server.household.services import owner_of, the_household


class Command(BaseCommand):
    """`python manage.py import_runs FILE.csv [--household NAME] [--yes]`."""

    help = "Show what a table of runs (machine, day, minutes, started, mopped, id) would bring; with --yes log it."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """From where, into which household."""
        parser.add_argument("file", type=Path)
        parser.add_argument("--household", help="its name; not needed where there is one only")
        parser.add_argument("--yes", action="store_true", help="do it, not only look")

    def handle(self, *, file: Path, household: str | None, yes: bool, **options: object) -> None:
        """Look or log. Raises `CommandError` with what is wrong at which line."""
        try:
            member = owner_of(the_household(household))
            data = file.read_bytes()
            if yes:
                brought = bring_runs(member=member, data=data, name=file.name)
            else:
                brought = look_at_runs(member=member, data=data)
        except OSError as error:
            raise CommandError(f"{file} cannot be read: {error.strerror}.") from error
        except CareError as error:
            lines = [f"line {one['line']}: {one['problem']} {one['fix']}" for one in error.values.get("lines", ())]
            raise CommandError("\n".join(lines or [f"{error.detail} {error.fix}"])) from error
        for machine, count in brought.added.items():
            self.stdout.write(f"{machine}: {count} runs")
        self.stdout.write(f"{brought.known} are here already")
        self.stdout.write("Logged." if yes else "Nothing was kept. Say --yes to log them.")
