"""What belongs to a break-down: boards, chosen recipes, costs, signatures, ticks, stock, sets in plan, and what the wall remembers."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import Q
from django.db.models.signals import post_delete, post_save
from django.dispatch import receiver

from jungoptic.app.productions.models import Place, Production, revise
from jungoptic.app.shots.models import Layer, Shot, touch
from jungoptic.core.breakdown import costs
from jungoptic.core.plan import seen, sheets


class Board(models.Model):
    """The picture of a shot, as JPEG. A new one takes the place of the old, which is kept."""

    shot = models.ForeignKey(Shot, on_delete=models.CASCADE, related_name="boards")
    name = models.CharField(max_length=200)
    picture = models.BinaryField()
    width_px = models.PositiveIntegerField()
    height_px = models.PositiveIntegerField()
    current = models.BooleanField(default=True)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]
        constraints = [models.UniqueConstraint(fields=["shot"], condition=Q(current=True), name="one_board_a_shot")]


class ShotRecipe(models.Model):
    """A recipe that was chosen for a shot: one of the trade's by key, or one that the production saved (``own``, a template shot)."""

    shot = models.ForeignKey(Shot, on_delete=models.CASCADE, related_name="recipes")
    key = models.CharField(max_length=24, blank=True)
    own = models.ForeignKey(Shot, on_delete=models.PROTECT, null=True, blank=True, related_name="used_by")
    removed = models.BooleanField(default=False)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]
        constraints = [models.CheckConstraint(condition=~Q(key="", own__isnull=True), name="recipe_is_one")]


class RecipeAnswer(models.Model):
    """What was answered to one thing that the recipe asks."""

    recipe = models.ForeignKey(ShotRecipe, on_delete=models.CASCADE, related_name="answers")
    name = models.CharField(max_length=24)
    value = models.FloatField()

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["recipe", "name"], name="one_answer_a_question")]


class PlannedLayer(models.Model):
    """When and why then a layer is filmed and what is ticked off at it, from the recipe that planned it."""

    layer = models.OneToOneField(Layer, on_delete=models.CASCADE, related_name="planned")
    recipe = models.ForeignKey(ShotRecipe, on_delete=models.CASCADE, related_name="layers")
    why = models.TextField(blank=True)
    rank = models.PositiveSmallIntegerField(null=True, blank=True, help_text="Place in the recipe's filming order; empty = with its set-up.")
    checks = ArrayField(models.CharField(max_length=200), default=list, blank=True)


class Tick(models.Model):
    """A check of a layer that somebody has ticked off."""

    layer = models.ForeignKey(Layer, on_delete=models.CASCADE, related_name="ticks")
    text = models.CharField(max_length=200)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["layer", "text"], name="ticked_once")]


class SignOff(models.Model):
    """A caution that the supervisor has signed off for a shot: everybody who must be asked was asked."""

    shot = models.ForeignKey(Shot, on_delete=models.CASCADE, related_name="sign_offs")
    caution = models.CharField(max_length=24)
    note = models.CharField(max_length=300)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    withdrawn = models.BooleanField(default=False)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["shot", "caution"], condition=Q(withdrawn=False), name="signed_once")]


class Costing(models.Model):
    """What somebody said of a shot's costs. Empty = as follows from the shot itself."""

    shot = models.OneToOneField(Shot, on_delete=models.CASCADE, related_name="costing")
    chosen = models.CharField(max_length=12, blank=True)
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
    set_up_h = models.FloatField(default=2)
    crew = models.PositiveSmallIntegerField(default=3)
    day_h = models.FloatField(default=8)
    rate_mbit_s = models.FloatField(default=200)
    takes = models.PositiveSmallIntegerField(default=6)
    handles_s = models.FloatField(default=10)
    version = models.PositiveIntegerField(default=1)

    def record(self) -> costs.Figures:
        found: costs.Figures = costs.Figures.read({name: getattr(self, name) for name in costs.Figures.model_fields})
        return found


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
    removed = models.BooleanField(default=False, help_text="Out of the stock; kept, so that it can come back.")

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["production", "name"], condition=Q(removed=False), name="one_stock_item_of_a_name")]


class Build(models.Model):
    """A set or a model in plan, to be built only as far as its shots see it. The sheet is the shop's."""

    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="builds")
    place = models.ForeignKey(Place, on_delete=models.SET_NULL, null=True, blank=True, related_name="builds")
    name = models.CharField(max_length=80)
    scale = models.FloatField(default=1)
    spare_pct = models.FloatField(default=10, help_text="Built beyond what is seen, for shake and second thoughts.")
    width_mm = models.FloatField(default=1220)
    height_mm = models.FloatField(default=2440)
    kerf_mm = models.FloatField(default=3)
    price = models.FloatField(default=20)
    removed = models.BooleanField(default=False, help_text="Out of the production; kept, so that it can come back.")
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["name"]
        constraints = [
            models.UniqueConstraint(fields=["production", "name"], condition=Q(removed=False), name="one_build_of_a_name"),
            models.CheckConstraint(condition=Q(scale__gt=0, width_mm__gt=0, height_mm__gt=0), name="build_has_size"),
        ]

    def sheet(self) -> sheets.Sheet:
        found: sheets.Sheet = sheets.Sheet.read({name: getattr(self, name) for name in sheets.Sheet.model_fields})
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

    def record(self) -> seen.Piece:
        found: seen.Piece = seen.Piece.read({name: getattr(self, name) for name in seen.Piece.model_fields})
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
    hazards = ArrayField(models.CharField(max_length=24), default=list)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["shot", "school"], name="one_summary_a_school")]


@receiver([post_save, post_delete])
def _changed(instance: models.Model, **kwargs: Any) -> None:
    if isinstance(instance, ShotRecipe | Costing | SignOff):
        touch(instance.shot_id)
    elif isinstance(instance, Figures | StockItem):
        revise(instance.production_id)
