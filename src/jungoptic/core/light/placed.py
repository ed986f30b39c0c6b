"""Lamps and backings where they stand, and the light that they throw.

Set coordinates, metres: x to camera right of the lens axis, y above the floor, z behind the near end of what
is filmed (towards the lens is negative).
"""

from __future__ import annotations

import math
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
_TUBE_NODES, _TUBE_WEIGHTS = np.polynomial.legendre.leggauss(12)
FAR_ENOUGH = 5.0  # beyond five times its largest side a face is a point to 1 %


class PlacedLamp(q.Record):
    """A lamp in the set. Its intensity falls as cosⁿ from the aim to one half at the edge of the beam."""

    name: Annotated[str, Field(title="Name", min_length=1, max_length=60)]
    role: Annotated[LampRole, Field(title="Works as")] = "key"
    intensity_cd: Annotated[float, q.quantity("Intensity", "cd", gt=0, le=1e7)]
    level: Annotated[float, q.quantity("Dimmed to", "", "1 = full.", ge=0, le=1)] = 1.0
    beam_deg: Annotated[float, q.quantity("Beam", "°", "Half the light at its edge.", gt=1, le=178)] = 110.0
    face_m: Annotated[
        float, q.quantity("Face", "m", "Side of a square face, or diameter; 0 = a point.", ge=0, le=20)
    ] = 0.0
    length_m: Annotated[
        float, q.quantity("Length of a tube", "m", "Lying across the view; 0 = no tube.", ge=0, le=20)
    ] = 0.0
    colour_k: q.ColourK = 5600.0
    across_m: Annotated[float, q.quantity("To the side", "m", "Right is positive.", **_PLACE)] = 0.0
    height_m: Annotated[float, q.quantity("Height", "m", "Above the floor.", **_PLACE)] = 2.0
    behind_m: Annotated[
        float, q.quantity("Behind the near end", "m", "Towards the lens is negative.", **_PLACE)
    ] = -1.0
    aim_across_m: Annotated[float, q.quantity("Aimed to the side", "m", **_PLACE)] = 0.0
    aim_height_m: Annotated[float, q.quantity("Aimed at height", "m", **_PLACE)] = 1.0
    aim_behind_m: Annotated[float, q.quantity("Aimed behind the near end", "m", **_PLACE)] = 0.0

    @property
    def place(self) -> Point:
        """Where it stands, metres: to the side, above the floor, behind the near end."""
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
    behind_m: Annotated[float, q.quantity("Behind the near end", "m", gt=-100, le=1000)] = 2.5
    across_m: Annotated[float, q.quantity("Middle to the side", "m", **_PLACE)] = 0.0
    bottom_m: Annotated[float, q.quantity("Foot above the floor", "m", **_PLACE)] = 0.0
    reflectance: Annotated[float, q.quantity("Reflectance", "", gt=0, le=1)] = 0.4


def _spots(lamp: PlacedLamp, nearest_m: float) -> list[tuple[Point, float]]:
    """Points that stand for the lamp, each with its share of the candelas; one point from far enough."""
    if lamp.side_m == 0 or nearest_m > FAR_ENOUGH * lamp.side_m:
        return [((0.0, 0.0, 0.0), 1.0)]
    if lamp.length_m:
        return [
            ((node / 2 * lamp.length_m, 0.0, 0.0), weight / 2)
            for node, weight in zip(_TUBE_NODES, _TUBE_WEIGHTS, strict=True)
        ]
    axis = np.subtract(lamp.aim, lamp.place)
    axis = axis / (np.linalg.norm(axis) or 1.0)
    side = np.cross(axis, (0.0, 1.0, 0.0))
    side = side / np.linalg.norm(side) if np.linalg.norm(side) > 1e-9 else np.array([1.0, 0.0, 0.0])
    up = np.cross(side, axis)
    half = lamp.face_m / 2
    return [
        (tuple(a * half * side + b * half * up), wa * wb / 4)
        for a, wa in zip(_NODES, _WEIGHTS, strict=True)
        for b, wb in zip(_NODES, _WEIGHTS, strict=True)
    ]


def light_on(points: Array, lamp: PlacedLamp, facing: Point | None) -> Array:
    """Illuminance on points from a lamp where it stands: ``Σ I·cosⁿ·cosθ/d²`` over its face.

    Parameters
    ----------
    points : ndarray, shape (n, 3)
        Set coordinates, metres: to the right of the axis, above the floor, behind the near end.
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
    place = np.array(lamp.place)
    nearest = float(np.linalg.norm(points - place, axis=1).min())
    power = math.log(0.5) / math.log(math.cos(math.radians(lamp.beam_deg / 2)))
    axis = np.subtract(lamp.aim, lamp.place)
    long = float(np.linalg.norm(axis))
    total = np.zeros(len(points))
    for shift, share in _spots(lamp, nearest):
        rays = points - (place + np.array(shift))
        distance = np.maximum(np.linalg.norm(rays, axis=1), 1e-3)
        along = np.clip(rays @ axis / (distance * long), 0.0, 1.0) if long > 1e-9 else np.ones(len(points))
        taken = (
            (1.0 + rays[:, 2] / distance) / 2.0
            if facing is None
            else np.clip(-(rays @ np.array(facing)) / distance, 0.0, None)
        )
        total += share * lamp.level * lamp.intensity_cd * along**power * taken / distance**2
    return total


def distance_m(lamp: PlacedLamp, point: Point) -> float:
    return math.dist(lamp.place, point)
