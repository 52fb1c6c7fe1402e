"""The app of this room."""

from importlib import import_module

from django.apps import AppConfig


class BenchConfig(AppConfig):
    """Hears what other rooms tell, from the start on."""

    name = "server.bench"

    def ready(self) -> None:
        """Connect the receivers."""
        import_module("server.bench.opening")
