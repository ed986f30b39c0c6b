"""Where the light came from, by a mirror ball, a grey ball or a stick's shadow in a picture."""

from __future__ import annotations

import math
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from .pixels import Array, brightness

Circle = tuple[float, float, float]

_RIM = 0.97
_STANDS_OUT, _HALF = 0.06, 0.5
"""Of the brightest: four stops under it is still a light; a highlight is as wide as its half."""
_MOST_LIGHTS = 4
_ROUNDS = 8
_PX_KNOWN = 0.7


@dataclass(frozen=True, slots=True)
class Source:
    """A light: azimuth (0 behind the camera, positive to camera right) and height, degrees, two deviations;
    its power against the strongest, stops; and the angle that it takes, degrees, where that is seen.
    """

    azimuth_deg: float
    elevation_deg: float
    off_deg: float
    stops: float
    wide_deg: float


@dataclass(frozen=True, slots=True)
class ShadingFit:
    """The light on a grey ball: the key, what it gives a face that looks at it, and what comes from all
    around, both in shares of white; the ratio of both, stops.
    """

    key: Source
    key_light: float
    fill_light: float
    key_fill_stops: float
    left: float


def direction_of(x: float, y: float) -> Array:
    """The direction from which a light comes whose highlight stands at a place of a mirrored ball.

    Parameters
    ----------
    x, y : float
        Right and up of its middle, 1 is the rim.

    Returns
    -------
    ndarray of float, shape (3,)
        Right, up, towards the camera: r = 2(n·v)n − v for a camera that is far.

    References
    ----------
    debevec

    Examples
    --------
    >>> direction_of(0.3, 0.4).round(4).tolist()
    [0.5196, 0.6928, 0.5]
    """
    z = math.sqrt(max(0.0, 1.0 - x * x - y * y))
    return np.array([2.0 * z * x, 2.0 * z * y, 2.0 * z * z - 1.0])


def angles_of(direction: npt.ArrayLike) -> tuple[float, float]:
    """Azimuth and height of a direction.

    Parameters
    ----------
    direction : ndarray of float, shape (3,)
        Right, up, towards the camera.

    Returns
    -------
    tuple of (float, float)
        Degrees: 0 behind the camera, positive to camera right; over the level.

    References
    ----------
    directions

    Examples
    --------
    >>> [round(each, 2) for each in angles_of(direction_of(0.3, 0.4))]
    [46.1, 43.85]
    """
    right, up, towards = np.asarray(direction, np.float64) / np.linalg.norm(direction)
    return math.degrees(math.atan2(right, towards)), math.degrees(math.asin(max(-1.0, min(1.0, float(up)))))


def _on_ball(shape: tuple[int, ...], circle: Circle) -> tuple[Array, Array]:
    """Of every pixel its place on the ball, right and up, 1 is the rim."""
    cx, cy, radius = circle
    y, x = np.mgrid[0 : shape[0], 0 : shape[1]]
    return (x - cx) / radius, (cy - y) / radius


def mirror_ball_lights(light: npt.ArrayLike, circle: Circle) -> tuple[Source, ...]:
    """The lights that a mirrored ball shows, the strongest first.

    Parameters
    ----------
    light : ndarray of float, shape (h, w) or (h, w, 3)
        Linear light.
    circle : tuple of (float, float, float)
        Middle and radius of the ball, px.

    Returns
    -------
    tuple of Source
        At most four; by the middle of each highlight.

    Raises
    ------
    ValueError
        Where nothing on it stands out.

    References
    ----------
    debevec

    Examples
    --------
    >>> y, x = np.mgrid[0:200, 0:200]
    >>> ball = 0.1 + 5.0 * np.exp(-((x - 124.0) ** 2 + (y - 68.0) ** 2) / 8.0)
    >>> key = mirror_ball_lights(ball, (100.0, 100.0, 80.0))[0]
    >>> round(key.azimuth_deg), round(key.elevation_deg)
    (46, 44)
    """
    grey = brightness(light)
    x, y = _on_ball(grey.shape, circle)
    ball = np.hypot(x, y) < _RIM
    if np.count_nonzero(ball) < 200:
        raise ValueError("the ball is too small in the picture: 16 px across at least")
    ground, most = float(np.median(grey[ball])), float(grey[ball].max())
    if most < 2.0 * ground + 0.02:
        raise ValueError("nothing on the ball stands out: the light is even, or this is no mirror")
    bright = ball & (grey > ground + max(_STANDS_OUT * (most - ground), ground + 0.02))
    count, labels = cv2.connectedComponents(bright.astype(np.uint8), connectivity=8)
    told = []
    for index in range(1, count):
        here = labels == index
        weight = np.where(here, grey - ground, 0.0)
        power = float(weight.sum())
        mx, my = float((weight * x).sum() / power), float((weight * y).sum() / power)
        wide = here & (grey - ground > _HALF * (float(grey[here].max()) - ground))
        told.append((power, mx, my, int(np.count_nonzero(wide))))
    told.sort(reverse=True)
    strongest = told[0][0]
    return tuple(
        _source(circle, mx, my, area, math.log2(power / strongest))
        for power, mx, my, area in told[:_MOST_LIGHTS]
    )


def _source(circle: Circle, x: float, y: float, area_px: int, stops: float) -> Source:
    azimuth, elevation = angles_of(direction_of(x, y))
    # a step on the ball turns its normal by 1/cos of its slant, and what is mirrored by twice that
    slant = 2.0 / max(math.sqrt(max(0.0, 1.0 - x * x - y * y)), 0.15)
    off = math.degrees(_PX_KNOWN / circle[2] * slant) + 0.3
    wide = math.degrees(2.0 * math.sqrt(area_px / math.pi) / circle[2] * slant)
    return Source(azimuth, elevation, off, stops, wide)


def grey_ball_light(light: npt.ArrayLike, circle: Circle) -> ShadingFit:
    """The key and the fill on a matt grey ball, by its shading.

    Parameters
    ----------
    light : ndarray of float, shape (h, w) or (h, w, 3)
        Linear light.
    circle : tuple of (float, float, float)
        Middle and radius of the ball, px.

    Returns
    -------
    ShadingFit
        L = fill + key·max(0, n·l), fitted by least squares over what the key reaches, over and over.

    Raises
    ------
    ValueError
        Where the ball is lit evenly, or clipped.

    References
    ----------
    lambert

    Examples
    --------
    >>> y, x = np.mgrid[0:120, 0:120]
    >>> u, v = (x - 60) / 50, (60 - y) / 50
    >>> n = np.stack([u, v, np.sqrt(np.maximum(0, 1 - u**2 - v**2))])
    >>> shade = 0.05 + 0.4 * np.maximum(0, np.tensordot([0.6, 0.48, 0.64], n, 1))
    >>> seen = grey_ball_light(shade, (60, 60, 50))
    >>> round(seen.key.azimuth_deg, 1), round(seen.key.elevation_deg, 1), round(seen.key_fill_stops, 1)
    (43.2, 28.7, 3.2)
    """
    grey = brightness(light)
    x, y = _on_ball(grey.shape, circle)
    ball = np.hypot(x, y) < _RIM
    if np.count_nonzero(ball) < 200:
        raise ValueError("the ball is too small in the picture: 16 px across at least")
    if float((grey[ball] > 0.97).mean()) > 0.02:
        raise ValueError("the ball is clipped: take one that is exposed for its bright side")
    values = grey[ball].astype(np.float64)
    normals = np.stack([x[ball], y[ball], np.sqrt(np.maximum(0.0, 1.0 - x[ball] ** 2 - y[ball] ** 2))], 1)
    reached = values > np.quantile(values, 0.3)
    solved = np.zeros(4)
    fill = float(np.quantile(values, 0.02))
    for _ in range(_ROUNDS):
        design = np.column_stack([normals[reached], np.ones(reached.sum())])
        solved, *_ = np.linalg.lstsq(design, values[reached], rcond=None)
        shade = normals @ solved[:3]
        dark = shade < -0.05 * np.linalg.norm(solved[:3])
        fill = float(np.median(values[dark])) if dark.sum() > 50 else float(solved[3])
        reached = shade > 0.05 * np.linalg.norm(solved[:3])
        if reached.sum() < 50:
            raise ValueError("the ball is lit evenly: no key can be told")
    strength = float(np.linalg.norm(solved[:3]))
    if strength < 0.1 * max(fill, 1e-3):
        raise ValueError("the ball is lit evenly: no key can be told")
    left = values[reached] - np.column_stack([normals[reached], np.ones(reached.sum())]) @ solved
    sigma = float(left.std())
    azimuth, elevation = angles_of(solved[:3])
    # noise of a pixel, light that is no point, a circle that is marked by hand: half a px of its radius
    off = (
        math.degrees(2.0 * math.hypot(sigma / strength / math.sqrt(reached.sum() / 30.0), 0.5 / circle[2]))
        + 0.5
    )
    fill = max(float(solved[3]), 1e-4)
    return ShadingFit(
        Source(azimuth, elevation, off, 0.0, 0.0),
        strength,
        fill,
        math.log2((strength + fill) / fill),
        sigma / strength,
    )


def found_ball(light: npt.ArrayLike) -> Circle | None:
    """The one round thing in a picture that might be a ball, as a proposal.

    Parameters
    ----------
    light : ndarray of float, shape (h, w) or (h, w, 3)
        Linear light.

    Returns
    -------
    tuple of (float, float, float) or None
        Middle and radius, px.

    References
    ----------
    circle_fit

    Examples
    --------
    >>> y, x = np.mgrid[0:200, 0:300]
    >>> found = found_ball(np.where(np.hypot(x - 150, y - 90) < 40, 0.5, 0.1).astype(np.float32))
    >>> [round(each / 5) * 5 for each in found]
    [150, 90, 40]
    """
    return next(iter(round_things(light)), None)


def round_things(light: npt.ArrayLike, most: int = 1) -> tuple[Circle, ...]:
    """What is round in a picture, the surest first.

    Parameters
    ----------
    light : ndarray of float, shape (h, w) or (h, w, 3)
        Linear light.
    most : int, default 1
        How many of them.

    Returns
    -------
    tuple of tuple of float
        Middle and radius of each, px.

    References
    ----------
    circle_fit

    Examples
    --------
    >>> y, x = np.mgrid[0:200, 0:300]
    >>> len(round_things(np.where(np.hypot(x - 150, y - 90) < 40, 0.5, 0.1).astype(np.float32), 4))
    1
    """
    grey = brightness(light)
    codes = np.clip(
        255.0 * np.sqrt(np.clip(grey / max(float(np.quantile(grey, 0.995)), 1e-3), 0.0, 1.0)), 0, 255
    ).astype(np.uint8)
    share = min(1.0, 640.0 / max(codes.shape))
    small = cv2.medianBlur(
        np.asarray(cv2.resize(codes, None, fx=share, fy=share, interpolation=cv2.INTER_AREA)), 5
    )
    least = max(8, round(0.02 * max(small.shape)))
    circles = cv2.HoughCircles(
        small,
        cv2.HOUGH_GRADIENT,
        1.5,
        4 * least,
        param1=120,
        param2=30,
        minRadius=least,
        maxRadius=min(small.shape) // 2,
    )
    if circles is None:
        return ()
    circled = np.asarray(circles, np.float64).reshape(-1, 3)[:most]
    return tuple(
        (float((x + 0.5) / share - 0.5), float((y + 0.5) / share - 0.5), float(radius / share))
        for x, y, radius in circled
    )
