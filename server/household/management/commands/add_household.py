"""Makes a household with its first owner."""

from argparse import ArgumentParser
from getpass import getpass

from django.core.management.base import BaseCommand, CommandError

from care.errors import CareError
from server.household.services import create_household


class Command(BaseCommand):
    """`python manage.py add_household "Our house" --user-name ash`."""

    help = "Make a household with its first owner; asks for the password."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """What the household and its owner are called."""
        parser.add_argument("name")
        parser.add_argument("--user-name", required=True)
        parser.add_argument("--person", help="the name shown in records; the user name if not given")
        parser.add_argument("--time-zone", default="UTC", help="an IANA name such as Europe/Dublin")

    def handle(self, *, name: str, user_name: str, person: str | None, time_zone: str, **options: object) -> None:
        """Make it. Raises `CommandError` saying which value is wrong."""
        password = getpass("Password: ")
        try:
            create_household(
                name=name, time_zone=time_zone, user_name=user_name, password=password, person=person or user_name
            )
        except CareError as error:
            raise CommandError(f"{error.detail}. {error.fix}") from error
        self.stdout.write(f"{name} is made. Sign in as {user_name}.")
