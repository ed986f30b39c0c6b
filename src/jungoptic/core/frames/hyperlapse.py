"""A hyperlapse planned and checked: where each photograph is taken from, how long it takes, what is left.

The camera goes along a line past its reference point or along an arc about it; each photograph is aimed so
that the point lies on the guide mark. What does not lie there is made steady afterwards, and costs margin.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
import numpy.typing as npt
from pydantic import Field, model_validator

from .. import quantities as q
from ..errors import refuse

Array = npt.NDArray[np.float64]
PathKind = Literal["line", "arc"]
_AGAIN = 0.5
"""Of the spare margin: an aim that is off by more is worth taking again while the camera stands there."""


class HyperPath(q.Record):
    """The way of a hyperlapse on the ground: along a line that passes the reference point at ``away_m``,
    which lies ``ahead_m`` along it from where it begins; or along an arc of ``away_m`` about it.
    """

    kind: Annotated[PathKind, Field(title="Along")] = "line"
    length_m: Annotated[float, q.quantity("Path", "m", gt=0, le=1e5)] = 10.0
    away_m: Annotated[float, q.quantity("Reference point away", "m", gt=0, le=1e5)] = 10.0
    ahead_m: Annotated[
        float, q.quantity("Reference point along it", "m", "From where it begins.", ge=-1e5, le=1e5)
    ] = 0.0
    photographs: Annotated[int, q.quantity("Photographs", "", ge=2, le=100_000)] = 144

    @model_validator(mode="after")
    def _goes_round_once(self) -> HyperPath:
        if self.kind == "arc" and self.length_m > 2.0 * math.pi * self.away_m:
            raise refuse(
                "length_m",
                f"An arc of {self.away_m:g} m about the point is at most {2.0 * math.pi * self.away_m:.3g} m"
                f" long; {self.length_m:g} m was given.",
            )
        return self


@dataclass(frozen=True, slots=True)
class Station:
    """Where a photograph is taken from: its number from 1, how far along the path, where on the ground from
    the first (to the right and ahead of it), and by how much the camera is turned since the first, clockwise.
    """

    number: int
    along_m: float
    right_m: float
    ahead_m: float
    turned_deg: float


def stations(path: HyperPath) -> tuple[Station, ...]:
    """Where each photograph of a hyperlapse is taken from.

    Parameters
    ----------
    path : HyperPath
        As it is planned. Seen from the first station, the path goes to the right.

    Returns
    -------
    tuple of Station
        In even steps along the path, each aimed at the reference point.

    References
    ----------
    hyperlapse

    Examples
    --------
    >>> first, *_, last = stations(HyperPath(kind="arc", length_m=10 * 3.14159265 / 2, away_m=10))
    >>> round(last.right_m, 2), round(last.ahead_m, 2), round(last.turned_deg, 1)
    (10.0, 10.0, -90.0)
    """
    step = path.length_m / (path.photographs - 1)
    told = []
    aimed = math.atan2(path.ahead_m, path.away_m)
    for number in range(path.photographs):
        along = number * step
        if path.kind == "arc":
            round_by = along / path.away_m
            right, ahead = path.away_m * math.sin(round_by), path.away_m * (1.0 - math.cos(round_by))
            turned = -round_by
        else:
            right, ahead = along, 0.0
            turned = math.atan2(path.ahead_m - along, path.away_m) - aimed
        told.append(Station(number + 1, along, right, ahead, math.degrees(turned)))
    return tuple(told)


@dataclass(frozen=True, slots=True)
class Rhythm:
    """The time of a hyperlapse: the least interval that exposure, writing and the next step need; by how much
    the planned one is too short (0 where it holds); and how long all of it takes, s.
    """

    least_s: float
    lacks_s: float
    takes_s: float


def rhythm_of(
    photographs: int, interval_s: float, exposure_s: float, writing_s: float, step_s: float
) -> Rhythm:
    """Whether an interval is long enough.

    Parameters
    ----------
    photographs : int
        How many.
    interval_s : float
        From one to the next.
    exposure_s, writing_s, step_s : float
        Of one photograph, of its file, and of the step to the next place with aiming. The file is written
        while one walks.

    Returns
    -------
    Rhythm
        s.

    References
    ----------
    hyperlapse

    Examples
    --------
    >>> rhythm_of(144, 5.0, 0.5, 1.0, 6.0)
    Rhythm(least_s=6.5, lacks_s=1.5, takes_s=715.0)
    """
    least = exposure_s + max(writing_s, step_s)
    return Rhythm(least, max(0.0, least - interval_s), (photographs - 1) * interval_s)


def drifts_px(speed_m_s: float, away_m: float, interval_s: float, focal_px: float) -> float:
    """How far something that moves by itself goes from one photograph to the next: clouds, people, shadows.

    Parameters
    ----------
    speed_m_s : float
        Across the view.
    away_m : float
        From the camera.
    interval_s : float
        From one photograph to the next.
    focal_px : float
        Of the lens, delivered px.

    Returns
    -------
    float
        Delivered px a frame.

    References
    ----------
    pinhole

    Examples
    --------
    >>> drifts_px(10.0, 2000.0, 5.0, 1600.0)
    40.0
    """
    return speed_m_s * interval_s * focal_px / away_m


@dataclass(frozen=True, slots=True)
class Aimed:
    """How well photographs were aimed, px of the photographs: by photograph off the guide mark (n, 2), the
    most of them, the spare on each side that is left after it, and which are worth taking again, from 1.
    """

    off_px: Array
    most_px: float
    spare_px: tuple[float, float]
    again: tuple[int, ...]


def aimed(
    points: npt.ArrayLike,
    mark: tuple[float, float],
    photo_px: tuple[int, int],
    needed_px: tuple[float, float],
) -> Aimed:
    """What photographs of a hyperlapse leave over.

    Parameters
    ----------
    points : ndarray of float, shape (n, 2)
        Where the reference point is in each, px; NaN where it was not found.
    mark : tuple of (float, float)
        Where it should be.
    photo_px : tuple of (int, int)
        Width and height of a photograph.
    needed_px : tuple of (float, float)
        Width and height of what of it is delivered.

    Returns
    -------
    Aimed
        Photographs in which it was not found are worth taking again too.

    References
    ----------
    hyperlapse

    Examples
    --------
    >>> told = aimed([(100, 50), (130, 50), (100, 48)], (100, 50), (400, 200), (320, 160))
    >>> told.most_px, told.spare_px, told.again
    (30.0, (10.0, 18.0), (2,))
    """
    off = np.asarray(points, np.float64).reshape(-1, 2) - np.asarray(mark, np.float64)
    room = (np.asarray(photo_px, np.float64) - np.asarray(needed_px, np.float64)) / 2.0
    size = np.abs(off)
    known = np.isfinite(off).all(axis=1)
    most = size[known].max(axis=0) if known.any() else np.zeros(2)
    again = ~known | (size > _AGAIN * np.maximum(room, 0.0)).any(axis=1)
    return Aimed(
        off,
        float(np.hypot(*off[known].T).max()) if known.any() else 0.0,
        (float(room[0] - most[0]), float(room[1] - most[1])),
        tuple(int(number) + 1 for number in np.flatnonzero(again)),
    )


def transforms_csv(points: Sequence[Sequence[float]], steady: Sequence[Sequence[float]]) -> str:
    """What lays each photograph where the steady path has it, as a table.

    Parameters
    ----------
    points, steady : sequence of sequence of float
        Where the reference point is in each photograph, and where it should be; (n, 2), px.

    Returns
    -------
    str
        CSV of RFC 4180: photograph from 1, right_px, down_px.

    References
    ----------
    csv_rfc

    Examples
    --------
    >>> print(transforms_csv([(10, 10), (12, 9)], [(10, 10), (11, 10)]).replace(chr(13), ""))
    photograph,right_px,down_px
    1,0.000,0.000
    2,-1.000,1.000
    <BLANKLINE>
    """
    rows = ["photograph,right_px,down_px"]
    for number, (here, there) in enumerate(zip(points, steady, strict=True), 1):
        rows.append(f"{number},{there[0] - here[0] + 0.0:.3f},{there[1] - here[1] + 0.0:.3f}")
    return "\r\n".join([*rows, ""])
