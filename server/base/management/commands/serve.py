"""Brings the database up to date and serves the app, on this machine or to the phones of the house."""

import gc
import sqlite3
from argparse import ArgumentParser
from collections.abc import Callable
from importlib import import_module
from threading import Thread
from time import sleep

from django.conf import settings
from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError
from django.core.servers.basehttp import get_internal_wsgi_application
from django.db import DatabaseError

from care.book import load_book
from care.errors import CareError
from server.base import backup, clock, first, lan, live
from server.base.storage import analyse, applied_migrations, checkpoint, folder, is_behind, is_up_to_date, trouble_of

THREADS = 4
"""So many requests are answered at once, beside those who wait for news; `send_bytes` has news sent as they come."""
LOOK_AGAIN_S = 600.0
"""How often the running server looks whether the night's copy is due [s]."""


class Command(BaseCommand):
    """`python manage.py serve`."""

    help = (
        "Migrate, then serve the app; with the demo household and a shop when YPERON_DEMO=1, to the network with --lan."
    )

    def add_arguments(self, parser: ArgumentParser) -> None:
        """Where to listen."""
        parser.add_argument("--host", default="127.0.0.1")
        parser.add_argument("--port", type=int, default=8000)
        parser.add_argument("--lan", action="store_true", help="over https, to every device of this network")

    def handle(self, *, host: str, port: int, lan: bool, **options: object) -> None:
        """Serve until interrupted. Raises `CommandError` when the port is taken."""
        self._bring_up_to_date()
        self._get_ready()
        if not settings.DEMO_SIGN_IN:
            Thread(target=self._nightly, daemon=True, name="backups").start()
        if settings.DEMO_SIGN_IN:
            settings.SHOP = settings.SHOP or self._shop()
        try:
            run = self._to_the_house(port) if lan else self._here(host, port)
        except OSError as error:
            raise CommandError(f"Port {port} is taken ({error.strerror}). Use PORT=8001, say.") from error
        self.stdout.write(self._sign_in_hint())
        self.stdout.write("Stop it with Ctrl-C.")
        self.stdout.flush()
        try:
            run()
        finally:
            checkpoint()

    def _nightly(self) -> None:
        """A copy each night, while it serves. What goes wrong is told in the terminal, and tried again."""
        while True:
            try:
                if backup.is_due(clock.now()):
                    analyse()
                    made = backup.back_up()
                    self.stdout.write(f"Backed up: {made.file}")
            except (OSError, sqlite3.Error, CareError) as error:
                self.stderr.write(f"The night's backup could not be made: {error}. It is tried again.")
            sleep(LOOK_AGAIN_S)

    def _get_ready(self) -> None:
        """Read what the first page would wait for: the operations, and the care book."""
        import_module(settings.ROOT_URLCONF)
        load_book()
        gc.collect()
        gc.freeze()  # what stays until it ends is not looked through again for garbage while somebody waits

    def _bring_up_to_date(self) -> None:
        """Migrate and load the demo. A disk that takes nothing is told in words; what is there can still be read."""
        self._refuse_newer()
        try:
            if is_behind():
                self.stdout.write(f"Before the upgrade, everything was copied: {backup.back_up().file}")
            call_command("migrate", interactive=False, verbosity=0)
            call_command("catch_up")
            analyse()
            if settings.DEMO_SIGN_IN:
                call_command("load_demo")
        except (DatabaseError, OSError) as error:
            trouble = trouble_of(error)
            if trouble is None:
                raise
            self.stderr.write(f"{trouble.detail} {trouble.fix}\nThe records are kept in {folder()}.")
            if not is_up_to_date():
                raise CommandError("It cannot start before that, for the records are not there yet.") from error

    def _refuse_newer(self) -> None:
        """Leave alone what a newer Yperon wrote: this one would not understand it, and might spoil it."""
        try:
            newer = backup.unknown_migrations(applied_migrations())
        except DatabaseError:
            return  # what is wrong with it is told next
        if newer:
            raise CommandError(
                f"The records were written by a newer Yperon (they have {newer[0]}); nothing was touched."
                " Bring this one up to date, or restore a copy from before: manage.py backup --list"
            )

    def _shop(self) -> str:
        """The address of a made-up parts shop that opens beside the demo."""
        from standins.shop import opened

        return f"http://127.0.0.1:{opened().server_port}/offers.json"

    def _here(self, host: str, port: int) -> Callable[[], None]:
        from waitress.server import create_server

        server = create_server(
            get_internal_wsgi_application(), host=host, port=port, threads=THREADS + live.STREAMS, send_bytes=1
        )
        self.stdout.write(f"\nYperon is at http://{host}:{port}")
        return server.run  # type: ignore[no-any-return]

    def _to_the_house(self, port: int) -> Callable[[], None]:
        from cheroot.ssl.builtin import BuiltinSSLAdapter
        from cheroot.wsgi import Server

        hosts = lan.addresses()
        made = lan.certificate(settings.VAR_DIR / "lan", hosts)
        settings.ALLOWED_HOSTS = [*settings.ALLOWED_HOSTS, *hosts]
        settings.SESSION_COOKIE_SECURE = settings.CSRF_COOKIE_SECURE = True
        server = Server(("0.0.0.0", port), get_internal_wsgi_application(), numthreads=2 * THREADS + live.STREAMS)  # noqa: S104 - that is what --lan asks for
        server.ssl_adapter = BuiltinSSLAdapter(str(made.server), str(made.server))
        server.prepare()
        for host in hosts or ["127.0.0.1"]:
            self.stdout.write(f"\nYperon is at https://{host}:{port}")
        self.stdout.write(
            "\nA phone asks once whether to trust it: open the address, go on past the warning, and fetch"
            f"\n  https://{(hosts or ['127.0.0.1'])[0]}:{port}/authority.crt"
            "\nInstall that as a trusted authority (Settings, Security, Certificates; on some phones also switch it on"
            "\nunder Certificate Trust). It was made on this machine and is good for this house only. Without it the"
            "\napp works, but is not kept for use without a connection."
        )
        return server.serve

    def _sign_in_hint(self) -> str:
        if settings.DEMO_SIGN_IN:
            return "Sign in as {user_name} with password {password}.".format(**settings.DEMO_SIGN_IN)
        if not first.nobody_yet():
            return "Sign in there."
        return (
            "Nobody has an account yet: open it on this computer and make the first one,"
            f" or on another device with the code {first.code()}"
        )
