"""Brings a household in from a document, after a look."""

from argparse import ArgumentParser
from getpass import getpass
from pathlib import Path

from django.contrib.auth.models import User
from django.core.management.base import BaseCommand, CommandError

from care.errors import CareError
from server.document.bringing_in import Brought, bring_in, look
from server.document.parcel import opened
from server.household.services import make_account


class Command(BaseCommand):
    """`python manage.py import_household FILE --user-name NAME [--me NAME] [--yes]`."""

    help = "Show what a file would bring; with --yes bring it in, all of it or nothing."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """From where, and as whom."""
        parser.add_argument("file", type=Path)
        parser.add_argument("--user-name", required=True, help="the account that brings it in; made if there is none")
        parser.add_argument("--me", help="who that is among the people of the file")
        parser.add_argument("--yes", action="store_true", help="do it, not only look")

    def handle(self, *, file: Path, user_name: str, me: str | None, yes: bool, **options: object) -> None:
        """Look, then bring it in. Raises `CommandError` with what is wrong at which line."""
        try:
            user = User.objects.filter(username=user_name).first() or make_account(user_name, getpass("Password: "))
            with file.open("rb") as read:
                parcel = opened(read)
                brought = look(user=user, parcel=parcel)
                self._tell(brought)
                if not yes:
                    self.stdout.write("Nothing was kept. Say --yes to bring it in.")
                    return
                mine = next((pk for pk, name in brought.people if name == me), None)
                bring_in(user=user, parcel=parcel, name=file.name, me=mine)
        except OSError as error:
            raise CommandError(f"{file} cannot be read: {error.strerror}.") from error
        except CareError as error:
            lines = [f"line {one['line']}: {one['problem']}" for one in error.values.get("lines", ())]
            raise CommandError("\n".join([f"{error.detail} {error.fix}", *lines])) from error
        self.stdout.write("Brought in.")

    def _tell(self, brought: Brought) -> None:
        self.stdout.write(f"{brought.name}: {'new here' if brought.new else 'here already'}")
        for what, count in brought.added.items():
            self.stdout.write(f"  {count} {what} are added")
        self.stdout.write(f"  {brought.known} records are here already")
        for words in brought.stays:
            self.stdout.write(f"  {words}")
        if brought.without_picture:
            self.stdout.write(f"  {brought.without_picture} pictures are not in this file; a .zip has them")
