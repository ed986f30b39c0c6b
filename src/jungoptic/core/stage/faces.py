"""The faces of a layer in space, shaded, cut into slices that are equally soft."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np

from ..light.placed import light_on
from ..match.layer import Layer, Part
from ..match.lighting import direction_of, subject_lamps, subject_point
from ..match.measure import Match
from ..match.pose import Array
from ..optics.projection import clipped
from ..vocabulary import PICTURES
from .drawings import parts_of
from .effects import Effects
from .picture import Image, linear_rgb

_FILL_STOPS = 1.6  # where nobody said how much key there is over fill
_LIGHT_ITSELF = frozenset({"add", "screen", "multiply", "shadow_alpha"})
_MOST_SLICES = 24
_ALIKE_PX = 0.25  # blur of one slice


@dataclass(frozen=True, slots=True)
class Face:
    """One flat face: corners (n, 3) where the layer's points are counted, full-size metres; its colour at its
    top and at its foot, shaded (3,); which way it faces.
    """

    corners: Array
    high: Image
    low: Image
    normal: tuple[float, float, float]
    lies: bool

    def faces(self, eye: Array) -> bool:
        """Whether it is seen from there: the sides of a solid thing that look away are hidden by it."""
        side = not self.lies and self.normal[2] == 0.0
        return not side or float(np.dot(self.normal, eye - self.corners[0])) > 0

    @property
    def far_m(self) -> float:
        """How far behind the front edge it begins."""
        return float(self.corners[:, 2].min())


def _bare(part: Part) -> Iterator[tuple[Array, tuple[float, float, float]]]:
    """The sides of a solid part, and its front."""
    front = part.outline
    if not part.lies and part.thickness_m > 0:
        back = front + np.array([0.0, 0.0, part.thickness_m])
        x, y = front[:, 0], front[:, 1]
        turning = 1.0 if float((x * np.roll(y, -1) - np.roll(x, -1) * y).sum()) > 0 else -1.0
        for here in range(len(front)):
            there = (here + 1) % len(front)
            edge = front[there] - front[here]
            long = math.hypot(edge[0], edge[1])
            if long < 1e-9:
                continue
            normal = (float(edge[1] / long * turning), float(-edge[0] / long * turning), 0.0)
            yield np.array([front[here], front[there], back[there], back[here]]), normal
    yield front, (0.0, 1.0, 0.0) if part.lies else (0.0, 0.0, -1.0)


def faces_of(match: Match, effects: Effects) -> list[Face]:
    """Every face of a layer, far ones first, as bright as the light on it makes it.

    Parameters
    ----------
    match : Match
        The layer, measured; its set-up with its key written out.
    effects : Effects
        Whether it is shaded, by its key and fill or by its lamps.

    Returns
    -------
    list of Face
        A picture, and what is added as light, is not shaded.
    """
    layer = match.layer
    shade = _shader(match, effects) if is_shaded(layer, effects) else (lambda corners, normal: 1.0)
    aside = np.array([layer.offset_m, 0.0, 0.0])
    flop = flop_of(layer, effects)
    faces = []
    for part in parts_of(layer):
        high, low = linear_rgb(part.colour), linear_rgb(part.colour_low or part.colour)
        for corners, normal in _bare(part):
            tone = shade(corners, normal)
            placed = corners * flop + aside
            looks = normal[0] * float(flop[0]), normal[1], normal[2]
            faces.append(Face(placed, high * tone, low * tone, looks, part.lies))
    return sorted(faces, key=lambda face: (face.lies, face.far_m), reverse=True)


def is_shaded(layer: Layer, effects: Effects) -> bool:
    """Whether light falls on a layer: a picture has its own, and so has what is added as light or laid on as
    shadow.
    """
    return effects.shading and layer.kind not in PICTURES and layer.combine not in _LIGHT_ITSELF


def flop_of(layer: Layer, effects: Effects) -> Array:
    """What points and directions are multiplied by where the layer is filmed mirrored and flopped back."""
    return np.array([-1.0 if layer.mirrored and effects.flop else 1.0, 1.0, 1.0])


def _shader(match: Match, effects: Effects) -> Callable[[Array, tuple[float, float, float]], float]:
    """How bright a face is beside what the meter takes: by the lamps where they stand, else by the key."""
    setup, layer = match.setup or match.hero, match.layer
    lamps = subject_lamps(setup) if effects.lamps else ()
    if lamps:
        s, ground = layer.scale, np.array([0.0, setup.ground_height_m, 0.0])
        facing = sum(
            float(light_on(np.array([subject_point(layer, setup)]), lamp, None)[0]) for lamp in lamps
        )

        def by_lamps(corners: Array, normal: tuple[float, float, float]) -> float:
            middle = (corners.mean(axis=0) + np.array([layer.offset_m, 0.0, 0.0])) / s + ground
            lit = sum(float(light_on(middle[None], lamp, normal)[0]) for lamp in lamps)
            return lit / max(facing, 1e-9)

        return by_lamps
    towards, fill = key_light(match)
    return lambda corners, normal: tone_of(normal, towards, fill)


def tone_of(normal: tuple[float, float, float], towards: Array, fill: float) -> float:
    """How bright a face is beside what the meter takes: ``(fill + (1 − fill)·cosθ)/metered``."""
    return (fill + (1.0 - fill) * max(0.0, float(np.dot(normal, towards)))) / metered(towards, fill)


def metered(towards: Array, fill: float) -> float:
    """What a meter's dome that is turned to the lens takes of key and fill, as a share of what a face has
    that looks straight into the key. Source: meter_dome.
    """
    return fill + (1.0 - fill) * (1.0 - float(towards[2])) / 2.0


def key_light(match: Match) -> tuple[Array, float]:
    """The direction to the key, and the fill's share of what a face has that looks into it."""
    setup = match.setup or match.hero
    azimuth = 35.0 if setup.key_azimuth_deg is None else setup.key_azimuth_deg
    elevation = 40.0 if setup.key_elevation_deg is None else setup.key_elevation_deg
    over = _FILL_STOPS if setup.key_to_fill_stops is None else setup.key_to_fill_stops
    return np.array(direction_of(azimuth, elevation)), 2.0**-over


def sliced(face: Face, blur_px: Callable[[Array], float]) -> list[tuple[Array, float]]:
    """A face cut into pieces that are equally soft: corners, and the blur of each, delivered px.

    Parameters
    ----------
    face : Face
        With depth, or upright and square to the view.
    blur_px : callable
        Blur of a point (3,), where the layer's points are counted.

    Returns
    -------
    list of tuple
        Far pieces first.
    """
    near, far = float(face.corners[:, 2].min()), float(face.corners[:, 2].max())
    middle = face.corners.mean(axis=0)

    def blur_at(depth: float) -> float:
        return blur_px(np.array([middle[0], middle[1], depth]))

    softest = max(abs(blur_at(near) - blur_at(far)), abs(blur_at((near + far) / 2.0) - blur_at(near)))
    count = min(_MOST_SLICES, max(1, math.ceil(softest / _ALIKE_PX)))
    if far - near < 1e-9 or count == 1:
        return [(face.corners, blur_at((near + far) / 2.0))]
    edges = np.linspace(near, far, count + 1)
    pieces = []
    for low, high in itertools.pairwise(edges):
        corners = _between(_between(face.corners, low, 1.0), high, -1.0)
        if len(corners) >= 3:
            pieces.append((corners, blur_at((low + high) / 2.0)))
    return pieces[::-1]


def _between(corners: Array, depth: float, side: float) -> Array:
    """The part of a polygon that lies behind (1) or before (−1) a depth."""
    return clipped(corners, side * (corners[:, 2] - depth))
