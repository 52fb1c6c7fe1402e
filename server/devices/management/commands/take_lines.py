"""Takes in lines of a device from a file, as it would post them."""

from argparse import ArgumentParser
from collections import Counter
from pathlib import Path

from django.core.management.base import BaseCommand, CommandError

from care.errors import CareError
from server.devices.ingest import Status, take_in
from server.devices.lines import lines_of
from server.devices.services import devices_of
from server.household.services import owner_of, the_household


class Command(BaseCommand):
    """`python manage.py take_lines FILE --device NAME [--household NAME]`."""

    help = "Take in lines of a device from a file: a JSON list, or one JSON object on each line (docs/devices.md)."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Which file, and whose lines they are."""
        parser.add_argument("file", type=Path)
        parser.add_argument("--device", required=True, help="its name, as Household has it")
        parser.add_argument("--household", help="its name; not needed where there is one only")

    def handle(self, *, file: Path, device: str, household: str | None, **options: object) -> None:
        """Take them in and tell. Raises `CommandError` for a file that cannot be read, or no such device."""
        try:
            known = devices_of(owner_of(the_household(household)))
            sent = lines_of(file.read_text(encoding="utf-8-sig"))
        except CareError as error:
            raise CommandError(f"{error.detail} {error.fix}") from error
        except (OSError, ValueError) as error:
            raise CommandError(f"{file} cannot be read: {error}") from error
        called = [one for one in known if one.name == device]
        if len(called) != 1:
            names = ", ".join(one.name for one in known) or "none"
            raise CommandError(f"{len(called)} devices are called {device!r}. There are: {names}")
        answers = take_in(called[0], sent, most=len(sent))
        counts = Counter(one.status for one in answers)
        self.stdout.write(", ".join(f"{counts[status]} {status}" for status in Status))
        for one in answers:
            if one.problem:
                self.stdout.write(f"line {one.line}: {one.problem} {one.fix}".rstrip())
