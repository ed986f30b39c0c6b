"""What is drawn on a picture to read its camera and light, and what is read of it, with its error."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated, Protocol

import numpy as np
import numpy.typing as npt
from pydantic import Field, model_validator

from .. import quantities as q
from ..errors import refuse
from ..optics.projection import horizon_y_px
from ..vocabulary import LIKELY_HEIGHT_M, MARKS, MarkKind
from .drawing_read import READ, Told, evaluated, within_half_turn

Array = npt.NDArray[np.float64]
Coordinate = Annotated[float, Field(ge=-100000, le=100000, allow_inf_nan=False)]

END_SHARE = 1e-3  # Source: mark_ends
_SURE = 2.0  # standard deviations: 95 of 100
KNOWN_LENS_SHARE = 0.01  # Source: known_lens
_STEP = 1e-5  # of the picture's width


class Mark(q.Record):
    """One line or mark on a picture. Points are (x, y) from its top left, px of the picture, in the order
    that its kind names.
    """

    kind: MarkKind
    points: Annotated[
        tuple[tuple[Coordinate, Coordinate], ...], Field(title="Points", min_length=1, max_length=3)
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
        if self.points[0] == self.points[-1] and len(self.points) > 1:
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
class Stands:
    """Where a thing on level ground stands, metres ahead of the lens and to its right, how far that is over
    the ground, and how high it is; None for a mark that tells none.
    """

    ahead_m: Read
    aside_m: Read
    distance_m: Read
    height_m: Read | None


@dataclass(frozen=True, slots=True)
class Reading:
    """What a picture's marks tell: amounts by the names of a layer's fields, what keeps the others from
    being told, where the horizon lies by them, from the left edge to the right and within how much (px of the
    picture); what stands where, mark by mark; the camera that all of this is read by (angle of view, tilt and
    roll in degrees, metres over the ground).
    """

    read: dict[str, Read]
    wants: tuple[str, ...]
    horizon_px: tuple[tuple[float, float], tuple[float, float]] | None = None
    horizon_within_px: float = 0.0
    stands: tuple[Stands | None, ...] = ()
    camera: tuple[float, float, float, float] | None = None


NONE = Reading({}, ())


def _horizon_px(
    view_deg: float, tilt_deg: float, roll_deg: float, width_px: float, height_px: float
) -> tuple[float, float]:
    """What is as high as the lens, however far, at the left and the right edge. nan where it runs upright."""
    half = width_px / 2.0
    focal = half / math.tan(math.radians(view_deg) / 2.0)
    if abs(math.cos(math.radians(roll_deg)) * math.cos(math.radians(tilt_deg))) < _STEP:
        return math.nan, math.nan
    left, right = (horizon_y_px(focal, height_px, tilt_deg, roll_deg, across) for across in (-half, half))
    return left, right


def _wants(kinds: dict[str, int], amounts: Array, lens: bool) -> tuple[str, ...]:
    """What must still be drawn, or drawn better, one sentence for each thing that is not told."""
    away, across, upright = (kinds.get(name, 0) for name in ("away", "across", "upright"))
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
    marks: tuple[Mark, ...],
    width_px: float,
    height_px: float,
    known_view_deg: float | None = None,
    known_share: float = 0.0,
) -> Reading:
    """What lines and marks on a picture tell of its camera, its light, and what stands in it.

    Its middle is where the lens looked: a picture that was cropped off its middle tells other things.

    Parameters
    ----------
    marks : tuple of Mark
        What is drawn on it.
    width_px, height_px : float
        The picture, px.
    known_view_deg : float, optional
        Its angle of view across, degrees, for where the marks do not tell it.
    known_share : float, default 0
        Standard deviation of the focal length that this stands for, share of it; an engraved or a tagged one
        is as sure as :data:`KNOWN_LENS_SHARE`.

    Returns
    -------
    Reading
        Amounts by the names of a layer's fields, in their units, with what they may be off if the ends of
        lines lie off by a thousandth of the picture's width; what is not told, and why.

    References
    ----------
    caprile_torre, pinhole, rotation, mark_ends, known_lens

    Examples
    --------
    >>> horizon = Mark(kind="horizon", points=((0, 1000), (3000, 1000)))
    >>> post = Mark(kind="height", points=((1500, 1600), (1500, 850)), height_m=2.0)
    >>> told = reading_of((horizon, post), 3000, 2000, 60.0)
    >>> told.read["taken_height_m"].rounded[0], told.read["taken_height_m"].within < 0.02
    (1.6, True)
    >>> told.stands[1].distance_m.rounded
    (6.928, 0.078)
    """
    if not marks:
        return NONE
    kinds: dict[str, int] = {}
    for mark in marks:
        kinds[mark.kind] = kinds.get(mark.kind, 0) + 1
    told, carried = _moved(marks, kinds, width_px, height_px, known_view_deg, known_share)
    amounts = told.amounts[0]
    off = carried(told.amounts, angles=(2, 4))
    read = {
        name: Read(float(amount), float(within))
        for name, amount, within in zip(READ, amounts, off, strict=True)
        if np.isfinite(amount) and np.isfinite(within)
    }
    lens = "taken_view_deg" in read or known_view_deg is not None
    if not any(name in kinds for name in ("upright", "horizon")) and not (
        kinds.get("away", 0) > 1 and kinds.get("across", 0) > 1
    ):
        read.pop("taken_roll_deg", None)  # it was taken for 0
    horizon, horizon_off = None, 0.0
    if "taken_tilt_deg" in read:
        ends = np.array(
            [_horizon_px(view, tilt, roll, width_px, height_px) for view, tilt, roll, _ in told.camera]
        )
        if np.isfinite(ends).all():
            horizon = (0.0, float(ends[0, 0])), (float(width_px), float(ends[0, 1]))
            horizon_off = float(carried(ends).max())
    camera = told.camera[0]
    return Reading(
        read,
        _wants(kinds, amounts, lens),
        horizon,
        horizon_off,
        _standing(marks, told, carried),
        tuple(camera.tolist()) if np.isfinite(camera).all() else None,
    )


class _Carry(Protocol):
    """What amounts (b, …) of the drawing and of all that were moved may be off, 95 of 100."""

    def __call__(self, amounts: Array, angles: tuple[int, ...] = ()) -> Array: ...


def _moved(
    marks: tuple[Mark, ...],
    kinds: dict[str, int],
    width_px: float,
    height_px: float,
    known_view_deg: float | None,
    known_share: float,
) -> tuple[Told, _Carry]:
    """The drawing itself, then with each coordinate, and the known lens, moved a little to either side."""
    middle = np.array([width_px, height_px]) / 2.0
    drawn = {
        kind: (np.array([mark.points for mark in marks if mark.kind == kind]) - middle) / width_px
        for kind in kinds
    }
    sizes = [places.size for places in drawn.values()]
    flat = np.concatenate([places.ravel() for places in drawn.values()])
    count = len(flat)
    moved = np.zeros((1 + 2 * (count + 1), count))
    moved[1 : 1 + count], moved[2 + count : 2 + 2 * count] = np.eye(count) * _STEP, -np.eye(count) * _STEP
    spans = np.split(flat + moved, np.cumsum(sizes)[:-1], axis=1)
    places = {kind: span.reshape(-1, *drawn[kind].shape) for (kind, span) in zip(drawn, spans, strict=True)}
    heights = np.array([mark.height_m for mark in marks if mark.kind == "height"])
    view = None
    if known_view_deg is not None:
        longer = np.ones(len(moved))
        longer[1 + count], longer[-1] = 1 + _STEP, 1 - _STEP
        view = 2.0 * np.degrees(np.arctan(np.tan(np.radians(known_view_deg) / 2.0) / longer))
    with np.errstate(invalid="ignore", divide="ignore"):
        told = evaluated(places, heights, view)
    sure = np.full(count + 1, END_SHARE)
    sure[count] = known_share

    def carried(amounts: Array, angles: tuple[int, ...] = ()) -> Array:
        change = amounts[1 : 2 + count] - amounts[2 + count :]
        if angles:
            change[:, list(angles)] = within_half_turn(change[:, list(angles)])
        weighed = change * sure.reshape(-1, *([1] * (change.ndim - 1))) / (2.0 * _STEP)
        there: Array = _SURE * np.sqrt((weighed**2).sum(axis=0))
        return there

    return told, carried


def _standing(marks: tuple[Mark, ...], told: Told, carried: _Carry) -> tuple[Stands | None, ...]:
    """What stands where, in the order of the marks."""
    places = {}
    for kind, amounts in told.standing.items():
        distance = np.hypot(amounts[..., 0], amounts[..., 1])[..., None]
        whole = np.concatenate([amounts, distance], axis=-1)
        places[kind] = iter(zip(whole[0].tolist(), carried(whole).tolist(), strict=True))
    standing: list[Stands | None] = []
    for mark in marks:
        if mark.kind not in places:
            standing.append(None)
            continue
        reads = [Read(amount, off) for amount, off in zip(*next(places[mark.kind]), strict=True)]
        known = all(np.isfinite((read.amount, read.within)).all() for read in reads)
        height = reads[2] if mark.kind == "stands" else None
        standing.append(Stands(reads[0], reads[1], reads[3], height) if known else None)
    return tuple(standing)
