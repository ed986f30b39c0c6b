"""What the production owns."""

from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import F, Q

from jungoptic.app.productions.models import Production
from jungoptic.core import kit as core


class Camera(models.Model):
    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="cameras")
    name = models.CharField(max_length=60)
    lowest_iso = models.PositiveIntegerField()
    highest_iso = models.PositiveIntegerField()
    base_iso = models.PositiveIntegerField()

    class Meta:
        ordering = ["name"]
        constraints = [
            models.UniqueConstraint(fields=["production", "name"], name="one_camera_of_a_name"),
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
            modes=tuple(mode.record(delivery_fps) for mode in self.modes.all()),
        )


class RecordingMode(models.Model):
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
            menu_fps=core.rates_with(delivery_fps),
        )


class Lens(models.Model):
    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="lenses")
    name = models.CharField(max_length=60)
    focal_length_mm = models.FloatField()
    widest_f_number = models.FloatField()
    smallest_f_number = models.FloatField()
    closest_focus_m = models.FloatField()
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
        return core.Lens(
            name=self.name,
            focal_length_mm=self.focal_length_mm,
            widest_f_number=self.widest_f_number,
            smallest_f_number=self.smallest_f_number,
            closest_focus_m=self.closest_focus_m,
            focusing=self.focusing,
            distortion_pct=self.distortion_pct,
            vignetting_stops=self.vignetting_stops,
            measured_gate_mm=self.measured_gate_mm,
        )


class Lamp(models.Model):
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

    class Meta:
        ordering = ["id"]
        constraints = [
            models.CheckConstraint(
                condition=Q(intensity_cd__gt=0, coolest_k__gte=F("warmest_k")), name="lamp_gives_light"
            )
        ]

    def record(self) -> core.Lamp:
        return core.Lamp(
            name=self.name,
            intensity_cd=self.intensity_cd,
            beam_deg=self.beam_deg,
            area_m2=self.area_m2,
            warmest_k=self.warmest_k,
            coolest_k=self.coolest_k,
        )


class Support(models.Model):
    """A tripod or other support, by how low and how high it brings the lens."""

    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="supports")
    name = models.CharField(max_length=60)
    lowest_lens_m = models.FloatField()
    highest_lens_m = models.FloatField()

    class Meta:
        ordering = ["id"]
        constraints = [
            models.CheckConstraint(
                condition=Q(highest_lens_m__gte=F("lowest_lens_m")), name="support_in_order"
            )
        ]
