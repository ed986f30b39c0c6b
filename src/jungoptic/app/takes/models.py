"""What was really shot, and what was judged of it. Takes are recorded once; only their circle changes."""

from django.conf import settings
from django.db import models
from django.db.models import Q

from jungoptic.app.shots.models import CameraSettings, Layer


class Take(CameraSettings):
    """One recording of a layer's set-up, with what it was really set to."""

    layer = models.ForeignKey(Layer, on_delete=models.PROTECT, related_name="takes")
    slate = models.CharField(max_length=16)
    number = models.PositiveSmallIntegerField()
    circled = models.BooleanField(default=False)
    note = models.TextField(blank=True)
    recorded_at = models.DateTimeField()
    recorded_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    version = models.PositiveIntegerField(default=1)

    class Meta(CameraSettings.Meta):
        ordering = ["layer", "number"]
        constraints = [
            *CameraSettings.Meta.constraints,
            models.UniqueConstraint(fields=["layer", "number"], name="one_take_of_a_number"),
            models.UniqueConstraint(fields=["layer"], condition=Q(circled=True), name="one_circled_take_a_layer"),
        ]


class TakeVerdict(models.Model):
    """One item as it was judged, when, and against which hero: the plan (no take) or a circled hero take."""

    take = models.ForeignKey(Take, on_delete=models.CASCADE, related_name="verdicts")
    judged_at = models.DateTimeField()
    against = models.ForeignKey(Take, on_delete=models.PROTECT, null=True, blank=True, related_name="+")
    item = models.CharField(max_length=24)
    amount = models.FloatField()
    unit = models.CharField(max_length=8)
    holds = models.FloatField()
    tight = models.FloatField()
    verdict = models.CharField(max_length=8)

    class Meta:
        ordering = ["take", "judged_at", "id"]
        indexes = [models.Index(fields=["take", "judged_at"])]
