"""Makes a copy of everything, also while the app is in use."""

from argparse import ArgumentParser
from pathlib import Path

from django.core.management.base import BaseCommand, CommandError

from care.errors import CareError
from server.base import backup
from server.base.storage import trouble_of


class Command(BaseCommand):
    """`python manage.py backup [--to FILE] [--list]`."""

    help = "Copy the whole database, read the copy back, and leave out what is older than a year."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Where to, or what there is."""
        parser.add_argument(
            "--to", type=Path, help="a file of your own, say on another disk; nothing is left out there"
        )
        parser.add_argument("--list", action="store_true", help="tell which copies there are")

    def handle(self, *, to: Path | None, list: bool, **options: object) -> None:
        """Copy, and tell. Raises `CommandError` where the disk takes nothing."""
        if list:
            for one in backup.backups():
                self.stdout.write(f"{one.at:%Y-%m-%d %H:%M} UTC  {size(one.size):>8}  {one.file}")
            return
        try:
            made = backup.back_up(to)
        except CareError as error:
            raise CommandError(f"{error.detail}. {error.fix}") from error
        except OSError as error:
            trouble = trouble_of(error)
            raise CommandError(f"{trouble.detail} {trouble.fix}" if trouble else str(error)) from error
        self.stdout.write(f"{made.file}, {size(made.size)}")


def size(count: int) -> str:
    """Bytes in words.

    >>> size(8_400_000)
    '8.4 MB'
    """
    return f"{count / 1e6:.1f} MB" if count < 1e9 else f"{count / 1e9:.1f} GB"
