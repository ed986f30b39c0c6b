"""Seams, patches, hand mattes and what crosses a line, told."""

from __future__ import annotations

from dataclasses import dataclass

from ..measure import (
    Amount,
    Crossing,
    MatteKeys,
    Measurement,
    Motion,
    Overlay,
    Patch,
    Places,
    Seam,
    Series,
    Wobble,
)
from ..wording import number
from .measured import Sized, as_measurement, in_words, with_error

MINUTES_A_KEY = 6.0
"""Of one shape that is cut by hand, common practice: changed for each production."""


@dataclass(frozen=True, slots=True)
class LineWatched:
    """What crosses a line or a zone, and how many frames were looked at."""

    places: Places
    crossings: tuple[Crossing, ...]
    frames: int


@dataclass(frozen=True, slots=True)
class SeamFound:
    """The best line between two halves, and what crosses it in each of them."""

    seam: Seam
    first: tuple[Crossing, ...]
    second: tuple[Crossing, ...]


@dataclass(frozen=True, slots=True)
class Patches:
    """What covers a place of a frame: patches, the best first; the place in shares of the frame."""

    frame: int
    places: Places
    patches: tuple[Patch, ...]


def _spans(crossings: tuple[Crossing, ...], begins: int) -> str:
    frames = ((begins + each.first, begins + each.last) for each in crossings)
    return ", ".join(f"{first}" if first == last else f"{first} to {last}" for first, last in frames)


@as_measurement.register
def _(result: LineWatched, sized: Sized) -> Measurement:
    count = sum(each.last - each.first + 1 for each in result.crossings)
    amounts = (Amount("crossed", "Frames that cross it", float(count)),)
    points = [
        Overlay("point", (each.where,), f"frame {sized.begins + each.first}", "shows")
        for each in result.crossings
    ]
    return Measurement("movement", amounts, (), (Overlay("line", result.places), *points))


@in_words.register
def _(result: LineWatched, sized: Sized) -> str:
    if not result.crossings:
        return f"Nothing crosses it in {result.frames} frames."
    return f"It is crossed in frames {_spans(result.crossings, sized.begins)}."


@as_measurement.register
def _(result: SeamFound, sized: Sized) -> Measurement:
    seam = result.seam
    amounts = (
        Amount("change", "Greatest change along the line", seam.change_stops, None, "stop"),
        Amount("feather", "It may be feathered by", seam.feather * sized.width * sized.delivered, None, "px"),
        Amount("crossed", "Frames that cross it", float(_count(result))),
    )
    line = Overlay("line", seam.line, "straight" if seam.straight else "curved")
    points = [
        Overlay("point", (each.where,), f"frame {sized.begins + each.first}", "shows")
        for each in (*result.first, *result.second)
    ]
    return Measurement("seam", amounts, ("Both halves are laid on one another.",), (line, *points))


def _count(result: SeamFound) -> int:
    return sum(each.last - each.first + 1 for each in (*result.first, *result.second))


@in_words.register
def _(result: SeamFound, sized: Sized) -> str:
    seam = result.seam
    where = ", ".join(f"{100.0 * x:.0f} %" for x, _ in (seam.line[0], seam.line[-1]))
    kind = "A straight line" if seam.straight else "A curved line"
    told = (
        f"{kind} from {where.replace(', ', ' of the width at the top to ')} at the bottom changes by at most"
    )
    told += f" {number(seam.change_stops, 2)} stop."
    crossed = [
        f"the {name} half in frames {_spans(spans, sized.begins)}"
        for name, spans in (("first", result.first), ("second", result.second))
        if spans
    ]
    return told + (f" It is crossed in {' and in '.join(crossed)}." if crossed else " Nothing crosses it.")


@as_measurement.register
def _(result: Patches, sized: Sized) -> Measurement:
    best = result.patches[0]
    px = sized.delivered
    amounts = (
        Amount("residual", "Seen along its rim", best.residual_stops, None, "stop"),
        Amount("frame", "From frame", float(best.frame)),
        Amount("right", "Shifted right", px * best.shift_px[0], None, "px"),
        Amount("down", "Shifted down", px * best.shift_px[1], None, "px"),
        Amount("gain", "Made lighter", best.gain_stops, None, "stop"),
    )
    return Measurement("patch", amounts, (), (Overlay("area", result.places, "covered"),))


@in_words.register
def _(result: Patches, sized: Sized) -> str:
    best = result.patches[0]
    right, down = (number(sized.delivered * each, 2) for each in best.shift_px)
    told = f"Frame {best.frame}, shifted by {right} px right and {down} px down, covers it"
    seen = f"its rim differs by {number(best.residual_stops, 2)} stop"
    return f"{told}: {seen}." if best.covers else f"No frame covers it unseen. {told} best: {seen}."


@as_measurement.register
def _(result: MatteKeys, sized: Sized) -> Measurement:
    amounts = (
        Amount("hours", "Cut by hand", result.hours(MINUTES_A_KEY), None, "h"),
        Amount("keys", "Keys", float(len(result.keys))),
        Amount("shapes", "Shapes at once", result.shapes),
    )
    assumed = (
        f"{number(MINUTES_A_KEY)} minutes for a key of one shape; between keys the outline stays within 1 px."
    )
    series = (Series("keys", "Frames of keys", "", tuple(float(each) for each in result.keys)),)
    return Measurement("matte_hours", amounts, (assumed,), (), series)


@in_words.register
def _(result: MatteKeys, sized: Sized) -> str:
    told = f"{len(result.keys)} keys, {number(result.hours(MINUTES_A_KEY), 2)} hours."
    if result.dear:
        told += (
            " Dear are frames "
            + ", ".join(f"{sized.begins + a} to {sized.begins + b}" for a, b in result.dear)
            + "."
        )
    return told


@as_measurement.register
def _(result: Motion, sized: Sized) -> Measurement:
    px = sized.delivered
    amounts = [
        Amount("fastest", "Fastest", px * result.most_px, px * result.off_px, "px a frame"),
        Amount(
            "smear",
            "Smears",
            px * result.smear_px(sized.shutter_angle_deg),
            px * result.off_px * sized.shutter_angle_deg / 360.0,
            "px",
        ),
        Amount("freeze", "Sharpest frame", float(sized.begins + result.freeze[0])),
    ]
    if result.turn_frames is not None:
        amounts.append(Amount("turn", "Frames a turn", result.turn_frames, 0.1))
        rate = 60.0 * sized.rate_fps / result.turn_frames
        amounts.append(Amount("turns", "Turns a minute", rate, rate * 0.1 / result.turn_frames))
    series = (
        Series("fastest", "Fastest", "px a frame", tuple(px * float(each) for each in result.fastest_px)),
        Series("sharp", "Sharpness", "", tuple(float(each) for each in result.sharp)),
    )
    assumed = f"A shutter of {number(sized.shutter_angle_deg)}°."
    overlays = (Overlay("point", (result.where,), "fastest"),) if result.most_px else ()
    return Measurement("movement", tuple(amounts), (assumed,), overlays, series)


@in_words.register
def _(result: Motion, sized: Sized) -> str:
    px = sized.delivered
    if result.most_px <= 2.0 * result.off_px:
        least = number(px * (result.most_px + result.off_px), 2)
        told = f"Nothing moves by more than {least} px a frame."
    else:
        told = f"The fastest goes {with_error(px * result.most_px, px * result.off_px)} px a frame"
        told += f", from frame {sized.begins + result.at_frame} to the next, and smears"
        told += f" {number(px * result.smear_px(sized.shutter_angle_deg), 2)} px."
    if result.turn_frames is not None:
        told += f" It comes round every {number(result.turn_frames)} frames."
    return f"{told} The sharpest frame is {sized.begins + result.freeze[0]}."


@as_measurement.register
def _(result: Wobble, sized: Sized) -> Measurement:
    px = sized.delivered
    amounts = (
        Amount("wobble", "Off the smooth path at most", px * result.most_px, None, "px"),
        Amount("rms", "Off the smooth path, rms", px * result.rms_px, None, "px"),
        Amount("margin", "Margin that steadying costs", 100.0 * result.margin, None, "%"),
        Amount("enlarged", "Enlarged by", result.enlarged, None, "×"),
        Amount("again", "Photographs to take again", float(len(result.again))),
        Amount("margin_after", "Margin without them", 100.0 * result.margin_after, None, "%"),
    )
    series = (
        Series("right", "Off to the right", "px", tuple(px * float(each) for each in result.off_px[:, 0])),
        Series("down", "Off down", "px", tuple(px * float(each) for each in result.off_px[:, 1])),
    )
    return Measurement("wobble", amounts, (), (), series)


@in_words.register
def _(result: Wobble, sized: Sized) -> str:
    told = f"Steadying it costs {number(100.0 * result.margin, 2)} % on every side, an enlargement of"
    told += f" {number(result.enlarged)} times."
    if result.again:
        frames = ", ".join(str(sized.begins + each) for each in result.again)
        told += f" Take {frames} again: then it costs {number(100.0 * result.margin_after, 2)} %."
    return told
