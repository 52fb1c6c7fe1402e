"""The app of this room."""

from importlib import import_module

from django.apps import AppConfig


class FaultsConfig(AppConfig):
    """Hears what other rooms tell, from the start on."""

    name = "server.faults"
    label = "trace"
    """What its tables are called; the room had that name."""

    def ready(self) -> None:
        """Connect the receivers."""
        import_module("server.faults.services")
