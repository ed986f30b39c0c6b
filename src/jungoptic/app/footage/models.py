"""Cards of cameras: what was read of their files, and which take each file was filed to."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from jungoptic.app.files.models import StoredFile
from jungoptic.app.productions.models import Production
from jungoptic.app.takes.models import Take


class Card(models.Model):
    """A folder into which a camera wrote, as it was read. Nothing in it is ever changed."""

    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="cards")
    place = models.CharField(max_length=1000, help_text="The folder, on the machine that runs this.")
    name = models.CharField(max_length=200)
    read_at = models.DateTimeField(null=True)
    read_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    others = models.PositiveIntegerField(default=0, help_text="Files in it that are no recordings.")
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["-read_at", "-id"]
        constraints = [
            models.UniqueConstraint(fields=["production", "place"], name="one_card_a_folder"),
        ]

    def __str__(self) -> str:
        return self.name


class Recording(models.Model):
    """A file of a card. ``says`` is what was read of it; ``fault`` what is wrong with it, in words.

    A file that is not in the folder any more stays known where it was filed or copied; one that has its path
    since (the card was used again) is another.
    """

    class By(models.TextChoices):
        """How it was known whose it is."""

        CODE = "code", "By its slate."
        TIME = "time", "By its time, and somebody agreed."
        SETTINGS = "settings", "By what it was recorded with, and somebody agreed."
        HAND = "hand", "Somebody said so."
        NOBODY = "", "It is not filed."

    card = models.ForeignKey(Card, on_delete=models.CASCADE, related_name="recordings")
    path = models.CharField(max_length=1000, help_text="Within the folder.")
    size_bytes = models.BigIntegerField()
    modified = models.FloatField(help_text="Seconds since 1970, as the folder has it.")
    here = models.BooleanField(default=True, help_text="It was in the folder when that was last read.")
    fault = models.TextField(blank=True)
    says = models.JSONField(default=dict)
    picture = models.ForeignKey(StoredFile, on_delete=models.PROTECT, null=True, related_name="+")
    take = models.ForeignKey(Take, on_delete=models.PROTECT, null=True, related_name="recordings")
    filed_by = models.CharField(max_length=8, choices=By, blank=True, default=By.NOBODY)
    sha256 = models.CharField(max_length=64, blank=True)
    copied_to = models.CharField(max_length=1000, blank=True, help_text="Within the folder of footage.")
    copied_at = models.DateTimeField(null=True)

    class Meta:
        ordering = ["card", "path"]
        constraints = [
            models.UniqueConstraint(
                fields=["card", "path", "size_bytes", "modified"], name="one_row_a_recording"
            )
        ]

    def __str__(self) -> str:
        return self.name

    @property
    def name(self) -> str:
        return self.path.rsplit("/", 1)[-1]
