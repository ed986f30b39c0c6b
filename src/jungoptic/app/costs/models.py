"""What was said of a shot's costs, and what a production reckons with."""

from __future__ import annotations

from django.db import models

from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import Shot
from jungoptic.core import breakdown as core


class Costing(models.Model):
    """What somebody said of a shot's costs. Empty = as follows from the shot itself."""

    shot = models.OneToOneField(Shot, on_delete=models.CASCADE, related_name="costing")
    chosen = models.CharField(max_length=16, blank=True)
    shapes = models.PositiveSmallIntegerField(null=True, blank=True)
    tracked = models.BooleanField(null=True, blank=True)
    framing_first = models.BooleanField(null=True, blank=True)
    defects = models.PositiveSmallIntegerField(null=True, blank=True)
    crossings = models.PositiveSmallIntegerField(null=True, blank=True)
    area_m2 = models.FloatField(null=True, blank=True)
    scale = models.FloatField(null=True, blank=True)
    paintings = models.PositiveSmallIntegerField(null=True, blank=True)
    elements = models.PositiveSmallIntegerField(null=True, blank=True)
    animated_s = models.FloatField(null=True, blank=True)
    set_ups = models.PositiveSmallIntegerField(null=True, blank=True)
    hold = models.CharField(max_length=6, blank=True)
    version = models.PositiveIntegerField(default=1)

    @property
    def name(self) -> str:
        return f"costs of {self.shot.code}"


JOB_FIELDS = (
    "shapes",
    "tracked",
    "framing_first",
    "defects",
    "crossings",
    "area_m2",
    "scale",
    "paintings",
    "elements",
    "animated_s",
    "set_ups",
    "hold",
)


class Figures(models.Model):
    """What the production reckons with; see core's Figures."""

    production = models.OneToOneField(Production, on_delete=models.CASCADE, related_name="figures")
    composite_least_h = models.FloatField(default=8)
    composite_most_h = models.FloatField(default=16)
    minutes_per_key = models.FloatField(default=5)
    key_every = models.PositiveIntegerField(default=4)
    tracked_key_every = models.PositiveIntegerField(default=12)
    key_h = models.FloatField(default=2)
    defect_h = models.FloatField(default=1.5)
    difference_h = models.FloatField(default=4)
    split_h = models.FloatField(default=1)
    crossing_h = models.FloatField(default=2)
    patch_h = models.FloatField(default=0.5)
    patch_share = models.FloatField(default=2)
    build_h_m2 = models.FloatField(default=20)
    build_m2 = models.FloatField(default=1.5)
    paint_h = models.FloatField(default=8)
    search_h = models.FloatField(default=1.5)
    seconds_per_hour = models.FloatField(default=2.5)
    three_d_h = models.FloatField(default=24)
    three_d_s_h = models.FloatField(default=2)
    render_h = models.FloatField(default=3)
    neighbours_h = models.FloatField(default=2)
    clean_paint_h = models.FloatField(default=3)
    dim_h = models.FloatField(default=0.5)
    grade_h = models.FloatField(default=0.5)
    steady_h = models.FloatField(default=0.75)
    clean_h = models.FloatField(default=0.5)
    set_up_h = models.FloatField(default=2)
    crew = models.PositiveSmallIntegerField(default=3)
    day_h = models.FloatField(default=8)
    rate_mbit_s = models.FloatField(default=200)
    takes = models.PositiveSmallIntegerField(default=6)
    handles_s = models.FloatField(default=10)
    version = models.PositiveIntegerField(default=1)

    @property
    def name(self) -> str:
        return "what the production reckons with"

    def record(self) -> core.Figures:
        found: core.Figures = core.Figures.read(
            {name: getattr(self, name) for name in core.Figures.model_fields}
        )
        return found
