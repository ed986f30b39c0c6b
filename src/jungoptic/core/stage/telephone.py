"""A lit sheet as somebody photographs it by telephone, from beside the camera, before anybody is called."""

from __future__ import annotations

import math

import cv2
import numpy as np
import numpy.typing as npt

from ..match.measure import Match
from ..match.records import SetUp
from .film import FilmFaults, burning
from .picture import encoded, linear_rgb
from .raster import coverage
from .sheet import sheet_corners_m
from .sheet_light import sheet_in_picture, sheet_light

Array = npt.NDArray[np.float64]
_VIEW_DEG = 68.0
"""Across, of a telephone's usual lens held level."""
_TALL = 0.75
_FILLS = 0.72
_LEFT_M, _EYE_M = 0.9, 1.55
_EXPOSED = 0.55
"""Light of the brightest part of the sheet: a telephone leaves some room above it."""
_ROOM = (0.075, 0.07, 0.065)
_NOISE = 0.008


def sheet_by_telephone(
    match: Match, faults: FilmFaults, *, width_px: int = 1600, seed: int = 0
) -> npt.NDArray[np.uint8]:
    """A photograph of a set-up's lit sheet with the layer standing before it.

    Parameters
    ----------
    match : Match
        The layer with its set-up, which has a sheet.
    faults : FilmFaults
        Which lamps burn otherwise; all else is the camera's.
    width_px : int, default 1600
        Of the photograph, px.
    seed : int, default 0
        Of its noise.

    Returns
    -------
    ndarray of uint8, shape (h, w, 3)
        sRGB codes, red first.

    Raises
    ------
    ValueError
        Where the set-up has no sheet.

    References
    ----------
    pinhole, rotation, inverse_square, srgb

    Examples
    --------
    >>> from jungoptic.core.example import ACTOR, DELIVERY, HERO, ON_GREEN
    >>> seen = sheet_by_telephone(Match(HERO, ACTOR, ON_GREEN, DELIVERY), FilmFaults(), width_px=320)
    >>> seen.shape, bool(seen[80, 100, 1] > seen[80, 100, 0])
    ((240, 320, 3), True)
    """
    setup = match.setup
    if setup is None or setup.backing is None:
        raise ValueError("the set-up has no sheet")
    lit = Match(match.hero, match.layer, burning(setup, faults), match.delivery)
    assert lit.setup is not None
    shape = (round(width_px * _TALL), width_px)
    eye, axes = _stands(setup)
    corners = _seen(sheet_corners_m(setup), eye, axes, width_px)
    laid = sheet_in_picture(sheet_light(lit, lit.setup, shadows=False), corners, shape)
    picture = np.full((*shape, 3), _ROOM, np.float32)
    scale = 1.0
    if laid is not None:
        light, cover = laid
        own = light[..., None] * linear_rgb(setup.backing.colour)
        scale = _EXPOSED / max(float(own.max()), 1e-6)
        picture += (own * scale - picture) * cover[..., None]
    for part in match.layer.parts:
        points = _seen(part.outline / match.layer.scale, eye, axes, width_px)
        filled = coverage(points, width_px, shape[0])
        if filled is None:
            continue
        cover, (left, top, right, low) = filled
        held = picture[top:low, left:right]
        held += (linear_rgb(part.colour) * np.float32(scale) - held) * cover[..., None]
    dice = np.random.default_rng(seed)
    picture = cv2.GaussianBlur(picture, (0, 0), 0.8).astype(np.float32)
    picture += (_NOISE * np.sqrt(np.maximum(picture, 0.0)) * dice.standard_normal(picture.shape)).astype(
        np.float32
    )
    return encoded(picture)


def _stands(setup: SetUp) -> tuple[Array, Array]:
    """Where the telephone is, set metres, and its axes: right, down, ahead."""
    corners = sheet_corners_m(setup)
    middle = corners.mean(axis=0)
    wide = float(np.ptp(corners[:, 0]))
    away = wide / 2.0 / math.tan(math.radians(_VIEW_DEG / 2.0)) / _FILLS
    eye = np.array([middle[0] - _LEFT_M, corners[2, 1] + _EYE_M, middle[2] - away])
    ahead = (middle - eye) / np.linalg.norm(middle - eye)
    right = np.cross((0.0, 1.0, 0.0), ahead)
    right /= np.linalg.norm(right)
    return eye, np.stack([right, np.cross(right, ahead), ahead])


def _seen(places: Array, eye: Array, axes: Array, width_px: int) -> Array:
    """Where places are in the photograph, px."""
    turned = (places - eye) @ axes.T
    focal = width_px / 2.0 / math.tan(math.radians(_VIEW_DEG / 2.0))
    across = turned[:, :2] / np.maximum(turned[:, 2:], 1e-3) * focal
    return np.asarray(across + np.array([width_px / 2.0, width_px * _TALL / 2.0]))
