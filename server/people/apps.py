"""The app of this room."""

from django.apps import AppConfig


class PeopleConfig(AppConfig):
    """People and how they get in."""

    name = "server.people"
