"""What is kept of a file; the bytes lie in the storage that the settings name."""

from __future__ import annotations

import secrets
from typing import IO

from django.conf import settings
from django.db import models
from django.utils import timezone

from jungoptic.app.productions.models import Production

FOLDER = "kept"


def path_of(stored: StoredFile, name: str) -> str:
    """A path that no other file has ever had, so that the bytes of one are never those of another."""
    day = timezone.now()
    return f"{FOLDER}/{day:%Y-%m}/{secrets.token_hex(16)}"


class LostFileError(Exception):
    """The storage has a file no more, though its row stands."""

    def __init__(self, name: str) -> None:
        super().__init__(
            f"“{name}” is not in the storage any more. Whoever runs this server can put it back from a"
            " backup."
        )


class StoredFile(models.Model):
    """A file of a production. Its bytes never change, and are kept once a production."""

    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="files")
    file = models.FileField(upload_to=path_of, max_length=80)
    name = models.CharField(
        max_length=200, help_text="What it was called when it came; it says nothing about what is in it."
    )
    kind = models.CharField(max_length=80, help_text="Media type, by content.")
    size_bytes = models.PositiveBigIntegerField()
    sha256 = models.CharField(max_length=64)
    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+"
    )
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["production", "sha256"], name="one_file_a_content")]

    @property
    def path(self) -> str:
        """Where in the storage it lies."""
        return str(self.file.name)

    def opened(self) -> IO[bytes]:
        """The content, to be read and closed. Raises LostFileError."""
        try:
            return self.file.storage.open(self.path)
        except FileNotFoundError:
            raise LostFileError(self.name) from None

    def read(self) -> bytes:
        """The whole content. Raises LostFileError."""
        with self.opened() as opened:
            return bytes(opened.read())
