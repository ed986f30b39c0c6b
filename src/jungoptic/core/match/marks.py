"""What is drawn on a picture to read its camera and light, and what is read of it, with its error."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated

import numpy as np
import numpy.typing as npt
from pydantic import Field, model_validator

from .. import quantities as q
from ..errors import refuse
from ..optics.projection import horizon_y_px
from ..optics.sighting import (
    directions,
    focal_lengths,
    keys_deg,
    lens_heights_m,
    turned_deg,
    upwards,
    vanishing_points,
)
from ..vocabulary import LIKELY_HEIGHT_M, MARKS, MarkKind

Array = npt.NDArray[np.float64]
Coordinate = Annotated[float, Field(ge=-100000, le=100000, allow_inf_nan=False)]

END_SHARE = 1e-3  # Source: mark_ends
_SURE = 2.0  # standard deviations: 95 of 100
_DIRECTIONS = ("away", "across", "upright")
_STEP = 1e-5  # of the picture's width


class Mark(q.Record):
    """One line or mark on a picture. Points are (x, y) from its top left, px of the picture, in the order
    that its kind names.
    """

    kind: MarkKind
    points: Annotated[
        tuple[tuple[Coordinate, Coordinate], ...], Field(title="Points", min_length=2, max_length=3)
    ]
    height_m: Annotated[float, q.quantity("Its height", "m", "Full size.", gt=0, le=1e5)] = LIKELY_HEIGHT_M

    @model_validator(mode="after")
    def _as_its_kind(self) -> Mark:
        words = MARKS[self.kind]
        if len(self.points) != len(words.points):
            raise refuse(
                "points",
                f"{words.name} wants {len(words.points)} points ({', '.join(words.points)});"
                f" {len(self.points)} were drawn.",
            )
        if self.points[0] == self.points[1]:
            raise refuse("points", f"{words.name} has no length: draw it from one place to another.")
        return self


@dataclass(frozen=True, slots=True)
class Read:
    """An amount that was read, and within what it lies in 95 of 100 readings."""

    amount: float
    within: float

    @property
    def rounded(self) -> tuple[float, float]:
        """Both to one digit more than the amount is sure of, as one takes it over."""
        digits = min(max(math.ceil(-math.log10(max(self.within, 1e-6))) + 1, 0), 3)
        return round(self.amount, digits), round(self.within, digits)


@dataclass(frozen=True, slots=True)
class Reading:
    """What a picture's marks tell: amounts by the names of a layer's fields, what keeps the others from
    being told, and where the horizon lies by them, from the left edge to the right (px of the picture).
    """

    read: dict[str, Read]
    wants: tuple[str, ...]
    horizon_px: tuple[tuple[float, float], tuple[float, float]] | None = None


READ = (
    "taken_view_deg",
    "taken_tilt_deg",
    "taken_roll_deg",
    "taken_height_m",
    "taken_key_azimuth_deg",
    "taken_key_elevation_deg",
)
NONE = Reading({}, ())


def _pooled(ways: list[Array]) -> Array:
    """The mean of several ways to tell one amount (b,), each by how much it hangs on where ends lie. nan
    where none tells it.
    """
    if not ways:
        return np.full(1, np.nan)
    amounts = np.array(ways)
    half = (amounts.shape[1] - 1) // 2
    change = amounts[:, 1 : 1 + half] - amounts[:, 1 + half :]
    weights = 1.0 / np.maximum((change**2).sum(axis=1), 1e-24)
    weights = np.where(np.isfinite(weights) & np.isfinite(amounts[:, 0]), weights, 0.0)
    if not weights.any():
        return np.full(amounts.shape[1], np.nan)
    pooled: Array = weights @ np.nan_to_num(amounts) / weights.sum()
    return pooled


def _pairs(points: dict[str, Array], horizon: Array | None) -> list[tuple[Array, Array]]:
    """Vanishing points of directions at right angles."""
    pairs = [
        (points[first], points[second])
        for first, second in (("away", "across"), ("away", "upright"), ("across", "upright"))
        if first in points and second in points
    ]
    if horizon is not None and "upright" in points:
        ends = np.concatenate([horizon, np.ones((*horizon.shape[:2], 1))], axis=-1)
        pairs += [(ends[:, end], points["upright"]) for end in (0, 1)]
    return pairs


def _ups(points: dict[str, Array], horizon: Array | None, focal: Array) -> list[Array]:
    """The world's up by everything that tells it, unit directions (b, 3)."""
    ups = []
    if "upright" in points:
        ups.append(directions(points["upright"], focal))
    if horizon is not None:
        ups.append(np.cross(*np.moveaxis(directions(horizon, focal), 1, 0)))
    if "away" in points and "across" in points:
        ups.append(np.cross(directions(points["away"], focal), directions(points["across"], focal)))
    if not ups:  # a camera that is not rolled sees a level line's end on its horizon
        for name in ("away", "across"):
            if name in points:
                ahead = directions(points[name], focal)
                ups.append(np.cross(ahead, np.array([1.0, 0.0, 0.0])))
    return [upwards(up) for up in ups]


def _horizon_px(
    view_deg: float, tilt_deg: float, roll_deg: float, width_px: float, height_px: float
) -> tuple[tuple[float, float], tuple[float, float]] | None:
    """What is as high as the lens, however far. None where it runs upright or is nowhere."""
    half = width_px / 2.0
    focal = half / math.tan(math.radians(view_deg) / 2.0)
    if abs(math.cos(math.radians(roll_deg)) * math.cos(math.radians(tilt_deg))) < _STEP:
        return None
    left, right = (horizon_y_px(focal, height_px, tilt_deg, roll_deg, across) for across in (-half, half))
    return (0.0, left), (width_px, right)


def _evaluated(marks: dict[str, Array], heights_m: Array, known_view_deg: float | None) -> Array:
    """Amounts of :data:`READ` for b drawings (b, 6), nan where it cannot be told. Places in shares of the
    width.
    """
    count = len(next(iter(marks.values())))
    points: dict[str, Array] = {
        name: vanishing_points(marks[name][:, :, 0], marks[name][:, :, 1])
        for name in _DIRECTIONS
        if name in marks and marks[name].shape[1] > 1
    }
    horizon = marks["horizon"][:, 0] if "horizon" in marks else None
    amounts = np.full((count, len(READ)), np.nan)
    lenses = [focal_lengths(*pair) for pair in _pairs(points, horizon)]
    amounts[:, 0] = _pooled([2.0 * np.degrees(np.arctan(0.5 / focal)) for focal in lenses])
    view = amounts[:, 0]
    if known_view_deg is not None and np.isnan(view[0]):
        view = np.full(count, known_view_deg)
    focal = 0.5 / np.tan(np.radians(view) / 2.0)
    turns = [turned_deg(up) for up in _ups(points, horizon, focal)]
    if not turns:
        return amounts
    amounts[:, 1] = _pooled([tilt for tilt, _ in turns])
    amounts[:, 2] = _pooled([roll for _, roll in turns])
    tilt, roll = np.radians(amounts[:, 1]), np.radians(amounts[:, 2])
    up = np.stack([-np.sin(roll) * np.cos(tilt), np.cos(roll) * np.cos(tilt), np.sin(tilt)], axis=1)
    if "height" in marks:
        seen = directions(marks["height"], focal)
        amounts[:, 3] = _pooled(list(lens_heights_m(seen[:, :, 0], seen[:, :, 1], up, heights_m).T))
    if "shadow" in marks:
        seen = directions(marks["shadow"], focal)
        azimuths, elevations = keys_deg(seen[:, :, 0], seen[:, :, 1], seen[:, :, 2], up)
        azimuths = azimuths[0, 0] + _turned(azimuths - azimuths[0, 0])
        amounts[:, 4], amounts[:, 5] = _turned(_pooled(list(azimuths.T))), _pooled(list(elevations.T))
    return amounts


def _turned(angles: Array) -> Array:
    """Differences of angles, within half a turn."""
    there: Array = (angles + 180.0) % 360.0 - 180.0
    return there


def _wants(kinds: dict[str, int], amounts: Array, lens: bool) -> tuple[str, ...]:
    """What must still be drawn, or drawn better, one sentence for each thing that is not told."""
    away, across, upright = (kinds.get(name, 0) for name in _DIRECTIONS)
    lines = (away > 1) + (across > 1) + (upright > 1)
    missing = []
    if not lens and lines > 1:
        missing.append(
            "The lens cannot be told: in no lens are these directions at right angles, or one of them runs"
            " level with the picture. Check which lines belong together, or type its angle of view."
        )
    elif not lens:
        missing.append("For the lens draw two lines away and two across, or two of either and two uprights.")
    level = upright > 1 or "horizon" in kinds or (away > 1 and across > 1)
    if level and not lens and np.isnan(amounts[1]):
        missing.append("Tilt and roll need the lens: its lines, or its angle of view typed.")
    elif not level:
        missing.append(
            "For the roll draw the horizon or two uprights; it is taken for 0."
            if away > 1 or across > 1
            else "For tilt and roll draw the horizon or two uprights."
        )
    if "height" not in kinds:
        missing.append("For the height of the lens draw something upright of known height.")
    elif np.isnan(amounts[3]) and not np.isnan(amounts[1]):
        missing.append(
            "The height cannot be told: a foot must stand under the horizon, a top above its foot."
        )
    if "shadow" not in kinds:
        missing.append("For the key draw something upright with its shadow on level ground.")
    elif np.isnan(amounts[5]) and not np.isnan(amounts[1]):
        missing.append("The key cannot be told: foot and tip of a shadow must lie under the horizon.")
    return tuple(missing)


@lru_cache(maxsize=512)
def reading_of(
    marks: tuple[Mark, ...], width_px: float, height_px: float, known_view_deg: float | None = None
) -> Reading:
    """What lines and marks on a picture tell of its camera and its light.

    Its middle is where the lens looked: a picture that was cropped off its middle tells other things.

    Parameters
    ----------
    marks : tuple of Mark
        What is drawn on it.
    width_px, height_px : float
        The picture, px.
    known_view_deg : float, optional
        Its angle of view across, degrees, for where the marks do not tell it.

    Returns
    -------
    Reading
        Amounts by the names of a layer's fields, in their units, with what they may be off if the ends of
        lines lie off by a thousandth of the picture's width; what is not told, and why.

    References
    ----------
    caprile_torre, pinhole, rotation, mark_ends

    Examples
    --------
    >>> horizon = Mark(kind="horizon", points=((0, 540), (1920, 540)))
    >>> person = Mark(kind="height", points=((960, 940), (960, 440)), height_m=1.8)
    >>> told = reading_of((horizon, person), 1920, 1080, 40).read["taken_height_m"]
    >>> round(told.amount, 3), told.within < 0.03
    (1.44, True)
    """
    if not marks:
        return NONE
    kinds: dict[str, int] = {}
    for mark in marks:
        kinds[mark.kind] = kinds.get(mark.kind, 0) + 1
    middle = np.array([width_px, height_px]) / 2.0
    drawn = {
        kind: (np.array([mark.points for mark in marks if mark.kind == kind]) - middle) / width_px
        for kind in kinds
    }
    sizes = [places.size for places in drawn.values()]
    flat = np.concatenate([places.ravel() for places in drawn.values()])
    # the drawing itself, then each coordinate moved a little to either side
    moved = np.eye(len(flat)) * _STEP
    many = flat + np.concatenate([np.zeros((1, len(flat))), moved, -moved])
    spans = np.split(many, np.cumsum(sizes)[:-1], axis=1)
    places = {kind: span.reshape(-1, *drawn[kind].shape) for (kind, span) in zip(drawn, spans, strict=True)}
    heights = np.array([mark.height_m for mark in marks if mark.kind == "height"])
    with np.errstate(invalid="ignore", divide="ignore"):
        amounts = _evaluated(places, heights, known_view_deg)
        more, less = amounts[1 : 1 + len(flat)], amounts[1 + len(flat) :]
        change = more - less
        change[:, [2, 4]] = _turned(change[:, [2, 4]])
        within = _SURE * END_SHARE * np.sqrt((change**2).sum(axis=0)) / (2.0 * _STEP)
    told = {
        name: Read(float(amount), float(off))
        for name, amount, off in zip(READ, amounts[0], within, strict=True)
        if np.isfinite(amount) and np.isfinite(off)
    }
    lens = "taken_view_deg" in told or known_view_deg is not None
    if not any(name in kinds for name in ("upright", "horizon")) and not (
        kinds.get("away", 0) > 1 and kinds.get("across", 0) > 1
    ):
        told.pop("taken_roll_deg", None)  # it was taken for 0
    horizon = None
    if "taken_tilt_deg" in told:
        view = told["taken_view_deg"].amount if "taken_view_deg" in told else known_view_deg
        assert view is not None  # no tilt is told without a lens
        horizon = _horizon_px(view, told["taken_tilt_deg"].amount, float(amounts[0, 2]), width_px, height_px)
    return Reading(told, _wants(kinds, amounts[0], lens), horizon)
