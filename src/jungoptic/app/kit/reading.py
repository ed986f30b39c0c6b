"""The kit as core knows it, kept for as long as nothing of it changes."""

from __future__ import annotations

from typing import Any

from django.core.cache import cache

from jungoptic.app.kit.models import Camera, Lens, RecordingMode
from jungoptic.app.productions.models import Production
from jungoptic.core import kit as core
from jungoptic.core.errors import InputError


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


def lenses_for(camera_id: int, production: Production) -> list[Lens]:
    """What can be put before a camera: its own, where it has some built in, else all that are built into
    none.
    """
    owned = list(production.lenses.filter(removed=False))
    return [lens for lens in owned if lens.camera_id == camera_id] or [
        lens for lens in owned if lens.camera_id is None
    ]


def lens_row(
    production: Production,
    mounted: Lens,
    camera_id: int,
    focal_length_mm: float,
    f_number: float,
    focus_distance_m: float,
) -> Lens:
    """The row of the lens that core's kit takes for these settings; one that is retired since stays mounted.

    Raises InputError where there is none.
    """
    rows = [*([mounted] if mounted.removed else []), *lenses_for(camera_id, production)]
    place = core.fitting_lens([row.record() for row in rows], focal_length_mm, f_number, focus_distance_m)
    if place is None:
        raise InputError.at("focal_length_mm", f"The kit has no {focal_length_mm:g} mm lens.")
    return rows[place]


def with_retired(kit: core.Kit, lens: Lens, mode: RecordingMode) -> core.Kit:
    """A kit with the lens and the recording that a set-up stands on, where they are retired since."""
    more: dict[str, Any] = {}
    if lens.removed:
        more["lenses"] = (*kit.lenses, lens.record())
    if mode.removed:
        modes = (*kit.camera.modes, mode.record())
        more["camera"] = kit.camera.model_copy(update={"modes": modes})
    return kit.model_copy(update=more) if more else kit


def _read_kit(camera_id: int, production: Production) -> core.Kit:
    camera = Camera.objects.prefetch_related("modes").get(pk=camera_id)
    supports = list(production.supports.filter(removed=False))
    filters = [row.stops for row in production.filters.filter(removed=False)]
    return core.Kit(
        camera=camera.record(production.frame_rate_fps),
        lenses=tuple(lens.record() for lens in lenses_for(camera_id, production)),
        lamps=tuple(lamp.record() for lamp in production.lamps.filter(removed=False)),
        lowest_lens_m=min((s.lowest_lens_m for s in supports), default=0.0),
        highest_lens_m=max((s.highest_lens_m for s in supports), default=2.0),
        stage_length_m=production.stage_length_m,
        stage_width_m=production.stage_width_m,
        beams_m=production.beams_m,
        travel_m=max((s.travel_m for s in supports if s.travel_m is not None), default=None),
        **({"nd_stops": core.stacked_stops(filters)} if filters else {}),
    )
