"""The light on a ball, a grey card and a chart, told."""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..light import angle_between_deg, mired_of_gain
from ..measure import Amount, ChartMeasured, GreyMeasured, Measurement, Overlay, Source
from ..wording import number
from .measured import Sized, as_measurement, in_words, within

Circle = tuple[float, float, float]
_HARD_DEG = 3.0
_UNEVEN_STOPS = 0.35
_GOOD_DE, _FAIR_DE = 3.0, 6.0


@dataclass(frozen=True, slots=True)
class BallLit:
    """A ball in a picture: its circle, px; the lights that it shows, the strongest first; key over fill,
    stops, where a matt ball tells it; and the key of the hero's, with its own over the fill, where there is
    one. ``whose`` names what it is held against where that is not the hero.
    """

    circle: Circle
    lights: tuple[Source, ...]
    key_fill_stops: float | None = None
    hero: Source | None = None
    hero_key_fill_stops: float | None = None
    whose: str = "the hero's"

    @property
    def apart_deg(self) -> float | None:
        """The angle between its key and the hero's."""
        if self.hero is None:
            return None
        key = self.lights[0]
        return angle_between_deg(
            key.azimuth_deg, key.elevation_deg, self.hero.azimuth_deg, self.hero.elevation_deg
        )


@dataclass(frozen=True, slots=True)
class GreyBeside:
    """A grey card of a layer and the hero's."""

    layer: GreyMeasured
    hero: GreyMeasured


@as_measurement.register
def _(result: BallLit, sized: Sized) -> Measurement:
    key = result.lights[0]
    amounts = [
        Amount("azimuth", "Key from the side", key.azimuth_deg, key.off_deg, "°"),
        Amount("elevation", "Key from above", key.elevation_deg, key.off_deg, "°"),
    ]
    if result.hero is not None and (apart := result.apart_deg) is not None:
        off = math.hypot(key.off_deg, result.hero.off_deg)
        amounts.insert(0, Amount("direction", f"Key against {result.whose}", apart, off, "°"))
        if min(key.wide_deg, result.hero.wide_deg) > 0:
            softer = key.wide_deg / result.hero.wide_deg
            harder = max(softer, 1.0 / softer) - 1.0
            amounts.append(
                Amount("hardness", f"Key's size against {result.whose}, over 1", harder, None, "×")
            )
        if result.key_fill_stops is not None and result.hero_key_fill_stops is not None:
            apart = result.key_fill_stops - result.hero_key_fill_stops
            amounts.append(
                Amount("key_fill_apart", f"Key over fill against {result.whose}", apart, None, "stop")
            )
    if key.wide_deg > 0:
        amounts.append(Amount("wide", "Key takes", key.wide_deg, None, "°"))
    if result.key_fill_stops is not None:
        amounts.append(Amount("key_fill", "Key over fill", result.key_fill_stops, None, "stop"))
    for place, light in enumerate(result.lights[1:], 2):
        amounts.append(Amount(f"light_{place}", f"Light {place} under the key", -light.stops, None, "stop"))
    x, y, radius = result.circle
    circle = Overlay("circle", (sized.share(x, y), sized.share(x + radius, y)), "ball")
    assumed = "The camera is far from the ball; angles are from behind the camera, to its right and up."
    return Measurement("ball", tuple(amounts), (assumed,), (circle,))


@in_words.register
def _(result: BallLit, sized: Sized) -> str:
    seen = as_measurement(result, sized)
    key = result.lights[0]
    side = "camera right" if key.azimuth_deg >= 0 else "camera left"
    place = Amount("", "", abs(key.azimuth_deg), key.off_deg, "°")
    told = f"The key comes from {within(place)} to {side}, {within(seen.amount('elevation'))} up"
    if key.wide_deg > 0:
        told += ", hard" if key.wide_deg < _HARD_DEG else ", soft"
    told += "."
    if result.key_fill_stops is not None:
        told += f" It is {number(result.key_fill_stops, 2)} stop over the fill."
    if result.hero is not None:
        told += f" That is {within(seen.amount('direction'))} off {result.whose}."
    return told


@as_measurement.register
def _(result: GreyMeasured, sized: Sized) -> Measurement:
    amounts = (
        Amount("exposure", "Exposure over grey", result.stops, result.off, "stop"),
        Amount("white", "White off neutral", _mired(result), _mired_off(result), "mired"),
        Amount("red", "Red over green", result.red_stops, result.off, "stop"),
        Amount("blue", "Blue over green", result.blue_stops, result.off, "stop"),
        Amount("uneven", "Over the card", result.uneven_stops, None, "stop"),
    )
    return Measurement("grey", amounts, ("The card reflects 18 %.",))


def _mired(result: GreyMeasured) -> float:
    return mired_of_gain(2.0**result.red_stops, 2.0**result.blue_stops)


def _mired_off(result: GreyMeasured) -> float:
    return abs(mired_of_gain(2.0, 1.0)) * math.sqrt(2.0) * result.off


@in_words.register
def _(result: GreyMeasured, sized: Sized) -> str:
    seen = as_measurement(result, sized)
    told = f"The card lies {within(seen.amounts[0])} over grey, its white {within(seen.amount('white'))} off."
    if result.uneven_stops > _UNEVEN_STOPS:
        told += f" It is unevenly lit, by {number(result.uneven_stops, 2)} stop: mark its middle."
    return told


@as_measurement.register
def _(result: GreyBeside, sized: Sized) -> Measurement:
    own, hero = result.layer, result.hero
    off = math.hypot(own.off, hero.off)
    amounts = (
        Amount("over_hero", "Exposure over the hero's", own.stops - hero.stops, off, "stop"),
        Amount(
            "white_apart",
            "White against the hero's",
            _mired(own) - _mired(hero),
            math.hypot(_mired_off(own), _mired_off(hero)),
            "mired",
        ),
        Amount(
            "red_apart", "Red over green, against the hero's", own.red_stops - hero.red_stops, off, "stop"
        ),
        Amount(
            "blue_apart", "Blue over green, against the hero's", own.blue_stops - hero.blue_stops, off, "stop"
        ),
    )
    return Measurement("grey", amounts, ("Both cards are the same.",))


@in_words.register
def _(result: GreyBeside, sized: Sized) -> str:
    exposure, white = as_measurement(result, sized).amounts[:2]
    return f"Against the hero's card: {within(exposure)} over it, its white {within(white)} warmer."


@as_measurement.register
def _(result: ChartMeasured, sized: Sized) -> Measurement:
    amounts = (
        Amount("colour", "Colours after the matrix", result.mean_de, None, "ΔE"),
        Amount("worst", f"At most, patch {result.worst + 1}", result.most_de, None, "ΔE"),
        Amount("before", "With white and exposure alone", result.before_de, None, "ΔE"),
        *(
            Amount(f"m{row + 1}{column + 1}", f"Matrix, row {row + 1}, {column + 1}", float(value))
            for row, values in enumerate(result.matrix)
            for column, value in enumerate(values)
        ),
    )
    return Measurement("grey", amounts, ("The chart is fresh, and lit evenly.",))


@in_words.register
def _(result: ChartMeasured, sized: Sized) -> str:
    good = "good" if result.mean_de < _GOOD_DE else "fair" if result.mean_de < _FAIR_DE else "poor"
    told = f"Through its matrix the chart's colours are off by {number(result.mean_de, 2)} ΔE on average"
    return f"{told}: {good}. White and exposure alone leave {number(result.before_de, 2)}."
