"""What one picture tells for a measurement, as numbers that are kept in its place."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

import numpy as np
import numpy.typing as npt

from ..errors import InputError
from ..light import bt709_light
from .evenness import corner_stops
from .guided import Instrument, guides
from .lens import Board, board_seen
from .noise import level_of_pair
from .pupil import marks_seen
from .turning import shutter_of_frames

Frame = npt.NDArray[np.uint8]
Told = dict[str, Any]
_MIDDLE = 0.25
"""Of the frame, each way from its middle, is looked at for a plain card."""
_SHAPE_OFF = 0.02
_DIGITS = 5
_ROWS, _COLUMNS = 1080, 640
_SMALL_PX = 480


def watch(kind: str, frames: Sequence[npt.ArrayLike], instrument: Instrument) -> Told:
    """What the frames of one picture tell.

    Parameters
    ----------
    kind : str
        One of :func:`guides`.
    frames : sequence of (ndarray of uint8, shape (h, w))
        As many as its guide says, or more: codes of 8 bits, grey.
    instrument : Instrument
        What is measured.

    Returns
    -------
    dict
        Plain numbers, with ``says`` in words.

    Raises
    ------
    InputError
        What is wrong with the picture, and how it is taken better.

    Examples
    --------
    >>> grey = np.full((90, 160), 104, np.uint8)
    >>> watch("noise", [grey, grey], Instrument())["says"]
    'light 0.18 of white'
    """
    guide = guides()[kind]
    seen = [np.ascontiguousarray(frame, np.uint8) for frame in frames]
    if len(seen) < guide.frames:
        missing = "one frame" if len(seen) == 1 else f"{len(seen)} frames"
        wanted = "two photographs at once, or a clip" if guide.frames == 2 else "a clip of a second or more"
        raise InputError.at("file", f"There is {missing} in it; {guide.frames} are needed: drop {wanted}.")
    if any(each.shape != seen[0].shape for each in seen):
        raise InputError.at("file", "The files are of several sizes: take both with one recording.")
    _refuse_other_shape(seen[0], instrument)
    try:
        return _WATCHES[kind](seen)
    except ValueError as error:
        if isinstance(error, InputError):
            raise
        raise InputError.at("file", _sentence(str(error))) from None


def _sentence(text: str) -> str:
    return f"{text[:1].upper()}{text[1:]}."


def _refuse_other_shape(frame: Frame, instrument: Instrument) -> None:
    height, width = frame.shape[:2]
    wanted = instrument.gate_width_mm / instrument.gate_height_mm
    if abs(width / height / wanted - 1.0) > _SHAPE_OFF:
        raise InputError.at(
            "file",
            f"It is {width} × {height}, {width / height:.2f} : 1, and the recording is {wanted:.2f} : 1: it"
            " uses another part of the gate. Take it with the recording that is measured.",
        )


def _middle(frame: Frame) -> npt.NDArray[np.float32]:
    """Signal of the middle of a frame, 0 to 1."""
    height, width = frame.shape[:2]
    down, right = round(height * _MIDDLE), round(width * _MIDDLE)
    return np.asarray(frame[down : height - down, right : width - right], np.float32) / 255.0


def _board(frames: Sequence[Frame]) -> Told:
    seen = board_seen(frames[0], Board())
    if seen is None:
        raise InputError.at(
            "file", "The board is not seen in it: hold it nearer, flat, sharp, and without a shine on it."
        )
    px = np.round(seen.px.astype(np.float64), 3)
    return {
        "px": px.tolist(),
        "metres": np.round(seen.metres.astype(np.float64), _DIGITS).tolist(),
        "size": list(seen.size_px),
        "says": f"{len(px)} corners",
    }


def _flat(frames: Sequence[Frame]) -> Told:
    stops = corner_stops(bt709_light(np.asarray(frames[0], np.float32) / 255.0))
    return {"stops": round(stops, _DIGITS), "says": f"corner {stops:.2f} stops darker"}


def _marks(frames: Sequence[Frame]) -> Told:
    seen = marks_seen(frames[0])
    if seen is None:
        raise InputError.at(
            "file", "Both marks are not seen in it: light them, and bring both into the frame, sharp enough."
        )
    return {
        "near": list(seen.near_px),
        "far": list(seen.far_px),
        "size": list(seen.size_px),
        "says": f"marks {seen.far_px[0] - seen.near_px[0]:+.1f} px apart",
    }


def _pair(frames: Sequence[Frame]) -> Told:
    level = level_of_pair(*(bt709_light(_middle(frame)) for frame in frames[:2]))
    return {
        "light": round(level.light, 6),
        "variance": level.variance,
        "count": level.count,
        "says": f"light {level.light:.2f} of white",
    }


def _rows(frames: Sequence[Frame]) -> Told:
    height = frames[0].shape[0]
    step = max(1, frames[0].shape[1] // _COLUMNS)  # a sheet is alike across: some columns tell it
    rows = [bt709_light(np.asarray(frame[:, ::step], np.float32) / 255.0).mean(axis=1) for frame in frames]
    means = np.array(rows, np.float64)
    if height > _ROWS:
        places = np.linspace(0, height, _ROWS + 1)
        upto = np.concatenate([np.zeros((len(means), 1)), np.cumsum(means, axis=1)], axis=1)
        whole = np.arange(height + 1)
        sums = np.array([np.interp(places, whole, each) for each in upto])
        means = np.diff(sums, axis=1) * _ROWS / height
    return {"rows": np.round(means, _DIGITS).tolist(), "height": height, "says": f"{len(means)} frames"}


def _disc(frames: Sequence[Frame]) -> Told:
    height = frames[0].shape[0]
    step = max(1, height // _SMALL_PX)
    small = [bt709_light(np.asarray(frame[::step, ::step], np.float32) / 255.0) for frame in frames]
    measured = shutter_of_frames(np.array(small))
    return {
        "angle": round(measured.angle_deg, 3),
        "off": round(measured.off_deg, 3),
        "turn": round(measured.turn_deg, 3),
        "says": f"{measured.turn_deg:.0f}° from frame to frame",
    }


def _card(frames: Sequence[Frame]) -> Told:
    signal = float(_middle(frames[0]).mean())
    return {"signal": round(signal, _DIGITS), "says": f"{100 * signal:.0f} % signal"}


_WATCHES: dict[str, Callable[[Sequence[Frame]], Told]] = {
    "lens": _board,
    "vignetting": _flat,
    "pupil": _marks,
    "noise": _pair,
    "rows": _rows,
    "ripple": _rows,
    "shutter": _disc,
    "curve": _card,
}
