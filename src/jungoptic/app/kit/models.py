"""What the production owns. What is retired stays: set-ups and takes stand on it."""

from __future__ import annotations

from typing import Any

from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import F, Q

from jungoptic.app.productions.models import Production
from jungoptic.core import kit as core


class Owned(models.Model):
    """A row of the kit."""

    note = models.CharField(max_length=200, blank=True)
    removed = models.BooleanField(
        default=False, help_text="Retired: out of the kit; what stands on it keeps it."
    )
    version = models.PositiveIntegerField(default=1)

    class Meta:
        abstract = True


class Camera(Owned):
    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="cameras")
    name = models.CharField(max_length=60)
    lowest_iso = models.PositiveIntegerField()
    highest_iso = models.PositiveIntegerField()
    base_iso = models.PositiveIntegerField()

    class Meta:
        ordering = ["name"]
        constraints = [
            models.UniqueConstraint(
                fields=["production", "name"], condition=Q(removed=False), name="one_camera_of_a_name"
            ),
            models.CheckConstraint(
                condition=Q(lowest_iso__gt=0, highest_iso__gte=F("lowest_iso")), name="camera_iso_in_order"
            ),
        ]

    def record(self, delivery_fps: float = 24) -> core.Camera:
        """With the rates that its menu has once it is set for the delivery's."""
        return core.Camera(
            name=self.name,
            lowest_iso=self.lowest_iso,
            highest_iso=self.highest_iso,
            modes=tuple(mode.record(delivery_fps) for mode in self.modes.all() if not mode.removed),
        )


class RecordingMode(Owned):
    camera = models.ForeignKey(Camera, on_delete=models.CASCADE, related_name="modes")
    name = models.CharField(max_length=60)
    recorded_width_px = models.PositiveIntegerField()
    recorded_height_px = models.PositiveIntegerField()
    gate_width_mm = models.FloatField()
    gate_height_mm = models.FloatField()
    highest_fps = models.FloatField()
    bit_depth = models.PositiveSmallIntegerField(default=8)
    sampling = models.CharField(max_length=5, default="4:2:0")
    long_groups = models.BooleanField(default=False)
    readout_ms = models.FloatField(default=0)
    headroom_stops = models.FloatField(default=6)
    noise_pct = models.FloatField(null=True, blank=True, help_text="Measured at noise_iso; empty = never.")
    noise_iso = models.FloatField(null=True, blank=True)
    rates_fps = ArrayField(
        models.FloatField(), default=list, blank=True, help_text="Empty = the usual ones up to the highest."
    )
    data_rate_mb_s = models.FloatField(null=True, blank=True)

    class Meta:
        ordering = ["-recorded_width_px", "id"]
        constraints = [
            models.CheckConstraint(
                condition=Q(
                    recorded_width_px__gt=0,
                    recorded_height_px__gt=0,
                    gate_width_mm__gt=0,
                    gate_height_mm__gt=0,
                    highest_fps__gt=0,
                ),
                name="mode_has_size_and_rate",
            )
        ]

    def record(self, delivery_fps: float = 24) -> core.RecordingMode:
        return core.RecordingMode(
            name=self.name,
            recorded_width_px=self.recorded_width_px,
            recorded_height_px=self.recorded_height_px,
            gate_width_mm=self.gate_width_mm,
            gate_height_mm=self.gate_height_mm,
            highest_fps=self.highest_fps,
            bit_depth=self.bit_depth,
            sampling=self.sampling,
            long_groups=self.long_groups,
            readout_ms=self.readout_ms,
            headroom_stops=self.headroom_stops,
            noise_pct=self.noise_pct,
            noise_iso=self.noise_iso,
            menu_fps=tuple(self.rates_fps) or core.rates_with(delivery_fps),
        )


class Lens(Owned):
    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="lenses")
    name = models.CharField(max_length=60)
    focal_length_mm = models.FloatField()
    widest_f_number = models.FloatField()
    smallest_f_number = models.FloatField()
    closest_focus_m = models.FloatField()
    longest_mm = models.FloatField(null=True, blank=True, help_text="Of a zoom.")
    widest_long_f_number = models.FloatField(null=True, blank=True)
    closest_long_m = models.FloatField(null=True, blank=True)
    farthest_focus_m = models.FloatField(null=True, blank=True)
    on = models.ForeignKey(
        "self",
        on_delete=models.PROTECT,
        null=True,
        blank=True,
        related_name="fitted",
        help_text="The lens that this one is with something put on; all but the name follows.",
    )
    dioptres = models.FloatField(null=True, blank=True)
    tube_mm = models.FloatField(null=True, blank=True)
    converter = models.FloatField(null=True, blank=True)
    focusing = models.CharField(max_length=16, default="unit")
    camera = models.ForeignKey(
        Camera,
        on_delete=models.CASCADE,
        null=True,
        blank=True,
        related_name="own_lenses",
        help_text="Built into this camera.",
    )
    distortion_pct = models.FloatField(default=0)
    vignetting_stops = models.FloatField(default=0)
    measured_gate_mm = models.FloatField(null=True, blank=True)

    class Meta:
        ordering = ["focal_length_mm", "id"]
        constraints = [
            models.CheckConstraint(
                condition=Q(
                    focal_length_mm__gt=0,
                    widest_f_number__gt=0,
                    closest_focus_m__gt=0,
                    smallest_f_number__gte=F("widest_f_number"),
                ),
                name="lens_in_order",
            )
        ]

    def record(self) -> core.Lens:
        return core.Lens(**{name: getattr(self, name) for name in core.Lens.model_fields})

    def brings(self, focal_length_mm: float) -> dict[str, Any]:
        """What it brings into a set-up at one of its focal lengths, by the fields of core's SetUp."""
        faults = self.record().turned_to(focal_length_mm).faults()
        return {"focal_length_mm": focal_length_mm, "focusing": self.focusing, **faults}


class Lamp(Owned):
    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="lamps")
    name = models.CharField(max_length=60)
    intensity_cd = models.FloatField()
    beam_deg = models.FloatField()
    area_m2 = models.FloatField(default=0)
    length_m = models.FloatField(default=0, help_text="Of a tube; 0 for any other lamp.")
    ripple_depth = models.FloatField(
        default=0, help_text="(max − min)/(max + min) at twice the mains; 0 is steady."
    )
    warmest_k = models.PositiveIntegerField()
    coolest_k = models.PositiveIntegerField()
    cautions = ArrayField(models.CharField(max_length=24), default=list, blank=True)
    reading_lx = models.FloatField(
        null=True, blank=True, help_text="Measured on the axis; the intensity follows from it."
    )
    reading_m = models.FloatField(null=True, blank=True)
    half_off_m = models.FloatField(
        null=True, blank=True, help_text="How far off the axis, there, it reads half; the beam follows."
    )
    gel = models.CharField(max_length=40, blank=True)
    gel_mired = models.FloatField(null=True, blank=True)
    gel_stops = models.FloatField(null=True, blank=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.CheckConstraint(
                condition=Q(intensity_cd__gt=0, coolest_k__gte=F("warmest_k")), name="lamp_gives_light"
            )
        ]

    def record(self) -> core.Lamp:
        bare = core.Lamp(
            name=self.name,
            intensity_cd=self.intensity_cd,
            beam_deg=self.beam_deg,
            area_m2=self.area_m2,
            warmest_k=self.warmest_k,
            coolest_k=self.coolest_k,
        )
        if self.gel_mired is None:
            return bare
        return core.gelled(bare, self.gel_mired, self.gel_stops or 0.0)


class Support(Owned):
    """A tripod or other support, by how low and how high it brings the lens."""

    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="supports")
    name = models.CharField(max_length=60)
    lowest_lens_m = models.FloatField()
    highest_lens_m = models.FloatField()
    travel_m = models.FloatField(null=True, blank=True, help_text="Of a slider, a crane, a track.")
    mm_a_turn = models.FloatField(null=True, blank=True, help_text="Of a geared one.")

    class Meta:
        ordering = ["id"]
        constraints = [
            models.CheckConstraint(
                condition=Q(highest_lens_m__gte=F("lowest_lens_m")), name="support_in_order"
            )
        ]


class Filter(Owned):
    """A grey filter."""

    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="filters")
    name = models.CharField(max_length=60)
    stops = models.FloatField()

    class Meta:
        ordering = ["stops", "id"]
        constraints = [models.CheckConstraint(condition=Q(stops__gt=0), name="filter_takes_light")]


class Gear(Owned):
    """What else is on the shelf: sheets, screens, frames of diffusion, balls, charts, tape."""

    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="gear")
    kind = models.CharField(max_length=16)
    name = models.CharField(max_length=60)
    width_m = models.FloatField(null=True, blank=True)
    height_m = models.FloatField(null=True, blank=True)
    colour = models.CharField(max_length=7, blank=True)
    reflectance = models.FloatField(null=True, blank=True)
    stops = models.FloatField(null=True, blank=True, help_text="What a frame of diffusion takes.")

    class Meta:
        ordering = ["kind", "id"]
