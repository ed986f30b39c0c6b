"""The settings of a camera, as columns: shared by what is planned and what was shot."""

from __future__ import annotations

from typing import Any

from django.db import models
from django.db.models import Q

from jungoptic.app.kit.models import Lens, RecordingMode
from jungoptic.core import match as core

# Columns that carry the same name as the fields of core's SetUp.
SETTING_FIELDS = (
    "f_number",
    "focus_distance_m",
    "extraction_width_mm",
    "distance_m",
    "lens_height_m",
    "ground_height_m",
    "tilt_deg",
    "roll_deg",
    "capture_fps",
    "shutter_angle_deg",
    "iso",
    "nd_stops",
    "illuminance_lx",
    "light_k",
    "white_balance_k",
    "key_azimuth_deg",
    "key_elevation_deg",
    "key_size_deg",
    "key_to_fill_stops",
    "key_measured",
    "ripple_depth",
    "sun_at",
    "sky",
    "diffusion_stops",
    "heading_deg",
    "model_speed_m_s",
    "follows_move",
    "travel_m",
    "pupil_off_mm",
)


# What the recording mode and the lens bring with them, by the same names.
MODE_FIELDS = (
    "recorded_width_px",
    "recorded_height_px",
    "gate_width_mm",
    "gate_height_mm",
    "bit_depth",
    "sampling",
    "long_groups",
    "readout_ms",
    "headroom_stops",
    "noise_pct",
    "noise_iso",
)


class CameraSettings(models.Model):
    """What a camera, its place and the light are set to: planned in a SetUp, recorded in a Take.

    Metres of the set.
    """

    lens = models.ForeignKey(Lens, on_delete=models.PROTECT, related_name="+")
    zoomed_mm = models.FloatField(null=True, blank=True, help_text="Where a zoom stands; empty = a prime.")
    mode = models.ForeignKey(RecordingMode, on_delete=models.PROTECT, related_name="+")
    f_number = models.FloatField()
    focus_distance_m = models.FloatField()
    extraction_width_mm = models.FloatField(null=True, blank=True)
    distance_m = models.FloatField()
    lens_height_m = models.FloatField()
    ground_height_m = models.FloatField(default=0)
    tilt_deg = models.FloatField(default=0)
    roll_deg = models.FloatField(default=0)
    capture_fps = models.FloatField()
    shutter_angle_deg = models.FloatField(default=180)
    iso = models.FloatField()
    nd_stops = models.FloatField(default=0)
    illuminance_lx = models.FloatField()
    light_k = models.FloatField(default=5600)
    white_balance_k = models.FloatField(default=5600)
    key_azimuth_deg = models.FloatField(null=True, blank=True)
    key_elevation_deg = models.FloatField(null=True, blank=True)
    key_size_deg = models.FloatField(null=True, blank=True)
    key_to_fill_stops = models.FloatField(null=True, blank=True)
    key_measured = models.BooleanField(default=False)
    ripple_depth = models.FloatField(default=0)
    sun_at = models.DateTimeField(null=True, blank=True)
    sky = models.CharField(max_length=8, default="clear")
    diffusion_stops = models.FloatField(default=0)
    heading_deg = models.FloatField(default=0)
    follows_move = models.BooleanField(default=True)
    travel_m = models.FloatField(null=True, blank=True)
    pupil_off_mm = models.FloatField(default=0)
    model_speed_m_s = models.FloatField(null=True, blank=True)

    class Meta:
        abstract = True
        constraints = [
            models.CheckConstraint(
                condition=Q(
                    f_number__gt=0,
                    focus_distance_m__gt=0,
                    distance_m__gt=0,
                    capture_fps__gt=0,
                    iso__gt=0,
                    illuminance_lx__gt=0,
                ),
                name="%(class)s_positive_settings",
            ),
            models.CheckConstraint(
                condition=Q(shutter_angle_deg__gt=0, shutter_angle_deg__lte=360),
                name="%(class)s_shutter_angle",
            ),
        ]

    def fact(self) -> core.SetUp | None:
        """Core's set-up where it is recorded and not planned: lamps, backing and figures are in it, and
        nothing is read from today's rows.
        """
        return None

    @property
    def focal_length_mm(self) -> float:
        """Of the lens, or where it is turned to if it is a zoom."""
        return self.zoomed_mm or self.lens.focal_length_mm

    def turn_to(self, lens: Lens, focal_length_mm: float) -> None:
        """Put on a lens, a zoom turned to the focal length."""
        self.lens = lens
        self.zoomed_mm = focal_length_mm if lens.longest_mm is not None else None

    def values(self) -> dict[str, Any]:
        """The fields of core's SetUp, by name."""
        found = {name: getattr(self, name) for name in SETTING_FIELDS}
        return {
            **found,
            **{name: getattr(self.mode, name) for name in MODE_FIELDS},
            **self.lens.brings(self.focal_length_mm),
        }
