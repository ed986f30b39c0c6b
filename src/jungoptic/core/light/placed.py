"""Lamps and backings where they stand, and the light that they throw.

Set coordinates, metres: x to camera right of the lens axis, y above the floor, z behind the front of what
is filmed (towards the lens is negative).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
import numpy.typing as npt
from pydantic import Field

from .. import quantities as q
from ..vocabulary import SHEETS

Array = npt.NDArray[np.float64]
Point = tuple[float, float, float]
LampRole = Literal["key", "fill", "rim", "backing"]
_PLACE = {"ge": -1000, "le": 1000}
_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(4)
FAR_ENOUGH = 5.0  # beyond five times its largest side a face is a point to 1 %
_PANEL = 1.5  # side of a panel of the face in its distance, at most: four points to a side are then enough
_MOST_PANELS = 32
_AT_ONCE = 200_000  # pairs of a point and a node


class PlacedLamp(q.Record):
    """A lamp in the set. Its intensity falls as cosⁿ from the aim to one half at the edge of the beam."""

    name: Annotated[str, Field(title="Name", min_length=1, max_length=60)]
    role: Annotated[LampRole, Field(title="Works as")] = "key"
    intensity_cd: q.IntensityCd
    level: Annotated[float, q.quantity("Dimmed to", "", "1 = full.", ge=0, le=1)] = 1.0
    beam_deg: Annotated[float, q.quantity("Beam", "°", "Half the light at its edge.", gt=1, le=178)] = 110.0
    face_m: Annotated[
        float, q.quantity("Face", "m", "Side of a square face, or diameter; 0 = a point.", ge=0, le=20)
    ] = 0.0
    length_m: Annotated[
        float, q.quantity("Length of a tube", "m", "Lying across the view; 0 = no tube.", ge=0, le=20)
    ] = 0.0
    colour_k: q.ColourK = 5600.0
    across_m: Annotated[float, q.quantity("Left or right", "m", "Right is positive.", **_PLACE)] = 0.0
    height_m: Annotated[float, q.quantity("Height", "m", "Above the floor.", **_PLACE)] = 2.0
    behind_m: Annotated[
        float, q.quantity("Behind the front edge", "m", "Towards the lens is negative.", **_PLACE)
    ] = -1.0
    aim_across_m: Annotated[float, q.quantity("Aimed left or right", "m", **_PLACE)] = 0.0
    aim_height_m: Annotated[float, q.quantity("Aimed at height", "m", **_PLACE)] = 1.0
    aim_behind_m: Annotated[float, q.quantity("Aimed behind the front edge", "m", **_PLACE)] = 0.0

    @property
    def place(self) -> Point:
        """Where it stands, metres: to the side, above the floor, behind the front edge."""
        return self.across_m, self.height_m, self.behind_m

    @property
    def aim(self) -> Point:
        """Where it is aimed, metres, as :attr:`place`."""
        return self.aim_across_m, self.aim_height_m, self.aim_behind_m

    @property
    def side_m(self) -> float:
        """Largest side of what shines."""
        return max(self.face_m, self.length_m)


class Backing(q.Record):
    """A flat sheet behind the subject, upright and square to the view, at its true size and colour."""

    name: Annotated[str, Field(title="Name", min_length=1, max_length=60)] = "Sheet"
    colour: Annotated[str, Field(title="Colour", pattern=r"^#[0-9a-f]{6}$")] = SHEETS["green"]
    width_m: Annotated[float, q.quantity("Width", "m", gt=0, le=200)] = 3.0
    height_m: Annotated[float, q.quantity("Height", "m", gt=0, le=100)] = 2.5
    behind_m: Annotated[float, q.quantity("Behind the front edge", "m", gt=-100, le=1000)] = 2.5
    across_m: Annotated[float, q.quantity("Middle, left or right", "m", **_PLACE)] = 0.0
    bottom_m: Annotated[float, q.quantity("Foot above the floor", "m", **_PLACE)] = 0.0
    reflectance: Annotated[float, q.quantity("Reflectance", "", gt=0, le=1)] = 0.4


@dataclass(frozen=True, slots=True)
class Shining:
    """What shines of a lamp as points, each with its share of the candelas: ``shifts_m`` (n, 3) from its
    middle, metres, ``shares`` (n,), together 1.
    """

    shifts_m: Array
    shares: Array


def _face_axes(lamp: PlacedLamp) -> Array:
    """The directions in which what shines extends, unit length (k, 3): two of a face, one of a tube, none of
    a point.
    """
    if lamp.length_m:
        return np.array([[1.0, 0.0, 0.0]])
    if not lamp.face_m:
        return np.empty((0, 3))
    x, y, z = (there - here for there, here in zip(lamp.aim, lamp.place, strict=True))
    flat, long = math.hypot(x, z), math.hypot(x, y, z)
    right, forward = (-z / flat, x / flat) if flat > 1e-9 else (1.0, 0.0)  # straight up or down: any will do
    if long <= 1e-9:
        return np.array([[1.0, 0.0, 0.0], [0.0, 1.0, 0.0]])
    x, y, z = x / long, y / long, z / long
    return np.array([[right, 0.0, forward], [-forward * y, forward * x - right * z, right * y]])


def _composite(panels: int) -> tuple[Array, Array]:
    """Places (−½ … ½) and weights of four nodes in each of so many equal panels."""
    middles = (np.arange(panels) + 0.5) / panels - 0.5
    places = (middles[:, None] + _NODES / 2.0 / panels).ravel()
    return places, np.tile(_WEIGHTS / 2.0 / panels, panels)


def shining(lamp: PlacedLamp, nearest_m: float) -> Shining:
    """Points that stand for a lamp seen from no nearer than that: the nearer, the finer its face is divided.

    Parameters
    ----------
    lamp : PlacedLamp
        The lamp.
    nearest_m : float
        Distance of the nearest point that it lights to what shines, metres.

    Returns
    -------
    Shining
        Shifts from the lamp's middle, metres, and shares of its candelas.

    References
    ----------
    inverse_square

    Examples
    --------
    >>> panel = PlacedLamp(name="Panel", intensity_cd=900, face_m=0.6)
    >>> len(shining(panel, 4.0).shares), len(shining(panel, 0.5).shares), len(shining(panel, 0.15).shares)
    (1, 16, 144)
    """
    if lamp.side_m == 0 or nearest_m > FAR_ENOUGH * lamp.side_m:
        return Shining(np.zeros((1, 3)), np.ones(1))
    panels = min(max(1, math.ceil(lamp.side_m / (_PANEL * max(nearest_m, 1e-6)))), _MOST_PANELS)
    places, weights = _composite(panels)
    if lamp.length_m:
        return Shining(np.outer(places * lamp.length_m, (1.0, 0.0, 0.0)), weights)
    side, up = _face_axes(lamp)
    a, b = (axis.ravel() * lamp.face_m for axis in np.meshgrid(places, places))
    return Shining(np.outer(a, side) + np.outer(b, up), np.outer(weights, weights).ravel())


def face_points(lamp: PlacedLamp, count: int) -> Array:
    """Places evenly over what shines of a lamp.

    Parameters
    ----------
    lamp : PlacedLamp
        The lamp.
    count : int
        To each side of a face, or along a tube.

    Returns
    -------
    ndarray, shape (n, 3)
        Set coordinates, metres: one for a point.

    Examples
    --------
    >>> tube = PlacedLamp(name="Tube", intensity_cd=700, length_m=2.0, height_m=0.0, behind_m=0.0)
    >>> face_points(tube, 2)[:, 0].tolist()
    [-0.5, 0.5]
    """
    places: Array = np.array([lamp.place])
    shares = (np.arange(count) + 0.5) / count - 0.5
    for axis in _face_axes(lamp):
        places = (places[:, None] + np.outer(shares * lamp.side_m, axis)).reshape(-1, 3)
    return places


def nearest_m(points: Array, lamp: PlacedLamp) -> float:
    """Distance of the nearest of many points to what shines of a lamp, metres.

    Parameters
    ----------
    points : ndarray, shape (n, 3)
        Set coordinates, metres.
    lamp : PlacedLamp
        The lamp.

    Returns
    -------
    float
        Metres; to its face or tube, not to its middle.

    Examples
    --------
    >>> tube = PlacedLamp(name="Tube", intensity_cd=700, length_m=2.0, height_m=0.0, behind_m=0.0)
    >>> nearest_m(np.array([[0.9, 0.0, 0.5]]), tube)
    0.5
    """
    away = points - np.array(lamp.place)
    half = lamp.side_m / 2.0
    for axis in _face_axes(lamp):
        away = away - np.outer(np.clip(away @ axis, -half, half), axis)
    return float(np.sqrt((away**2).sum(axis=1).min()))


def light_on(points: Array, lamp: PlacedLamp, facing: Point | None) -> Array:
    """Illuminance on points from a lamp where it stands: ``Σ I·cosⁿ·cosθ/d²`` over its face.

    The face is divided the finer the nearer it is.

    Parameters
    ----------
    points : ndarray, shape (n, 3)
        Set coordinates, metres: to the right of the axis, above the floor, behind the front edge.
    lamp : PlacedLamp
        The lamp; its intensity falls as cosⁿ from its aim to one half at the edge of the beam.
    facing : tuple of float or None
        Normal of the surface, unit length; None is a meter's dome turned to the lens, which takes light from
        an angle θ by (1 + cosθ)/2.

    Returns
    -------
    ndarray, shape (n,)
        Illuminance, lux.

    References
    ----------
    inverse_square, meter_dome

    Examples
    --------
    >>> spot = PlacedLamp(name="Spot", intensity_cd=18000, height_m=1.0, behind_m=-3.0, aim_height_m=1.0)
    >>> light_on(np.array([[0.0, 1.0, 0.0]]), spot, (0.0, 0.0, -1.0)).round(1).tolist()
    [2000.0]
    """
    total = np.zeros(len(points))
    face = shining(lamp, nearest_m(points, lamp))
    step = max(1, _AT_ONCE // max(1, len(points)))
    for first in range(0, len(face.shares), step):
        part = slice(first, first + step)
        total += face.shares[part] @ light_of(points, lamp, face.shifts_m[part], facing)
    return total


def beam_power(beam_deg: float) -> float:
    """The n with which a lamp's intensity falls beside its axis, cosⁿ: a half at the edge of its beam.

    Parameters
    ----------
    beam_deg : float
        Whole angle between the directions of half the intensity, degrees; less than 180.

    Returns
    -------
    float
        n.

    References
    ----------
    half_peak

    Examples
    --------
    >>> round(beam_power(120), 6)
    1.0
    """
    return math.log(0.5) / math.log(math.cos(math.radians(beam_deg / 2)))


def light_of(points: Array, lamp: PlacedLamp, shifts_m: Array, facing: Point | None) -> Array:
    """Illuminance on points from each of many points of a lamp as if all its candelas were there.

    Parameters
    ----------
    points : ndarray, shape (n, 3)
        Set coordinates, metres.
    lamp : PlacedLamp
        The lamp; all of it is aimed one way.
    shifts_m : ndarray, shape (k, 3)
        From its middle, metres.
    facing : tuple of float or None
        As for :func:`light_on`.

    Returns
    -------
    ndarray, shape (k, n)
        Illuminance, lux.

    References
    ----------
    inverse_square, meter_dome

    Examples
    --------
    >>> spot = PlacedLamp(name="Spot", intensity_cd=18000, height_m=1.0, behind_m=-3.0, aim_height_m=1.0)
    >>> light_of(np.array([[0.0, 1.0, 0.0]]), spot, np.zeros((1, 3)), (0.0, 0.0, -1.0)).round(1).tolist()
    [[2000.0]]
    """
    power = beam_power(lamp.beam_deg)
    axis = np.subtract(lamp.aim, lamp.place)
    long = float(np.linalg.norm(axis))
    rays = points - (np.array(lamp.place) + shifts_m)[:, None, :]
    square = np.maximum((rays**2).sum(axis=2), 1e-6)
    distance = np.sqrt(square)
    taken = (
        (1.0 + rays[..., 2] / distance) / 2.0
        if facing is None
        else np.clip(-(rays @ np.array(facing)) / distance, 0.0, None)
    )
    lit = lamp.level * lamp.intensity_cd * taken / square
    if long > 1e-9:
        lit = lit * np.clip(rays @ axis / (distance * long), 0.0, 1.0) ** power
    whole: Array = lit
    return whole


def distance_m(lamp: PlacedLamp, point: Point) -> float:
    return math.dist(lamp.place, point)
