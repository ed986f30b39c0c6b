"""What stands in the light of a face: shadows of upright and lying things on one another, from a light that
is far away or from a lamp where it stands.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from ..light.placed import PlacedLamp, light_on
from ..match.lighting import subject_lamps
from ..match.measure import Match
from ..match.pose import Array
from ..optics.projection import clipped
from .effects import Effects
from .faces import Face, faces_of, flop_of, is_shaded, key_light
from .picture import Image
from .raster import Box

_BEFORE_M = 1e-6  # full size: what is nearer to a face than this lies on it
_GRAZING = 1e-3  # of a light's direction: what runs along a face throws no shadow on it

Thrown = tuple[float, list[Array]]
"""The share of a face's light that is hidden, and the pieces of the face (n, 3) on which it is."""


@dataclass(frozen=True, slots=True)
class Light:
    """One light as it falls on a layer: its direction ``towards`` (3,), or, of a ``lamp``, where that stands
    as the layer's points are counted, full-size metres.
    """

    towards: Array
    lamp: PlacedLamp | None = None


class Shadows:
    """What is thrown on the faces of a layer by its other faces, and by what is filmed beside it.

    Parameters
    ----------
    match : Match
        The layer, measured; its set-up with its key written out.
    faces : sequence of Face
        Its own.
    beside : sequence of Match
        Layers that are filmed in the same exposure.
    effects : Effects
        As the picture is made.
    """

    def __init__(
        self, match: Match, faces: Sequence[Face], beside: Sequence[Match], effects: Effects
    ) -> None:
        self.match, self.faces, self.effects = match, faces, effects
        self.lights: list[Light] = []
        self.beside: list[Array] = []
        if not effects.shadows or not is_shaded(match.layer, effects):
            return
        setup, flop = match.setup or match.hero, flop_of(match.layer, effects)
        self.flop, self.ground = flop, np.array([0.0, setup.ground_height_m, 0.0])
        towards, self.fill = key_light(match)
        self.lights = [
            Light((np.array(lamp.place) - self.ground) * match.layer.scale * flop, lamp)
            for lamp in (subject_lamps(setup) if effects.lamps else ())
        ] or [Light(towards * flop)]
        self.beside = standing_beside(match, beside, effects)

    def on(self, face: Face) -> list[Thrown]:
        """What is hidden of a face, light by light."""
        if not self.lights:
            return []
        weights = [self._weight(light, face) for light in self.lights]
        whole = sum(weights) + (self.fill if self.lights[0].lamp is None else 0.0)
        casters = [other.corners for other in self.faces if other is not face] + self.beside
        thrown = [
            (weight / whole, thrown_on(face, casters, light))
            for light, weight in zip(self.lights, weights, strict=True)
            if weight > 0.0
        ]
        return [(share, pieces) for share, pieces in thrown if pieces]

    def _weight(self, light: Light, face: Face) -> float:
        """What a light gives to a face, in one unit for all."""
        if light.lamp is None:
            return (1.0 - self.fill) * max(0.0, float(np.dot(face.normal, light.towards)))
        middle = face.corners.mean(axis=0) * self.flop / self.match.layer.scale + self.ground
        normal = tuple(float(part) for part in np.array(face.normal) * self.flop)
        return float(light_on(middle[None], light.lamp, (normal[0], normal[1], normal[2]))[0])


def standing_beside(match: Match, others: Iterable[Match], effects: Effects) -> list[Array]:
    """Faces of layers that are filmed in the same exposure, where this layer's points are counted.

    Parameters
    ----------
    match : Match
        The layer on which shadows may fall.
    others : iterable of Match
        What stands in the set with it.
    effects : Effects
        As the picture is made.

    Returns
    -------
    list of ndarray
        Corners (n, 3) of each face, full-size metres of this layer.
    """
    here = match.setup or match.hero
    beside = []
    for other in others:
        there = other.setup or other.hero
        s, own = other.layer.scale, match.layer.scale
        lifted = there.ground_height_m - there.lens_height_m - (here.ground_height_m - here.lens_height_m)
        aside = np.array([0.0, lifted, there.distance_m - here.distance_m])
        beside += [(face.corners / s + aside) * own for face in faces_of(other, effects)]
    return beside


def thrown_on(face: Face, casters: Iterable[Array], light: Light) -> list[Array]:
    """Shadows of flat pieces on a face.

    Parameters
    ----------
    face : Face
        On which they fall.
    casters : iterable of ndarray, each of shape (n, 3)
        Corners of what may stand in its light.
    light : Light
        Where the light comes from.

    Returns
    -------
    list of ndarray
        Corners (n, 3) in the plane of the face; none where the light does not reach it.
    """
    normal, origin = np.array(face.normal), face.corners.mean(axis=0)
    low, high = face.corners.min(axis=0), face.corners.max(axis=0)
    ray = light.towards - origin if light.lamp is not None else light.towards
    if float(normal @ ray) <= _GRAZING * float(np.linalg.norm(ray)):
        return []
    shadows = []
    for corners in casters:
        before = _in_front(corners, normal, origin)
        if len(before) < 3:
            continue
        height = (before - origin) @ normal
        if light.lamp is None:
            there = before - (height / float(normal @ light.towards))[:, None] * light.towards
        else:
            reach = float((light.towards - origin) @ normal)
            if height.max() >= reach:  # it stands behind the lamp
                continue
            along = reach / (reach - height)
            there = light.towards + along[:, None] * (before - light.towards)
        if (there.max(axis=0) >= low - _BEFORE_M).all() and (there.min(axis=0) <= high + _BEFORE_M).all():
            shadows.append(there)
    return shadows


def _in_front(corners: Array, normal: Array, origin: Array) -> Array:
    """The part of a polygon that stands before a plane; nothing of what only touches it."""
    height = (corners - origin) @ normal
    if height.max() <= _BEFORE_M:
        return corners[:0]
    if height.min() >= 0.0:
        return corners
    return clipped(corners, height)


def hide(hidden: Image, thrown: tuple[Image, Box], box: Box) -> None:
    """A shadow over the box of a face; where two overlap, the light is hidden once.

    Parameters
    ----------
    hidden : ndarray, shape (h, w)
        How much is hidden of every pixel of the box; written to.
    thrown : tuple
        How much of every pixel a shadow covers, and its own box.
    box : tuple of int
        Left, top, right and bottom of the face.
    """
    cover, (left, top, right, bottom) = thrown
    x0, y0, x1, y1 = max(left, box[0]), max(top, box[1]), min(right, box[2]), min(bottom, box[3])
    if x1 <= x0 or y1 <= y0:
        return
    here = hidden[y0 - box[1] : y1 - box[1], x0 - box[0] : x1 - box[0]]
    np.maximum(here, cover[y0 - top : y1 - top, x0 - left : x1 - left], out=here)
