"""What a subject hides of an upright plane behind it: from a lamp its shadow, from the lens what is seen of
it. Set coordinates, metres; areas are shapely's, x to the right and y above the floor of that plane.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from shapely import Point, Polygon, union_all
from shapely.geometry.base import BaseGeometry

from ..light.placed import Array
from .layer import Layer
from .records import SetUp

_BEFORE_M = 1e-3  # what stands no further before the plane or the lamp throws nothing that can be drawn


def bodies(layer: Layer, setup: SetUp, across_m: float = 0.0) -> list[tuple[Array, float]]:
    """The flat outlines of a subject, (n, 3), and how deep each is, metres of the set; moved across by so
    much.
    """
    s = layer.scale
    if layer.parts:
        rings = [(part.outline, 0.0 if part.lies else part.thickness_m) for part in layer.parts]
        deepest = max(float(ring[:, 2].max()) + deep for ring, deep in rings)
        if layer.body_m > deepest:  # outlines that are flat stand for things that are not
            rings = [(ring, deep or layer.body_m - deepest) for ring, deep in rings]
    else:
        half = layer.width_m / 2.0
        corners = [(-half, 0.0), (-half, layer.height_m), (half, layer.height_m), (half, 0.0)]
        rings = [(np.array([(x, y, 0.0) for x, y in corners]), layer.body_m)]
    stands = np.array([layer.offset_m / s + across_m, setup.ground_height_m, 0.0])
    return [(ring / s + stands, deep / s) for ring, deep in rings]


def _thrown(ring: Array, source: Array, far: bool, z: float) -> Array | None:
    """A ring on the plane, seen from a source: a place, or where ``far`` the direction towards it."""
    if far:
        if source[2] >= -1e-9:
            return None
        there: Array = ring[:, :2] + source[:2] * ((z - ring[:, 2]) / source[2])[:, None]
        return there
    away = ring[:, 2] - source[2]
    if (away < _BEFORE_M).any():
        return None
    there = source[:2] + (ring[:, :2] - source[:2]) * ((z - source[2]) / away)[:, None]
    return there


def _area(corners: Array) -> BaseGeometry:
    shape: BaseGeometry = Polygon(corners)
    return shape if shape.is_valid else shape.buffer(0)


def _pieces(subject: list[tuple[Array, float]], source: Array, z: float, far: bool) -> Iterator[BaseGeometry]:
    """What near faces, far faces and the sides between them hide."""
    before = np.array([np.inf, np.inf, z])
    for ring, deep in subject:
        near = _thrown(np.minimum(ring, before), source, far, z)
        if near is None:
            continue
        yield _area(near)
        if deep <= 0:
            continue
        back = _thrown(np.minimum(ring + np.array([0.0, 0.0, deep]), before), source, far, z)
        if back is None:
            continue
        yield _area(back)
        sides = np.stack([near, np.roll(near, -1, axis=0), np.roll(back, -1, axis=0), back], axis=1)
        yield from (_area(side) for side in sides)


def hidden(subject: list[tuple[Array, float]], source: Array, z: float, *, far: bool = False) -> BaseGeometry:
    """What a subject hides of the plane at ``z`` from a source: a place in the set, or where ``far`` the
    direction towards one without end.
    """
    return union_all(list(_pieces(subject, source, z, far)))


def hides(subject: list[tuple[Array, float]], source: Array, z: float, x: float, y: float) -> bool:
    """Whether a subject stands between a place and a point of the plane at ``z``."""
    point = Point(x, y)
    return any(piece.covers(point) for piece in _pieces(subject, source, z, False))
