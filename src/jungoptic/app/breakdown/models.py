"""What the wall remembers of each shot."""

from __future__ import annotations

from django.contrib.postgres.fields import ArrayField
from django.db import models

from jungoptic.app.shots.models import Shot


class Summary(models.Model):
    """What the wall shows of a shot, worked out once for each version of it: verdicts and hours by craft."""

    shot = models.ForeignKey(Shot, on_delete=models.CASCADE, related_name="summaries")
    school = models.CharField(max_length=8)
    version = models.PositiveIntegerField()
    revision = models.PositiveIntegerField()
    layers = models.PositiveSmallIntegerField()
    filmed = models.PositiveSmallIntegerField()
    shot_layers = models.PositiveSmallIntegerField()
    shows = models.PositiveSmallIntegerField()
    tight = models.PositiveSmallIntegerField()
    holds = models.PositiveSmallIntegerField()
    hero = models.CharField(max_length=80, blank=True)
    worst = models.CharField(max_length=120, blank=True)
    way = models.CharField(max_length=12, blank=True)
    hours = ArrayField(models.FloatField(), help_text="By craft, in core's order.")
    storage_gb = models.FloatField(default=0)
    cut_side = models.JSONField(null=True, help_text="What the cut compares: core's CutSide.")
    fault = models.CharField(max_length=300, blank=True, help_text="Why it could not be worked out.")
    hazards = ArrayField(models.CharField(max_length=24), default=list)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["shot", "school"], name="one_summary_a_school")]
