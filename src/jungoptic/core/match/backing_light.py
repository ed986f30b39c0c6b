"""Light on the sheet behind a subject and what it throws back: evenness, spill."""

from __future__ import annotations

import math

from ..kit.records import Kit
from ..light import radiate
from ..light.placed import Array, Backing, PlacedLamp
from ..wording import Words, number
from . import lighting
from .backing import DARK_LX, UNLIT_STOPS, _grid, _sheet, crossed
from .measure import Match
from .records import SetUp
from .saying import Explanation, Fix, Value, Values
from .stack import Finding, Stack

SPILL_RIM = 1 / 16  # of the subject's light: four stops under it a keyer takes the spill out


LEAST_LAMP_DISTANCE_M = 0.5


def _on_sheet(match: Match, setup: SetUp, backing: Backing) -> Array:
    return lighting.on_backing_lx(setup, _grid(*crossed(match, setup, backing), backing.behind_m))


def evenness(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """Brightest over darkest of what the subject crosses, from the lamps as they stand."""
    placed = _sheet(stack.members[position])
    if placed is None or not placed[0].lamps:
        return None
    setup, backing = placed
    lit = _on_sheet(match, setup, backing)
    low, high = float(lit.min()), float(lit.max())
    spread = min(math.log2(high / low), UNLIT_STOPS) if low > DARK_LX else UNLIT_STOPS
    mean = float(lit.mean())
    under = math.log2(mean / setup.illuminance_lx) if mean > DARK_LX else -UNLIT_STOPS
    level = f"{number(abs(under), 2)} stop {'over' if under > 0 else 'under'} the light on the subject"
    sentence = (
        f"What is crossed has {words.light(low)} to {words.light(high)}, on average {level}; about the key's"
        " level or up to a stop under it is usual. "
    )
    on_it = [lamp for lamp in setup.lamps if lamp.role == "backing"]
    sentence += "Lamps further off, one to each side, even it." if spread > 1 / 3 else "It keys evenly."
    fixes = [] if spread <= 1 / 3 else _evener(setup, backing, match, on_it, words)

    def values() -> Values:
        return (
            Value("E_max", "brightest", words.light(high)),
            Value("E_min", "darkest", words.light(low)),
            Value("mean", "on average", words.light(mean)),
        )

    return Finding(
        "evenness", spread, Explanation(f"{number(spread, 2)} stop across", sentence, values, tuple(fixes))
    )


def _evener(setup: SetUp, backing: Backing, match: Match, on_it: list[PlacedLamp], words: Words) -> list[Fix]:
    """Every lamp of the backing set further from it, where that evens what is crossed."""
    fixes = []
    for further in (1.5, 2.0, 3.0):
        moved = [_back_off(lamp, backing, further) for lamp in on_it]
        others = [lamp for lamp in setup.lamps if lamp.role != "backing"]
        lit = _on_sheet(match, setup.model_copy(update={"lamps": (*others, *moved)}), backing)
        if on_it and lit.min() > DARK_LX and math.log2(float(lit.max() / lit.min())) <= 1 / 3:
            changes = {
                "lamps": {
                    setup.lamps.index(lamp): {"behind_m": new.behind_m, "aim_behind_m": new.aim_behind_m}
                    for lamp, new in zip(on_it, moved, strict=True)
                }
            }
            fixes.append(Fix(f"Backing lamps {number(further, 2)} times as far", "lamps", changes))
            break
    return fixes


def _back_off(lamp: PlacedLamp, backing: Backing, further: float) -> PlacedLamp:
    away = backing.behind_m - lamp.behind_m
    return lamp.model_copy(
        update={
            "behind_m": round(backing.behind_m - away * further, 3),
            "aim_behind_m": round(backing.behind_m, 3),
        }
    )


def spill(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """The backing's own colour on the subject: full on its back, and at a rim that faces sideways, which is
    the one judged.
    """
    placed = _sheet(stack.members[position])
    if placed is None or placed[1].behind_m <= 0.05 or stack.members[position].layer.combine == "add":
        return None
    setup, backing = placed
    lit = float(_on_sheet(match, setup, backing).mean()) if setup.lamps else setup.illuminance_lx
    back, rim = (
        backing.reflectance
        * lit
        * radiate.rectangle_factor(backing.width_m, backing.height_m, backing.behind_m, facing)
        / setup.illuminance_lx
        for facing in (0.0, 90.0)
    )
    advice = (
        "Further off, less light on the sheet, or a smaller one."
        if rim > SPILL_RIM
        else "A keyer takes that out."
    )
    sentence = (
        f"With {words.light(lit)} on it, the sheet {words.length(backing.behind_m)} behind throws"
        f" {100 * rim:.1f} % of the subject's light on a rim that faces"
        f" sideways and {100 * back:.0f} % on its back. {advice}"
    )
    further = next(
        (
            d / 4
            for d in range(math.ceil(backing.behind_m * 4) + 1, 60)
            if backing.reflectance
            * lit
            * radiate.rectangle_factor(backing.width_m, backing.height_m, d / 4, 90.0)
            <= setup.illuminance_lx * SPILL_RIM
        ),
        None,
    )
    fixes = (
        (Fix(f"Sheet {words.length(further)} behind", "backing", {"behind_m": further}),)
        if rim > SPILL_RIM and further
        else ()
    )

    def values() -> Values:
        return (
            Value("ρ", "reflectance", number(backing.reflectance, 2)),
            Value("E_backing", "on the sheet", words.light(lit)),
            Value("E_subject", "on the subject", words.light(setup.illuminance_lx)),
            Value(
                "F",
                "seen from a rim",
                number(
                    radiate.rectangle_factor(backing.width_m, backing.height_m, backing.behind_m, 90.0), 2
                ),
            ),
        )

    return Finding(
        "spill",
        rim,
        Explanation(f"{100 * rim:.1f} % at a rim, {100 * back:.0f} % on the back", sentence, values, fixes),
    )
