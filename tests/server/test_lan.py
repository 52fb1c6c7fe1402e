"""Letting phones in: a certificate for the addresses of the day, signed by an authority made once."""

import ssl
from pathlib import Path
from tempfile import TemporaryDirectory

from django.test import Client, SimpleTestCase, override_settings

from server.base import lan


class ACertificate(SimpleTestCase):
    def setUp(self):
        self.folder = Path(self.enterContext(TemporaryDirectory())) / "lan"

    def test_names_the_addresses_and_is_signed_by_what_a_phone_trusts_also_tomorrow(self):
        first = lan.certificate(self.folder, ["192.0.2.7"])
        authority = first.authority.read_bytes()
        second = lan.certificate(self.folder, ["192.0.2.8"])
        self.assertEqual(second.authority.read_bytes(), authority, "phones need not be told again")
        trust = ssl.create_default_context(cafile=str(second.authority))
        self.assertTrue(trust.get_ca_certs())
        ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER).load_cert_chain(second.server)

    def test_keeps_its_keys_to_itself(self):
        made = lan.certificate(self.folder, ["192.0.2.7"])
        for file in (self.folder / lan.KEY, made.server):
            self.assertEqual(file.stat().st_mode & 0o077, 0, file.name)

    def test_can_be_fetched_once_it_is_there(self):
        with override_settings(VAR_DIR=self.folder.parent):
            self.assertEqual(Client().get("/authority.crt").status_code, 404)
            made = lan.certificate(self.folder, ["192.0.2.7"])
            self.assertEqual(Client().get("/authority.crt").content, made.authority.read_bytes())

    def test_other_machines_do_not_reach_this_one_by_its_own_loop(self):
        self.assertFalse([a for a in lan.addresses() if a.startswith("127.")])
