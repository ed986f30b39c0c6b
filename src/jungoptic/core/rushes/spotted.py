"""What stands out over the frames of a clip: each line in a sentence, and the frames to look at."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from ..measure import ClipMeasured
from ..wording import number
from .measured import Sized, with_error
from .over_time import CAUSES

_SURE = 3.0
_LEAST_PX = 0.3
"""Of the delivered frame: what is less shows in no composite."""
_APART, _SHORT = 6, 2
"""Runs of frames that are nearer are one; a shorter one is noise."""
_ALL_ALONG = 0.6
_SOFT = 0.75
_LEAST_STOPS = 0.05


@dataclass(frozen=True, slots=True)
class Spot:
    """Frames to look at, from the first to the last, with what is there."""

    first: int
    last: int
    text: str


@dataclass(frozen=True, slots=True)
class LineTold:
    """A line over the frames: which series it is, in a sentence what it does, and what stands out in it."""

    series: str
    says: str
    spots: tuple[Spot, ...] = ()


def over_frames(result: ClipMeasured, sized: Sized) -> tuple[LineTold, ...]:
    """What each line of a clip does.

    Parameters
    ----------
    result : ClipMeasured
        All its frames.
    sized : Sized
        The pictures they were measured in.

    Returns
    -------
    tuple of LineTold
        Light, camera, sharpness, movement.

    Examples
    --------
    >>> flat, still = np.zeros(48), np.zeros((48, 3))
    >>> still[20:30, 0] = 1.5
    >>> clip = ClipMeasured(
    ...     960, flat, 0.01, still, (0.05, 0.01), flat + 1, flat, None, 0, np.zeros((9, 16)), 0.0
    ... )
    >>> camera = over_frames(clip, Sized(960, 540, 2.0))[1]
    >>> camera.says, [(spot.first, spot.last) for spot in camera.spots]
    ('Stands still but for frames 20 to 29: 3 px, and back.', [(20, 29)])
    """
    share = sized.delivered * sized.width / result.width_px
    begins = sized.begins
    return (
        _light(result, begins),
        _camera(result, share, begins),
        _sharp(result, begins),
        _movement(result, share, begins),
    )


def _joined(frames: Iterable[int]) -> list[tuple[int, int]]:
    """Runs of frames, first and last; what is hardly apart is one."""
    runs: list[tuple[int, int]] = []
    for frame in frames:
        if runs and frame - runs[-1][1] <= _APART:
            runs[-1] = (runs[-1][0], frame)
        else:
            runs.append((frame, frame))
    return runs


def _runs(wanted: npt.NDArray[np.bool_]) -> list[tuple[int, int]]:
    """Runs of frames that are no noise."""
    return [run for run in _joined(np.flatnonzero(wanted).tolist()) if run[1] - run[0] >= _SHORT]


def _between(first: int, last: int) -> str:
    return f"frame {first}" if first == last else f"frames {first} to {last}"


def _camera(result: ClipMeasured, share: float, begins: int) -> LineTold:
    away, off = share * result.camera_px, share * result.camera_off[0]
    if not np.isfinite(away).any():
        return LineTold("camera", "There is nothing in it that a camera could be held to.")
    runs = _runs(np.isnan(away) | (away > max(_SURE * off, _LEAST_PX)))
    if not runs:
        return LineTold("camera", f"Stands still, within {number(off, 2)} px.")
    if sum(last - first + 1 for first, last in runs) > _ALL_ALONG * len(away):
        most = int(np.nanargmax(away))
        return LineTold(
            "camera",
            f"Moves: off its first frame by up to {with_error(float(away[most]), off)} px,"
            f" in frame {begins + most}.",
            (Spot(begins + most, begins + most, f"{number(float(away[most]), 2)} px"),),
        )
    spots = tuple(_spot(away, first, last, begins) for first, last in runs)
    where = "; ".join(f"{_between(spot.first, spot.last)}: {spot.text}" for spot in spots)
    return LineTold("camera", f"Stands still but for {where}.", spots)


def _spot(away: npt.NDArray[np.float64], first: int, last: int, begins: int) -> Spot:
    part = away[first : last + 1]
    if not np.isfinite(part).any():
        return Spot(begins + first, begins + last, "nothing of the first frame is seen")
    most = number(float(np.nanmax(part)), 2)
    stays = last >= len(away) - 1
    return Spot(
        begins + first, begins + last, f"{most} px, and it stays so" if stays else f"{most} px, and back"
    )


def _light(result: ClipMeasured, begins: int) -> LineTold:
    stops = result.light_stops
    goes = float(np.ptp(stops)) if len(stops) else 0.0
    flicker = result.flicker
    if flicker is None:
        return LineTold("light", f"Goes by {with_error(goes, result.light_off)} stop.")
    cause = CAUSES[flicker.cause]
    told = f"{with_error(flicker.peak_to_peak, flicker.off)} stop from frame to frame. {cause}"
    drift = float(flicker.drift[-1] - flicker.drift[0])
    if abs(drift) > max(_LEAST_STOPS, flicker.off):
        way = "brighter" if drift > 0 else "darker"
        told += f" It gets {way} by {number(abs(drift), 2)} stop."
    frames = _joined(flicker.frames) if flicker.cause in ("event", "bounce") else ()
    begins += result.flicker_from
    spots = tuple(Spot(begins + first, begins + last, "the light jumps") for first, last in frames)
    return LineTold("light", told, spots)


def _sharp(result: ClipMeasured, begins: int) -> LineTold:
    sharp = result.sharp / max(float(np.median(result.sharp)), 1e-9)
    spots = tuple(
        Spot(begins + first, begins + last, f"{number(float(sharp[first : last + 1].min()), 2)} of the usual")
        for first, last in _runs(sharp < _SOFT)
    )
    if not spots:
        return LineTold("sharpness", "As sharp all along.")
    where = "; ".join(_between(spot.first, spot.last) for spot in spots)
    return LineTold("sharpness", f"Softer in {where}.", spots)


def _movement(result: ClipMeasured, share: float, begins: int) -> LineTold:
    fastest = share * result.fastest_px
    most = int(fastest.argmax()) if len(fastest) else 0
    if not len(fastest) or not fastest[most]:
        least = number(share * result.slowest_px, 2)
        return LineTold("movement", f"Nothing moves by more than {least} px a frame.")
    text = f"{number(float(fastest[most]), 2)} px a frame"
    spots = (Spot(begins + most, begins + most, text),)
    return LineTold("movement", f"The fastest thing goes about {text}, in frame {begins + most}.", spots)
