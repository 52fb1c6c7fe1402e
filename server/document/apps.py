"""The app of this room."""

from importlib import import_module

from django.apps import AppConfig


class DocumentConfig(AppConfig):
    """The household as a document."""

    name = "server.document"

    def ready(self) -> None:
        """Connect the receivers."""
        import_module("server.document.runs")
