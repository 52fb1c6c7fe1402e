"""The app of this room."""

from django.apps import AppConfig


class DevicesConfig(AppConfig):
    """Devices that report by themselves."""

    name = "server.devices"
