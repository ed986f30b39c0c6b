"""The ground of a picture in metres: lines at round distances, and where on it a place of the picture is."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..optics.projection import NEAREST_M, project
from ..vocabulary import PASSES, PICTURES
from ..wording import Words
from .layer import Layer
from .records import Delivery, SetUp
from .view import START, Moment, wanted_view

_ROUND = (0.2, 0.3, 0.4, 0.5, 0.6, 0.8, 1.0, 1.5, 2.0, 3.0, 4.0, 5.0, 6.0, 8.0)
_DECADES = (1.0, 10.0, 100.0)
_LEAST_APART = 0.012  # of the picture's height, between two lines
_STEPS_M = (0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0)
_BESIDE = 3  # lines to either side, about
_FURTHEST_M = 1e4
_BESIDE_NOTHING = 2e-3  # of the way ahead


@dataclass(frozen=True, slots=True)
class GroundLine:
    """A level line on the ground: so many metres ``ahead`` of the lens, or ``aside`` of it; its ends in
    metres (to the right, ahead) and in px of the picture.
    """

    metres: float
    axis: Literal["ahead", "aside"]
    ends_m: tuple[tuple[float, float], tuple[float, float]]
    points: tuple[tuple[float, float], ...]


def ground_lines(
    camera: tuple[float, float, float, float], width_px: float, height_px: float
) -> tuple[GroundLine, ...]:
    """Lines on the ground of a picture in round metres, as far as they can be told apart.

    Parameters
    ----------
    camera : tuple of float
        Angle of view across, tilt and roll in degrees, metres over the ground: as
        :func:`~jungoptic.core.match.reading_of` reads it.
    width_px, height_px : float
        The picture, px.

    Returns
    -------
    tuple of GroundLine
        Near ones first; empty for a lens that is not over the ground.

    References
    ----------
    pinhole, rotation

    Examples
    --------
    >>> [line.metres for line in ground_lines((60.0, -5.0, 0.0, 1.6), 3000, 2000)][:4]
    [4.0, 5.0, 6.0, 8.0]
    """
    view_deg, tilt_deg, roll_deg, lens_m = camera
    if lens_m <= 0.0:
        return ()
    focal = width_px / 2.0 / math.tan(math.radians(view_deg) / 2.0)

    def drawn(*places: tuple[float, float]) -> tuple[tuple[float, float], ...]:
        corners = np.array([(x, -lens_m, z) for x, z in places])
        seen = project(corners, focal, width_px, height_px, tilt_deg, roll_deg)
        return tuple((round(float(x), 1), round(float(y), 1)) for x, y in seen)

    def low(ahead_m: float) -> float:
        return drawn((0.0, ahead_m), (0.0, ahead_m + 1e-3))[0][1]

    rounds = [step * decade for decade in _DECADES for step in _ROUND if step * decade > 2 * NEAREST_M]
    kept: list[float] = []
    before = math.inf
    for ahead_m in sorted(set(rounds)):
        if ahead_m * math.cos(math.radians(tilt_deg)) - lens_m * math.sin(math.radians(tilt_deg)) < NEAREST_M:
            continue
        y = low(ahead_m)
        if y <= height_px and before - y >= _LEAST_APART * height_px:
            kept.append(ahead_m)
            before = y
    if not kept:
        return ()
    half = math.tan(math.radians(view_deg) / 2.0)
    wide = kept[0] * half
    step = next((size for size in _STEPS_M if size * _BESIDE >= wide), _STEPS_M[-1])
    reach = kept[-1] * half * 1.5
    lines = [
        GroundLine(ahead_m, "ahead", ends, drawn(*ends))
        for ahead_m in kept
        for ends in [((-reach, ahead_m), (reach, ahead_m))]
    ]
    count = math.ceil(2 * wide / step)
    for place in range(-count, count + 1):
        ends = (place * step, kept[0]), (place * step, min(kept[-1] * 4, _FURTHEST_M))
        lines.append(GroundLine(place * step, "aside", ends, drawn(*ends)))
    return tuple(lines)


def on_ground(
    hero: SetUp, layer: Layer, delivery: Delivery, x_px: float, y_px: float, moment: Moment = START
) -> tuple[float, float] | None:
    """Where a layer stands whose foot is at a place of the hero's picture.

    Parameters
    ----------
    hero : SetUp
        The plate's camera.
    layer : Layer
        Whose ground it is.
    delivery : Delivery
        The finished frame.
    x_px, y_px : float
        From the top left, delivered px.
    moment : Moment, optional
        Frame of the shot; the first when left out.

    Returns
    -------
    tuple of float or None
        Metres from the hero's lens and to the right of its axis; None above the horizon.

    References
    ----------
    pinhole, rotation

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL
    >>> [round(amount, 2) for amount in on_ground(HERO, MILL, DELIVERY, 960, 922.39)]
    [12.0, 0.0]
    """
    view = wanted_view(hero, layer, delivery, moment)
    right, up, forward = view.ray(x_px, y_px, delivery.width_px, delivery.height_px)
    eye = view.eye
    if up >= -1e-9 or eye[1] <= 0.0:
        return None
    far = eye[1] / -up
    # the eye is counted from the layer's front edge, which is near_m from the lens
    return float(layer.near_m + eye[2] + far * forward), float(eye[0] + far * right)


def ground_text(
    hero: SetUp,
    layer: Layer,
    delivery: Delivery,
    point: tuple[float, float],
    words: Words,
    moment: Moment = START,
) -> str:
    """Where a place of the hero's picture lies on a layer's ground, to a pixel, paced out from the lens.

    Parameters
    ----------
    hero : SetUp
        The plate's camera.
    layer : Layer
        Whose ground it is.
    delivery : Delivery
        The finished frame.
    point : tuple of (float, float)
        From the top left, delivered px.
    words : Words
        In the reader's units.
    moment : Moment, optional
        Frame of the shot; the first when left out.

    Returns
    -------
    str
        Full size, and in the set where that is smaller.

    References
    ----------
    pinhole, rotation

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL
    >>> ground_text(HERO, MILL, DELIVERY, (700, 922.39), Words())
    '12 m ahead of the lens, 1.09 m to its left; in the set 1 m and 91 mm'
    """
    place = on_ground(hero, layer, delivery, *point, moment)
    if place is None or place[0] <= 0:
        return "over the horizon: nobody stands there"
    further = on_ground(hero, layer, delivery, point[0] + 1.0, point[1] + 1.0, moment) or place
    ahead, aside = (_to_a_pixel(*pair) for pair in zip(place, further, strict=True))
    if abs(aside) < _BESIDE_NOTHING * ahead:
        aside = 0.0
    full = f"{words.length(ahead)} {'' if aside else 'straight '}ahead of the lens"
    small = f"; in the set {words.length(ahead / layer.scale)}"
    if aside:
        full += f", {words.length(abs(aside))} to its {'left' if aside < 0 else 'right'}"
        small += f" and {words.length(abs(aside) / layer.scale)}"
    return full if layer.scale == 1 else full + small


def _to_a_pixel(here: float, a_pixel_on: float) -> float:
    step = abs(a_pixel_on - here)
    return round(here, round(-math.log10(step))) if step else here


def on_its_ground(layer: Layer) -> bool:
    """Whether a layer is something that stands somewhere: no plate, pass, picture or element on black.

    Parameters
    ----------
    layer : Layer
        Any layer.

    Returns
    -------
    bool
        What stands on its ground can be put down by its foot.

    Examples
    --------
    >>> on_its_ground(Layer(name="Mill", kind="model", near_m=12))
    True
    >>> on_its_ground(Layer(name="Sky", near_m=900, fills_frame=True))
    False
    """
    flat = layer.kind in PASSES or layer.kind in PICTURES or layer.kind == "black_element"
    return not (flat or layer.fills_frame)
