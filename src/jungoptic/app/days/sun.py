"""The sun of an outdoor set-up: its course on a day and in the weeks around, against the hero's key."""

from __future__ import annotations

from datetime import date, timedelta

import numpy as np

from jungoptic.app.days.ahead_schemas import (
    HorizonPointOut,
    SunChartOut,
    SunDayOut,
    SunKeyOut,
    SunPointOut,
)
from jungoptic.app.days.models import job_key
from jungoptic.app.days.reading import DaysOf
from jungoptic.app.days.schemas import WindowOut
from jungoptic.core import days as core
from jungoptic.core.errors import InputError

_EVERY_MIN = 10
_WEEKS = (-3, -2, -1, 0, 1, 2, 3)
_LOWEST_DEG = -7.0  # a little below civil twilight


def sun_chart(days: DaysOf, set_up_id: int, block: int, day: date) -> SunChartOut:
    """Where the sun stands for the job of a set-up. Raises InputError where nobody said where the place
    lies, and for what is no job.
    """
    key = job_key(set_up_id, block)
    job = next((own for own in days.jobs_of(days.whole) if own.key == key), None)
    if job is None:
        raise InputError.at("set_up_id", "There is no such job to film.")
    place = next(own for own in days.shooting_of(days.whole, [job], (), [day]).places if own.key == job.place)
    if place.lies is None:
        raise InputError.at("place", f"Say where {place.key} lies, then its sun can be shown.")
    dates = {row.date for row in days.days}
    return SunChartOut(
        job=key,
        place=place.key,
        day=day,
        key=_key_out(job.sun) if job.sun else None,
        horizon=[
            HorizonPointOut(azimuth_deg=point.azimuth_deg, height_deg=point.height_deg)
            for point in place.horizon
        ],
        days=[
            _day(days, job, place, other, other in dates)
            for other in (day + timedelta(weeks=week) for week in _WEEKS)
        ],
    )


def _key_out(sun: core.SunKey) -> SunKeyOut:
    return SunKeyOut(
        azimuth_deg=float(core.key_direction_deg(sun, np.array([sun.heading_deg]))[0]),
        height_deg=sun.elevation_deg,
        heading_deg=sun.heading_deg,
        turns=sun.heading_to_deg is not None,
        holds_deg=sun.holds_deg,
        tight_deg=sun.tight_deg,
    )


def _day(days: DaysOf, job: core.Job, place: core.Place, day: date, shoots: bool) -> SunDayOut:
    assert place.lies is not None  # asked before
    spot = *place.lies, day, days.production.time_zone
    course = core.sun_course(*spot)[: core.MINUTES_A_DAY : _EVERY_MIN]
    off = np.zeros(len(course))
    headings, turned = off, off
    if job.sun is not None:
        anywhere = {"heading_deg": 0.0, "heading_to_deg": 359.9}
        round_about = job.sun.model_copy(update=anywhere)
        off, turned = core.off_key_deg(job.sun, course), core.off_key_deg(round_about, course)
        headings = core.heading_for(round_about, course[:, 0])
    hidden = course[:, 1] < core.horizon_deg(place.horizon, course[:, 0])
    windows: list[WindowOut] = []
    if job.sun is not None:
        windows = [
            WindowOut(start_min=own.start_min, end_min=own.end_min, holds=own.holds)
            for own in core.sun_windows(job.sun, *spot, place.horizon)
            if own.start_min < core.MINUTES_A_DAY
        ]
    elif job.hour != "any":
        windows = [
            WindowOut(start_min=start, end_min=end, holds=True)
            for start, end in core.light_spans(job.hour, *spot)
            if start < core.MINUTES_A_DAY
        ]
    return SunDayOut(
        date=day,
        name=core.day_text(day),
        shoots=shoots,
        windows=windows,
        course=[
            SunPointOut(
                minute=number * _EVERY_MIN,
                azimuth_deg=round(float(azimuth), 2),
                height_deg=round(float(height), 2),
                off_deg=round(float(off[number]), 2),
                heading_deg=round(float(headings[number]), 1),
                off_turned_deg=round(float(turned[number]), 2),
                turning_helps=job.sun is not None and bool(turned[number] <= job.sun.tight_deg),
                hidden=bool(hidden[number]),
            )
            for number, (azimuth, height) in enumerate(course)
            if height > _LOWEST_DEG
        ],
    )
