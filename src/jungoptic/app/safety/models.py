"""Cautions that were signed off."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.db.models import Q

from jungoptic.app.shots.models import Shot


class SignOff(models.Model):
    """A caution that the supervisor has signed off for a shot: everybody who must be asked was asked."""

    shot = models.ForeignKey(Shot, on_delete=models.CASCADE, related_name="sign_offs")
    caution = models.CharField(max_length=24)
    note = models.CharField(max_length=300)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    withdrawn = models.BooleanField(default=False)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(
                fields=["shot", "caution"], condition=Q(withdrawn=False), name="signed_once"
            )
        ]
