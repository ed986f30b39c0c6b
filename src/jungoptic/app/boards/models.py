"""The pictures of shots."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.db.models import Q

from jungoptic.app.files.models import StoredFile
from jungoptic.app.shots.models import Shot


class Board(models.Model):
    """The picture of a shot: a JPEG in the storage. A new one takes the place of the old, which is kept."""

    shot = models.ForeignKey(Shot, on_delete=models.CASCADE, related_name="boards")
    name = models.CharField(max_length=200)
    file = models.ForeignKey(StoredFile, on_delete=models.PROTECT, related_name="+")
    width_px = models.PositiveIntegerField()
    height_px = models.PositiveIntegerField()
    current = models.BooleanField(default=True)
    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+"
    )
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]
        constraints = [
            models.UniqueConstraint(fields=["shot"], condition=Q(current=True), name="one_board_a_shot")
        ]
