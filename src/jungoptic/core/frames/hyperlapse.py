"""A hyperlapse planned: where each photograph is taken from, how long all of it takes, what moves meanwhile.

The camera goes along a line past its reference point or along an arc about it; each photograph is aimed so
that the point lies on the guide mark.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from .. import quantities as q
from ..errors import refuse

PathKind = Literal["line", "arc"]
_TURN_DEG = 360.0
SteadyOn = Literal["mark", "path"]
"""Made steady, the reference point stands on the guide mark, or goes along its own path, smoothed."""


class _Way(q.Record):
    """Along a line, or along an arc about the reference point."""

    kind: Annotated[PathKind, Field(title="Along")] = "line"
    length_m: Annotated[float, q.quantity("Path", "m", gt=0, le=1e5)] = 10.0
    away_m: Annotated[float, q.quantity("Reference point away", "m", gt=0, le=1e5)] = 10.0
    ahead_m: Annotated[
        float, q.quantity("Reference point along it", "m", "From where it begins.", ge=-1e5, le=1e5)
    ] = 0.0

    @model_validator(mode="after")
    def _goes_round_once(self) -> Self:
        round_m = 2.0 * math.pi * self.away_m
        if self.kind == "arc" and self.length_m > round_m:
            raise refuse(
                "length_m",
                f"An arc of {self.away_m:g} m about the point is at most {round_m:.3g} m long;"
                f" {self.length_m:g} m was given.",
            )
        return self


class HyperPath(_Way):
    """The way of a hyperlapse on the ground: along a line that passes the reference point at ``away_m``,
    which lies ``ahead_m`` along it from where it begins; or along an arc of ``away_m`` about it.
    """

    photographs: Annotated[int, q.quantity("Photographs", "", ge=2, le=100_000)] = 144


class HyperPlan(_Way):
    """A hyperlapse as it is planned: its way, its rhythm, what moves by itself before the camera; where in
    the photograph the reference point is held; how much wider than delivered it is framed; and what it is
    made steady on.
    """

    interval_s: Annotated[float, q.quantity("Interval", "s", gt=0, le=86400)] = 5.0
    exposure_s: Annotated[float, q.quantity("Exposure", "s", ge=0, le=3600)] = 0.02
    writing_s: Annotated[float, q.quantity("Writing the file", "s", ge=0, le=600)] = 1.0
    step_s: Annotated[float, q.quantity("Stepping and aiming", "s", ge=0, le=3600)] = 4.0
    goes_on: Annotated[q.YesNo, Field(title="Goes on while it exposes")] = False
    clouds_m_s: Annotated[float, q.quantity("Clouds go", "m/s", ge=0, le=200)] = 8.0
    clouds_away_m: Annotated[float, q.quantity("Clouds away", "m", gt=0, le=1e5)] = 2000.0
    people_m_s: Annotated[float, q.quantity("People go", "m/s", ge=0, le=200)] = 1.4
    people_away_m: Annotated[float, q.quantity("People away", "m", gt=0, le=1e5)] = 20.0
    mark_x: Annotated[
        float, q.quantity("Guide mark from the left", "", "Share of the width.", ge=0, le=1)
    ] = 0.5
    mark_y: Annotated[
        float, q.quantity("Guide mark from the top", "", "Share of the height.", ge=0, le=1)
    ] = 0.5
    margin_pct: Annotated[
        float, q.quantity("Framed wider by", "%", "On each side, of the photograph's width.", ge=0, le=40)
    ] = 5.0
    steady_on: Annotated[SteadyOn, Field(title="Made steady on")] = "mark"

    @property
    def open_deg(self) -> float:
        """How long a photograph is exposed, where the interval is a turn of 360."""
        return _TURN_DEG * min(self.exposure_s / self.interval_s, 1.0)

    def rhythm(self, photographs: int) -> Rhythm:
        """Its time.

        Parameters
        ----------
        photographs : int
            How many are taken.

        Returns
        -------
        Rhythm
            Who goes on while it exposes does not step.

        References
        ----------
        hyperlapse

        Examples
        --------
        >>> HyperPlan(goes_on=True).rhythm(144).least_s
        1.02
        """
        step_s = 0.0 if self.goes_on else self.step_s
        return rhythm_of(photographs, self.interval_s, self.exposure_s, self.writing_s, step_s)

    def path(self, photographs: int) -> HyperPath:
        """Its way.

        Parameters
        ----------
        photographs : int
            How many are taken along it, 2 at least.

        Returns
        -------
        HyperPath
            On the ground.

        Examples
        --------
        >>> HyperPlan(length_m=14.3).path(144).photographs
        144
        """
        way = {name: getattr(self, name) for name in _Way.model_fields}
        return HyperPath.model_validate({**way, "photographs": photographs})


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


def passes_px(step_m: float, near_m: float, away_m: float, focal_px: float) -> float:
    """How far something that stands goes across the picture from one photograph to the next, since the camera
    goes on and is aimed at the reference point again.

    Parameters
    ----------
    step_m : float
        From one photograph to the next, across the view.
    near_m, away_m : float
        From the camera to it, and to the reference point.
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
    >>> passes_px(0.05, 2.0, 50.0, 1600.0)
    38.4
    """
    return abs(step_m * focal_px * (1.0 / near_m - 1.0 / away_m))


def from_the_first(station: Station, path: HyperPath) -> tuple[float, float]:
    """Where a station is as the first one's camera sees it.

    Parameters
    ----------
    station : Station
        One of those of the path.
    path : HyperPath
        As it is planned.

    Returns
    -------
    tuple of (float, float)
        To its right, and ahead of it towards the reference point, m.

    References
    ----------
    rotation

    Examples
    --------
    >>> path = HyperPath(length_m=10, away_m=10, ahead_m=10, photographs=2)
    >>> [round(each, 2) for each in from_the_first(stations(path)[-1], path)]
    [7.07, 7.07]
    """
    aim = math.atan2(path.ahead_m, path.away_m) if path.kind == "line" else 0.0
    right, ahead = station.right_m, station.ahead_m
    return (
        right * math.cos(aim) - ahead * math.sin(aim),
        right * math.sin(aim) + ahead * math.cos(aim),
    )
