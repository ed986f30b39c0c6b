"""``lan_where``: how others come here, as it is printed in the terminal."""

import os
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand

from jungoptic.app.base import qr
from jungoptic.app.lan.authority import fingerprint, read


class Command(BaseCommand):
    help = "Print the addresses, a code to photograph, and the sum of the certificate."

    def handle(self, *args: Any, **options: Any) -> None:
        sum_of_it = fingerprint(read(Path(os.environ["JUNGOPTIC_AUTHORITY"])))
        self.stdout.write(
            f"\n  Others on this network   {os.environ['JUNGOPTIC_ADDRESS']}\n"
            f"  First, once a device     {os.environ['JUNGOPTIC_GUIDE']}   (or photograph this)\n"
        )
        self.stdout.write(qr.terminal(os.environ["JUNGOPTIC_GUIDE"]))
        self.stdout.write(f"  Certificate, SHA-256     {sum_of_it[:47]}\n{' ' * 27}{sum_of_it[48:]}\n")
