"""The two drawings of the Bench in numbers: through the lens, and from the side or above."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from itertools import accumulate

import numpy as np
import numpy.typing as npt

from ..match.camera import focal_px
from ..match.layer import Layer, Part
from ..match.measure import Match
from ..match.records import Delivery, SetUp
from ..match.view import START, Moment, View, hero_view, layer_view, placed_m
from ..optics import frame
from ..optics.projection import Array, horizon_y_px

Points = list[list[float]]
_FAR_SKY_M = 1e6


@dataclass(frozen=True, slots=True)
class Outline:
    """One part in the picture: where it will sit, where the hero wants it, how soft it is.

    Delivered pixels.
    """

    name: str
    points: Points
    wanted: Points
    blur_px: float
    colour: str
    colour_low: str


@dataclass(frozen=True, slots=True)
class Solid:
    """One part in the set, metres of the set: profile from the side (z, y) and from above (z, x)."""

    name: str
    side: Points
    above: Points


@dataclass(frozen=True, slots=True)
class Standing:
    """The selected set-up in its set: metres of the set, z from the lens, y from the floor.

    ``view_*_deg`` are the full angles of the extracted frame; ``band_far_m`` is None when it reaches
    infinity.
    """

    lens_height_m: float
    ground_height_m: float
    tilt_deg: float
    view_across_deg: float
    view_up_deg: float
    distance_m: float
    far_m: float
    focus_m: float
    band_near_m: float
    band_far_m: float | None
    wanted_height_m: float
    wanted_distance_m: float
    solids: tuple[Solid, ...]


def _fallback_part(layer: Layer) -> Part:
    half = layer.width_m / 2.0
    return Part(
        name=layer.name,
        thickness_m=layer.depth_m,
        points=((-half, 0.0), (-half, layer.height_m), (half, layer.height_m), (half, 0.0)),
    )


def parts_of(layer: Layer) -> tuple[Part, ...]:
    """The layer's parts, or a box of its size when it has none."""
    return layer.parts or (_fallback_part(layer),)


def _rounded(polygons: list[Array]) -> list[Points]:
    """Points as they go over the wire, all polygons in one go: hundredths of a pixel, and nothing further out
    than matters.
    """
    points: Points = np.concatenate(polygons).clip(-1e5, 1e5).round(2).tolist()
    ends = accumulate(len(polygon) for polygon in polygons)
    return [points[end - len(polygon) : end] for end, polygon in zip(ends, polygons, strict=True)]


def outlines(match: Match, moment: Moment = START) -> list[Outline]:
    """Every part of a layer through its own lens, and as the hero's camera wants it.

    Parameters
    ----------
    match : Match
        The layer, measured; its resize in the composite is laid on.
    moment : Moment, optional
        Frame of the shot; the first when left out.

    Returns
    -------
    list of Outline
        Back to front, delivered px.

    References
    ----------
    pinhole

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> mill = outlines(Match(HERO, MILL, MODEL, DELIVERY))[0]
    >>> mill.points[0], mill.wanted[0]
    ([95.71, 922.39], [123.52, 922.39])
    """
    key = "outlines", moment
    if key not in match.worked_out:
        match.worked_out[key] = _outlines(match, moment)
    return list(match.worked_out[key])


def _outlines(match: Match, moment: Moment) -> list[Outline]:
    layer, setup, delivery = match.layer, match.setup, match.delivery
    parts = sorted(parts_of(layer), key=lambda p: -p.behind_m)
    come = placed_m(layer, moment)
    corners = [part.outline + come for part in parts]
    size = (delivery.width_px, delivery.height_px)

    def seen_from(view: View) -> list[Points]:
        return _rounded(view.project(corners, *size))

    if setup is None:
        wanted = seen_from(hero_view(match, moment))
        blurs = [match.hero_blur_at_px(layer.near_m + part.behind_m) for part in parts]
    else:
        kept = match.place[0].kept  # as long as the hero stands, and whatever the hand does to the set-up
        key = "outlines", moment, size
        if key not in kept:
            kept[key] = seen_from(hero_view(match, moment))
        wanted = kept[key]
        blurs = [match.blur_at_px(setup.distance_m + part.behind_m / layer.scale) for part in parts]
    seen = seen_from(layer_view(match, moment))
    return [
        Outline(part.name, sees, wants, round(blur, 3), part.colour, part.colour_low or part.colour)
        for part, sees, wants, blur in zip(parts, seen, wanted, blurs, strict=True)
    ]


def horizon_px(hero: SetUp, delivery: Delivery, moment: Moment = START) -> float:
    """The hero's horizon.

    Parameters
    ----------
    hero : SetUp
        The plate's camera.
    delivery : Delivery
        The finished frame with the hero's move.
    moment : Moment, optional
        Frame of the shot; the first when left out.

    Returns
    -------
    float
        From the top at the middle of the frame, delivered px.

    References
    ----------
    pinhole

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO
    >>> horizon_px(HERO, DELIVERY)
    540.0
    """
    path = delivery.move.path([moment.share])
    return horizon_y_px(
        focal_px(hero, delivery) * float(path.zoom[0]),
        delivery.height_px,
        hero.tilt_deg + float(path.tilt_deg[0]),
        hero.roll_deg + float(path.roll_deg[0]),
    )


def _solid(part: Part, layer: Layer, setup: SetUp) -> Solid:
    outline = part.outline.tobytes()
    shape = part.name, outline, part.lies, part.thickness_m
    return _standing_solid(*shape, layer.scale, layer.offset_m, setup.ground_height_m, setup.distance_m)


@lru_cache(maxsize=512)  # while a hand turns something else, what is built stands still
def _standing_solid(
    name: str,
    outline: bytes,
    lies: bool,
    thickness_m: float,
    s: float,
    offset_m: float,
    ground: float,
    near: float,
) -> Solid:
    corners = np.frombuffer(outline).reshape(-1, 3)
    x = (corners[:, 0] + offset_m) / s
    y = corners[:, 1] / s + ground
    z = near + corners[:, 2] / s
    if lies:
        top = float(y[0])
        return Solid(
            name, _tenths_of_mm([[z.min(), top], [z.max(), top]]), _tenths_of_mm(np.column_stack((z, x)))
        )
    deep = thickness_m / s
    spread = float(np.ptp(corners[:, 0])) or 1.0
    profile = z + (corners[:, 0] - corners[:, 0].min()) / spread * deep
    front, back, left, right = z[0], z[0] + deep, x.min(), x.max()
    box = [[front, left], [back, left], [back, right], [front, right]]
    return Solid(name, _tenths_of_mm(np.column_stack((profile, y))), _tenths_of_mm(box))


def _tenths_of_mm(points: npt.ArrayLike) -> Points:
    rounded: Points = np.asarray(points).round(4).tolist()
    return rounded


def standing(match: Match, band_m: tuple[float, float]) -> Standing:
    """A set-up as it stands, for the drawings from the side and from above.

    Parameters
    ----------
    match : Match
        A layer with a set-up.
    band_m : tuple of float
        Where it holds focus, metres of the set; see :func:`~jungoptic.core.match.focus_band_m`.

    Returns
    -------
    Standing
        Metres of the set.

    References
    ----------
    pinhole

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> seen = standing(Match(HERO, MILL, MODEL, DELIVERY), (0.9, 1.2))
    >>> round(seen.view_across_deg, 1), seen.far_m
    (35.9, 1.5)
    """
    layer, setup = match.layer, match.setup
    assert setup is not None
    v = frame.image_distance_mm(setup.focal_length_mm, setup.focus_distance_m, setup.focusing)
    tall = setup.extracted_mm * match.delivery.height_px / match.delivery.width_px
    near, far = band_m
    return Standing(
        setup.lens_height_m,
        setup.ground_height_m,
        setup.tilt_deg,
        frame.angle_of_view_deg(setup.extracted_mm, v),
        frame.angle_of_view_deg(tall, v),
        setup.distance_m,
        match.far_m,
        setup.focus_distance_m,
        near,
        None if math.isinf(far) or far > _FAR_SKY_M else far,
        setup.ground_height_m + match.wanted_height_m,
        match.wanted_distance_m,
        tuple(_solid(part, layer, setup) for part in parts_of(layer)),
    )
