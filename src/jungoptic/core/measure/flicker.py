"""How the light of a clip goes up and down from frame to frame, and what does that."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np
import numpy.typing as npt
from scipy.linalg import solveh_banded

from .amounts import TWICE
from .pixels import MAD, Array

Cause = Literal["steady", "mains", "pulse", "iris", "bounce", "event"]

_FEWEST_FRAMES = 4
_DRIFT_HZ = 0.5
"""What is slower is drift: of a cloud, of a lamp that warms up."""
_ROUNDS, _OUT = 4, 5.0
_SHORT = 0.1
"""Of the peak to peak, times one second over the clip: what a short clip leaves open."""
_LEAST_STOPS = 0.0015
_SWALLOWED_STOPS = 0.05
"""What a codec that copies all of its frames takes of a flicker at most."""
_SEEN_STOPS = 0.004
"""What is less is called steady."""
_ONE_SIDE = 0.6
"""Of the whole's rms that one side may have beyond it before something bounces light."""
_PEAK_SHARE = 0.5
"""Of the power that a wave has where it is one."""
_EVENT, _FEW = 4.0, 0.2
"""How often the scatter a frame stands out by; of all frames, what are few."""
_TIMES, _GAPS = 2.5, 1.2
"""How often in a clip a wave comes at least; how far apart the frames of one event may lie."""


@dataclass(frozen=True, slots=True)
class Flicker:
    """Light over the frames: ``stops`` of the whole without its slow ``drift`` (n) and that; each side
    ``sides`` (n, 2), right over left and lower over upper; peak to peak and rms in stops; the frames that
    stand out; what it is; its own frequency and that of mains light at this rate, Hz, where there is one.
    """

    stops: Array
    drift: Array
    sides: Array
    peak_to_peak: float
    rms: float
    off: float
    frames: tuple[int, ...]
    cause: Cause
    side: str
    frequency_hz: float | None
    mains_alias_hz: float | None


def alias_hz(light_hz: float, rate_fps: float) -> float:
    """The frequency at which a pulsing light is seen by a camera.

    Parameters
    ----------
    light_hz : float
        Of the light: twice that of the mains.
    rate_fps : float
        Of the camera.

    Returns
    -------
    float
        Hz, at most half the rate; 0 where the rate divides it.

    References
    ----------
    mains_ripple

    Examples
    --------
    >>> round(alias_hz(100, 24), 6), alias_hz(100, 25)
    (4.0, 0.0)
    """
    return float(abs(light_hz - round(light_hz / rate_fps) * rate_fps))


def drift_of(stops: npt.ArrayLike, rate_fps: float) -> Array:
    """What of the light over the frames changes slowly: less than every two seconds.

    Parameters
    ----------
    stops : ndarray of float, shape (n,)
        log₂ of light, by frame.
    rate_fps : float
        Frames a second.

    Returns
    -------
    ndarray of float, shape (n,)
        The smoothest curve through it by penalised least squares; what stands out does not bend it.

    References
    ----------
    whittaker

    Examples
    --------
    >>> falls = 0.01 * np.arange(60)
    >>> falls[30] += 0.5
    >>> bool(np.allclose(drift_of(falls, 24), 0.01 * np.arange(60), atol=0.001))
    True
    """
    told = np.asarray(stops, np.float64)
    count = len(told)
    stiff = (2.0 * math.sin(math.pi * min(_DRIFT_HZ / rate_fps, 0.25))) ** -4
    banded = np.zeros((3, count))
    banded[0, 2:] = stiff
    banded[1, 1:] = -4.0 * stiff
    banded[1, [1, -1]] = -2.0 * stiff
    whole = np.full(count, 6.0)
    whole[[1, -2]], whole[[0, -1]] = 5.0, 1.0
    weight = np.ones(count)
    smooth = told
    for _ in range(_ROUNDS):
        banded[2] = weight + stiff * whole
        smooth = np.asarray(solveh_banded(banded, weight * told), np.float64)
        left = np.abs(told - smooth)
        weight = np.where(left > _OUT * MAD * float(np.median(left)) + 1e-6, 1e-6, 1.0)
    return smooth


def _peak_to_peak(stops: Array, rate_fps: float, event: bool) -> float:
    """How far it goes within a second, mostly; all that it goes where something happens once."""
    window = max(_FEWEST_FRAMES, round(rate_fps))
    if event or len(stops) <= window:
        return float(np.ptp(stops))
    starts = range(0, len(stops) - window + 1, max(1, window // 2))
    return float(np.median([np.ptp(stops[start : start + window]) for start in starts]))


def flicker_of_frames(
    light: npt.ArrayLike,
    grid: tuple[int, int],
    rate_fps: float,
    mains_hz: float | None = None,
    still: npt.ArrayLike | None = None,
    copied: float = 0.0,
    held: bool = True,
) -> Flicker:
    """Flicker of a clip, from the mean light of its tiles.

    Parameters
    ----------
    light : ndarray of float, shape (n, tiles)
        Mean linear light of each tile of each frame, row after row.
    grid : tuple of (int, int)
        Rows and columns of the tiles.
    rate_fps : float
        At which it was recorded.
    mains_hz : float, optional
        Of the place.
    still : ndarray of bool, shape (tiles,), optional
        The tiles that count; all of them when left out.
    copied : float, default 0
        How much of each frame the codec copied, from :class:`CopyWatch`: such a recording flickers less than
        the light did, and that is in the error.
    held : bool, default True
        Whether the camera stood still: where it did not, each side goes by what comes into it.

    Returns
    -------
    Flicker
        In stops.

    Raises
    ------
    ValueError
        Where there are too few frames, or no tile counts.

    References
    ----------
    mains_ripple, exposure_meter

    Examples
    --------
    >>> waves = 0.2 * (1 + 0.02 * np.sin(2 * np.pi * 4 * np.arange(96) / 24))[:, None] * np.ones(6)
    >>> seen = flicker_of_frames(waves, (2, 3), 24, 50)
    >>> round(seen.peak_to_peak, 3), seen.cause
    (0.05, 'mains')
    """
    values = np.asarray(light, np.float64)
    if len(values) < _FEWEST_FRAMES:
        raise ValueError(f"{len(values)} frames are too few: {_FEWEST_FRAMES} at least")
    counts = np.ones(values.shape[1], bool) if still is None else np.asarray(still, bool).ravel().copy()
    counts &= (values > 1e-4).all(axis=0)
    if not counts.any():
        raise ValueError("nothing in it stands still that is lighter than black")
    stops = np.log2(np.maximum(values[:, counts], 1e-6))
    stops -= np.median(stops, axis=0)
    drift = drift_of(np.median(stops, axis=1), rate_fps)
    stops -= drift[:, None]
    whole = np.median(stops, axis=1)
    noise = float(np.median(np.abs(stops - whole[:, None]))) * MAD * 1.2533 / math.sqrt(counts.sum())
    sides = np.stack([_side(stops, counts, grid, axis) for axis in (1, 0)], 1)
    rms = float(whole.std())
    frequency, share = _wave(whole, rate_fps)
    alias = None if mains_hz is None else alias_hz(2.0 * mains_hz, rate_fps)
    uneven = sides.std(axis=0)
    axis = int(uneven.argmax())
    side = ""
    off = math.hypot(TWICE * math.sqrt(2.0) * noise, _LEAST_STOPS, _SWALLOWED_STOPS * copied)
    least = max(_ONE_SIDE * rms, _SEEN_STOPS / 2.0)
    if held and uneven[axis] > least and float(np.ptp(sides[:, axis])) > off:
        side = (("left", "right"), ("top", "bottom"))[axis][_unsteadier(stops, counts, grid, 1 - axis)]
    frames = _standing_out(whole if not side else sides[:, axis])
    resolution = rate_fps / len(values)
    cause = _cause(whole, side, (frequency, share, alias, resolution), frames)
    most = _peak_to_peak(whole, rate_fps, cause == "event")
    return Flicker(
        whole,
        drift,
        sides,
        most,
        rms,
        math.hypot(off, _SHORT * most * rate_fps / len(values)),
        frames,
        cause,
        side,
        frequency if share > _PEAK_SHARE else None,
        alias,
    )


def _side(stops: Array, counts: npt.NDArray[np.bool_], grid: tuple[int, int], axis: int) -> Array:
    """By how much the one half of the frame is over the other, by frame."""
    place = np.indices(grid)[axis].ravel()[counts] + 0.5
    low, high = _halves(place, grid[axis])
    if not low.any() or not high.any():
        return np.zeros(len(stops))
    return np.asarray(np.median(stops[:, high], axis=1) - np.median(stops[:, low], axis=1), np.float64)


def _unsteadier(stops: Array, counts: npt.NDArray[np.bool_], grid: tuple[int, int], axis: int) -> bool:
    """Whether the second half of the frame is the one that goes up and down more."""
    place = np.indices(grid)[axis].ravel()[counts] + 0.5
    low, high = (np.median(stops[:, half], axis=1).std() for half in _halves(place, grid[axis]))
    return bool(high > low)


def _halves(place: Array, length: int) -> tuple[npt.NDArray[np.bool_], npt.NDArray[np.bool_]]:
    return place < length / 2.0, place > length / 2.0


def _wave(whole: Array, rate_fps: float) -> tuple[float, float]:
    """The strongest wave: its frequency, Hz, and its share of all power."""
    power = np.abs(np.fft.rfft((whole - whole.mean()) * np.hanning(len(whole)))) ** 2
    power[0] = 0.0
    if power.sum() <= 0:
        return 0.0, 0.0
    peak = int(power.argmax())
    near = power[max(1, peak - 2) : peak + 3]
    place = float((near * np.arange(max(1, peak - 2), max(1, peak - 2) + len(near))).sum() / near.sum())
    return place * rate_fps / len(whole), float(near.sum() / power.sum())


def _standing_out(stops: Array) -> tuple[int, ...]:
    scatter = MAD * float(np.median(np.abs(stops - np.median(stops))))
    limit = max(_EVENT * scatter, _SEEN_STOPS)
    return tuple(int(each) for each in np.flatnonzero(np.abs(stops - np.median(stops)) > limit))


def _cause(
    whole: Array, side: str, wave: tuple[float, float, float | None, float], frames: tuple[int, ...]
) -> Cause:
    frequency, share, alias, resolution = wave
    if float(np.ptp(whole)) < _SEEN_STOPS and not side:
        return "steady"
    if side:
        return "bounce"
    if share > _PEAK_SHARE and frequency > _TIMES * resolution:
        near = alias is not None and abs(frequency - alias) < max(1.5 * resolution, 0.1)
        return "mains" if near else "pulse"
    few = 0 < len(frames) <= _FEW * len(whole)
    return "event" if few or _once(frames, len(whole)) else "iris"


def _once(frames: tuple[int, ...], count: int) -> bool:
    """Whether frames follow on one another, and there are more that do not stand out."""
    return 0 < len(frames) <= count / 2 and frames[-1] - frames[0] < len(frames) * _GAPS
