"""Measurements of one's own kit, and what each of their pictures told."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from jungoptic.app.kit.models import Lamp, Lens, RecordingMode
from jungoptic.app.productions.models import Production


class Measurement(models.Model):
    """One measurement of a lens, a recording or a lamp, taken with a recording of a camera.

    ``kept`` is what came of it when it was taken into the kit, with what was there before.
    """

    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="measurements")
    name = models.CharField(max_length=120)
    kind = models.CharField(max_length=12)
    mode = models.ForeignKey(RecordingMode, on_delete=models.PROTECT, related_name="+")
    lens = models.ForeignKey(Lens, on_delete=models.PROTECT, null=True, related_name="+")
    lamp = models.ForeignKey(Lamp, on_delete=models.PROTECT, null=True, related_name="+")
    asked = models.JSONField(default=dict)
    begun_at = models.DateTimeField(auto_now_add=True)
    begun_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    kept = models.JSONField(null=True)
    kept_at = models.DateTimeField(null=True)
    removed = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["-begun_at", "-id"]

    def __str__(self) -> str:
        return self.name


class MeasuredPicture(models.Model):
    """What a picture told; the picture itself is not kept."""

    measurement = models.ForeignKey(Measurement, on_delete=models.CASCADE, related_name="pictures")
    name = models.CharField(max_length=200)
    told = models.JSONField(default=dict)
    stops = models.FloatField(null=True, help_text="Over the metered exposure, in a series.")
    removed = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.name
