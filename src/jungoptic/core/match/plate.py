"""What one look at a set-up's set tells: its lamps, its backing, what shines, where the set ends.

Set coordinates, metres: x right of the lens axis, y above the floor, z behind the front edge; the lens stands
at z = −distance. Every function answers for the member at one position of the stack, or None where the item
makes no sense.
"""

from __future__ import annotations

import math

from ..kit.records import Kit
from ..wording import Words, number
from .backing import backing_colour, backing_edge
from .backing_light import evenness, spill
from .backing_shadow import backing_shadow
from .gloss import seen_in_gloss
from .light_there import fall_off, light_reach
from .measure import Match
from .reach import SIDES, set_ends
from .saying import Explanation, Fix, Value, Values
from .stack import Finding, Look, Stack

BUILT = frozenset({"model", "frame_by_frame"})


def set_edge(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """Where the built set ends inside the frame, over the whole move; its top only where nothing else of the
    shot stands behind it.
    """
    layer, setup = stack.members[position].layer, match.setup
    if setup is None or layer.kind not in BUILT or not layer.fills_frame:
        return None
    backed = any(
        other.layer.fills_frame and other.layer.near_m > layer.near_m
        for place, other in enumerate(stack.members)
        if place != position
    )
    ends = set_ends(match, top=not backed)
    move = match.delivery.move
    over = " over the whole move" if not move.still else ""
    where = f"{words.length(ends.short_m / layer.scale)} short" if ends.past_px else "covers the frame"
    sentence = f"The set {'ends inside' if ends.past_px else 'fills'} what is needed of the frame{over}" + (
        f": build {words.length(ends.short_m / layer.scale)} more {ends.side}"
        f" (full size {words.length(ends.short_m)}), or paint it on."
        if ends.past_px
        else "."
    )
    wider = layer.width_m + 2 * ends.short_m
    higher = layer.height_m + ends.short_m
    fixes: tuple[Fix, ...] = ()
    if ends.past_px and not layer.parts:
        up = ends.side == SIDES[2]
        size, field = (higher, "height_m") if up else (wider, "width_m")
        fixes = (
            Fix(
                f"Build it {words.length(size)} {'high' if up else 'wide'}",
                "layer",
                {field: math.ceil(size * 100 + 1) / 100},
            ),
        )

    def values() -> Values:
        return (
            Value("f_px", "hero's", number(match.f_hero_px, 4)),
            Value("past", f"frame needed beyond it, {ends.side}", f"{ends.past_px:.0f} px"),
            Value("short", "full size, at its front edge", words.length(ends.short_m)),
        )

    return Finding("set_edge", ends.past_px, Explanation(where, sentence, values, fixes))


def card_turn(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """A flat card that is turned from the lens."""
    turned = stack.members[position].layer.turned_deg
    if not turned:
        return None
    sentence = (
        f"The card stands {abs(turned):.0f}° from square to the lens; beyond some 20 to 30° it looks as flat"
        " as it is."
    )

    def values() -> Values:
        return (Value("turned", "from the lens", f"{number(turned, 3)}°"),)

    fixes = (Fix("Square to the lens", "layer", {"turned_deg": 0.0}),) if abs(turned) > 20 else ()
    return Finding("card_turn", abs(turned), Explanation(f"{abs(turned):.0f}°", sentence, values, fixes))


PLATE: tuple[Look, ...] = (
    backing_edge,
    evenness,
    spill,
    backing_shadow,
    backing_colour,
    light_reach,
    fall_off,
    set_edge,
    seen_in_gloss,
    card_turn,
)
