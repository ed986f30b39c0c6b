"""What stands against a model of this scale in this place: walls, beams, closest focus, water and fire."""

from __future__ import annotations

import math
from collections.abc import Iterator

from ..kit.records import Kit
from ..match.layer import Layer
from ..match.records import SetUp
from ..wording import Words

WATER_FINEST, FIRE_FINEST = 6, 4


def against_place(
    layer: Layer, solved: SetUp, kit: Kit, words: Words, travel_m: float = 0.0
) -> Iterator[str]:
    """What does not fit into the place, in a few words each.

    Parameters
    ----------
    layer : Layer
        What is built.
    solved : SetUp
        How it is filmed.
    kit : Kit
        With the stage.
    words : Words
        The reader's units.
    travel_m : float, default 0
        How far the camera travels in the set, metres.

    Yields
    ------
    str
        A few words, no full stop.

    Examples
    --------
    >>> from jungoptic.core.example import KIT, MILL, MODEL
    >>> list(against_place(MILL, MODEL, KIT.but(stage_width_m=0.5), Words()))
    ['0.583 m wide in 0.5 m']
    """
    s = layer.scale
    need, wide, high = layer.near_m / s + layer.depth_m / s, layer.width_m / s, layer.height_m / s
    if kit.stage_length_m is not None and need > kit.stage_length_m:
        yield f"wants {words.length(need)} of length, the stage has {words.length(kit.stage_length_m)}"
    if kit.stage_width_m is not None and wide > kit.stage_width_m:
        yield f"{words.length(wide)} wide in {words.length(kit.stage_width_m)}"
    if kit.travel_m is not None and abs(travel_m) > kit.travel_m * (1 + 1e-9):
        yield f"travels {words.length(abs(travel_m))}, the kit reaches {words.length(kit.travel_m)}"
    top = solved.ground_height_m + high
    if kit.beams_m is not None and top > kit.beams_m * (1 + 1e-9):
        raised = f" on a table of {words.length(solved.ground_height_m)}" if solved.ground_height_m else ""
        yield f"{words.length(high)} high{raised} under beams at {words.length(kit.beams_m)}"


def against_scale(layer: Layer, solved: SetUp, kit: Kit, words: Words) -> Iterator[str]:
    """What else stands against the scale: closest focus, and water or fire that look wrong so small.

    Parameters
    ----------
    layer : Layer
        What is built.
    solved : SetUp
        How it is filmed.
    kit : Kit
        With the lenses.
    words : Words
        The reader's units.

    Yields
    ------
    str
        A few words, no full stop.

    References
    ----------
    scale_limits

    Examples
    --------
    >>> from jungoptic.core.example import KIT, MILL, MODEL
    >>> list(against_scale(MILL, MODEL, KIT, Words()))
    ['water looks wrong below about 1:6']
    """
    lens = kit.lens_of(solved.focal_length_mm)
    if (
        lens
        and layer.near_m / layer.scale < lens.closest_focus_m
        and math.isclose(solved.focal_length_mm, lens.focal_length_mm)
    ):
        yield f"nearer than the lens focuses, {words.length(lens.closest_focus_m)}"
    if layer.driver == "gravity" and layer.scale > WATER_FINEST:
        yield "water looks wrong below about 1:6"
    if layer.driver == "fire" and layer.scale > FIRE_FINEST:
        yield "fire looks wrong below about 1:4"
