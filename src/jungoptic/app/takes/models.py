"""What was really shot, and what was judged of it. Takes are recorded once; only their circle changes, and
what of their frames stands for what was logged.
"""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.db.models import Q

from jungoptic.app.shots.camera import CameraSettings
from jungoptic.app.shots.models import Layer
from jungoptic.core import match as core


class Take(CameraSettings):
    """One recording of a layer's set-up, with what it was really set to. Distances are to the nearest layer
    that the set-up serves.

    ``filmed`` and ``planned`` are core's set-ups for this layer, lamps and backing in them: as it was, and
    as the crew was shown it. ``facts`` is everything else that it was judged with (core's Facts). They are
    written with the take and never again.
    """

    class Filled(models.TextChoices):
        """Where settings come from that nobody sent."""

        NOTHING = "", "Everything was shown or sent."
        PLAN = "plan", "The plan as it stood when the take arrived."
        LATER = "later", "The plan as it stood when facts began to be kept, long after the take."

    layer = models.ForeignKey(Layer, on_delete=models.PROTECT, related_name="takes")
    slate = models.CharField(max_length=16)
    number = models.PositiveSmallIntegerField()
    slate_code = models.CharField(
        max_length=8,
        blank=True,
        db_index=True,
        help_text="What the code on the slate said; empty without one.",
    )
    slate_number = models.PositiveSmallIntegerField(
        null=True, blank=True, help_text="Which take the telephone called it before the server numbered it."
    )
    circled = models.BooleanField(default=False)
    note = models.TextField(blank=True)
    rolled_s = models.FloatField(null=True, blank=True, help_text="By the steps; empty = not by them.")
    marks = models.JSONField(default=list, help_text="Touched while it rolled: seconds, and at which step.")
    in_it = models.CharField(max_length=80, blank=True, help_text="Who was in it.")
    recorded_at = models.DateTimeField()
    arrived_at = models.DateTimeField(auto_now_add=True)
    recorded_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    shown = models.BigIntegerField(
        null=True,
        blank=True,
        help_text="The newest entry of the history that the plan on the telephone had in it.",
    )
    filled = models.CharField(max_length=5, choices=Filled, blank=True, default=Filled.NOTHING)
    filmed = models.JSONField(null=True)
    planned = models.JSONField(null=True)
    facts = models.JSONField(null=True)
    measured = models.JSONField(
        default=dict, help_text="What its frames tell of its camera and key, where that is the reference."
    )
    version = models.PositiveIntegerField(default=1)

    class Meta(CameraSettings.Meta):
        ordering = ["layer", "number"]
        constraints = [
            *CameraSettings.Meta.constraints,
            models.UniqueConstraint(fields=["layer", "number"], name="one_take_of_a_number"),
            models.UniqueConstraint(
                fields=["layer"], condition=Q(circled=True), name="one_circled_take_a_layer"
            ),
        ]

    @property
    def name(self) -> str:
        return f"{self.layer.name}, take {self.number}"

    def fact(self) -> core.SetUp | None:
        """Core's set-up of this take, read once; None for a take from before facts were kept."""
        found: core.SetUp | None = self.__dict__.get("_fact")
        if found is None and self.filmed is not None:
            found = self.__dict__["_fact"] = core.SetUp.read(self.filmed)
        return found


class Judging(models.Model):
    """One time that a take was judged: when, and against which hero: the plan (no take) or a circled hero
    take.
    """

    take = models.ForeignKey(Take, on_delete=models.CASCADE, related_name="judgings")
    at = models.DateTimeField(auto_now_add=True)
    against = models.ForeignKey(Take, on_delete=models.PROTECT, null=True, blank=True, related_name="+")

    class Meta:
        ordering = ["take", "id"]


class TakeVerdict(models.Model):
    """One item as it was given: the amount, the limits of both schools, and what was said, in both systems of
    units.
    """

    judging = models.ForeignKey(Judging, on_delete=models.CASCADE, related_name="verdicts")
    item = models.CharField(max_length=24)
    label = models.CharField(max_length=60)
    amount = models.FloatField()
    unit = models.CharField(max_length=8)
    holds = models.FloatField()
    tight = models.FloatField()
    verdict = models.CharField(max_length=8)
    covered_holds = models.FloatField()
    covered_verdict = models.CharField(max_length=8)
    counts = models.BooleanField(default=True, help_text="No: it informs only, or somebody had accepted it.")
    where_metric = models.CharField(max_length=200, blank=True)
    where_imperial = models.CharField(max_length=200, blank=True)
    sentence_metric = models.TextField(blank=True)
    sentence_imperial = models.TextField(blank=True)
    to_do_metric = models.CharField(max_length=200, blank=True)
    to_do_imperial = models.CharField(max_length=200, blank=True)

    class Meta:
        ordering = ["judging", "id"]
