"""A subject's own shadow on the sheet behind it, where it is seen beside the subject."""

from __future__ import annotations

import math
from collections.abc import Iterator
from dataclasses import dataclass
from functools import partial

import numpy as np
from shapely import Polygon, box, get_parts, maximum_inscribed_circle
from shapely.geometry.base import BaseGeometry

from ..kit.records import Kit
from ..light.placed import Array, Backing, PlacedLamp, face_points, light_on
from ..wording import Words, number
from . import lighting
from .layer import Layer
from .measure import Match
from .records import SetUp
from .saying import Explanation, Fix, Value, Values
from .shade import bodies, hidden, hidden_share
from .sheet import DARK_LX, sheet_of
from .stack import Finding, Stack
from .tolerances import ITEMS
from .view import View, layer_view

SHADOW_SEEN_PX = 2.0
_BEAMS_M = 4.2  # where nobody said how high the place is; Source: placing_lamps
_FURTHEST_SHEET_M = 12.0
_FACE_POINTS = 3  # to a side: how much of a lamp is hidden tells how soft its shadow is
_MOST_M = 1e4


@dataclass(frozen=True, slots=True)
class Shadow:
    """The shadow that one light throws on a sheet and that is seen: ``stops`` darker than the sheet beside
    it, how wide and how large what is seen of it is, and between which heights of the delivered frame it
    lies, px from its top.
    """

    stops: float
    by: str
    lamp: PlacedLamp | None
    wide_m: float
    area_m2: float
    own_lx: float
    top_px: float
    bottom_px: float


@dataclass(frozen=True, slots=True)
class _Light:
    """A lamp, or the sun where ``lamp`` is None: a place, or the direction towards it."""

    source: Array
    lamp: PlacedLamp | None


def _lights(setup: SetUp) -> Iterator[_Light]:
    for lamp in lighting.subject_lamps(setup):
        if lamp.level > 0:
            yield _Light(np.array(lamp.place), lamp)
    day = lighting.sun_over(setup)
    if day is not None:
        yield _Light(np.array(day.towards), None)


def _eye(view: View, layer: Layer, setup: SetUp) -> Array:
    eye: Array = view.eye / layer.scale + np.array([0.0, setup.ground_height_m, 0.0])
    return eye


def _frame_there(view: View, eye: Array, match: Match, z: float) -> BaseGeometry:
    """What the frame sees of the plane at ``z``; all of it where an edge looks past its end."""
    width, height = match.delivery.width_px, match.delivery.height_px
    corners = [view.ray(x, y, width, height) for x, y in ((0, 0), (width, 0), (width, height), (0, height))]
    if min(ray[2] for ray in corners) <= 1e-6:
        return box(-_MOST_M, -_MOST_M, _MOST_M, _MOST_M)
    return Polygon([eye[:2] + ray[:2] * (z - eye[2]) / ray[2] for ray in corners])


def _places_m(layer: Layer) -> list[float]:
    """How far the subject moves across in all that it does: where it stands, and to both ends, metres of the
    set.
    """
    half = layer.width_m / 2.0
    left, right = layer.sweep_m
    moves = (0.0, left + half - layer.offset_m, right - half - layer.offset_m)
    return list(dict.fromkeys(round(move / layer.scale, 6) for move in moves))


def sheet_area(backing: Backing) -> BaseGeometry:
    """The sheet on its own plane."""
    half = backing.width_m / 2.0
    return box(
        backing.across_m - half,
        backing.bottom_m,
        backing.across_m + half,
        backing.bottom_m + backing.height_m,
    )


def thrown_shadows(layer: Layer, setup: SetUp, backing: Backing) -> list[BaseGeometry]:
    """The shadow of a subject on its sheet from each light that throws one, for the drawings."""
    return [shadow for _, shadow in _thrown_by(layer, setup, backing)]


def _thrown_by(
    layer: Layer, setup: SetUp, backing: Backing
) -> Iterator[tuple[PlacedLamp | None, BaseGeometry]]:
    subject, sheet = bodies(layer, setup), sheet_area(backing)
    for light in _lights(setup):
        shadow = hidden(subject, light.source, backing.behind_m, far=light.lamp is None) & sheet
        if not shadow.is_empty:
            yield light.lamp, shadow


def thrown_by_light(
    layer: Layer, setup: SetUp, backing: Backing
) -> Iterator[tuple[PlacedLamp | None, list[Array]]]:
    """The lamp, None for the sun, and the outlines (n, 2) of the shadow that it throws on the sheet: to the
    right and above the floor, metres of the set.
    """
    for lamp, shadow in _thrown_by(layer, setup, backing):
        pieces = [piece for piece in get_parts(shadow) if isinstance(piece, Polygon)]
        yield lamp, [np.array(piece.exterior.coords)[:-1] for piece in pieces]


def darkest_shadow(layer: Layer, setup: SetUp, backing: Backing, match: Match) -> Shadow | None:
    """The worst of the shadows that are seen beside the subject, wherever in its movement it is."""
    z, view, sheet = backing.behind_m, layer_view(match), sheet_area(backing)
    if z <= 0:
        return None
    eye = _eye(view, layer, setup)
    looked_at = _frame_there(view, eye, match, z) & sheet
    px_per_m = view.focal_px / (z - eye[2])
    worst: Shadow | None = None
    for across in _places_m(layer):
        subject = bodies(layer, setup, across)
        open_to_lens = looked_at - hidden(subject, eye, z)
        for light in _lights(setup):
            seen = hidden(subject, light.source, z, far=light.lamp is None) & open_to_lens
            shadow = _shadow(seen, light, subject, setup, z, px_per_m)
            if shadow is None or (worst is not None and shadow[0] <= worst.stops):
                continue
            stops, own_lx, wide = shadow
            low, high = seen.bounds[1], seen.bounds[3]
            ground = np.array([0.0, setup.ground_height_m, 0.0])
            ends = np.array([(seen.centroid.x, y, z) for y in (high, low)]) - ground
            px = view.seen(ends * layer.scale, match.delivery.width_px, match.delivery.height_px)[:, 1]
            by = light.lamp.name if light.lamp else "The sun"
            worst = Shadow(stops, by, light.lamp, wide, seen.area, own_lx, float(px[0]), float(px[1]))
    return worst


def _shadow(
    seen: BaseGeometry,
    light: _Light,
    subject: list[tuple[Array, float]],
    setup: SetUp,
    z: float,
    px_per_m: float,
) -> tuple[float, float, float] | None:
    """Stops darker where the most of it is seen round a point, the light's own lux there, how wide; None
    where too little is seen.
    """
    parts = [part for part in get_parts(seen) if isinstance(part, Polygon) and part.area > 0]
    if not parts:
        return None
    across = maximum_inscribed_circle(max(parts, key=lambda part: part.area), tolerance=0.5 / px_per_m)
    if 2.0 * across.length * px_per_m < SHADOW_SEEN_PX:
        return None
    x, y = across.coords[0]
    spot = np.array([(x, y, z)])
    whole = float(lighting.on_backing_lx(setup, spot)[0])
    lamp = light.lamp
    if lamp is None:
        day = lighting.day_over(setup)
        assert day is not None
        own, share = day.sun_lx * max(0.0, -day.towards[2]), 1.0
    else:
        own = float(light_on(spot, lamp, (0.0, 0.0, -1.0))[0])
        share = hidden_share(subject, face_points(lamp, _FACE_POINTS), z, x, y)
    if whole <= DARK_LX or share == 0:
        return None
    return math.log2(whole / max(whole - share * own, whole * 2e-3)), own, 2.0 * across.length


def backing_shadow(
    stack: Stack, position: int, match: Match, words: Words, kit: Kit | None
) -> Finding | None:
    """Whether the subject's own shadow falls on the sheet where it is seen beside the subject."""
    placed = sheet_of(stack.members[position])
    if placed is None or next(_lights(placed[0]), None) is None:
        return None
    setup, backing = placed
    layer = stack.members[position].layer
    worst = darkest_shadow(layer, setup, backing, match)
    if worst is None:
        where = "on the floor or hidden"
        sentence = (
            f"No light throws {layer.name}'s shadow on the sheet beside it: shadows fall on the floor or lie"
            " hidden behind the subject."
        )
        return Finding("backing_shadow", 0.0, Explanation(where, sentence, tuple))
    return Finding(
        "backing_shadow", worst.stops, partial(_told, worst, layer, setup, backing, match, words, kit)
    )


def _clear_of_it(lamp: PlacedLamp, layer: Layer, setup: SetUp, backing: Backing) -> tuple[float, float]:
    """How far behind the sheet, and how high the lamp, so that the shadow of the top falls to the foot of the
    sheet, metres; without end where neither can do it.
    """
    top = setup.ground_height_m + layer.height_m / layer.scale
    before = layer.body_m / layer.scale - lamp.behind_m  # lamp to the back of the top, which throws highest
    over = lamp.height_m - top
    grow = (backing.behind_m - lamp.behind_m) / before if before > 0 else 1.0
    further = lamp.behind_m + (lamp.height_m - backing.bottom_m) * before / over if over > 0 else math.inf
    higher = (top * grow - backing.bottom_m) / (grow - 1.0) if grow > 1.0 else math.inf
    return math.ceil(100.0 * further + 1) / 100.0 if math.isfinite(further) else further, (
        math.ceil(100.0 * higher + 1) / 100.0 if math.isfinite(higher) else higher
    )


def _told(
    worst: Shadow, layer: Layer, setup: SetUp, backing: Backing, match: Match, words: Words, kit: Kit | None
) -> Explanation:
    beams = kit.beams_m if kit is not None and kit.beams_m else _BEAMS_M
    lamp = worst.lamp
    advice = (
        "Raise the lamp, bring it round to the side, or go further off the sheet."
        if lamp
        else "Turn the set, film at another hour, or go further off the sheet."
    )
    sentence = (
        f"{worst.by} throws a shadow on the sheet, {words.length(worst.wide_m)} wide of it seen beside"
        f" {layer.name} ({words.area(worst.area_m2)} in all, {worst.top_px:.0f} to {worst.bottom_px:.0f} px"
        f" from the top), {number(worst.stops, 2)} stop darker. {advice}"
    )

    def clears(changed: SetUp) -> bool:
        assert changed.backing is not None
        left = darkest_shadow(layer, changed, changed.backing, match)
        return left is None or left.stops <= ITEMS["backing_shadow"].holds

    def mending() -> tuple[Fix, ...]:
        further, higher = _clear_of_it(lamp, layer, setup, backing) if lamp else (math.inf, math.inf)
        fixes: list[Fix] = []
        if backing.behind_m < further <= _FURTHEST_SHEET_M and clears(
            setup.but(backing=backing.but(behind_m=further))
        ):
            fixes.append(Fix(f"Sheet {words.length(further)} behind", "backing", {"behind_m": further}))
        if lamp is not None and lamp.height_m < higher < beams:
            place = setup.lamps.index(lamp)
            raised = (*setup.lamps[:place], lamp.but(height_m=higher), *setup.lamps[place + 1 :])
            if clears(setup.but(lamps=raised)):
                changes = {"lamps": {place: {"height_m": higher}}}
                fixes.append(Fix(f"{lamp.name} at {words.length(higher)}", "lamps", changes))
        return tuple(fixes)

    def values() -> Values:
        return (
            Value("E_lamp", f"from {worst.by.replace('The sun', 'the sun')}", words.light(worst.own_lx)),
            Value("seen", "beside the subject", words.length(worst.wide_m)),
        )

    return Explanation(
        f"{number(worst.stops, 2)} stop, {words.length(worst.wide_m)} wide", sentence, values, mending=mending
    )
