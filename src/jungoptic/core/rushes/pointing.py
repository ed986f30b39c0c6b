"""What in the kit or in the log a measurement points to that is not what was foretold."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Literal

from ..match import Layer, SetUp
from ..measure import Amount
from ..wording import Words, number
from .measured import with_error
from .over_time import ALL_OVER
from .sheet_lamps import lamps_seen
from .sheet_plane import Region
from .verdicts import AmountJudged

KitPart = Literal["", "lens", "noise", "lamp"]
"""What of the kit is worth measuring; "" where nothing of it is in doubt."""
_SHADED = "Its lamps give what they should: something shades it, or a lamp stands elsewhere than logged."
_TOUCHED = "Somebody touched the tripod, or the head was not locked."
_LOCK = "Weigh it down, lock the head."
_MOSTLY = 0.7
"""A camera that moved in the corners by little more than in the middle was pushed or turned aside."""


@dataclass(frozen=True, slots=True)
class RowTold:
    """A row that was measured: its amounts, its coarse map of the frame, what it said; ``other`` is the
    set-up of what it was held against, where that is of the same set-up; ``crossed`` what of a sheet is to be
    even, shares of the frame, where not all of it.
    """

    what: str
    amounts: tuple[Amount, ...]
    says: str = ""
    field: tuple[tuple[float, ...], ...] = ()
    other: SetUp | None = None
    crossed: Region | None = None

    def amount(self, name: str) -> Amount | None:
        """One of its amounts.

        Parameters
        ----------
        name : str
            Of the amount.

        Returns
        -------
        Amount or None
            None where it has none of that name.

        Examples
        --------
        >>> RowTold("still", (Amount("moved", "Camera moved", 2.3, 0.1, "px"),)).amount("turn") is None
        True
        """
        return next((each for each in self.amounts if each.name == name), None)


@dataclass(frozen=True, slots=True)
class Pointed:
    """What a measurement points to, in a sentence; what to do about it, where that can be said; what of the
    kit is worth measuring.
    """

    says: str = ""
    to_do: str = ""
    kit: KitPart = ""


@dataclass(frozen=True, slots=True)
class Line:
    """What is told of one measured amount: how it was judged, of which row, what was foretold of it (as
    logged, else as planned), and whether it is apart from that by more than both errors.
    """

    judged: AmountJudged
    row: RowTold
    foretold: float | None
    apart: bool


def pointed(line: Line, layer: Layer, filmed: SetUp, words: Words) -> Pointed:
    """What a measured amount points to.

    Parameters
    ----------
    line : Line
        What was measured and foretold.
    layer : Layer
        What was filmed.
    filmed : SetUp
        As it was logged.
    words : Words
        How lengths are told.

    Returns
    -------
    Pointed
        Empty where it is as foretold and holds.

    Examples
    --------
    >>> from jungoptic.core.example import MILL, MODEL
    >>> from ..measure import Amount
    >>> from .verdicts import judged
    >>> amounts = (Amount("moved", "Moved", 4.0, 0.1, "px"), Amount("size", "Size", 0.4, 0.02, "%"))
    >>> row = RowTold("still", amounts, other=MODEL)
    >>> line = Line(judged("still", amounts, {})[0], row, 0.0, True)
    >>> pointed(line, MILL, MODEL, Words("metric")).says
    'It stands 4 mm nearer than in the other, or a zoom crept.'
    """
    if not line.apart and line.judged.verdict == "holds":
        return Pointed()
    tell = _TELL.get(line.judged.item if not line.judged.pair else f"{line.row.what}.{line.judged.amount}")
    return tell(line, layer, filmed, words) if tell else Pointed()


def _over(line: Line) -> float:
    """How far the measured amount is over what was foretold."""
    return line.judged.size - (line.foretold or 0.0)


def _sheet(line: Line, layer: Layer, filmed: SetUp, words: Words) -> Pointed:
    seen = lamps_seen(filmed, line.row.field, line.row.crossed)
    if seen is None:
        side = "Meter the sheet in its corners; lift what is dark."
        return Pointed("", side if line.judged.verdict != "holds" else "")
    if seen.weakest:  # by more than its own error, whatever the whole sheet comes to
        told = seen.points_to
        return Pointed(told[:1].upper() + told[1:], seen.to_do, "lamp")
    return Pointed(_SHADED if line.apart else "", seen.to_do)


def _moved(line: Line, layer: Layer, filmed: SetUp, words: Words) -> Pointed:
    size = line.row.amount("size")
    right, down = line.row.amount("right"), line.row.amount("down")
    slid = math.hypot(right.value, down.value) if right and down else 0.0
    if slid > _MOSTLY * line.judged.size:
        return Pointed(_TOUCHED, _LOCK)
    if size is not None and size.off is not None and abs(size.value) > 2.0 * size.off:
        nearer = filmed.distance_m * (1.0 - 1.0 / (1.0 + size.value / 100.0))
        way = "nearer" if nearer > 0 else "further off"
        return Pointed(
            f"It stands {words.length(abs(nearer))} {way} than in the other, or a zoom crept.",
            "Put the camera back on its marks.",
        )
    turn = line.row.amount("turn")
    if turn is not None and turn.off is not None and abs(turn.value) > 2.0 * turn.off:
        return Pointed("The head was touched: it leans otherwise.", "Level and lock the head.")
    return Pointed(_TOUCHED, _LOCK)


def _parted(line: Line, layer: Layer, filmed: SetUp, words: Words) -> Pointed:
    return Pointed("The lens stood elsewhere: near and far parted.", "Put the lens back where it stood.")


def _changed(line: Line, layer: Layer, filmed: SetUp, words: Words) -> Pointed:
    there, light = line.row.amount("there"), line.row.amount("light")
    whole = there and light and abs(there.value - light.value) <= (there.off or 0.0) + (light.off or 0.0)
    if whole:
        return Pointed("It changed all over: the sun, a stop or a filter.", "Set both alike, and meter them.")
    return Pointed("It changed in a part: one lamp, or something that bounces light.", "Put that lamp back.")


def _drifted(line: Line, layer: Layer, filmed: SetUp, words: Words) -> Pointed:
    if ALL_OVER in line.judged.label:
        return Pointed(
            "It changed while it rolled: the sun, a cloud, a lamp that warms up.", "Meter it again."
        )
    return Pointed("It changed in a part while it rolled: one lamp, or something that bounces light.")


def _white(line: Line, layer: Layer, filmed: SetUp, words: Words) -> Pointed:
    return Pointed(
        "A white balance that was not locked, or daylight that went on.", "Lock the white balance."
    )


def _focus(line: Line, layer: Layer, filmed: SetUp, words: Words) -> Pointed:
    return Pointed("Focus was turned between the two.", "Tape the focus ring.")


def _blur(line: Line, layer: Layer, filmed: SetUp, words: Words) -> Pointed:
    if _over(line) <= 0:
        return Pointed()
    focus = words.length(filmed.focus_distance_m)
    return Pointed(
        f"Softer than focus at {focus} gives: focus lay elsewhere, or the lens is softer than the kit says.",
        "Focus on the edge that joins, magnified.",
        "lens",
    )


def _grain(line: Line, layer: Layer, filmed: SetUp, words: Words) -> Pointed:
    if filmed.noise_pct is None:
        return Pointed("The noise of this camera was never measured: the plan went by its ISO.", "", "noise")
    return Pointed(
        "Noisier or cleaner than the kit says: lifted shadows, or the codec smooths it.", "", "noise"
    )


def _flicker(line: Line, layer: Layer, filmed: SetUp, words: Words) -> Pointed:
    lamps = ", ".join(lamp.name for lamp in filmed.lamps if lamp.level > 0)
    whose = f"One of {lamps}" if "," in lamps else lamps or "Its light"
    return Pointed(f"{whose} ripples more than the kit says.", "Fit shutter and rate to the mains.", "lamp")


def _exposure(line: Line, layer: Layer, filmed: SetUp, words: Words) -> Pointed:
    amount = line.row.amount("over_hero")
    if amount is None:
        return Pointed()
    way = "over" if amount.value > 0 else "under"
    told = f"The card lies {with_error(abs(amount.value), amount.off or 0.0)} stop {way} the hero's"
    close = "stop, ND or ISO are not as logged, or its light is not"
    more = "Close" if amount.value > 0 else "Open"
    return Pointed(f"{told}: {close}.", f"{more} by {number(abs(amount.value), 2)} stop.")


def _colour(line: Line, layer: Layer, filmed: SetUp, words: Words) -> Pointed:
    amount = line.row.amount("white_apart")
    if amount is None:
        return Pointed()
    way = "warmer" if amount.value > 0 else "cooler"
    kelvin = 1e6 / (1e6 / filmed.light_k + amount.value)
    told = f"{number(abs(amount.value), 2)} mired {way} than the hero's: its light is then about"
    told += f" {number(10.0 * round(kelvin / 10.0))} K, {number(filmed.light_k)} logged."
    return Pointed(told, "Read its colour with a meter, or gel it.", "lamp")


def _key(line: Line, layer: Layer, filmed: SetUp, words: Words) -> Pointed:
    azimuth, elevation = line.row.amount("azimuth"), line.row.amount("elevation")
    if azimuth is None or elevation is None:
        return Pointed()
    side = "right" if azimuth.value >= 0 else "left"
    stood = f"{number(round(abs(azimuth.value)))}° to camera {side}, {number(round(elevation.value))}° up"
    if filmed.key_azimuth_deg is None or filmed.key_elevation_deg is None:
        return Pointed(f"The key stood {stood}; nobody logged where.", "Move it towards the hero's.")
    return Pointed(
        f"The key stood {stood}; logged {number(round(filmed.key_azimuth_deg))}° and"
        f" {number(round(filmed.key_elevation_deg))}°.",
        "Move it to where the card has it.",
    )


def acts_as_mm(setup: SetUp, view_deg: float) -> float:
    """The focal length that gives an angle of view of the whole gate where it is focused, mm."""
    image = setup.gate_width_mm / 2.0 / math.tan(math.radians(view_deg / 2.0))
    if setup.focusing != "unit":
        return image
    away = 1000.0 * setup.focus_distance_m
    return image * away / (image + away)


def _lens(line: Line, layer: Layer, filmed: SetUp, words: Words) -> Pointed:
    view = line.row.amount("view")
    if view is None:
        return Pointed()
    acts = acts_as_mm(filmed, view.value)
    off = acts * math.radians(view.off or 0.0) / math.sin(math.radians(view.value))
    logged = number(filmed.focal_length_mm)
    return Pointed(f"The lens acts as {with_error(acts, off)} mm, {logged} logged.", "", "lens")


def _height(line: Line, layer: Layer, filmed: SetUp, words: Words) -> Pointed:
    height = line.row.amount("height")
    if height is None:
        return Pointed()
    stood = words.length(filmed.lens_height_m - filmed.ground_height_m)
    return Pointed(f"The lens stood {words.length(height.value)} up, {stood} logged.", "Tape it again.")


def _leaning(name: str) -> Callable[[Line, Layer, SetUp, Words], Pointed]:
    def told(line: Line, layer: Layer, filmed: SetUp, words: Words) -> Pointed:
        amount = line.row.amount(name)
        if amount is None:
            return Pointed()
        logged: float = getattr(filmed, f"{name}_deg")
        angle = with_error(amount.value, amount.off or 0.0)
        return Pointed(
            f"The camera stood at {angle}° of {name}, {number(logged)}° logged.", "Level it again."
        )

    return told


def _spill(line: Line, layer: Layer, filmed: SetUp, words: Words) -> Pointed:
    if _over(line) <= 0:
        return Pointed()
    return Pointed(
        "More of the sheet on the rim: it is brighter than logged, or stands nearer.",
        "Further from the sheet, or less light on it.",
    )


_TELL: Mapping[str, Callable[[Line, Layer, SetUp, Words], Pointed]] = {
    "evenness": _sheet,
    "spill": _spill,
    "flicker": _flicker,
    "direction": _key,
    "hardness": _key,
    "key_fill": _key,
    "brightness": _exposure,
    "colour": _colour,
    "grain": _grain,
    "focus_near": _blur,
    "lens": _lens,
    "height": _height,
    "tilt": _leaning("tilt"),
    "roll": _leaning("roll"),
    "still.moved": _moved,
    "still.parallax": _parted,
    "clip.camera": _moved,
    "clip.changed": _drifted,
    "change.there": _changed,
    "change.white": _white,
    "change.focus": _focus,
}
