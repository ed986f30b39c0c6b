"""Put a backup in the place of what is there."""

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from jungoptic.app.backup.archive import BackupError
from jungoptic.app.backup.restoring import restore


class Command(BaseCommand):
    help = "Put a backup in the place of what is there: checked first, and never over something unless told."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)
        parser.add_argument("--over", action="store_true", help="Something is there already: take its place.")

    def handle(self, *args: Any, file: Path, over: bool, **options: Any) -> None:
        try:
            listed = restore(file, over=over, say=lambda told: self.stderr.write(f"· {told}"))
        except BackupError as error:
            raise CommandError(str(error)) from None
        self.stdout.write(f"Restored as it was on {listed.made_at}.")
