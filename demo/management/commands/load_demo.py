"""Loads the demo household into an empty database; does nothing when it is there."""

from argparse import ArgumentParser

from django.conf import settings
from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand
from django.db import transaction

from demo.quillgate import load
from server.base import clock


class Command(BaseCommand):
    """`python manage.py load_demo`."""

    help = "Load the demo household, Quillgate 9, unless it is there."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """The sign-in of the demo household."""
        sign_in = settings.DEMO_SIGN_IN or {"user_name": "keeper", "password": "quillgate"}
        parser.add_argument("--user-name", default=sign_in["user_name"])
        parser.add_argument("--password", default=sign_in["password"])

    def handle(self, *, user_name: str, password: str, **options: object) -> None:
        """Load it in one transaction."""
        if get_user_model().objects.filter(username=user_name).exists():
            self.stdout.write("The demo household is loaded.")
            return
        self.stdout.write("Quillgate 9 lives through its fourteen months, a quarter of a minute or so ...")
        self.stdout.flush()
        with transaction.atomic():
            member = load(now=clock.now(), user_name=user_name, password=password)
        self.stdout.write(f"Loaded {member.household.name}.")
