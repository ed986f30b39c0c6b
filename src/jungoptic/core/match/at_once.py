"""Layers of one kind measured at once: a hand that drags a camera moves every layer that it films."""

from __future__ import annotations

from collections.abc import Hashable, Sequence
from functools import cached_property
from operator import attrgetter
from typing import Any

import numpy as np

from .layer import Layer
from .lighting import resolved
from .many import Many
from .measure import Match
from .pose import hero_pose
from .records import Delivery, SetUp
from .samples import Samples, sampled
from .stack import Stack

Pair = tuple[Layer, SetUp | None]

_LAYER_NUMBERS = ("scale", "near_m", "depth_m", "base_m", "speed_m_s", "speed_up_m_s", "speed_away_m_s")
_SETUP_NUMBERS = (
    "focal_length_mm",
    "f_number",
    "focus_distance_m",
    "distance_m",
    "lens_height_m",
    "ground_height_m",
    "tilt_deg",
    "roll_deg",
    "capture_fps",
    "shutter_angle_deg",
)
_like_setup = attrgetter(
    "focusing",
    "sampling",
    "bit_depth",
    "long_groups",
    "recorded_width_px",
    "gate_width_mm",
    "gate_height_mm",
    "extraction_width_mm",
    "pupil_off_mm",
    "readout_ms",
    "widest_f_number",
    "distortion_pct",
    "vignetting_stops",
    "measured_gate_mm",
    "follows_move",
    "travel_m",
    "model_speed_m_s",
    "ripple_depth",
    "mains_hz",
)


def _like_layer(layer: Layer) -> Hashable:
    """What the measuring asks of a layer beside its numbers."""
    return (
        layer.kind == "frame_by_frame",
        layer.combine if layer.combine in ("in_camera", "key") else "",
        layer.driver,
        layer.fills_frame,
        layer.depth_m > 0,
        layer.fastest_m_s > 0,
    )


class Layers(Layer):
    """A layer of which some numbers are arrays, one value for each of v layers. It stands where they are
    measured, never where one is kept: nothing of it is checked.
    """

    @cached_property
    def fastest_m_s(self) -> Any:
        """Their speeds at their fastest, whichever way, full-size m/s (v,)."""
        return np.sqrt(self.speed_m_s**2 + self.speed_up_m_s**2 + self.speed_away_m_s**2)


def measured(hero: SetUp, pairs: Sequence[Pair], delivery: Delivery) -> list[Match]:
    """Many layers against one hero: those that differ in numbers alone together, the others one by one.

    A layer that comes again keeps its last match: what a hand does not move is not measured again.

    Parameters
    ----------
    hero : SetUp
        The plate's camera.
    pairs : sequence of tuple
        Each layer, with what films it; None for a picture whose camera is unknown.
    delivery : Delivery
        The finished frame.

    Returns
    -------
    list of Match
        One for each pair, in their order.

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> further = MILL.but(near_m=14.0)
    >>> both = measured(HERO, [(MILL, MODEL), (further, MODEL)], DELIVERY)
    >>> [round(match.amounts["perspective"]) for match in both]
    [0, 37]
    """
    matches: dict[int, Match] = {}
    alike: dict[Hashable, list[int]] = {}
    samples: dict[int, Samples] = {}
    for place, (layer, setup) in enumerate(pairs):
        kept: Match | None = layer.worked_out.get("match")
        if kept and kept.layer is layer and (kept.setup, kept.hero, kept.delivery) == (setup, hero, delivery):
            matches[place] = kept
            continue
        if setup is None or layer.travels:
            matches[place] = Match(hero, layer, setup, delivery)
            continue
        wants = hero_pose(hero, layer, delivery, setup)
        samples[place] = sampled(wants, layer, delivery, hero.distance_m)
        key = _like_layer(layer), samples[place].shape, _like_setup(setup)
        alike.setdefault(key, []).append(place)
    for places in alike.values():
        layers, setups = zip(*(pairs[place] for place in places), strict=True)
        theirs = [samples[place] for place in places]
        matches |= zip(places, _at_once(hero, layers, setups, delivery, theirs), strict=True)
    for match in matches.values():
        _keep(match)
    return [matches[place] for place in range(len(pairs))]


def _keep(match: Match) -> None:
    """Keep the match with its layer, and let go of the one before. Layer and match hold each other, and so
    does what is said of a match: only the collector frees them, and a hand does not wait for it. So a layer
    that is only tried, and never comes again, keeps none.
    """
    kept = match.layer.worked_out
    before: Match | None = kept.get("match", match)
    if before is not None and before is not match:
        before.worked_out.clear()
    kept["match"] = match if "match" in kept else None


def measured_members(stack: Stack) -> list[Match]:
    """Every layer of a stack, measured.

    Parameters
    ----------
    stack : Stack
        The whole shot.

    Returns
    -------
    list of Match
        One for each member, in their order.

    Examples
    --------
    >>> from jungoptic.core.example import STACK
    >>> [match.layer.name for match in measured_members(STACK)]
    ['Sea', 'Mill', 'Actor']
    """
    pairs = [
        (member.layer, resolved(member.setup, member.layer) if member.setup else None)
        for member in stack.members
    ]
    return measured(stack.hero, pairs, stack.delivery)


def _at_once(
    hero: SetUp,
    layers: Sequence[Layer],
    setups: Sequence[SetUp],
    delivery: Delivery,
    samples: Sequence[Samples],
) -> list[Match]:
    """Matches of layers that differ in numbers alone."""
    if len(layers) == 1:
        return [Match(hero, layers[0], setups[0], delivery, samples=samples[0])]
    numbers = {name: np.array([getattr(layer, name) for layer in layers]) for name in _LAYER_NUMBERS}
    varied = {}
    for name in _SETUP_NUMBERS:
        values = [getattr(setup, name) for setup in setups]
        if any(value != values[0] for value in values):
            varied[name] = np.array(values)
    resizes = np.array([layer.resize for layer in layers])
    match = Match(
        hero,
        Layers.model_construct(**(dict(layers[0]) | numbers)),
        Many.of(setups[0], resizes, **varied),
        delivery,
        ("optics", "time"),  # light is what each set-up says of it, not arithmetic
        Samples.of_many(samples),
    )
    return match.of_each(layers, setups, samples)
