"""What one look at the sheet behind a subject tells: its edges and its colour."""

from __future__ import annotations

import math

import numpy as np

from ..kit.records import Kit
from ..light.difference import keying_separation
from ..light.placed import Array, Backing
from ..vocabulary import SHEETS
from ..wording import Words, number
from .layer import Layer
from .measure import Match
from .reach import behind
from .records import SetUp
from .saying import Explanation, Fix, Value, Values
from .sheet import sheet_of
from .stack import Finding, Stack

SEPARATION_WANTED = 50.0
LOOSE_MASK_EVERY, LOOSE_MASK_MINUTES = 24, 2.0
ACROSS, UP = 17, 11
LEAST_OFF_BACKING_M = 1.0


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
    placed = sheet_of(stack.members[position])
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


def crossed_grid(left: float, right: float, low: float, high: float, z: float) -> Array:
    """Points of what is crossed, set metres."""
    xs, ys = np.meshgrid(np.linspace(left, right, ACROSS), np.linspace(low, high, UP))
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


def backing_colour(
    stack: Stack, position: int, match: Match, words: Words, kit: Kit | None
) -> Finding | None:
    """The nearest colour that must stay, for a keyer."""
    placed = sheet_of(stack.members[position])
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
