"""``lan``: make ready to be reached on the local network, and print what the processes need to know, a NAME
and its value a line.
"""

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from jungoptic.app.lan.addresses import own_addresses, own_name
from jungoptic.app.lan.authority import LanError, made_ready
from jungoptic.app.people.passwords import still_printed


class Command(BaseCommand):
    help = "Certificates for the local network; refuses while an account has the demo's printed password."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--folder", type=Path, required=True, help="Where the certificates are kept.")
        parser.add_argument("--port", required=True)
        parser.add_argument("--guide-port", required=True)
        parser.add_argument("addresses", nargs="*", help="Else all that this machine has.")

    def handle(self, *args: Any, **options: Any) -> None:
        if open_to_all := still_printed():
            raise CommandError(
                f"{', '.join(open_to_all)} still have the password that is printed everywhere. On a network"
                " others would come in. Give them passwords of their own first: ./run demo --lan"
                " --new-passwords (they are printed once)"
            )
        addresses = options["addresses"] or own_addresses()
        if not addresses:
            raise CommandError(
                "This machine has no address on a local network. Join one, or say which: ./run start --lan"
                " 192.168.1.20"
            )
        names = [*addresses, *filter(None, [own_name()])]
        inside = ["127.0.0.1", "localhost", "::1"]
        try:
            files = made_ready(options["folder"], list(dict.fromkeys([*names, *inside])))
        except LanError as error:
            raise CommandError(str(error)) from None
        first = addresses[0]
        values = {
            "JUNGOPTIC_HOSTS": ",".join([*names, "127.0.0.1", "localhost", "[::1]"]),
            "JUNGOPTIC_ADDRESS": f"https://{first}:{options['port']}/",
            "JUNGOPTIC_GUIDE": f"http://{first}:{options['guide_port']}/",
            "JUNGOPTIC_AUTHORITY": files.authority,
            "JUNGOPTIC_CERTIFICATE": files.server,
            "JUNGOPTIC_CERTIFICATE_KEY": files.server_key,
        }
        for name, value in values.items():
            self.stdout.write(f"{name}={value}")
