"""Sets and models in plan."""

from __future__ import annotations

from django.db import models
from django.db.models import Q

from jungoptic.app.productions.models import Place, Production
from jungoptic.app.shots.models import Shot
from jungoptic.core import plan


class Build(models.Model):
    """A set or a model in plan, to be built only as far as its shots see it. The sheet is the shop's."""

    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="builds")
    place = models.ForeignKey(Place, on_delete=models.SET_NULL, null=True, blank=True, related_name="builds")
    name = models.CharField(max_length=80)
    scale = models.FloatField(default=1)
    spare_pct = models.FloatField(
        default=10, help_text="Built beyond what is seen, for shake and second thoughts."
    )
    width_mm = models.FloatField(default=1220)
    height_mm = models.FloatField(default=2440)
    kerf_mm = models.FloatField(default=3)
    price = models.FloatField(default=20)
    removed = models.BooleanField(
        default=False, help_text="Out of the production; kept, so that it can come back."
    )
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["name"]
        constraints = [
            models.UniqueConstraint(
                fields=["production", "name"], condition=Q(removed=False), name="one_build_of_a_name"
            ),
            models.CheckConstraint(
                condition=Q(scale__gt=0, width_mm__gt=0, height_mm__gt=0), name="build_has_size"
            ),
        ]

    def sheet(self) -> plan.Sheet:
        found: plan.Sheet = plan.Sheet.read({name: getattr(self, name) for name in plan.Sheet.model_fields})
        return found


class BuildPiece(models.Model):
    """A flat piece of a set; see core's Piece."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="pieces")
    name = models.CharField(max_length=80)
    x_m = models.FloatField(default=0)
    z_m = models.FloatField(default=0)
    turn_deg = models.FloatField(default=0)
    width_m = models.FloatField(default=1)
    height_m = models.FloatField(default=2.4)
    base_m = models.FloatField(default=0)
    lies = models.BooleanField(default=False)
    made = models.CharField(max_length=8, default="built")
    wheels = models.BooleanField(default=False)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["build", "name"], name="one_piece_of_a_name"),
            models.CheckConstraint(condition=Q(width_m__gt=0, height_m__gt=0), name="piece_has_size"),
        ]

    def record(self) -> plan.Piece:
        found: plan.Piece = plan.Piece.read({name: getattr(self, name) for name in plan.Piece.model_fields})
        return found


class BuildView(models.Model):
    """Where a shot's hero camera stands in the plan of a set. Lens, height and tilt are the shot's own."""

    build = models.ForeignKey(Build, on_delete=models.CASCADE, related_name="views")
    shot = models.ForeignKey(Shot, on_delete=models.CASCADE, related_name="+")
    x_m = models.FloatField(default=0)
    z_m = models.FloatField(default=0)
    heading_deg = models.FloatField(default=0)
    establishing = models.BooleanField(default=False)

    class Meta:
        ordering = ["id"]
