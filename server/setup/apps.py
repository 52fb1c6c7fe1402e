"""The app of this room."""

from importlib import import_module

from django.apps import AppConfig


class SetupConfig(AppConfig):
    """Hears what other rooms tell, from the start on."""

    name = "server.setup"

    def ready(self) -> None:
        """Connect the receivers."""
        import_module("server.setup.overrides")
