"""The app of this room."""

from django.apps import AppConfig


class DocumentConfig(AppConfig):
    """The household as a document."""

    name = "server.document"
