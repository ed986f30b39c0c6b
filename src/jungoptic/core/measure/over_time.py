"""The light of a marked region by frame, as cues for a lamp or a flame that is to follow it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from .flicker import drift_of
from .pixels import Array

_BLACK = 1e-4
CUE_STOPS = 0.05
"""How far light between two cues may be off the straight line between them."""


@dataclass(frozen=True, slots=True)
class LightCue:
    """A frame, and by how much the light there is over the brightest frame, stops (0 or less)."""

    frame: int
    stops: float


@dataclass(frozen=True, slots=True)
class LightOverTime:
    """Light by frame: shares of white (n), stops against the first frames (n), how far it drifts slowly from
    the first to the last frame and at most, and the cues that tell it within :data:`CUE_STOPS`.
    """

    light: Array
    stops: Array
    drift_stops: float
    most_stops: float
    off: float
    cues: tuple[LightCue, ...]


def light_over_time(light: npt.ArrayLike, rate_fps: float) -> LightOverTime:
    """How the light of a region goes.

    Parameters
    ----------
    light : ndarray of float, shape (n,)
        Mean linear light of the region, by frame.
    rate_fps : float
        Frames a second.

    Returns
    -------
    LightOverTime
        Cues are joined by straight lines in stops.

    Raises
    ------
    ValueError
        Where there are fewer than four frames.

    References
    ----------
    exposure_meter, whittaker

    Examples
    --------
    >>> seen = light_over_time(0.4 * 2.0 ** -np.linspace(0, 1, 49), 24)
    >>> round(seen.drift_stops, 2), [(cue.frame, round(cue.stops, 1)) for cue in seen.cues]
    (-1.0, [(0, 0.0), (48, -1.0)])
    """
    values = np.asarray(light, np.float64)
    if len(values) < 4:
        raise ValueError(f"{len(values)} frames are too few: 4 at least")
    stops = np.log2(np.maximum(values, _BLACK))
    drift = drift_of(stops, rate_fps)
    noise = float(np.median(np.abs(np.diff(stops - drift)))) if len(stops) > 2 else 0.0
    told = stops - stops.max()
    return LightOverTime(
        values,
        np.asarray(stops - drift[0], np.float64),
        float(drift[-1] - drift[0]),
        float(np.ptp(drift)),
        2.0 * noise + 0.005,
        tuple(LightCue(int(frame), float(told[frame])) for frame in _cues(told)),
    )


def _cues(stops: Array) -> list[int]:
    """The fewest frames, about, between which straight lines tell the light (Ramer's and Douglas & Peucker's
    way: the farthest is taken in, until none is far).
    """
    kept = {0, len(stops) - 1}
    parts = [(0, len(stops) - 1)]
    while parts:
        first, last = parts.pop()
        if last - first < 2:
            continue
        frames = np.arange(first, last + 1)
        line = np.interp(frames, (first, last), (stops[first], stops[last]))
        off = np.abs(stops[first : last + 1] - line)
        worst = int(off.argmax())
        if off[worst] > CUE_STOPS:
            kept.add(first + worst)
            parts += [(first, first + worst), (first + worst, last)]
    return sorted(kept)
