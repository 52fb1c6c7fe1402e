"""Letting phones of the house in: the addresses of this machine, and a certificate made here for them.

A browser keeps a page for use without a connection, keeps the screen on and opens the camera only where the connection
is encrypted. Nobody signs for an address in a house, so this machine makes an authority of its own, once, which a phone
is told to trust; each start makes a certificate for the addresses of the day.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from pathlib import Path

AUTHORITY, KEY, CERTIFICATE = "authority.crt", "authority.key", "server.pem"


@dataclass(frozen=True, slots=True)
class Certificate:
    """Files: what this machine shows, and the authority that a phone is told to trust."""

    server: Path
    authority: Path


def addresses() -> list[str]:
    """The addresses at which other machines of the network reach this one."""
    import ifaddr

    found = [ip.ip for adapter in ifaddr.get_adapters() for ip in adapter.ips if isinstance(ip.ip, str)]
    return [address for address in found if not address.startswith(("127.", "169.254."))]


def certificate(folder: Path, hosts: Iterable[str]) -> Certificate:
    """A certificate for `hosts`, signed by the authority kept in `folder`, which is made when it is not there."""
    import trustme

    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    authority, key, server = folder / AUTHORITY, folder / KEY, folder / CERTIFICATE
    if authority.exists() and key.exists():
        signer = trustme.CA.from_pem(authority.read_bytes(), key.read_bytes())
    else:
        signer = trustme.CA(organization_name="Yperon", organization_unit_name="this house only")
        key.touch(mode=0o600)
        key.write_bytes(signer.private_key_pem.bytes())
        authority.write_bytes(signer.cert_pem.bytes())
    server.touch(mode=0o600)
    server.write_bytes(signer.issue_cert("localhost", *hosts).private_key_and_cert_chain_pem.bytes())
    return Certificate(server, authority)
