"""Shots, their layers and set-ups. Settings are columns; what must never be is refused by the database."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import Deferrable, F, Q

from jungoptic.app.files.models import StoredFile
from jungoptic.app.productions.models import Place, Production
from jungoptic.app.shots.camera import CameraSettings
from jungoptic.core import light
from jungoptic.core import match as core
from jungoptic.core.vocabulary import LINES, SHEETS


class InCut(models.Manager["Shot"]):
    """The shots of the cut: neither a recipe that was saved nor one that was removed."""

    def get_queryset(self) -> models.QuerySet[Shot]:
        return super().get_queryset().filter(template=False, removed=False)


class Shot(models.Model):
    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="shots")
    code = models.CharField(max_length=16)
    title = models.CharField(max_length=120)
    description = models.TextField(blank=True)
    length_frames = models.PositiveIntegerField()
    cautions = ArrayField(models.CharField(max_length=24), default=list, blank=True)
    who = ArrayField(
        models.CharField(max_length=8),
        default=list,
        blank=True,
        help_text="Who is in it; empty = nobody has said.",
    )
    place = models.ForeignKey(Place, on_delete=models.SET_NULL, null=True, blank=True, related_name="shots")
    carries = ArrayField(models.CharField(max_length=80), default=list, blank=True)
    screen_direction = models.CharField(max_length=8, default="", blank=True)
    visibility_m = models.FloatField(null=True, blank=True)
    split_px = models.FloatField(null=True, blank=True)
    split_feather_px = models.FloatField(default=0)
    move_kind = models.CharField(max_length=8, default="none")
    move_amount = models.FloatField(default=0)
    move_start_frame = models.PositiveIntegerField(default=0)
    move_end_frame = models.PositiveIntegerField(default=24)
    move_ease_in_frames = models.PositiveIntegerField(default=0)
    move_ease_out_frames = models.PositiveIntegerField(default=0)
    move_round_m = models.FloatField(null=True, blank=True)
    move_shake_px = models.FloatField(default=0)
    move_shake_hz = models.FloatField(default=2)
    margin_pct = models.FloatField(default=0)
    vertical_cut = models.BooleanField(default=False)
    vertical_only = models.BooleanField(default=False)
    vertical_at_px = models.FloatField(null=True, blank=True)
    position = models.PositiveIntegerField(default=0, help_text="Place in the cut; 0 = by code.")
    shoot_on = models.DateField(null=True, blank=True)
    hours_spent = models.FloatField(default=0)
    ready = models.BooleanField(default=False)
    template = models.BooleanField(
        default=False, help_text="A recipe that the production saved: never on the wall."
    )
    removed = models.BooleanField(
        default=False, help_text="Out of the cut; kept with its takes, so that it can come back."
    )
    version = models.PositiveIntegerField(default=1)
    revision = models.PositiveIntegerField(
        default=0, help_text="Counts up, in the database, with every write of the shot or of anything in it."
    )

    objects = models.Manager()
    in_cut = InCut()

    class Meta:
        ordering = ["position", "code"]
        constraints = [
            models.UniqueConstraint(
                fields=["production", "code", "template"],
                condition=Q(removed=False),
                name="one_shot_of_a_code",
            ),
            models.CheckConstraint(condition=Q(length_frames__gt=0), name="shot_has_length"),
            models.CheckConstraint(condition=Q(hours_spent__gte=0), name="shot_hours_count_up"),
            models.CheckConstraint(
                condition=Q(move_end_frame__gt=F("move_start_frame")), name="shot_move_in_order"
            ),
        ]

    def __str__(self) -> str:
        return self.code


class SetUp(CameraSettings):
    """A planned set-up. ``distance_m`` is from the lens to the front edge of the nearest layer that it
    serves.
    """

    shot = models.ForeignKey(Shot, on_delete=models.CASCADE, related_name="set_ups")
    name = models.CharField(max_length=80)
    references = ArrayField(models.CharField(max_length=8), default=list, blank=True)
    version = models.PositiveIntegerField(default=1)

    class Meta(CameraSettings.Meta):
        ordering = ["id"]

    def values(self) -> dict[str, Any]:
        return {**super().values(), "references": tuple(self.references)}


class PlacedLamp(models.Model):
    """A lamp in the set of a set-up; see core's PlacedLamp."""

    set_up = models.ForeignKey(SetUp, on_delete=models.CASCADE, related_name="lamps")
    only_for = models.ForeignKey(
        "Layer",
        on_delete=models.SET_NULL,
        null=True,
        blank=True,
        related_name="own_lamps",
        help_text="The pass that it is lit for; empty = it lights all that the set-up films.",
    )
    name = models.CharField(max_length=60)
    role = models.CharField(max_length=8, default="key")
    intensity_cd = models.FloatField()
    level = models.FloatField(default=1)
    beam_deg = models.FloatField(default=110)
    face_m = models.FloatField(default=0)
    length_m = models.FloatField(default=0)
    colour_k = models.FloatField(default=5600)
    across_m = models.FloatField(default=0)
    height_m = models.FloatField(default=2)
    behind_m = models.FloatField(default=-1)
    aim_across_m = models.FloatField(default=0)
    aim_height_m = models.FloatField(default=1)
    aim_behind_m = models.FloatField(default=0)
    removed = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.CheckConstraint(
                condition=Q(intensity_cd__gt=0, level__gte=0, level__lte=1), name="placed_lamp_gives_light"
            )
        ]

    def values(self) -> dict[str, Any]:
        own = {name: getattr(self, name) for name in light.PlacedLamp.model_fields}
        return {**own, "only_for_id": self.only_for_id}


class PlacedBacking(models.Model):
    """The sheet behind what a set-up films; see core's Backing."""

    set_up = models.ForeignKey(SetUp, on_delete=models.CASCADE, related_name="backings")
    name = models.CharField(max_length=60, default="Sheet")
    colour = models.CharField(max_length=7, default=SHEETS["green"])
    width_m = models.FloatField(default=3)
    height_m = models.FloatField(default=2.5)
    behind_m = models.FloatField(default=2.5)
    across_m = models.FloatField(default=0)
    bottom_m = models.FloatField(default=0)
    reflectance = models.FloatField(default=0.4)
    removed = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.CheckConstraint(condition=Q(width_m__gt=0, height_m__gt=0), name="backing_has_size"),
            models.UniqueConstraint(
                fields=["set_up"], condition=Q(removed=False), name="one_backing_a_set_up"
            ),
        ]

    def values(self) -> dict[str, Any]:
        return {name: getattr(self, name) for name in light.Backing.model_fields}


class Layer(models.Model):
    """A plate, element, pass or picture at its place in the stack, front first.

    Full-size metres from the hero's lens.
    """

    shot = models.ForeignKey(Shot, on_delete=models.CASCADE, related_name="layers")
    set_up = models.ForeignKey(SetUp, on_delete=models.PROTECT, null=True, blank=True, related_name="layers")
    name = models.CharField(max_length=80)
    kind = models.CharField(max_length=16)
    combine = models.CharField(max_length=16)
    key_colour = models.CharField(max_length=8, blank=True)
    is_hero = models.BooleanField(default=False)
    place = models.PositiveSmallIntegerField()
    scale = models.FloatField(default=1)
    near_m = models.FloatField()
    depth_m = models.FloatField(default=0)
    width_m = models.FloatField(default=1)
    height_m = models.FloatField(default=1)
    base_m = models.FloatField(default=0)
    offset_m = models.FloatField(default=0)
    driver = models.CharField(max_length=12, default="still")
    speed_m_s = models.FloatField(default=0)
    speed_up_m_s = models.FloatField(default=0)
    speed_away_m_s = models.FloatField(default=0)
    fills_frame = models.BooleanField(default=False)
    resize = models.FloatField(default=1)
    seen_s = models.FloatField(null=True, blank=True)
    behind_weather = models.BooleanField(default=False)
    pass_of = models.CharField(max_length=80, default="", blank=True)
    made_from = models.CharField(max_length=10, default="film")
    cue_frame = models.PositiveIntegerField(null=True, blank=True)
    cue_frames = models.PositiveIntegerField(null=True, blank=True)
    picture = models.ForeignKey(
        "LayerPicture", on_delete=models.SET_NULL, null=True, blank=True, related_name="+"
    )
    picture_width_px = models.PositiveIntegerField(null=True, blank=True)
    picture_height_px = models.PositiveIntegerField(null=True, blank=True)
    marks = models.JSONField(default=list, blank=True)
    shown_as = models.CharField(max_length=8, default="outline")
    cut_by = models.CharField(max_length=8, default="nothing")
    cut_colour = models.CharField(max_length=7, null=True, blank=True)
    cut_keeps = models.FloatField(null=True, blank=True)
    cut_clears = models.FloatField(null=True, blank=True)
    cut_outline = models.JSONField(default=list, blank=True)
    taken_view_deg = models.FloatField(null=True, blank=True)
    taken_height_m = models.FloatField(null=True, blank=True)
    taken_tilt_deg = models.FloatField(null=True, blank=True)
    taken_roll_deg = models.FloatField(null=True, blank=True)
    taken_key_azimuth_deg = models.FloatField(null=True, blank=True)
    taken_key_elevation_deg = models.FloatField(null=True, blank=True)
    taken_grain = models.FloatField(null=True, blank=True)
    black_pct = models.FloatField(null=True, blank=True)
    contact = models.CharField(max_length=12, default="nothing")
    kept = ArrayField(models.CharField(max_length=16), default=list, blank=True)
    paint_out = models.CharField(max_length=120, default="", blank=True)
    mirrored = models.BooleanField(default=False)
    lettering = models.BooleanField(default=False)
    turned_deg = models.FloatField(default=0)
    gloss_azimuth_deg = models.FloatField(null=True, blank=True)
    brightest_stops = models.FloatField(null=True, blank=True)
    keep_colours = ArrayField(models.CharField(max_length=7), default=list, blank=True)
    moves_from_m = models.FloatField(null=True, blank=True)
    moves_to_m = models.FloatField(null=True, blank=True)
    split_side = models.CharField(max_length=5, default="", blank=True)
    matte_line_px = models.FloatField(null=True, blank=True)
    travel_across_m = models.FloatField(default=0)
    travel_up_m = models.FloatField(default=0)
    travel_away_m = models.FloatField(default=0)
    removed = models.BooleanField(default=False)
    note = models.TextField(blank=True)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["shot", "place"]
        constraints = [
            models.UniqueConstraint(
                fields=["shot", "place"], name="one_layer_a_place", deferrable=Deferrable.DEFERRED
            ),
            models.UniqueConstraint(fields=["shot"], condition=Q(is_hero=True), name="one_hero_a_shot"),
            models.CheckConstraint(
                condition=Q(scale__gt=0, near_m__gt=0, resize__gt=0, depth_m__gte=0), name="layer_positive"
            ),
            models.CheckConstraint(
                condition=Q(is_hero=False) | Q(set_up__isnull=False), name="hero_has_a_set_up"
            ),
            models.CheckConstraint(condition=Q(is_hero=False) | Q(removed=False), name="hero_stays"),
        ]

    @property
    def hangs_at_m(self) -> float:
        """Where the layer stands in the order of the stack: a base plate behind all that is laid over it, at
        its back edge.
        """
        return self.near_m + self.depth_m if self.combine == "base" else self.near_m

    def values(self) -> dict[str, Any]:
        """The fields of core's Layer, by name, parts included."""
        names = [name for name in core.Layer.model_fields if name != "parts"]
        return {
            **{name: getattr(self, name) for name in names},
            "parts": [part.values() for part in self.parts.all()],
        }


class LayerPicture(models.Model):
    """The picture of a layer: how large it came, and a JPEG of it, or a PNG where something of it is
    transparent. A new one takes the place of the old, which is kept.
    """

    layer = models.ForeignKey(Layer, on_delete=models.CASCADE, related_name="pictures")
    name = models.CharField(max_length=200)
    file = models.ForeignKey(StoredFile, on_delete=models.PROTECT, related_name="+")
    width_px = models.PositiveIntegerField(help_text="As it came; the JPEG may be smaller.")
    height_px = models.PositiveIntegerField()
    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+"
    )
    at = models.DateTimeField(auto_now_add=True)


class Part(models.Model):
    """A flat piece of a layer's outline; see core's Part."""

    layer = models.ForeignKey(Layer, on_delete=models.CASCADE, related_name="parts")
    name = models.CharField(max_length=80)
    lies = models.BooleanField(default=False)
    behind_m = models.FloatField(default=0)
    raised_m = models.FloatField(default=0)
    thickness_m = models.FloatField(default=0)
    colour = models.CharField(max_length=7, default="#808080")
    colour_low = models.CharField(max_length=7, null=True, blank=True)
    points = ArrayField(ArrayField(models.FloatField(), size=2))

    class Meta:
        ordering = ["id"]

    def values(self) -> dict[str, Any]:
        return {name: getattr(self, name) for name in core.Part.model_fields}


class Line(models.Model):
    """A line, zone or mark over the board that means something; see core's BoardLine. Delivered px."""

    shot = models.ForeignKey(Shot, on_delete=models.CASCADE, related_name="lines")
    kind = models.CharField(max_length=12)
    points = ArrayField(ArrayField(models.FloatField(), size=2))
    note = models.CharField(max_length=300, blank=True)
    layer = models.ForeignKey(Layer, on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    thing = models.CharField(max_length=80, blank=True)
    first_frame = models.PositiveIntegerField(null=True, blank=True)
    last_frame = models.PositiveIntegerField(null=True, blank=True)
    feather_px = models.FloatField(default=0)
    removed = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["id"]

    @property
    def name(self) -> str:
        return LINES[self.kind].name + (f", {self.note}" if self.note else "")

    def values(self) -> dict[str, Any]:
        return {
            **{
                name: getattr(self, name)
                for name in ("kind", "points", "note", "thing", "first_frame", "last_frame", "feather_px")
            },
            "layer_id": self.layer_id,
        }


class Acceptance(models.Model):
    """A verdict that somebody accepted with a reason.

    It stands for the amount that was seen: another amount brings the verdict back.
    """

    layer = models.ForeignKey(Layer, on_delete=models.CASCADE, related_name="acceptances")
    item = models.CharField(max_length=24)
    amount = models.FloatField()
    reason = models.CharField(max_length=400)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    withdrawn = models.BooleanField(default=False)

    class Meta:
        ordering = ["-at", "-id"]
        constraints = [
            models.UniqueConstraint(
                fields=["layer", "item"], condition=Q(withdrawn=False), name="one_acceptance_an_item"
            )
        ]
