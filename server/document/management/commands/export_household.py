"""Takes a household out as one document."""

from argparse import ArgumentParser
from pathlib import Path

from django.core.management.base import BaseCommand, CommandError

from care.errors import CareError
from server.document.taking_out import packed, plain
from server.household.services import the_household


class Command(BaseCommand):
    """`python manage.py export_household FILE [--household NAME]`."""

    help = "Write a household into a file: .zip with its pictures, .json without."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Where to, and which."""
        parser.add_argument("file", type=Path)
        parser.add_argument("--household", help="its name; not needed where there is one only")

    def handle(self, *, file: Path, household: str | None, **options: object) -> None:
        """Write it; a file that is there is only replaced once the new one is whole. Raises `CommandError`."""
        try:
            house = the_household(household)
        except CareError as error:
            raise CommandError(error.detail) from error
        part = file.with_name(file.name + ".part")
        try:
            with part.open("wb") as into:
                (packed if file.suffix == ".zip" else plain)(house.pk, into)
            part.replace(file)
        except OSError as error:
            raise CommandError(f"{file} cannot be written: {error.strerror}.") from error
        finally:
            part.unlink(missing_ok=True)
        self.stdout.write(f"{house.name}: {file}, {file.stat().st_size / 1e6:.1f} MB")
