"""What each camera can do with each lens that goes on it, in words."""

from __future__ import annotations

from jungoptic.app.kit.models import Camera, Lens, RecordingMode
from jungoptic.app.kit.reading import lenses_for
from jungoptic.app.productions.models import Production
from jungoptic.app.shelf.abilities_schemas import (
    AbilitiesAsked,
    AbilitiesOut,
    CameraAbilityOut,
    LensAbilityOut,
    ModeAbilityOut,
)
from jungoptic.core.kit import (
    FilmedFrame,
    card_hours,
    lens_ability,
    model_wants,
    most_light_lx,
    rate_name,
    recording_ability,
    stop_name,
)
from jungoptic.core.wording import Words, number

_ACROSS_M = 1.0


def abilities(production: Production, asked: AbilitiesAsked) -> AbilitiesOut:
    """The table of the kit as it stands."""
    words = Words(asked.units)
    frame = FilmedFrame(
        production.delivery_width_px, production.delivery_height_px, production.frame_rate_fps
    )
    lamps = tuple(lamp.record() for lamp in production.lamps.filter(removed=False))
    light = most_light_lx(lamps, _ACROSS_M)
    wants = model_wants(frame, asked.scale, asked.f_number)
    cameras = production.cameras.filter(removed=False).prefetch_related("modes")
    return AbilitiesOut(
        rate=number(wants.rate_fps, 3),
        stop=f"f/{stop_name(wants.stop)}",
        light=words.light(light) if light else "",
        cameras=[
            CameraAbilityOut(
                camera_id=camera.pk, name=camera.name, modes=_modes(camera, production, frame, asked, words)
            )
            for camera in cameras
        ],
    )


def _modes(
    camera: Camera, production: Production, frame: FilmedFrame, asked: AbilitiesAsked, words: Words
) -> list[ModeAbilityOut]:
    lenses = lenses_for(camera.pk, production)
    return [
        ModeAbilityOut(
            mode_id=mode.pk,
            name=mode.name,
            rate=rate_name(mode.highest_fps),
            smallest_scale=_scale(recording_ability(mode.record(), frame).smallest_scale),
            hours=number(card_hours(asked.card_gb, mode.data_rate_mb_s), 2) if mode.data_rate_mb_s else "",
            lenses=[_lens(lens, mode, frame, asked, words) for lens in lenses],
        )
        for mode in camera.modes.all()
        if not mode.removed
    ]


def _lens(
    lens: Lens, mode: RecordingMode, frame: FilmedFrame, asked: AbilitiesAsked, words: Words
) -> LensAbilityOut:
    able = lens_ability(lens.record(), mode.record(), frame, asked.scale, asked.f_number, asked.iso)
    wide, long = (number(view, 3) for view in able.view_deg)
    return LensAbilityOut(
        lens_id=lens.pk,
        name=lens.name,
        view=f"{wide}°" if wide == long else f"{wide}–{long}°",
        narrowest=words.length(able.narrowest_m) + (f" at {able.at_mm:g} mm" if lens.longest_mm else ""),
        finest=words.length(able.finest_mm / 1000.0),
        reaches=able.stops_down,
        reaches_scale=_scale(able.scale_at_smallest),
        light=words.light(able.light_lx),
    )


def _scale(scale: float) -> str:
    """A model as it is called; nothing smaller than full size is none."""
    return f"1:{number(scale, 3)}" if scale > 1 else "full size"
