"""The camera of a set-up stays where it stands."""

from __future__ import annotations

from contextvars import ContextVar
from typing import Self

from django.db.models import F
from django.db.models.functions import Greatest

from jungoptic.app.shots.models import PlacedBacking, PlacedLamp, SetUp, Shot

_NEAREST_M = 0.01
_KEPT: ContextVar[frozenset[int]] = ContextVar("shots whose cameras are being kept", default=frozenset())


class CameraKept:
    """Layers come and go while the camera stays where it stands: a set-up, its lamps and its sheet count from
    the nearest layer that it films. Use as a context; one within another does nothing of its own.
    """

    def __init__(self, shot: Shot) -> None:
        self.shot = shot
        self.nearest: dict[int, float] = {}

    def _nearest_m(self) -> dict[int, float]:
        """The nearest layer of every set-up, metres of the set."""
        nearest: dict[int, float] = {}
        rows = self.shot.layers.filter(removed=False, set_up__isnull=False)
        for set_up, near_m, scale in rows.values_list("set_up", "near_m", "scale"):
            nearest[set_up] = min(near_m / scale, nearest.get(set_up, near_m / scale))
        return nearest

    def __enter__(self) -> Self:
        kept = _KEPT.get()
        self.within = self.shot.pk in kept
        self.before = _KEPT.set(kept | {self.shot.pk})
        self.nearest = {} if self.within else self._nearest_m()
        return self

    def __exit__(self, failed: type[BaseException] | None, *_: object) -> None:
        _KEPT.reset(self.before)
        if failed is not None or self.within:
            return
        now = self._nearest_m()
        for set_up, before_m in self.nearest.items():
            nearer_m = before_m - now.get(set_up, before_m)
            if nearer_m == 0.0:
                continue
            SetUp.objects.filter(pk=set_up).update(
                distance_m=Greatest(F("distance_m") - nearer_m, _NEAREST_M)
            )
            for rows in (PlacedLamp, PlacedBacking):
                rows.objects.filter(set_up=set_up).update(behind_m=F("behind_m") + nearer_m)
            PlacedLamp.objects.filter(set_up=set_up).update(aim_behind_m=F("aim_behind_m") + nearer_m)
