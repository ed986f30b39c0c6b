"""What is seen in a glossy face: the virtual image of lens, lamps, sheet and sun behind it."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import partial

import numpy as np

from ..kit.records import Kit
from ..light.placed import Array, face_points
from ..wording import Words
from . import lighting
from .layer import Layer
from .measure import Match
from .records import SetUp
from .saying import Explanation, Fix, Value, Values
from .stack import Finding, Stack

GLOSS_SEEN_DEG = 10.0
_TURNS_DEG = tuple(range(2, 91, 4))
_LAMP_POINTS, _SHEET_ACROSS, _SHEET_UP = 3, 9, 5
_FAR_M = 1e6


@dataclass(frozen=True, slots=True)
class Mirror:
    """A glossy face: upright, its ``middle`` in the set, the unit ``normal`` away from it, the unit ``along``
    it sideways, and half of its sides, metres.
    """

    middle: Array
    normal: Array
    along: Array
    half_wide_m: float
    half_tall_m: float


def mirror_of(layer: Layer, setup: SetUp, azimuth_deg: float) -> Mirror:
    """The glossy face of a layer, as large as the layer, in the middle of it."""
    s, turn = layer.scale, math.radians(azimuth_deg)
    tall = layer.height_m / s
    return Mirror(
        np.array([layer.offset_m / s, setup.ground_height_m + tall / 2.0, 0.0]),
        np.array([math.sin(turn), 0.0, -math.cos(turn)]),
        np.array([math.cos(turn), 0.0, math.sin(turn)]),
        layer.width_m / s / 2.0,
        tall / 2.0,
    )


def off_deg(mirror: Mirror, eye: Array, targets: Array) -> float | None:
    """How far the nearest of many points is from being seen in a mirror, degrees; None where the lens or all
    of them are behind it.

    Behind the mirror stands the virtual image of a point. Where the line from the lens to it crosses the
    face, the point is seen there; else the angle is that between the ray mirrored at the nearest place of the
    face and the way to the point.
    """
    above = float((eye - mirror.middle) @ mirror.normal)
    heights = (targets - mirror.middle) @ mirror.normal
    before = heights > 1e-6
    if above <= 1e-6 or not before.any():
        return None
    points, heights = targets[before], heights[before]
    images = points - 2.0 * heights[:, None] * mirror.normal
    crossing = eye + (images - eye) * (above / (above + heights))[:, None]
    away = crossing - mirror.middle
    wide, tall = mirror.half_wide_m, mirror.half_tall_m
    x, y = np.clip(away @ mirror.along, -wide, wide), np.clip(away[:, 1], -tall, tall)
    # The crossing brought onto the face is nearly its best place; for a slanting ray an edge may be better.
    left, low = np.full_like(x, -wide), np.full_like(y, -tall)
    across, up = np.stack([x, left, -left, x, x]), np.stack([y, y, y, low, -low])
    on_face = mirror.middle + across[..., None] * mirror.along + up[..., None] * np.array([0.0, 1.0, 0.0])
    rays, to = on_face - eye, points - on_face
    out = rays - 2.0 * (rays @ mirror.normal)[..., None] * mirror.normal
    cosine = (out * to).sum(axis=2) / (np.linalg.norm(out, axis=2) * np.linalg.norm(to, axis=2))
    return float(np.degrees(np.arccos(np.clip(cosine, -1.0, 1.0))).min())


def _targets(setup: SetUp, eye: Array) -> Iterator[tuple[str, Array]]:
    yield "the camera", eye[None]
    for lamp in setup.lamps:
        if lamp.level > 0:
            yield lamp.name, face_points(lamp, _LAMP_POINTS)
    day = lighting.sun_over(setup)
    if day is not None:
        yield "the sun", np.array([day.towards]) * _FAR_M
    if setup.backing is not None:
        sheet = setup.backing
        xs = sheet.across_m + np.linspace(-0.5, 0.5, _SHEET_ACROSS) * sheet.width_m
        ys = sheet.bottom_m + np.linspace(0.0, 1.0, _SHEET_UP) * sheet.height_m
        grid = [axis.ravel() for axis in np.meshgrid(xs, ys)]
        yield "the sheet", np.column_stack((*grid, np.full(len(grid[0]), sheet.behind_m)))


def angles_deg(layer: Layer, setup: SetUp, azimuth_deg: float) -> list[tuple[float, str]]:
    """How far everything is from being seen in the gloss, degrees, nearest first; empty where the lens does
    not see the face.
    """
    eye = np.array([0.0, setup.lens_height_m, -setup.distance_m])
    mirror = mirror_of(layer, setup, azimuth_deg)
    angles = [(off_deg(mirror, eye, points), name) for name, points in _targets(setup, eye)]
    return sorted((off, name) for off, name in angles if off is not None)


def _clear_turn(layer: Layer, setup: SetUp, azimuth_deg: float) -> float | None:
    """The least turn of the face after which nothing is seen in it, tried to both sides."""
    tried = [(azimuth_deg + way * turn + 180.0) % 360.0 - 180.0 for turn in _TURNS_DEG for way in (1.0, -1.0)]
    for azimuth in tried:
        angles = angles_deg(layer, setup, azimuth)
        if angles and angles[0][0] >= GLOSS_SEEN_DEG:
            return azimuth
    return None


def seen_in_gloss(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """Follow the ray: is the lens, a lamp, the sun or the sheet at the end of it?"""
    member = stack.members[position]
    layer, setup = member.layer, member.setup
    if setup is None or layer.gloss_azimuth_deg is None:
        return None
    angles = angles_deg(layer, setup, layer.gloss_azimuth_deg)
    if not angles:
        return None
    amount = max(0.0, GLOSS_SEEN_DEG - angles[0][0])
    return Finding("seen_in_gloss", amount, partial(_told, layer, setup, layer.gloss_azimuth_deg, angles))


def _told(layer: Layer, setup: SetUp, azimuth_deg: float, angles: list[tuple[float, str]]) -> Explanation:
    nearest, name = angles[0]
    seen = nearest < GLOSS_SEEN_DEG
    where = (
        f"to {name}{', square on' if nearest < 0.05 else f', {nearest:.1f}° off'}: it is seen in the gloss."
        " Turn the thing, dull it, or hang black there"
        if seen
        else f"past everything; {name} is nearest, {nearest:.0f}° off"
    )
    sentence = f"A ray mirrored in {layer.name} goes {where}."
    fixes: tuple[Fix, ...] = ()
    if seen:
        turned = _clear_turn(layer, setup, azimuth_deg)
        if turned is not None:
            fixes = (Fix(f"Turn it to {turned:.0f}°", "layer", {"gloss_azimuth_deg": round(turned, 1)}),)

    def values() -> Values:
        return tuple(Value("off", target, f"{angle:.1f}°") for angle, target in angles)

    return Explanation(f"{name}, {nearest:.0f}° off", sentence, values, fixes)
