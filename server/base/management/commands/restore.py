"""Puts a copy in the place of the records, after a look inside."""

from argparse import ArgumentParser
from pathlib import Path

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError

from care.errors import CareError
from server.base import backup


class Command(BaseCommand):
    """`python manage.py restore FILE [--yes]`."""

    help = "Show what a copy holds; with --yes put it in the place of the records, which are backed up before."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Which copy, and whether it is meant."""
        parser.add_argument("file", type=Path)
        parser.add_argument("--yes", action="store_true", help="do it, not only look")

    def handle(self, *, file: Path, yes: bool, **options: object) -> None:
        """Look, then restore. Raises `CommandError` for a file that is no copy of ours."""
        try:
            inside = backup.look(file)
            for name, machines in inside.households:
                self.stdout.write(f"{name}: {machines} machines")
            self.stdout.write(f"{inside.records} records, the last of {inside.last_record or 'no day'}")
            if not yes:
                self.stdout.write("Nothing was changed. Say --yes to put it in the place of what is there now.")
                return
            before = backup.restore(file)
        except CareError as error:
            raise CommandError(f"{error.detail}. {error.fix}") from error
        call_command("migrate", interactive=False, verbosity=0)
        self.stdout.write("Restored.")
        if before is not None:
            self.stdout.write(f"What was there before is kept: manage.py restore {before.file} --yes")
