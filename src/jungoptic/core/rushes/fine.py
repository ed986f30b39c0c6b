"""Grain and sharpness, told, of a layer by itself or beside the hero."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..measure import Amount, Edge, Grain, Measurement, Series
from ..wording import number
from .measured import Sized, as_measurement, in_words, with_error, within

SHARP_PX = 1.2
"""From 10 to 90 % of an edge that is in focus, px of a recording; common practice for a mosaic sensor."""
_DISC_SHARE = 0.687


@dataclass(frozen=True, slots=True)
class GrainBeside:
    """The grain of a layer and of the hero, both at the delivered size."""

    layer: Grain
    hero: Grain

    @property
    def ratio(self) -> float:
        """How many times as noisy the layer is at mid grey."""
        return self.layer.at_grey / max(self.hero.at_grey, 1e-9)

    @property
    def off(self) -> float:
        """Two deviations of the ratio."""
        parts = [each.off / max(each.at_grey, 1e-9) for each in (self.layer, self.hero)]
        return self.ratio * math.hypot(*parts)


@dataclass(frozen=True, slots=True)
class EdgeBeside:
    """An edge of a layer and one of the hero at the join, both in px of one size."""

    layer: Edge
    hero: Edge


@as_measurement.register
def _(result: Grain, sized: Sized) -> Measurement:
    grey = Amount("grain", "Grain at mid grey", 100.0 * result.at_grey, 100.0 * result.off, "%")
    return Measurement("grain", (grey,), _grain_assumes(result), (), _levels(result))


def _levels(result: Grain) -> tuple[Series, ...]:
    return (
        Series("levels", "Level of light", "%", tuple(100.0 * each.light for each in result.levels)),
        Series("sigma", "Grain there", "%", tuple(100.0 * each.sigma for each in result.levels)),
    )


def _grain_assumes(result: Grain) -> tuple[str, ...]:
    if result.frames_apart:
        return (f"By frames {result.frames_apart} apart.",)
    return ("By one frame: fine texture counts as grain, and what a codec smoothed is missing.",)


@in_words.register
def _(result: Grain, sized: Sized) -> str:
    return f"Grain is {within(as_measurement(result, sized).amounts[0])} of mid grey."


@as_measurement.register
def _(result: GrainBeside, sized: Sized) -> Measurement:
    amounts = (
        Amount("ratio", "Grain against the hero", result.ratio, result.off, "×"),
        Amount("own", "Own grain at mid grey", 100.0 * result.layer.at_grey, 100.0 * result.layer.off, "%"),
        Amount("hero", "The hero's", 100.0 * result.hero.at_grey, 100.0 * result.hero.off, "%"),
    )
    return Measurement("grain", amounts, _grain_assumes(result.layer), (), _levels(result.layer))


@in_words.register
def _(result: GrainBeside, sized: Sized) -> str:
    ratio = with_error(result.ratio, result.off)
    if abs(result.ratio - 1.0) <= result.off:
        return f"It is as noisy as the hero: {ratio} times."
    more = result.ratio > 1.0
    return f"It is {ratio} times as noisy as the hero: {'clean it' if more else 'add grain to it'}."


@as_measurement.register
def _(result: Edge, sized: Sized) -> Measurement:
    px = sized.delivered
    amounts = (
        Amount("edge", "Edge, 10 to 90 %", px * result.spread_px, px * result.off_px, "px"),
        Amount("mtf50", "Half contrast", result.mtf50 / px, None, "cycles a px"),
        Amount("direction", "Direction of the edge", result.angle_deg, None, "°"),
    )
    return Measurement("edge", amounts, ("The edge itself is sharp.",), (), ())


@in_words.register
def _(result: Edge, sized: Sized) -> str:
    px = sized.delivered
    told = f"From 10 to 90 % the edge takes {_rounded(px * result.spread_px, px * result.off_px)} px"
    return f"{told}; half of its contrast is left at {number(result.mtf50 / px, 2)} cycles a px."


def _rounded(value: float, off: float) -> str:
    text = with_error(value, off)
    whole, _, error = text.partition(" ± ")
    return f"{number(float(whole.replace('−', '-')))} ± {number(float(error))}" if error else text


@as_measurement.register
def _(result: EdgeBeside, sized: Sized) -> Measurement:
    px = sized.delivered
    wider = px * (result.layer.spread_px - result.hero.spread_px)
    off = px * math.hypot(result.layer.off_px, result.hero.off_px)
    discs = [_disc_px(each) for each in (result.layer, result.hero)]
    blur = px * (discs[0][0] - discs[1][0])
    amounts = (
        Amount("edge", "Edge wider than the hero's", wider, off, "px"),
        Amount("own", "Own edge, 10 to 90 %", px * result.layer.spread_px, px * result.layer.off_px, "px"),
        Amount("hero", "The hero's", px * result.hero.spread_px, px * result.hero.off_px, "px"),
        Amount("blur", "Blur disc over the hero's", blur, px * math.hypot(discs[0][1], discs[1][1]), "px"),
    )
    assumed = ("Both edges are sharp themselves.", f"A sharp edge takes {SHARP_PX} px of a recording.")
    return Measurement("edge", amounts, assumed)


def _disc_px(edge: Edge) -> tuple[float, float]:
    """The blur disc that makes a sharp edge as wide, and its error: the edge of a disc goes from 10 to 90 %
    in 0.687 of its diameter, and widths add as squares.
    """

    def disc(spread: float) -> float:
        return math.sqrt(max(0.0, spread**2 - SHARP_PX**2)) / _DISC_SHARE

    high, low = disc(edge.spread_px + edge.off_px), disc(edge.spread_px - edge.off_px)
    return disc(edge.spread_px), (high - low) / 2.0


@in_words.register
def _(result: EdgeBeside, sized: Sized) -> str:
    wider = as_measurement(result, sized).amounts[0]
    if abs(wider.value) <= (wider.off or 0.0):
        return f"It is as sharp as the hero: its edge is {within(wider)} wider."
    if wider.value > 0:
        return f"It is softer than the hero: its edge is {within(wider)} wider."
    return f"It is sharper than the hero: soften its edge by {number(-wider.value, 2)} px."
