"""Photographs of a set at the camera."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from jungoptic.app.files.models import StoredFile
from jungoptic.app.shots.models import Layer
from jungoptic.app.takes.models import Take
from jungoptic.core.vocabulary import STILLS


class Still(models.Model):
    """A photograph of a layer's set, as a rule of what one take left behind: the liquid's level, the pose."""

    layer = models.ForeignKey(Layer, on_delete=models.PROTECT, related_name="stills")
    take = models.ForeignKey(Take, on_delete=models.PROTECT, null=True, related_name="stills")
    of = models.CharField(max_length=6, choices=list(STILLS.items()))
    note = models.CharField(max_length=120, blank=True)
    file = models.ForeignKey(StoredFile, on_delete=models.PROTECT, related_name="+")
    width_px = models.PositiveIntegerField()
    height_px = models.PositiveIntegerField()
    photographed_at = models.DateTimeField()
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    removed = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["-photographed_at", "-id"]

    @property
    def name(self) -> str:
        return f"{STILLS[self.of]}, {self.take.name if self.take else self.layer.name}"  # type: ignore[index]
