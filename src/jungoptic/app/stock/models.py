"""What was filmed already."""

from __future__ import annotations

from django.db import models
from django.db.models import Q

from jungoptic.app.productions.models import Production


class StockItem(models.Model):
    """Something that was filmed or painted already and may serve again."""

    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="stock")
    name = models.CharField(max_length=120)
    note = models.TextField(blank=True)
    width_px = models.PositiveIntegerField(null=True, blank=True)
    fps = models.FloatField(null=True, blank=True)
    view_deg = models.FloatField(null=True, blank=True, help_text="Angle of view across; empty = unknown.")
    camera_height_m = models.FloatField(null=True, blank=True)
    key_azimuth_deg = models.FloatField(null=True, blank=True)
    key_elevation_deg = models.FloatField(null=True, blank=True)
    removed = models.BooleanField(
        default=False, help_text="Out of the stock; kept, so that it can come back."
    )
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["name"]
        constraints = [
            models.UniqueConstraint(
                fields=["production", "name"], condition=Q(removed=False), name="one_stock_item_of_a_name"
            )
        ]
