"""What one look at a set-up's set tells: its lamps, its backing, what shines, where the set ends.

Set coordinates, metres: x right of the lens axis, y above the floor, z behind the near end; the lens stands
at z = −distance. Every function answers for the member at one position of the stack, or None where the item
makes no sense.
"""

from __future__ import annotations

import math

import numpy as np

from ..kit.records import Kit
from ..wording import Words, number
from . import lighting
from .backing import DARK_LX, UNLIT_STOPS, backing_colour, backing_edge, backing_shadow
from .backing_light import LEAST_LAMP_DISTANCE_M, evenness, spill
from .measure import Match
from .reach import SIDES, set_ends
from .saying import Explanation, Fix, Value, Values
from .stack import Finding, Look, Stack

GLOSS_SEEN_DEG = 10.0
BUILT = frozenset({"model", "frame_by_frame"})


def light_reach(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """Whether the lamps as they stand give the light that the plan says."""
    member = stack.members[position]
    setup, layer = member.setup, member.layer
    if (
        setup is None
        or not lighting.subject_lamps(setup)
        or setup.sun_at is not None
        or position not in stack.first_of_set_up
    ):
        return None
    have = lighting.lamps_lx(layer, setup)
    missing = max(0.0, math.log2(setup.illuminance_lx / have)) if have > DARK_LX else UNLIT_STOPS
    point = lighting.subject_point(layer, setup)
    best = max(lighting.subject_lamps(setup), key=lambda lamp: lighting.metered_lx(lamp, point))
    sentence = (
        f"The plan wants {words.light(setup.illuminance_lx)} on {layer.name}; the lamps as they stand give"
        f" {words.light(have)}"
    )
    fixes: list[Fix] = []
    if missing > 1e-3 and have > DARK_LX:
        aim = dict(
            zip(("aim_across_m", "aim_height_m", "aim_behind_m"), (round(x, 3) for x in point), strict=True)
        )
        wanted = setup.illuminance_lx - (have - lighting.metered_lx(best, point))
        from_best = lighting.metered_lx(
            best.model_copy(update=aim), point
        )  # what it would give if it were aimed at the subject
        full = from_best / best.level if best.level else 0.0
        sentence += f", {number(missing, 2)} stop short."
        if full >= wanted:
            fixes.append(
                Fix(
                    f"{best.name} at {100 * best.level * wanted / from_best:.0f} %",
                    "lamps",
                    {
                        "lamps": {
                            setup.lamps.index(best): {
                                "level": round(min(1.0, best.level * wanted / from_best), 3),
                                **aim,
                            }
                        }
                    },
                )
            )
        else:
            nearer = math.sqrt(full / wanted)
            far = math.dist(best.place, point)
            if far * nearer >= LEAST_LAMP_DISTANCE_M:
                moved = [round(p + (a - p) * nearer, 3) for a, p in zip(best.place, point, strict=True)]
                changes = (
                    dict(zip(("across_m", "height_m", "behind_m"), moved, strict=True)) | {"level": 1.0} | aim
                )
                fixes.append(
                    Fix(
                        f"{best.name} at {words.length(far * nearer)}",
                        "lamps",
                        {"lamps": {setup.lamps.index(best): changes}},
                    )
                )
                sentence += (
                    f" {best.name} would do it from {words.length(far * nearer)}, {words.length(far)} now."
                )
            else:
                sentence += (
                    f" Even {best.name} at {words.length(LEAST_LAMP_DISTANCE_M)} does not: open the stop,"
                    " raise the ISO or go slower."
                )
        fixes.append(Fix(f"Plan for {words.light(have)}", "set_up", {"illuminance_lx": round(have, 1)}))
    else:
        sentence += (
            f": dim them by {number(math.log2(have / setup.illuminance_lx), 2)} stop."
            if have > setup.illuminance_lx * 1.02
            else "."
        )

    def values() -> Values:
        return tuple(
            Value("E", lamp.name, words.light(lighting.metered_lx(lamp, point)))
            for lamp in lighting.subject_lamps(setup)
        )

    return Finding(
        "light_reach",
        missing,
        Explanation(
            f"{words.light(have)} of {words.light(setup.illuminance_lx)}", sentence, values, tuple(fixes)
        ),
    )


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
            Value("short", "full size, at its near end", words.length(ends.short_m)),
        )

    return Finding("set_edge", ends.past_px, Explanation(where, sentence, values, fixes))


def seen_in_gloss(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """Follow the ray: is the lens, a lamp or the sheet at the end of it?"""
    member = stack.members[position]
    layer, setup = member.layer, member.setup
    if setup is None or layer.gloss_azimuth_deg is None:
        return None
    turn = math.radians(layer.gloss_azimuth_deg)
    normal = np.array([math.sin(turn), -math.cos(turn)])
    thing = np.array([layer.offset_m / layer.scale, 0.0])
    ray = thing - np.array([0.0, -setup.distance_m])
    if ray @ normal >= 0:
        return None
    out = ray - 2 * (ray @ normal) * normal

    def off(x: float, z: float) -> float:
        to = np.array([x, z]) - thing
        return math.degrees(
            math.acos(float(np.clip(out @ to / (np.linalg.norm(out) * (np.linalg.norm(to) or 1.0)), -1, 1)))
        )

    targets = [("the camera", off(0.0, -setup.distance_m))] + [
        (lamp.name, off(lamp.across_m, lamp.behind_m)) for lamp in setup.lamps
    ]
    if setup.backing is not None:
        half = setup.backing.width_m / 2
        targets += [
            (
                "the sheet",
                min(
                    off(setup.backing.across_m + shift, setup.backing.behind_m)
                    for shift in np.linspace(-half, half, 9)
                ),
            )
        ]
    name, nearest = min(targets, key=lambda target: target[1])
    seen = nearest < GLOSS_SEEN_DEG
    where = (
        f"to {name}, {nearest:.1f}° off: it is seen in the gloss."
        " Turn the thing, dull it, or hang black there"
        if seen
        else f"past everything; {name} is nearest, {nearest:.0f}° off"
    )
    sentence = f"The mirrored ray from {layer.name} goes {where}."
    aside = layer.gloss_azimuth_deg + (GLOSS_SEEN_DEG - nearest) / 2 + 1
    fixes = (
        (Fix(f"Turn it to {aside:.0f}°", "layer", {"gloss_azimuth_deg": round(aside, 1)}),) if seen else ()
    )

    def values() -> Values:
        return tuple(Value("off", target, f"{angle:.1f}°") for target, angle in targets)

    return Finding(
        "seen_in_gloss",
        max(0.0, GLOSS_SEEN_DEG - nearest),
        Explanation(f"{name}, {nearest:.0f}° off", sentence, values, fixes),
    )


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
    set_edge,
    seen_in_gloss,
    card_turn,
)
