"""What this machine is called on its local network."""

from __future__ import annotations

import re
import socket
from contextlib import suppress
from ipaddress import ip_address

from jungoptic.app.lan.authority import is_local

# Nothing is sent: the system only says by which of its own addresses it would.
_TOWARDS = ("192.168.255.254", "10.255.255.254", "172.31.255.254", "192.0.2.254")


def own_addresses() -> list[str]:
    """The addresses by which others on the local network reach this machine, the likeliest first."""
    found = [address for address in map(_by_which, _TOWARDS) if address]
    with suppress(OSError):
        found += socket.gethostbyname_ex(socket.gethostname())[2]
    return [
        one for one in dict.fromkeys(found) if is_local(ip_address(one)) and not ip_address(one).is_loopback
    ]


def _by_which(towards: str) -> str | None:
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as asked:
        try:
            asked.connect((towards, 9))
            return str(asked.getsockname()[0])
        except OSError:
            return None


def own_name() -> str | None:
    """The name by which devices find it that ask around (RFC 6762), where it is one."""
    name = socket.gethostname().partition(".")[0].lower()
    return f"{name}.local" if re.fullmatch(r"[a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?", name) else None
