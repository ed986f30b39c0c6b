"""Whether there is the light that the plan says, and how it falls off over the subject."""

from __future__ import annotations

import math

import numpy as np

from ..kit.records import Kit
from ..light.placed import Array, light_on
from ..wording import Words, number
from . import lighting
from .layer import Layer
from .measure import Match
from .records import SetUp
from .saying import Explanation, Fix, Value, Values
from .sheet import DARK_LX, UNLIT_STOPS
from .stack import Finding, Member, Stack
from .tolerances import ITEMS

LEAST_LAMP_DISTANCE_M = 0.5
DAY_SPREAD_STOPS = 1.0  # Source: daylight
_DEEPEST_M = 100.0


def light_reach(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """Whether lamps, sun and sky as they are give the light that the plan says."""
    member = stack.members[position]
    setup, layer = member.setup, member.layer
    if setup is None or position not in stack.first_of_set_up:
        return None
    day = lighting.day_over(setup)
    if day is not None:
        return _by_day(layer, setup, day, words)
    if not lighting.subject_lamps(setup):
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


def _by_day(layer: Layer, setup: SetUp, day: lighting.Day, words: Words) -> Finding:
    """Sun and sky are an average: a day may be a stop brighter or darker, so only what lies beyond that is
    too much or too little. Daylight cannot be dimmed: what is too much wants neutral density.
    """
    lamps = lighting.lamps_lx(layer, setup)
    have = lamps + day.metered_lx
    most, least = (lamps + day.metered_lx * 2.0**way for way in (DAY_SPREAD_STOPS, -DAY_SPREAD_STOPS))
    missing = max(0.0, math.log2(setup.illuminance_lx / most)) if most > DARK_LX else UNLIT_STOPS
    missing = min(missing, UNLIT_STOPS)
    over = max(0.0, math.log2(least / setup.illuminance_lx)) if least > DARK_LX else 0.0
    height = number(abs(day.elevation_deg), 2)
    stands = (
        f"The sun stands {height}° high"
        if day.elevation_deg > 0
        else f"The sun is {height}° under the horizon and gives no light"
    )
    hides = " behind the cloud" if day.elevation_deg > 0 and day.sun_lx == 0 else ""
    cloth = f", {number(setup.diffusion_stops, 2)} stop of it kept off" if setup.diffusion_stops else ""
    sentence = (
        f"{stands}{hides}{cloth}: with the sky about {words.light(have)} on {layer.name}, and a day may be a"
        f" stop to either side. The plan wants {words.light(setup.illuminance_lx)}"
    )
    fixes: tuple[Fix, ...] = ()
    if missing > 1e-3:
        sentence += f", {number(missing, 2)} stop more than that."
    elif over > 1e-3:
        nd = max(1, round(math.log2(have / setup.illuminance_lx)))
        sentence += f", {number(over, 2)} stop less than that: a darker filter keeps the stop."
        fixes = (
            Fix(
                f"{nd} stop{'' if nd == 1 else 's'} more ND",
                "set_up",
                {
                    "nd_stops": setup.nd_stops + nd,
                    "illuminance_lx": float(f"{setup.illuminance_lx * 2.0**nd:.3g}"),
                },
            ),
        )
    else:
        sentence += "."
    if missing > 1e-3 and have > DARK_LX:
        planned = {"illuminance_lx": float(f"{have:.3g}")}
        fixes = (Fix(f"Plan for {words.light(have)}", "set_up", planned),)

    def values() -> Values:
        return (
            Value("h", "the sun stands", f"{number(day.elevation_deg, 3)}°"),
            Value("E_sun", "facing the sun", words.light(day.sun_lx)),
            Value("E_sky", "from the sky", words.light(day.sky_lx)),
            Value("E_lamps", "from the lamps", words.light(lamps)),
        )

    where = f"{words.light(have)} of {words.light(setup.illuminance_lx)}"
    return Finding("light_reach", max(missing, over), Explanation(where, sentence, values, fixes))


def _over(layer: Layer, setup: SetUp) -> Array:
    """Corners, edges and middle of the near and the far face of a subject, set metres (n, 3)."""
    s = layer.scale
    half = layer.width_m / s / 2.0
    across = layer.offset_m / s + np.array([-half, 0.0, half])
    up = setup.ground_height_m + np.array([0.0, 0.5, 1.0]) * layer.height_m / s
    deep = np.unique([0.0, min(layer.body_m, _DEEPEST_M) / s])
    return np.array([axis.ravel() for axis in np.meshgrid(across, up, deep)]).T


def light_over(member: Member) -> Array | None:
    """Light on a subject from its lamps and the day, lux: at the ends of it and in its middle, as a meter's
    dome takes it there; None where nothing is placed.
    """
    setup = member.setup
    if setup is None or not any(lamp.level > 0 for lamp in lighting.subject_lamps(setup)):
        return None
    points = _over(member.layer, setup)
    day = lighting.day_over(setup)
    total = np.full(len(points), day.metered_lx if day else 0.0)
    for lamp in lighting.subject_lamps(setup):
        if lamp.level > 0:
            total = total + light_on(points, lamp, None)
    return total


def _spread_stops(lit: Array | None) -> float:
    if lit is None or lit.max() <= DARK_LX:
        return 0.0
    return min(math.log2(float(lit.max()) / max(float(lit.min()), DARK_LX)), UNLIT_STOPS)


def fall_off(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """How much darker the furthest end of a layer is than its brightest, more than the hero's own subject
    is: light from afar does not fall off.
    """
    member = stack.members[position]
    lit = light_over(member)
    if lit is None or member.layer.kind == "light_pass":  # the light of a thing near by falls off
        return None
    hero = next((other for other in stack.members if other.is_hero), None)
    own, heros = _spread_stops(lit), _spread_stops(light_over(hero) if hero else None)
    amount = max(0.0, own - heros)
    sentence = (
        f"From its brightest to its darkest end {member.layer.name} has {words.light(float(lit.max()))} to"
        f" {words.light(float(lit.min()))}, {number(own, 2)} stop; the hero's subject"
        f" {number(heros, 2)} stop. "
    )
    sentence += (
        "Lamps further off, or one more for the dark end."
        if amount > ITEMS["fall_off"].holds
        else "That passes for one light."
    )

    def values() -> Values:
        return (
            Value("E_max", "brightest end", words.light(float(lit.max()))),
            Value("E_min", "darkest end", words.light(float(lit.min()))),
            Value("hero", "the hero's own", f"{number(heros, 2)} stop"),
        )

    where = f"{number(own, 2)} stop across it"
    return Finding("fall_off", amount, Explanation(where, sentence, values))
