"""Flicker, light over time and elements on black, told."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from ..measure import Amount, ClipMeasured, Flicker, LightOverTime, Measurement, OnBlack, Series
from ..wording import number
from .measured import Sized, as_measurement, in_words, within

CAUSES = {
    "steady": "The light is steady.",
    "mains": "It pulses as mains light does at this rate: change shutter or rate to fit the mains.",
    "pulse": "It pulses by itself: a dimmed or failing lamp.",
    "iris": "The whole frame alike, from frame to frame: a lamp that is fed unevenly, or an iris that moves.",
    "bounce": "One side more than the other: something near bounces light.",
    "event": "It happens in a few frames only.",
}
PATH = (("right", "Camera right", "px"), ("down", "Camera down", "px"), ("turn", "Camera turned", "°"))
"""How a camera stands over the frames, part by part: for whoever puts it right."""
_BLACK_SHARE = 0.5
ALL_OVER = "all over"
IN_PART_STOPS = 0.05
"""A third that changed by so much more than the whole is told by itself."""


def _frames(frames: tuple[int, ...], begins: int) -> str:
    """Frames as runs: 3, 8 to 11; they are counted from the one from which on it was looked at."""
    runs: list[list[int]] = []
    for frame in (begins + each for each in frames):
        if runs and runs[-1][1] == frame - 1:
            runs[-1][1] = frame
        else:
            runs.append([frame, frame])
    return ", ".join(f"{a}" if a == b else f"{a} to {b}" for a, b in runs)


@as_measurement.register
def _(result: Flicker, sized: Sized) -> Measurement:
    amounts = [
        Amount("flicker", "Flicker, peak to peak", result.peak_to_peak, result.off, "stop"),
        Amount("rms", "Flicker, rms", result.rms, result.off / 2.0, "stop"),
        Amount("drift", "Slow drift", float(result.drift[-1] - result.drift[0]), result.off, "stop"),
    ]
    if result.frequency_hz is not None:
        amounts.append(
            Amount(
                "frequency", "Its frequency", result.frequency_hz, sized.rate_fps / len(result.stops), "Hz"
            )
        )
    if result.mains_alias_hz is not None:
        amounts.append(Amount("mains", "Mains light would pulse at", result.mains_alias_hz, None, "Hz"))
    series = (
        Series("flicker", "Light without drift", "stop", _floats(result.stops)),
        Series("drift", "Slow drift", "stop", _floats(result.drift)),
    )
    return Measurement("flicker", tuple(amounts), ("What is slower than two seconds is drift.",), (), series)


def _floats(values: object) -> tuple[float, ...]:
    return tuple(float(each) for each in values)  # type: ignore[attr-defined]


@in_words.register
def _(result: Flicker, sized: Sized) -> str:
    seen = as_measurement(result, sized)
    if result.cause == "steady":
        return f"{CAUSES['steady']} It flickers by {within(seen.amounts[0])}."
    told = f"It flickers by {within(seen.amounts[0])}. {CAUSES[result.cause]}"
    if result.side:
        told += f" It is the {result.side}."
    if result.frames and result.cause in ("event", "bounce"):
        told += f" Frames {_frames(result.frames, sized.begins)}."
    return told


@as_measurement.register
def _(result: LightOverTime, sized: Sized) -> Measurement:
    amounts = (
        Amount("drift", "Light drifted", result.drift_stops, result.off, "stop"),
        Amount("range", "At most", result.most_stops, result.off, "stop"),
        Amount("cues", "Cues that tell it", float(len(result.cues))),
    )
    series = (
        Series("stops", "Light against the first frames", "stop", _floats(result.stops)),
        Series("light", "Light", "of white", _floats(result.light)),
    )
    return Measurement("light", amounts, (), (), series)


@in_words.register
def _(result: LightOverTime, sized: Sized) -> str:
    drift = as_measurement(result, sized).amounts[0]
    told = f"From the first frame to the last the light goes by {within(drift)}."
    return f"{told} {len(result.cues)} cues with straight lines between them tell it within 0.05 stop."


@as_measurement.register
def _(result: OnBlack, sized: Sized) -> Measurement:
    amounts = [
        Amount("black", "Black", 100.0 * result.black, None, "%"),
        Amount("clipped", "Clipped at most", 100.0 * result.clipped, None, "%"),
        Amount("touches", "Frames at an edge", float(len({frame for frame, _ in result.touches}))),
    ]
    if result.first is not None and result.last is not None:
        amounts.append(Amount("first", "First frame", float(sized.begins + result.first)))
        amounts.append(Amount("last", "Last frame", float(sized.begins + result.last)))
    series = (Series("light", "Its light", "of white", _floats(result.light)),)
    return Measurement(
        "black", tuple(amounts), ("Black is the 99th of 100 of the frame's border.",), (), series
    )


@in_words.register
def _(result: OnBlack, sized: Sized) -> str:
    black = 100.0 * result.black
    told = "Black is black" if black < _BLACK_SHARE else "Black is not black: it lifts what it is laid on"
    told += f" ({number(black, 2)} % of white)."
    if result.first is None or result.last is None:
        return told + " There is nothing on it."
    told += f" It burns from frame {sized.begins + result.first} to {sized.begins + result.last}."
    if result.clipped > 0:
        frame = sized.begins + result.clipped_frame
        told += f" At most {number(100.0 * result.clipped, 2)} % clip, in frame {frame}."
    for side in ("left", "right", "top", "bottom"):
        frames = tuple(frame for frame, name in result.touches if name == side)
        if frames:
            told += f" It touches the {side} in frames {_frames(frames, sized.begins)}."
    return told


@as_measurement.register
def _(result: ClipMeasured, sized: Sized) -> Measurement:
    share = sized.delivered * sized.width / result.width_px
    camera, off = share * result.camera_px, share * result.camera_off[0]
    held = np.isfinite(camera).any()
    amounts = [
        *([Amount("camera", "Camera strayed, at most", _most(camera), off, "px")] if held else []),
        _changed(result),
        Amount(
            "light", "Light went by, at most", float(np.ptp(result.light_stops)), result.light_off, "stop"
        ),
        Amount("movement", "Fastest thing", share * _most(result.fastest_px), None, "px a frame"),
        Amount("sharpness", "Softest frame against the sharpest", float(result.sharp.min()), None, ""),
        Amount("lost", "Frames that share nothing with the first", float(np.isnan(camera).sum())),
    ]
    if result.flicker is not None:
        flicker = result.flicker
        amounts.append(Amount("flicker", "Flicker, peak to peak", flicker.peak_to_peak, flicker.off, "stop"))
    series = (
        Series("light", "Light", "stop", _floats(result.light_stops)),
        Series("camera", "Camera", "px", _floats(camera)),
        Series("sharpness", "Sharpness", "of the sharpest", _floats(result.sharp)),
        Series("movement", "Movement", "px a frame", _floats(share * result.fastest_px)),
        *(
            Series(name, title, unit, _floats((share if unit == "px" else 1.0) * path))
            for (name, title, unit), path in zip(PATH, result.camera.T, strict=True)
        ),
    )
    return Measurement("clip", tuple(amounts), ("All frames, seen small.",), (), series)


def _changed(result: ClipMeasured) -> Amount:
    """By how much the light changed from the first frames to the last, in the third where it changed most;
    what moves is in few tiles and does not count.
    """
    tiles = result.changed_stops
    whole = float(np.median(tiles))
    thirds = {
        f"{name} third": float(np.median(part))
        for names, axis in ((("left", "middle", "right"), 1), (("upper", "middle", "lower"), 0))
        for name, part in zip(names, np.array_split(tiles, 3, axis=axis), strict=True)
        if part.size
    }
    where = max(thirds, key=lambda name: abs(thirds[name]))
    if abs(thirds[where]) - abs(whole) < IN_PART_STOPS:
        where, stops = ALL_OVER, whole
    else:
        stops = thirds[where]
    return Amount("changed", f"Light changed, {where}", stops, result.light_off, "stop")


def _most(values: npt.NDArray[np.float64]) -> float:
    return float(np.nanmax(values)) if np.isfinite(values).any() else 0.0


@in_words.register
def _(result: ClipMeasured, sized: Sized) -> str:
    seen, begins = as_measurement(result, sized), sized.begins
    light = seen.amount("light")
    camera = seen.amounts[0]
    if not np.isfinite(result.camera_px).any():
        told = "There is nothing in it that a camera could be held to."
    elif camera.value <= (camera.off or 0.0):
        told = f"The camera stood still, within {number(camera.off or 0.0, 2)} px."
    else:
        worst = begins + int(np.nanargmax(result.camera_px))
        told = f"The camera is off its first frame by up to {within(camera)}, in frame {worst}."
    if lost := np.flatnonzero(np.isnan(result.camera_px)).tolist():
        told += f" Frames {_frames(tuple(lost), begins)} share nothing with the first."
    darkest, lightest = (begins + int(each(result.light_stops)) for each in (np.argmin, np.argmax))
    told += f" The light goes by {within(light)}, least in frame {darkest}, most in frame {lightest}."
    return told + f" Softest is frame {begins + int(result.sharp.argmin())}."
