"""Whether a subject will key off its backing: how far their colours lie apart, and the matte that comes of
it.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import cv2
import numpy as np
import numpy.typing as npt

from ..light import LUMA
from .evenness import channel_of
from .pixels import MAD, Array, Image, Mask, brightness, smoothed

Way = Literal["colour", "luma", "clean"]
Keys = Literal["keys", "loose", "hand"]

WAYS: dict[Way, str] = {
    "colour": "by the difference of its channels",
    "luma": "by its brightness",
    "clean": "against the clean plate",
}
_FLOOR = 0.004
"""Light under which a colour is noise."""
_HOLE, _REMAINS = 0.95, 0.05
_KEYS_SHARE, _LOOSE_SHARE = 0.005, 0.05
_KEYS_SIGMA, _LOOSE_SIGMA = 6.0, 3.0
_LIKE_SIGMA = 4.0
_DIFFERS = 0.25
"""Of a clean plate's light: what is off by so much is no plate any more."""
_BAND_PX, _INSIDE_PX, _WIDER = 5, 13, 1.6
_OF_BACKING = 0.997
_RIM_FROM, _RIM_TO = 3, 9
_SPREAD_PX = 12.0
_LOW, _HALF, _HIGH = 0.1, 0.5, 0.9
_REACH_PX, _BIN_PX, _FEWEST_PX = 16.0, 0.5, 16
_SUB = 4000


@dataclass(frozen=True, slots=True)
class Keyed:
    """What a key comes to: how far the clouds of backing and subject lie apart, in deviations along the axis
    that parts them best; the way that was taken; the matte (h, w), 1 where the subject is; shares of the
    subject that are holes and of the backing that remain; the width of the matte's edge, 10 to 90 %, px;
    what the backing throws onto the rim, against the light there; and what that amounts to.
    """

    separation: float
    separation_off: float
    way: Way
    matte: Image
    holes: float
    remains: float
    edge_px: float
    edge_off_px: float
    spill: float
    keys: Keys


def log_chroma(light: npt.ArrayLike) -> Image:
    """Colour without brightness: log₂ of red and of blue over green.

    Parameters
    ----------
    light : ndarray of float, shape (..., 3)
        Linear light, red first.

    Returns
    -------
    ndarray of float32, shape (..., 2)
        Stops; near black it comes to rest at none.

    Examples
    --------
    >>> log_chroma([0.2, 0.4, 0.1]).round(2).tolist()
    [-0.9900000095367432, -1.9600000381469727]
    """
    floored = np.maximum(np.asarray(light, np.float32), 0.0) + np.float32(_FLOOR)
    logs = np.log2(floored)
    return np.asarray(logs[..., (0, 2)] - logs[..., 1:2], np.float32)


def separation_of(backing: npt.ArrayLike, subject: npt.ArrayLike) -> float:
    """How far two clouds of colours lie apart along the axis that parts them best.

    Parameters
    ----------
    backing, subject : ndarray of float, shape (n, k)
        Places in a plane of colour.

    Returns
    -------
    float
        Distance of their middles over their mean deviation along it.

    References
    ----------
    fisher_axis

    Examples
    --------
    >>> dice = np.random.default_rng(0)
    >>> cloud = dice.standard_normal((4000, 2))
    >>> round(separation_of(cloud, cloud + (6.0, 0.0)))
    6
    """
    a, b = np.asarray(backing, np.float64), np.asarray(subject, np.float64)
    within = (np.cov(a.T) + np.cov(b.T)) / 2.0 + 1e-9 * np.eye(a.shape[1])
    apart = b.mean(axis=0) - a.mean(axis=0)
    return math.sqrt(max(0.0, float(apart @ np.linalg.solve(within, apart))))


def _thinned(values: npt.NDArray[np.float32]) -> Array:
    """Some thousands of them, evenly."""
    step = max(1, len(values) // _SUB)
    return np.asarray(values[::step], np.float64)


def _filled(light: Image, known: Mask, sigma: float = _SPREAD_PX) -> Image:
    """Light where it is known, and carried on from there: nearest first, by widening smoothing."""
    weight = known.astype(np.float32)
    told = np.zeros_like(light)
    left = np.ones(known.shape, np.float32)
    for reach in (sigma / 4.0, sigma, 4.0 * sigma, 16.0 * sigma):
        small = min(1.0, 4.0 / reach)
        size = [max(1, round(side * small)) for side in known.shape[::-1]]
        share = cv2.GaussianBlur(
            cv2.resize(weight, size, interpolation=cv2.INTER_AREA), (0, 0), reach * small
        )
        spread = cv2.GaussianBlur(
            cv2.resize(light * weight[..., None], size, interpolation=cv2.INTER_AREA), (0, 0), reach * small
        )
        whole = known.shape[::-1]
        share = cv2.resize(share, whole, interpolation=cv2.INTER_LINEAR)
        mean = cv2.resize(spread, whole, interpolation=cv2.INTER_LINEAR) / np.maximum(share, 1e-6)[..., None]
        take = left * np.clip(share / 0.05, 0.0, 1.0)
        told += mean * take[..., None]
        left -= take
    rest = light[known].mean(axis=0) if known.any() else np.zeros(3, np.float32)
    return np.asarray(told + left[..., None] * rest, np.float32)


def _raw(light: Image, behind: Image, subject: Array, way: Way, channel: int) -> Image:
    """How little of the backing each pixel has, before it is stretched."""
    others = [each for each in range(3) if each != channel]
    if way == "colour":
        excess = light[..., channel] - np.maximum(light[..., others[0]], light[..., others[1]])
        full = behind[..., channel] - np.maximum(behind[..., others[0]], behind[..., others[1]])
        return np.asarray(1.0 - excess / np.maximum(full, 1e-3), np.float32)
    if way == "luma":
        here, there = brightness(light), brightness(behind)
        wanted = float(subject @ LUMA)
        return np.asarray(
            (here - there) / np.where(np.abs(wanted - there) < 0.01, 0.01, wanted - there), np.float32
        )
    away = np.linalg.norm(light - behind, axis=2)
    return np.asarray(away / (_DIFFERS * np.linalg.norm(behind, axis=2) + _FLOOR * 4.0), np.float32)


def _matte(light: Image, behind: Image, raw: Image, noise: float) -> Image:
    """The key stretched between its two sides; where both mix, by where a pixel lies between the light of
    the backing and that of the subject next to it.
    """
    low, high = max(noise, _REMAINS), 1.0 - _REMAINS
    plain = np.asarray(np.clip((raw - low) / max(high - low, 0.2), 0.0, 1.0), np.float32)
    solid = (plain > 0.5).astype(np.uint8)
    kernel = np.ones((2 * _BAND_PX + 1,) * 2, np.uint8)
    inside, outside = cv2.erode(solid, kernel) > 0, cv2.dilate(solid, kernel) == 0
    mixed = ~inside & ~outside
    if not inside.any() or not mixed.any():
        return plain
    before = _filled(light, inside & (plain > _HOLE))
    apart = before - behind
    along = ((light - behind) * apart).sum(axis=2) / np.maximum((apart * apart).sum(axis=2), 1e-5)
    return np.asarray(np.where(mixed, np.clip(along, 0.0, 1.0), plain), np.float32)


def keyed(
    light: npt.ArrayLike,
    backing: npt.ArrayLike,
    subject: npt.ArrayLike | None = None,
    clean: npt.ArrayLike | None = None,
    way: Way | None = None,
) -> Keyed:
    """Key a subject off its backing.

    Parameters
    ----------
    light : ndarray of float, shape (h, w, 3)
        Linear light.
    backing : ndarray of bool, shape (h, w)
        Some of what is surely backing.
    subject : ndarray of bool, shape (h, w), optional
        Some of what is surely subject; what is unlike the backing when left out.
    clean : ndarray of float, shape (h, w, 3), optional
        The clean plate, laid on it, linear light.
    way : str, optional
        One of :data:`WAYS`; the one that parts them best when left out.

    Returns
    -------
    Keyed
        In px of the picture.

    Raises
    ------
    ValueError
        Where backing or subject cannot be told.

    References
    ----------
    fisher_axis, cutting_out, porter_duff

    Examples
    --------
    >>> sheet = np.full((90, 160, 3), (0.05, 0.4, 0.08), np.float32)
    >>> sheet[30:60, 60:100] = (0.3, 0.2, 0.15)
    >>> seen = keyed(sheet, np.indices((90, 160))[1] < 30)
    >>> seen.keys, seen.holes, round(float(seen.matte[45, 80]), 2)
    ('keys', 0.0, 1.0)
    """
    seen, sure = np.asarray(light, np.float32), np.asarray(backing, bool)
    if np.count_nonzero(sure) < 64:
        raise ValueError("too little of the backing is marked")
    plate = None if clean is None else np.asarray(clean, np.float32)
    colour = np.median(seen[sure], axis=0)
    channel = channel_of(colour)
    chroma = log_chroma(seen)
    unlike = _unlike(chroma, seen, sure, plate)
    wanted = unlike if subject is None else np.asarray(subject, bool)
    if subject is None:
        wanted = cv2.erode(wanted.astype(np.uint8), np.ones((_INSIDE_PX, _INSIDE_PX), np.uint8)) > 0
    if np.count_nonzero(wanted) < 64:
        raise ValueError("nothing in it is unlike the backing: mark the subject")
    clouds = {
        "colour": (_thinned(chroma[sure]), _thinned(chroma[wanted])),
        "luma": tuple(
            np.log2(np.maximum(_thinned(brightness(seen)[each][:, None]), 1e-4)) for each in (sure, wanted)
        ),
    }
    apart = {
        name: separation_of(np.atleast_2d(a), np.atleast_2d(b)) if a.shape[1] > 1 else _along(a, b)
        for name, (a, b) in clouds.items()
    }
    if way is None:
        way = (
            "clean"
            if plate is not None
            else "colour"
            if apart["colour"] >= min(apart["luma"], _KEYS_SIGMA) and _coloured(colour, channel)
            else "luma"
        )
    far = ~(cv2.dilate(unlike.astype(np.uint8), np.ones((2 * _BAND_PX + 1,) * 2, np.uint8)) > 0)
    behind = plate if plate is not None else _filled(seen, far if far.any() else sure)
    middle = np.median(seen[wanted], axis=0)
    raw = _raw(seen, behind, middle, way, channel)
    noise = min(float(np.quantile(raw[sure], _OF_BACKING)), 0.5)
    matte = _matte(seen, behind, raw, noise)
    edge, off = _edge_px(matte)
    if subject is None:  # the edge itself is no hole
        depth = cv2.distanceTransform(unlike.astype(np.uint8), cv2.DIST_L2, 5)
        wanted = depth > min(max(_BAND_PX + 1.0, _WIDER * edge), 0.5 * float(depth.max()))
    holes, remains = float((matte[wanted] < _HOLE).mean()), float((matte[sure] > _REMAINS).mean())
    separation = apart["luma" if way == "luma" else "colour"]
    count = min(len(clouds["colour"][0]), len(clouds["colour"][1]))
    return Keyed(
        separation,
        2.0 * math.sqrt(2.0 + separation**2 / 4.0) / math.sqrt(count),
        way,
        matte,
        holes,
        remains,
        edge,
        off,
        _spill(seen, matte, channel),
        _verdict(separation, holes, remains),
    )


def _along(a: Array, b: Array) -> float:
    return abs(float(a.mean() - b.mean())) / math.sqrt(max(float(a.var() + b.var()) / 2.0, 1e-9))


def _coloured(colour: Image, channel: int) -> bool:
    others = [float(colour[each]) for each in range(3) if each != channel]
    return float(colour[channel]) > 1.15 * max(others)


def _unlike(chroma: Image, light: Image, sure: Mask, plate: Image | None) -> Mask:
    """What is surely no backing: its colour and light lie off the cloud of the backing."""
    if plate is not None:
        differs = np.linalg.norm(light - plate, axis=2)
        limit = _LIKE_SIGMA * MAD * float(np.median(np.abs(differs[sure]))) + 0.01
        return smoothed(differs, 1.5) > 1.5 * limit
    planes = np.concatenate([chroma, np.log2(np.maximum(brightness(light), 1e-3))[..., None] * 0.5], axis=2)
    cloud = np.asarray(planes[sure], np.float64)
    middle = np.median(cloud, axis=0)
    within = np.cov(cloud.T) + np.diag([0.01, 0.01, 0.02])
    off = planes - middle.astype(np.float32)
    distance = np.sqrt((off @ np.linalg.inv(within).astype(np.float32) * off).sum(axis=2))
    return smoothed(distance, 1.0) > _LIKE_SIGMA + 1.0


def _edge_px(matte: Image) -> tuple[float, float]:
    """Width of the matte's edge, 10 to 90 %, px: of the matte by its distance from where it is half."""
    solid = (matte >= _HALF).astype(np.uint8)
    if not solid.any() or solid.all():
        return 0.0, 0.0
    within, beyond = (cv2.distanceTransform(each, cv2.DIST_L2, 5) for each in (solid, 1 - solid))
    place = np.where(solid > 0, within - 0.5, 0.5 - beyond)
    bins = np.arange(-_REACH_PX, _REACH_PX + _BIN_PX, _BIN_PX)
    near = np.abs(place) < _REACH_PX
    which = np.digitize(place[near], bins)
    values = matte[near]
    told = [(float(bins[each - 1]) + _BIN_PX / 2.0, values[which == each]) for each in range(1, len(bins))]
    profile = np.array([(middle, float(there.mean())) for middle, there in told if len(there) >= _FEWEST_PX])
    if len(profile) < 4:
        return 0.0, 0.0
    rising = np.maximum.accumulate(profile[:, 1])
    low, high = (float(np.interp(each, rising, profile[:, 0])) for each in (_LOW, _HIGH))
    width = high - low
    return width, 0.15 * width + 0.6


def _spill(light: Image, matte: Image, channel: int) -> float:
    """By how much the backing's channel is over the others on the rim, more than inside, against the light
    there.
    """
    solid = (matte > 0.5).astype(np.uint8)
    depth = cv2.distanceTransform(solid, cv2.DIST_L2, 5)
    rim = (depth > _RIM_FROM) & (depth <= _RIM_TO)
    inside = depth > 2 * _RIM_TO
    if not rim.any():
        return 0.0
    others = [each for each in range(3) if each != channel]
    excess = light[..., channel] - np.maximum(light[..., others[0]], light[..., others[1]])
    share = excess / np.maximum(light.max(axis=2), _FLOOR)
    return max(
        0.0,
        float(np.median(share[rim])) - (max(0.0, float(np.median(share[inside]))) if inside.any() else 0.0),
    )


def _verdict(separation: float, holes: float, remains: float) -> Keys:
    if separation >= _KEYS_SIGMA and holes <= _KEYS_SHARE and remains <= _KEYS_SHARE:
        return "keys"
    if separation >= _LOOSE_SIGMA and holes <= _LOOSE_SHARE:
        return "loose"
    return "hand"
