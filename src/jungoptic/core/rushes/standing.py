"""Whether a camera stood still, and what of the light, the white and the focus changed, told."""

from __future__ import annotations

import math

from ..measure import Amount, Changed, Measurement, Moved, Overlay
from ..wording import number
from .measured import Sized, as_measurement, in_words, within

_STILL_PX = 0.2
_SEEN_STOPS, _SEEN_MIRED, _SEEN_PX = 0.02, 5.0, 0.5
_SWALLOWED = 2.0
"""Of the error of colour without its codec: from where on that is said."""


def _moved_amount(result: Moved, sized: Sized) -> Amount:
    px, half = sized.delivered, math.hypot(sized.width, sized.height) / 2.0
    turned = half * math.hypot(math.radians(result.turn_off_deg), result.size_off)
    corner = math.hypot(result.shift_off_px, turned)
    return Amount("moved", "Camera moved", px * result.corner_px, px * corner, "px")


@as_measurement.register
def _(result: Moved, sized: Sized) -> Measurement:
    px = sized.delivered
    amounts = (
        _moved_amount(result, sized),
        Amount("right", "To the right", px * result.shift_px[0], px * result.shift_off_px, "px"),
        Amount("down", "Down", px * result.shift_px[1], px * result.shift_off_px, "px"),
        Amount("turn", "Turned clockwise", result.turn_deg, result.turn_off_deg, "°"),
        Amount("size", "Size", 100.0 * (result.size - 1.0), 100.0 * result.size_off, "%"),
        Amount("parallax", "Parallax", px * result.parallax_px, px * result.parallax_off_px, "px"),
    )
    overlays = [
        Overlay("point", (sized.share(float(x), float(y)),), weight="plain" if still else "faint")
        for (x, y), still in zip(result.tiles.middles, result.tiles.still, strict=True)
    ]
    if result.parted:
        overlays.append(Overlay("point", (result.parallax_at,), "no shift mends this", "shows"))
    assumed = f"{round(100.0 * float(result.tiles.still.mean()))} % of the frame stand still in both."
    return Measurement("still", amounts, (assumed,), tuple(overlays))


@in_words.register
def _(result: Moved, sized: Sized) -> str:
    seen = as_measurement(result, sized)
    moved = seen.amounts[0]
    if moved.value < max(_STILL_PX, moved.off or 0.0):
        told = f"The camera stood still, within {number(max(moved.off or 0.0, moved.value), 2)} px."
    else:
        told = f"The camera moved: {within(moved)} in the worst corner"
        right, down = seen.amount("right"), seen.amount("down")
        told += f"; {_way(right, 'right', 'left')}, {_way(down, 'down', 'up')}"
        if abs(result.turn_deg) > result.turn_off_deg:
            told += f", turned by {within(seen.amount('turn'))}"
        if abs(result.size - 1.0) > result.size_off:
            told += f", size by {within(seen.amount('size'))}"
        told += "."
    if result.parted:
        told += f" Near and far part by {within(seen.amount('parallax'))}: no shift mends that."
    return told


def _way(amount: Amount, more: str, less: str) -> str:
    sure = Amount(amount.name, amount.title, abs(amount.value), amount.off, amount.unit)
    return f"{within(sure)} {more if amount.value >= 0 else less}"


@as_measurement.register
def _(result: Changed, sized: Sized) -> Measurement:
    lighter = result.gains
    red, green, blue = lighter.channels
    amounts = [
        Amount("light", "Light changed", lighter.stops, lighter.off, "stop"),
        Amount(
            "there",
            f"Light changed, {lighter.where or 'nowhere more'}",
            lighter.there,
            _there(result),
            "stop",
        ),
        Amount("white", "White changed", result.mired, result.mired_off, "mired"),
        Amount("green", "Green changed", green, lighter.channels_off, "stop"),
        Amount("red", "Red over green", red - green, result.colour_off, "stop"),
        Amount("blue", "Blue over green", blue - green, result.colour_off, "stop"),
        _moved_amount(result.moved, sized),
    ]
    if result.softened is not None:
        softer = result.softened
        px = sized.delivered
        amounts.append(Amount("focus", "Edges wider", px * softer.px, px * softer.off, "px"))
    rows, columns = lighter.tiles.shape
    overlays = tuple(
        Overlay(
            "point",
            (((column + 0.5) / columns, (row + 0.5) / rows),),
            _stops(lighter.tiles[row, column]),
            "faint",
        )
        for row in range(rows)
        for column in range(columns)
        if math.isfinite(lighter.tiles[row, column])
    )
    assumed = ["Only what stands still in both counts."]
    if result.colour_off > _SWALLOWED * lighter.channels_off:
        assumed.append(
            "Its codec kept no colour of what is nearly grey: a small change of white is not seen."
        )
    return Measurement("change", tuple(amounts), tuple(assumed), overlays)


def _there(result: Changed) -> float:
    return result.gains.there_off or result.gains.off


def _stops(value: float) -> str:
    return f"{value:+.2f}".replace("-", "−")


@in_words.register
def _(result: Changed, sized: Sized) -> str:
    seen = as_measurement(result, sized)
    light, there, white = (seen.amount(name) for name in ("light", "there", "white"))
    told = []
    if abs(light.value) > max(_SEEN_STOPS, light.off or 0.0):
        told.append(f"the light changed by {within(light)}")
    apart = abs(there.value - light.value)
    if result.gains.where and apart > max(_SEEN_STOPS, there.off or 0.0):
        told.append(f"{result.gains.where} by {within(there)}")
    if abs(white.value) > max(_SEEN_MIRED, white.off or 0.0):
        told.append(f"the white by {within(white)}, {'warmer' if white.value > 0 else 'cooler'}")
    if result.softened is not None:
        focus = seen.amount("focus")
        if abs(focus.value) > max(_SEEN_PX, focus.off or 0.0):
            told.append(f"edges are {within(focus)} wider")
    if not told:
        return f"Light, white and focus are as they were, within {number(light.off or 0.0, 2)} stop."
    text = "; ".join(told)
    return text[0].upper() + text[1:] + "."
