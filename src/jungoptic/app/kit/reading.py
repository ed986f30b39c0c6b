"""The kit as core knows it, kept for as long as nothing of it changes."""

from __future__ import annotations

from django.core.cache import cache

from jungoptic.app.kit.models import Camera
from jungoptic.app.productions.models import Production
from jungoptic.core import kit as core


def kit_of(camera_id: int, production: Production) -> core.Kit:
    """The kit that a set-up with this camera draws on: every lens, lamp and support of the production.

    Kept in this process for as long as the production's ``revision`` stands: a drag asks for it many times a
    second.
    """
    key = f"kit:{camera_id}:{production.pk}:{production.revision}"
    kept: core.Kit | None = cache.get(key)
    if kept is None:
        kept = _read_kit(camera_id, production)
        cache.set(key, kept, 3600)
    return kept


def _read_kit(camera_id: int, production: Production) -> core.Kit:
    camera = Camera.objects.prefetch_related("modes").get(pk=camera_id)
    supports = list(production.supports.all())
    built_in = [lens for lens in production.lenses.all() if lens.camera_id == camera_id]
    lenses = built_in or [lens for lens in production.lenses.all() if lens.camera_id is None]
    return core.Kit(
        camera=camera.record(production.frame_rate_fps),
        lenses=tuple(lens.record() for lens in lenses),
        lamps=tuple(lamp.record() for lamp in production.lamps.all()),
        lowest_lens_m=min((s.lowest_lens_m for s in supports), default=0.0),
        highest_lens_m=max((s.highest_lens_m for s in supports), default=2.0),
        stage_length_m=production.stage_length_m,
        stage_width_m=production.stage_width_m,
        beams_m=production.beams_m,
    )
