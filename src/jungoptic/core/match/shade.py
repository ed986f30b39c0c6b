"""What a subject hides of an upright plane behind it: from a lamp its shadow, from the lens what is seen of
it. Set coordinates, metres; areas are shapely's, x to the right and y above the floor of that plane.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np
import numpy.typing as npt
from shapely import Point, buffer, covers, is_valid, polygons, union_all
from shapely.geometry.base import BaseGeometry

from ..light.placed import Array
from .layer import Layer
from .records import SetUp

Indices = npt.NDArray[np.intp]
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


def _thrown(ring: Array, sources: Array, far: bool, z: float) -> tuple[Array, Indices]:
    """A ring (n, 3) on the plane from sources (k, 3): places, or where ``far`` the directions towards them;
    (m, n, 2) for those of them that throw it, and which they are.
    """
    if far:
        throw = np.flatnonzero(sources[:, 2] < -1e-9)
        towards = sources[throw, None]
        there: Array = ring[:, :2] + towards[..., :2] * ((z - ring[:, 2]) / towards[..., 2])[..., None]
        return there, throw
    throw = np.flatnonzero((ring[:, 2] - sources[:, None, 2] >= _BEFORE_M).all(axis=1))
    places = sources[throw, None]
    grow = (z - places[..., 2]) / (ring[:, 2] - places[..., 2])
    there = places[..., :2] + (ring[:, :2] - places[..., :2]) * grow[..., None]
    return there, throw


def _areas(corners: Array) -> npt.NDArray[np.object_]:
    shapes: npt.NDArray[np.object_] = polygons(corners)
    crossed = ~is_valid(shapes)
    shapes[crossed] = buffer(shapes[crossed], 0)
    return shapes


def _pieces(
    subject: list[tuple[Array, float]], sources: Array, z: float, far: bool
) -> tuple[npt.NDArray[np.object_], Indices]:
    """What near faces, far faces and the sides between them hide from each source, and from which."""
    before = np.array([np.inf, np.inf, z])
    shapes, whose = [np.empty(0, object)], [np.empty(0, int)]
    for ring, deep in subject:
        near, throw = _thrown(np.minimum(ring, before), sources, far, z)
        shapes.append(_areas(near))
        whose.append(throw)
        if deep <= 0:
            continue
        back, both = _thrown(np.minimum(ring + np.array([0.0, 0.0, deep]), before), sources[throw], far, z)
        near, throw = near[both], throw[both]
        sides = np.stack([near, np.roll(near, -1, axis=1), np.roll(back, -1, axis=1), back], axis=2)
        shapes += [_areas(back), _areas(sides.reshape(-1, 4, 2))]
        whose += [throw, np.repeat(throw, len(ring))]
    return np.concatenate(shapes), np.concatenate(whose)


@lru_cache(maxsize=256)  # while a hand drags the camera, the shadows of the lamps stay where they are
def _hidden(subject: tuple[tuple[bytes, float], ...], source: bytes, z: float, far: bool) -> BaseGeometry:
    rings = [(np.frombuffer(ring).reshape(-1, 3), deep) for ring, deep in subject]
    return union_all(_pieces(rings, np.frombuffer(source)[None], z, far)[0])


def hidden(subject: list[tuple[Array, float]], source: Array, z: float, *, far: bool = False) -> BaseGeometry:
    """What a subject hides of the plane at ``z`` from a source: a place in the set, or where ``far`` the
    direction towards one without end.
    """
    known = tuple((ring.tobytes(), deep) for ring, deep in subject)
    return _hidden(known, source.tobytes(), z, far)


def hidden_share(subject: list[tuple[Array, float]], sources: Array, z: float, x: float, y: float) -> float:
    """The share of places, (k, 3), from which a subject hides a point of the plane at ``z``."""
    areas, whose = _pieces(subject, sources, z, False)
    return len(np.unique(whose[covers(areas, Point(x, y))])) / len(sources)
