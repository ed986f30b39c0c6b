"""What differs between two settings of the same set-up, in words: plan against take, before against after."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from ..kit.records import Kit
from ..kit.steps import rate_name
from ..light import exposure_time_s
from ..wording import Words, number
from .records import SetUp

NOT_SET = "not set"
_TAG_OFF = 0.06
_RATE_OFF = 0.002
_TOLD_APART = {"capture_fps": _RATE_OFF, "recorded_width_px": 0.0, "recorded_height_px": 0.0}


@dataclass(frozen=True, slots=True)
class Difference:
    """One setting: field, label, then and now in words."""

    field: str
    label: str
    before: str
    after: str


_SAME_K = 1.0
_PRESSED_S = 3.0


def _mode_name(setup: SetUp, kit: Kit | None) -> str:
    mode = kit.mode_of(setup.recorded_width_px, setup.gate_width_mm) if kit else None
    return mode.name if mode else f"{setup.recorded_width_px} × {setup.recorded_height_px}"


def _optional(value: float | None, say: Callable[[float], str]) -> str:
    return NOT_SET if value is None else say(value)


def settings_in_words(setup: SetUp, words: Words, kit: Kit | None = None) -> list[tuple[str, str, str]]:
    """Every setting in the order in which a crew sets them.

    Parameters
    ----------
    setup : SetUp
        What is said.
    words : Words
        The reader's units.
    kit : Kit, optional
        Lets recording modes be said by name.

    Returns
    -------
    list of tuple of str
        Field, label, value in words.

    Examples
    --------
    >>> from jungoptic.core.example import HERO
    >>> settings_in_words(HERO, Words())[1]
    ('f_number', 'Stop', 'f/8')
    """

    def degrees(value: float) -> str:
        return f"{number(value)}°"

    return [
        ("focal_length_mm", "Lens", f"{setup.focal_length_mm:g} mm"),
        ("f_number", "Stop", words.stop(setup.f_number)),
        ("focus_distance_m", "Focus", words.length(setup.focus_distance_m)),
        ("distance_m", "Lens to front edge", words.length(setup.distance_m)),
        ("lens_height_m", "Lens height", words.length(setup.lens_height_m)),
        ("ground_height_m", "Table height", words.length(setup.ground_height_m)),
        ("tilt_deg", "Tilt", degrees(setup.tilt_deg)),
        ("roll_deg", "Roll", degrees(setup.roll_deg)),
        ("recorded_width_px", "Recording", _mode_name(setup, kit)),
        ("capture_fps", "Rate", f"{rate_name(setup.capture_fps)} frames/s"),
        ("shutter_angle_deg", "Shutter", f"{setup.shutter_angle_deg:g}°"),
        ("iso", "ISO", f"{setup.iso:g}"),
        ("nd_stops", "ND", f"{number(setup.nd_stops)} stops"),
        ("illuminance_lx", "Light", words.light(setup.illuminance_lx)),
        ("light_k", "Colour of light", f"{setup.light_k:g} K"),
        ("white_balance_k", "White balance", f"{setup.white_balance_k:g} K"),
        ("key_azimuth_deg", "Key, side angle", _optional(setup.key_azimuth_deg, degrees)),
        ("key_elevation_deg", "Key, height angle", _optional(setup.key_elevation_deg, degrees)),
        ("key_size_deg", "Apparent source size", _optional(setup.key_size_deg, degrees)),
        (
            "key_to_fill_stops",
            "Key-to-fill ratio",
            _optional(setup.key_to_fill_stops, lambda value: f"{number(value)} stops"),
        ),
        (
            "ripple_depth",
            "Lamp flicker depth",
            f"{100 * setup.ripple_depth:.0f} %" if setup.ripple_depth else NOT_SET,
        ),
        ("model_speed_m_s", "Model speed", _optional(setup.model_speed_m_s, words.speed)),
        ("travel_m", "Travel of the rig", _optional(setup.travel_m, words.length)),
    ]


def differences(before: SetUp, after: SetUp, words: Words, kit: Kit | None = None) -> list[Difference]:
    """The settings that are not the same in two set-ups.

    Parameters
    ----------
    before, after : SetUp
        Plan and take, or then and now.
    words : Words
        The reader's units.
    kit : Kit, optional
        Lets recording modes be said by name.

    Returns
    -------
    list of Difference
        In the order in which a crew sets them.

    Examples
    --------
    >>> from jungoptic.core.example import HERO
    >>> [(change.label, change.after) for change in differences(HERO, HERO.but(f_number=22.627), Words())]
    [('Stop', 'f/22')]
    """
    told = zip(settings_in_words(before, words, kit), settings_in_words(after, words, kit), strict=True)
    settings = [
        Difference(field, label, then, now)
        for (field, label, then), (_, _, now) in told
        if not _same(getattr(before, field), getattr(after, field))
    ]
    return settings + _light_differences(before, after, words)


def file_differences(
    logged: SetUp, recorded: Mapping[str, float], delivered_fps: float, words: Words
) -> list[Difference]:
    """What a file says otherwise than its take was logged: ``before`` is the log, ``after`` the file.

    Parameters
    ----------
    logged : SetUp
        The take as it was logged.
    recorded : mapping of str to float
        What the file says, by the fields of a set-up; ``exposure_s`` for the shutter. What it does not say
        is left out.
    delivered_fps : float
        What was filmed faster or slower may be kept at this rate, and is no difference then.
    words : Words
        The reader's units.

    Returns
    -------
    list of Difference
        Beyond a sixth of a stop, which is how finely tags are rounded; sizes exactly, of pictures that lie.

    References
    ----------
    shutter, exif

    Examples
    --------
    >>> from jungoptic.core.example import HERO
    >>> [each.after for each in file_differences(HERO, {"f_number": 2.8, "iso": HERO.iso}, 24.0, Words())]
    ['f/2.8']
    """
    settings = dict(recorded)
    if exposure_s := settings.pop("exposure_s", None):
        settings["shutter_angle_deg"] = exposure_s / exposure_time_s(1.0, logged.capture_fps)
    if math.isclose(settings.get("capture_fps", delivered_fps), delivered_fps, rel_tol=_RATE_OFF):
        settings.pop("capture_fps", None)
    if settings.get("recorded_width_px", 0) < settings.get("recorded_height_px", 0):
        settings.pop("recorded_width_px")
    told = {
        name: value
        for name, value in settings.items()
        if not math.isclose(value, getattr(logged, name), rel_tol=_TOLD_APART.get(name, _TAG_OFF))
    }
    try:
        return differences(logged, SetUp.read({**logged.model_dump(), **told}), words)
    except ValueError:  # a tag that no camera could mean
        return []


def stopped_early(rolled_s: float, clip_s: float, clip_fps: float, capture_fps: float) -> Difference | None:
    """What is said of a clip that is shorter than the steps of its take took.

    Parameters
    ----------
    rolled_s : float
        From *roll* to *cut* by the steps, seconds.
    clip_s : float
        Of the file, seconds, as it plays.
    clip_fps, capture_fps : float
        At which the file plays, and at which it was filmed: what is kept to be played slower is longer.

    Returns
    -------
    Difference or None
        None within three seconds: whoever presses the button is not as quick as who calls.

    References
    ----------
    protocol_times

    Examples
    --------
    >>> stopped_early(75.0, 41.0, 24.0, 24.0).after
    '41 s: stopped early, or begun late'
    >>> stopped_early(75.0, 148.0, 24.0, 48.0) is None
    True
    """
    lasted_s = clip_s * clip_fps / capture_fps
    if lasted_s >= rolled_s - _PRESSED_S:
        return None
    return Difference(
        "rolled_s",
        "Rolled",
        f"{rolled_s:.0f} s by its steps",
        f"{lasted_s:.0f} s: stopped early, or begun late",
    )


def _clock(setup: SetUp) -> str:
    return f"{setup.sun_at:%d.%m.%Y %H:%M} UTC{setup.sun_at:%z}" if setup.sun_at else NOT_SET


def _light_differences(before: SetUp, after: SetUp, words: Words) -> list[Difference]:
    """The hour of the sun, the sky, and lamps that were dimmed, gelled or moved."""
    told = []
    if before.sun_at != after.sun_at:
        told.append(Difference("sun_at", "Sun at", _clock(before), _clock(after)))
    if before.sky != after.sky:
        told.append(Difference("sky", "Sky", before.sky, after.sky))
    if not _same(before.diffusion_stops, after.diffusion_stops):
        cloth = [f"{number(setup.diffusion_stops)} stops" for setup in (before, after)]
        told.append(Difference("diffusion_stops", "Diffusion over the set", *cloth))
    if len(before.lamps) != len(after.lamps):
        return told
    for was, now in zip(before.lamps, after.lamps, strict=True):
        if not _same(was.level, now.level):
            levels = [f"{100 * lamp.level:.0f} %" for lamp in (was, now)]
            told.append(Difference("lamps", f"{now.name}, dimmed to", *levels))
        if not math.isclose(was.colour_k, now.colour_k, abs_tol=_SAME_K):
            colours = [f"{lamp.colour_k:.0f} K" for lamp in (was, now)]
            told.append(Difference("lamps", f"{now.name}, colour", *colours))
        if was.place != now.place or was.aim != now.aim:
            moved = words.length(math.dist(was.place, now.place))
            told.append(Difference("lamps", f"{now.name}, placed", "as planned", f"{moved} from there"))
    return told


def _same(value: Any, other: Any) -> bool:
    if isinstance(value, float | int) and isinstance(other, float | int):
        return math.isclose(value, other, rel_tol=1e-9, abs_tol=1e-12)
    return bool(value == other)
