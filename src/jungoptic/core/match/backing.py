"""What one look at the sheet behind a subject tells: its edges, light, spill, the shadow on it, its
colour.
"""

from __future__ import annotations

import math

import numpy as np

from ..kit.records import Kit
from ..light.difference import keying_separation
from ..light.placed import Array, Backing, PlacedLamp, light_on
from ..vocabulary import PASSES, SHEETS
from ..wording import Words, number
from . import lighting
from .layer import Layer
from .measure import Match
from .reach import behind
from .records import SetUp
from .saying import Explanation, Fix, Value, Values
from .stack import Finding, Member, Stack

SEPARATION_WANTED = 50.0
DARK_LX = 1e-3  # darker than this is unlit
UNLIT_STOPS = 20.0
LOOSE_MASK_EVERY, LOOSE_MASK_MINUTES = 24, 2.0
_ACROSS, _UP = 17, 11
LEAST_OFF_BACKING_M = 1.0
_SHADOW_SEEN_PX = 2.0


def _sheet(member: Member) -> tuple[SetUp, Backing] | None:
    """The set-up and its sheet, where the layer is cut from it; a pass is laid on and cut from nothing."""
    if member.layer.kind in PASSES:
        return None
    return (
        (member.setup, member.setup.backing)
        if member.setup is not None and member.setup.backing is not None
        else None
    )


def sweep_in_set(layer: Layer, setup: SetUp) -> tuple[float, float, float, float]:
    """Left, right, foot and top of all that the layer does, set metres."""
    s = layer.scale
    left, right = layer.sweep_m
    foot = setup.ground_height_m + min(0.0, layer.travel_up_m) / s
    return (
        left / s,
        right / s,
        foot,
        setup.ground_height_m + (layer.height_m + max(0.0, layer.travel_up_m)) / s,
    )


def backing_edge(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """How far the movement reaches past the sheet, and what the frame sees besides that is cut away."""
    placed = _sheet(stack.members[position])
    if placed is None:
        return None
    setup, backing = placed
    layer = stack.members[position].layer
    seen = behind(match, setup, backing)
    left, right, top, past = seen.left, seen.right, seen.high, seen.past_m
    half = backing.width_m / 2.0
    px_per_m = match.f_px * layer.resize / (setup.distance_m + backing.behind_m)
    sees_w, sees_h = (side / px_per_m for side in match.delivery.needed_px)
    loose = sees_w > backing.width_m or sees_h > backing.height_m
    hours = math.ceil(stack.plan.length_frames / LOOSE_MASK_EVERY) * LOOSE_MASK_MINUTES / 60.0
    cut = f"; the rest is cut away with a loose mask, about {number(hours, 2)} h" if loose else ""
    where = f"{words.length(past)} past it" if past else "inside it"
    sentence = (
        f"All that {layer.name} does is seen against {words.length(right - left)} ×"
        f" {words.length(max(top - backing.bottom_m, 0.0))} of the plane of the"
        f" {words.length(backing.width_m)} × {words.length(backing.height_m)} sheet: {where}. The frame sees"
        f" {words.length(sees_w)} × {words.length(sees_h)} there{cut}."
    )
    fixes: list[Fix] = []
    if past:
        sweep_left, sweep_right, _, sweep_top = sweep_in_set(layer, setup)
        reach = max(abs(sweep_left - backing.across_m), abs(sweep_right - backing.across_m), 1e-6)
        room = [setup.distance_m * (half / reach - 1.0)]
        if sweep_top > setup.lens_height_m:
            room.append(
                setup.distance_m
                * (
                    (backing.bottom_m + backing.height_m - setup.lens_height_m)
                    / (sweep_top - setup.lens_height_m)
                    - 1.0
                )
            )
        nearest = min(room)
        if LEAST_OFF_BACKING_M <= nearest < backing.behind_m:
            fixes.append(
                Fix(
                    f"Sheet {words.length(nearest)} behind", "backing", {"behind_m": round(nearest - 5e-4, 3)}
                )
            )
        fixes.append(
            Fix(
                f"A sheet {words.length(right - left)} wide",
                "backing",
                {
                    "width_m": round(math.ceil((right - left) * 10) / 10, 3),
                    "across_m": round((left + right) / 2, 3),
                    "height_m": max(
                        backing.height_m, round(math.ceil((top - backing.bottom_m) * 10) / 10, 3)
                    ),
                },
            )
        )

    def values() -> Values:
        return (
            Value("reach", "of the movement there", f"{words.length(left)} … {words.length(right)}"),
            Value(
                "sheet",
                "across",
                f"{words.length(backing.across_m - half)} … {words.length(backing.across_m + half)}",
            ),
            Value("d", "lens to sheet", words.length(setup.distance_m + backing.behind_m)),
        )

    return Finding("backing_edge", seen.past_px, Explanation(where, sentence, values, tuple(fixes)))


def _grid(left: float, right: float, low: float, high: float, z: float) -> Array:
    xs, ys = np.meshgrid(np.linspace(left, right, _ACROSS), np.linspace(low, high, _UP))
    return np.column_stack((xs.ravel(), ys.ravel(), np.full(xs.size, z)))


def crossed(match: Match, setup: SetUp, backing: Backing) -> tuple[float, float, float, float]:
    """What of the sheet itself the layer is seen against: left, right, low, high, set metres."""
    seen = behind(match, setup, backing)
    left, right, low, high = seen.left, seen.right, seen.low, seen.high
    edge_l, edge_r = backing.across_m - backing.width_m / 2.0, backing.across_m + backing.width_m / 2.0
    top = backing.bottom_m + backing.height_m
    left, right = min(max(left, edge_l), edge_r - 0.05), max(min(right, edge_r), edge_l + 0.05)
    return (
        left,
        max(right, left + 0.05),
        min(low, top - 0.05),
        max(min(high, top), min(low, top - 0.05) + 0.05),
    )


def shadow_on_plane(
    layer: Layer, setup: SetUp, lamp: PlacedLamp, z: float
) -> tuple[float, float, float] | None:
    """Left, right and top of the subject's shadow on the upright plane at ``z``, thrown by a lamp in front
    of it; None where none falls.
    """
    lx, ly, lz = lamp.place
    if lz >= -1e-6 or z <= 0:
        return None
    half = layer.width_m / layer.scale / 2.0
    middle = layer.offset_m / layer.scale
    top = setup.ground_height_m + layer.height_m / layer.scale
    grow = (z - lz) / -lz
    xs = (lx + (middle - half - lx) * grow, lx + (middle + half - lx) * grow)
    return min(xs), max(xs), ly + (top - ly) * grow


def backing_shadow(
    stack: Stack, position: int, match: Match, words: Words, kit: Kit | None
) -> Finding | None:
    """Whether the subject's own shadow falls on the sheet where the subject is seen beside it."""
    placed = _sheet(stack.members[position])
    if placed is None or not lighting.subject_lamps(placed[0]):
        return None
    setup, backing = placed
    layer = stack.members[position].layer
    worst = _darkest_shadow(layer, setup, backing, match)
    if worst is None:
        where = "on the floor or hidden"
        sentence = (
            f"No lamp throws {layer.name}'s shadow on the sheet beside it: shadows fall on the floor or lie"
            " hidden behind the subject."
        )
        return Finding("backing_shadow", 0.0, Explanation(where, sentence, tuple))
    stops, lamp, seen_m, own_lx = worst
    _, ly, lz = lamp.place
    top = setup.ground_height_m + layer.height_m / layer.scale
    sentence = (
        f"{lamp.name} throws a shadow on the sheet, {words.length(seen_m)} of it seen beside {layer.name},"
        f" {number(stops, 2)} stop darker. Raise the lamp, bring it round to the side, or go further off the"
        " sheet."
    )
    fixes: list[Fix] = []
    if ly > top + 0.05:
        clear = lz + (ly - backing.bottom_m) * -lz / (ly - top)
        if backing.behind_m < clear < 12:
            fixes.append(
                Fix(f"Sheet {words.length(clear)} behind", "backing", {"behind_m": round(clear + 5e-3, 2)})
            )
    raised = top + (top - backing.bottom_m) * -lz / max(backing.behind_m, 0.1)
    if ly < raised < 4.2:
        fixes.append(
            Fix(
                f"{lamp.name} at {words.length(raised)}",
                "lamps",
                {"lamps": {setup.lamps.index(lamp): {"height_m": round(raised + 5e-3, 2)}}},
            )
        )

    def values() -> Values:
        return (
            Value("E_lamp", f"from {lamp.name}", words.light(own_lx)),
            Value("seen", "beside the subject", words.length(seen_m)),
        )

    return Finding(
        "backing_shadow",
        stops,
        Explanation(f"{number(stops, 2)} stop, {words.length(seen_m)} wide", sentence, values, tuple(fixes)),
    )


def _darkest_shadow(
    layer: Layer, setup: SetUp, backing: Backing, match: Match
) -> tuple[float, PlacedLamp, float, float] | None:
    """Stops that it is darker, the lamp, how much of it is seen (m), and the light that the lamp gives
    beside it, lux.
    """
    grow = (setup.distance_m + backing.behind_m) / setup.distance_m
    half = layer.width_m / layer.scale / 2.0 * grow
    middle = layer.offset_m / layer.scale * grow
    px_per_m = match.f_px * layer.resize / (setup.distance_m + backing.behind_m)
    worst: tuple[float, PlacedLamp, float, float] | None = None
    for lamp in lighting.subject_lamps(setup):
        thrown = shadow_on_plane(layer, setup, lamp, backing.behind_m)
        if thrown is None or thrown[2] <= backing.bottom_m or lamp.level == 0:
            continue
        left, right = (
            max(thrown[0], backing.across_m - backing.width_m / 2),
            min(thrown[1], backing.across_m + backing.width_m / 2),
        )
        seen = max(0.0, middle - half - left, 0.0, right - (middle + half)) if right > left else 0.0
        seen = min(seen, right - left)
        if seen * px_per_m < _SHADOW_SEEN_PX:
            continue
        x = left + seen / 2 if (middle - half) - left > right - (middle + half) else right - seen / 2
        spot = np.array(
            [
                (
                    x,
                    min((thrown[2] + backing.bottom_m) / 2, backing.bottom_m + backing.height_m),
                    backing.behind_m,
                )
            ]
        )
        whole = float(lighting.on_backing_lx(setup, spot)[0])
        own = float(light_on(spot, lamp, (0.0, 0.0, -1.0))[0])
        stops = math.log2(whole / max(whole - own, whole * 2e-3)) if whole > DARK_LX else 0.0
        if worst is None or stops > worst[0]:
            worst = (stops, lamp, seen, own)
    return worst


def backing_colour(
    stack: Stack, position: int, match: Match, words: Words, kit: Kit | None
) -> Finding | None:
    """The nearest colour that must stay, for a keyer."""
    placed = _sheet(stack.members[position])
    layer = stack.members[position].layer
    if placed is None or not layer.keep_colours or layer.combine not in ("key", "difference"):
        return None
    backing = placed[1]
    nearest = min(layer.keep_colours, key=lambda kept: keying_separation(backing.colour, kept))
    apart = keying_separation(backing.colour, nearest)
    owned = {name: SHEETS[name] for name in ("green", "blue")}
    better = max(
        owned, key=lambda name: min(keying_separation(owned[name], kept) for kept in layer.keep_colours)
    )
    best = min(keying_separation(owned[better], kept) for kept in layer.keep_colours)
    sentence = (
        f"The nearest colour that must stay, {nearest}, is {apart:.0f} away from the sheet's"
        f" {backing.colour}; 40 and more keys well."
    )
    fixes = (
        (Fix(f"A {better} sheet", "backing", {"colour": owned[better]}),)
        if apart < SEPARATION_WANTED - 10 and best > apart
        else ()
    )
    if fixes:
        sentence += f" A {better} sheet is {best:.0f} away."

    def values() -> Values:
        return (
            Value("sheet", "its colour", backing.colour),
            Value("kept", "nearest that must stay", nearest),
            Value("apart", "separation", f"{apart:.1f} ΔE"),
        )

    return Finding(
        "backing_colour",
        max(0.0, SEPARATION_WANTED - apart),
        Explanation(f"{apart:.0f} ΔE apart", sentence, values, fixes),
    )
