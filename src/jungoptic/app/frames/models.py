"""Exposure sheets, their poses, and every exposure of them."""

from __future__ import annotations

from collections.abc import Iterable

from django.conf import settings
from django.db import models
from django.db.models import Q
from django.utils.functional import cached_property

from jungoptic.app.files.models import StoredFile
from jungoptic.app.footage.models import Recording
from jungoptic.app.shots.models import Layer
from jungoptic.core.frames import Cheat, HyperPlan

MOST_TEXT = 80
COLUMNS = ("figure", "camera", "light", "mouth", "note")
RANKS_APART = 1 << 16
"""So far apart are the ranks of poses, that others can come between them."""


class ExposureSheet(models.Model):
    """What is animated of a layer, frame by frame: its poses with their holds stand in :class:`Pose`.

    ``passes`` name the exposures that are made of each pose, in their order, as front light and back light;
    none where there is one. Where they alternate, every other pose begins with the last of them.
    """

    layer = models.ForeignKey(Layer, on_delete=models.PROTECT, related_name="exposure_sheets")
    passes = models.JSONField(default=list)
    passes_alternate = models.BooleanField(default=False)
    removed = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(
                fields=["layer"], condition=Q(removed=False), name="one_exposure_sheet_a_layer"
            )
        ]

    @property
    def name(self) -> str:
        return f"exposure sheet of {self.layer.name}"


class Pose(models.Model):
    """A line of the sheet: what stands before the camera, and for how many frames of the shot it is shown.
    Lines stand in the order of their ``rank``; a block of frames begins with one that ``begins_block``.
    """

    sheet = models.ForeignKey(ExposureSheet, on_delete=models.CASCADE, related_name="poses")
    rank = models.BigIntegerField()
    hold = models.PositiveSmallIntegerField(default=1)
    key = models.BooleanField(default=False)
    begins_block = models.BooleanField(default=False)
    figure = models.CharField(max_length=MOST_TEXT, blank=True)
    camera = models.CharField(max_length=MOST_TEXT, blank=True)
    light = models.CharField(max_length=MOST_TEXT, blank=True)
    mouth = models.CharField(max_length=MOST_TEXT, blank=True)
    note = models.CharField(max_length=MOST_TEXT, blank=True)
    removed = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["rank"]
        constraints = [
            models.UniqueConstraint(
                fields=["sheet", "rank"],
                name="one_pose_a_rank",
                deferrable=models.Deferrable.DEFERRED,
            ),
            models.CheckConstraint(condition=Q(hold__gte=1), name="a_pose_is_held"),
        ]

    @cached_property
    def place(self) -> int:
        """How many lines of the sheet stand before it; :func:`in_place` knows of all of them at once."""
        return Pose.objects.filter(sheet=self.sheet_id, removed=False, rank__lt=self.rank).count()

    @property
    def name(self) -> str:
        return f"frame {self.place + 1}"


def in_place(poses: Iterable[Pose]) -> list[Pose]:
    """Lines of a sheet, all that are not left out in their order, each told its place."""
    lines = list(poses)
    for place, pose in enumerate(lines):
        pose.place = place
    return lines


class Rig(models.Model):
    """A geared rig that moves what is animated, or its camera, from pose to pose by whole marks of its crank:
    ``stands`` is the count of marks at which it stands now, ``gears`` are pairs of teeth, ``legs`` and
    ``carries`` core's; one that is ``driven`` has a motor on its crank.
    """

    sheet = models.ForeignKey(ExposureSheet, on_delete=models.CASCADE, related_name="rigs")
    name = models.CharField(max_length=60)
    carries = models.CharField(max_length=16, default="figure")
    lead_mm = models.FloatField()
    gears = models.JSONField(default=list)
    marks = models.PositiveSmallIntegerField()
    take_up = models.PositiveSmallIntegerField()
    legs = models.JSONField(default=list)
    stands = models.IntegerField(default=0)
    driven = models.BooleanField(default=False)
    removed = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["id"]


class Piece(models.Model):
    """Something of the set that has to stand: its box (left, top, right, bottom, shares of the frame) in the
    first frame of a block.
    """

    sheet = models.ForeignKey(ExposureSheet, on_delete=models.CASCADE, related_name="pieces")
    name = models.CharField(max_length=60)
    box = models.JSONField()
    removed = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["id"]


class FigurePoint(models.Model):
    """A point of the figure that goes on a path: its ``keys`` are core's KeyPose with places in shares of the
    photograph, in the order of their frames; ``planted`` are pairs of frames of the shot, between which it
    has to stand, both included.
    """

    sheet = models.ForeignKey(ExposureSheet, on_delete=models.CASCADE, related_name="figure_points")
    name = models.CharField(max_length=60)
    arcs = models.BooleanField(default=True)
    keys = models.JSONField(default=list)
    planted = models.JSONField(default=list)
    removed = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["id"]


class SheetClip(models.Model):
    """A recording that lies beside a sheet (a stand-in's performance) or beneath it (the live plate), its
    frame ``first_frame`` at the shot's first.
    """

    sheet = models.ForeignKey(ExposureSheet, on_delete=models.CASCADE, related_name="clips")
    use = models.CharField(max_length=12)
    recording = models.ForeignKey(Recording, on_delete=models.PROTECT, related_name="+")
    first_frame = models.PositiveIntegerField(default=1)
    removed = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["id"]

    @property
    def name(self) -> str:
        return "the live plate" if self.use == "plate" else "the performance"


class SheetCheat(models.Model):
    """Something that was moved so that a hand reaches, or was away, while frames of the shot were taken: its
    fields are core's Cheat.
    """

    sheet = models.ForeignKey(ExposureSheet, on_delete=models.CASCADE, related_name="cheats")
    kind = models.CharField(max_length=8)
    name = models.CharField(max_length=60)
    first_frame = models.PositiveIntegerField(default=1)
    last_frame = models.PositiveIntegerField(null=True)
    right_mm = models.FloatField(default=0)
    up_mm = models.FloatField(default=0)
    back_mm = models.FloatField(default=0)
    away = models.BooleanField(default=False)
    level = models.FloatField(null=True)
    note = models.CharField(max_length=MOST_TEXT, blank=True)
    removed = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["first_frame", "id"]

    @property
    def cheat(self) -> Cheat:
        """Core's record."""
        found: Cheat = Cheat.read({name: getattr(self, name) for name in Cheat.model_fields})
        return found


class Hyperlapse(models.Model):
    """A sheet whose photographs are taken from places along a path, each aimed at its reference point: the
    ``plan`` is core's HyperPlan.
    """

    point = models.OneToOneField(FigurePoint, on_delete=models.CASCADE, related_name="hyperlapse")
    plan = models.JSONField()
    removed = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)

    @property
    def name(self) -> str:
        return f"hyperlapse about {self.point.name}"

    @cached_property
    def planned(self) -> HyperPlan:
        """Its plan."""
        return HyperPlan.model_validate(self.plan)


class Exposure(models.Model):
    """A photograph of a pose in one of its sheet's passes, as it came. None is ever lost: what is shot again
    leaves the one before it, and ``chosen`` says which of them is shown. ``watched`` is what was measured and
    said of it when it came.
    """

    pose = models.ForeignKey(Pose, on_delete=models.PROTECT, related_name="exposures")
    light_pass = models.PositiveSmallIntegerField(default=0)
    file = models.ForeignKey(StoredFile, on_delete=models.PROTECT, related_name="+")
    proxy = models.ForeignKey(StoredFile, on_delete=models.PROTECT, related_name="+")
    width_px = models.PositiveIntegerField()
    height_px = models.PositiveIntegerField()
    taken_at = models.DateTimeField()
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    watched = models.JSONField(null=True)
    chosen = models.BooleanField(default=True)
    removed = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["taken_at", "id"]
        constraints = [
            models.UniqueConstraint(
                fields=["pose", "light_pass"],
                condition=Q(chosen=True, removed=False),
                name="one_exposure_is_shown",
            )
        ]

    @property
    def name(self) -> str:
        return f"exposure of {self.pose.name}"


class PointPlace(models.Model):
    """Where a point of the figure is seen in an exposure, shares of it: found again there when it came, or
    ``marked`` by hand.
    """

    point = models.ForeignKey(FigurePoint, on_delete=models.CASCADE, related_name="places")
    exposure = models.ForeignKey(Exposure, on_delete=models.CASCADE, related_name="point_places")
    x = models.FloatField()
    y = models.FloatField()
    marked = models.BooleanField(default=False)
    removed = models.BooleanField(default=False)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(fields=["point", "exposure"], name="a_point_is_at_one_place"),
        ]

    @property
    def name(self) -> str:
        return f"{self.point.name} in {self.exposure.pose.name}"
