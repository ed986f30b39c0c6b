"""The sun of a set-up and the outlook over the wire. Times are minutes after midnight of the shooting day."""

from __future__ import annotations

from datetime import date

from pydantic import BaseModel as Schema

from jungoptic.app.days.schemas import WindowOut


class HorizonPointOut(Schema):
    """A height that hides the sun in a direction from north, degrees."""

    azimuth_deg: float
    height_deg: float


class SunKeyOut(Schema):
    """Where the sun must stand for the hero's key, for the heading that the camera has; ``turns`` where it
    may have any (a model that is carried out). Degrees.
    """

    azimuth_deg: float
    height_deg: float
    heading_deg: float
    turns: bool
    holds_deg: float
    tight_deg: float


class SunPointOut(Schema):
    """The sun at a minute: where it stands, how far off the key (degrees), the heading that would bring it
    nearest, how far off it is then, and whether that is within what is tight.
    """

    minute: int
    azimuth_deg: float
    height_deg: float
    off_deg: float
    heading_deg: float
    off_turned_deg: float
    turning_helps: bool
    hidden: bool


class SunDayOut(Schema):
    """The sun of one day while it is not below civil twilight; ``shoots`` for a shooting day."""

    date: date
    name: str
    shoots: bool
    windows: list[WindowOut]
    course: list[SunPointOut]


class SunChartOut(Schema):
    """The sun for a job, on a day and on the same weekday three weeks back and forth."""

    job: str
    place: str
    day: date
    key: SunKeyOut | None
    horizon: list[HorizonPointOut]
    days: list[SunDayOut]


class EndOut(Schema):
    """When everything is finished: one chance in ten, as likely as not, nine in ten."""

    early: date
    likely: date
    late: date


class OutlookOut(Schema):
    """How long it will all take: minutes still to film and on how many days, hours off the set by craft,
    the pace so far (minutes taken over minutes planned, of ``paces`` that were measured), the end with its
    spread, with one more pair of hands, and without the dearest shot.
    """

    minutes_left: int
    days_left: float
    hours_left: dict[str, float]
    off_set_h: float
    pace: float
    paces: int
    pending: int
    end: EndOut
    helped: EndOut
    dearest: str
    dearest_h: float
    without: EndOut | None
