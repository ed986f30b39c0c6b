"""Keep everything in one file."""

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from jungoptic.app.backup.archive import BackupError
from jungoptic.app.backup.making import back_up


class Command(BaseCommand):
    help = "Keep the database and all stored files in one file, checked; everybody may go on meanwhile."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, file: Path, **options: Any) -> None:
        try:
            listed = back_up(file, lambda told: self.stderr.write(f"· {told}"))
        except BackupError as error:
            raise CommandError(str(error)) from None
        rows = sum(listed.rows.values())
        self.stdout.write(
            f"{file}: {rows} rows, {len(listed.members) - 1} files, {file.stat().st_size / 1e6:.1f} MB,"
            " checked."
        )
