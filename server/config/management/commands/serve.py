"""Brings the database up to date and serves the app on this machine."""

from argparse import ArgumentParser

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError


class Command(BaseCommand):
    """`python manage.py serve`."""

    help = "Migrate, then serve the app; with the demo household when YPERON_DEMO=1."

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Where to listen."""
        parser.add_argument("--host", default="127.0.0.1")
        parser.add_argument("--port", type=int, default=8000)

    def handle(self, *, host: str, port: int, **options: object) -> None:
        """Serve until interrupted. Raises `CommandError` when the port is taken."""
        from waitress.server import create_server

        from server.config.wsgi import application

        call_command("migrate", interactive=False, verbosity=0)
        if settings.DEMO_SIGN_IN:
            call_command("load_demo")
        try:
            server = create_server(application, host=host, port=port, threads=4)
        except OSError as error:
            raise CommandError(f"Port {port} on {host} is taken ({error.strerror}). Use PORT=8001, say.") from error
        self.stdout.write(f"\nYperon is at http://{host}:{port}")
        self.stdout.write(self._sign_in_hint())
        self.stdout.write("Stop it with Ctrl-C.")
        self.stdout.flush()
        server.run()

    def _sign_in_hint(self) -> str:
        if settings.DEMO_SIGN_IN:
            return "Sign in as {user_name} with password {password}.".format(**settings.DEMO_SIGN_IN)
        return "Make a household with: .venv/bin/python manage.py add_household --help"
