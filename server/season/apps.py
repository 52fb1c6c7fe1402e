"""The app of this room."""

from django.apps import AppConfig


class SeasonConfig(AppConfig):
    """Plans of a season."""

    name = "server.season"
