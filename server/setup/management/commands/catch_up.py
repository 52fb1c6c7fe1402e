"""Gives machines the parts that the care book knows of their kinds by now."""

from django.core.management.base import BaseCommand

from server.setup.bookparts import catch_up


class Command(BaseCommand):
    """`python manage.py catch_up`."""

    help = "Give every machine the parts that the care book knows of its kind by now; `serve` does so at its start."

    def handle(self, **options: object) -> None:
        """One line a part."""
        for machine, slot in catch_up():
            self.stdout.write(f"{machine}: {slot}, of unknown age; a look settles it.")
