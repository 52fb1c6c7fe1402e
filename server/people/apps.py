"""The app of this room."""

from importlib import import_module

from django.apps import AppConfig


class PeopleConfig(AppConfig):
    """People and how they get in."""

    name = "server.people"

    def ready(self) -> None:
        """Connect the receivers."""
        import_module("server.people.services")
