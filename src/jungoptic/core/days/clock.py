"""Times of a shooting day, as minutes after its midnight; they run past 24:00 into the night that follows."""

from __future__ import annotations

import re
from collections.abc import Iterable
from datetime import date
from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Field, WithJsonSchema

from ..errors import refuse

MINUTES_A_DAY = 24 * 60
LATEST_MIN = 36 * 60

Weekday = Literal["mon", "tue", "wed", "thu", "fri", "sat", "sun"]
WEEKDAYS: tuple[Weekday, ...] = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
WEEKDAY_NAMES: dict[Weekday, str] = {
    "mon": "Monday",
    "tue": "Tuesday",
    "wed": "Wednesday",
    "thu": "Thursday",
    "fri": "Friday",
    "sat": "Saturday",
    "sun": "Sunday",
}
Spans = tuple[tuple[int, int], ...]
_CLOCK = re.compile(r"(\d{1,2}):(\d{2})")


def clock_text(minutes: int) -> str:
    """A time of day as a crew says it.

    Parameters
    ----------
    minutes : int
        After midnight of the shooting day.

    Returns
    -------
    str
        Hours and minutes; the hours count on past 24 in the night that follows.

    Examples
    --------
    >>> clock_text(510), clock_text(1500)
    ('08:30', '25:00')
    """
    return f"{minutes // 60:02d}:{minutes % 60:02d}"


def duration_text(minutes: int) -> str:
    """A length of time as a crew says it.

    Parameters
    ----------
    minutes : int
        How long.

    Returns
    -------
    str
        Hours and minutes.

    Examples
    --------
    >>> duration_text(25), duration_text(100), duration_text(120)
    ('25 min', '1 h 40', '2 h')
    """
    hours, rest = divmod(minutes, 60)
    if not hours:
        return f"{rest} min"
    return f"{hours} h {rest:02d}" if rest else f"{hours} h"


def _minutes_of(value: Any) -> Any:
    if isinstance(value, str):
        match = _CLOCK.fullmatch(value.strip())
        if match is None or int(match[2]) > 59:
            raise refuse("", f"A time is written HH:MM, 08:30 for example; “{value[:20]}” was given.")
        return int(match[1]) * 60 + int(match[2])
    return value


Clock = Annotated[
    int,
    BeforeValidator(_minutes_of),
    Field(title="Time of day", ge=0, le=LATEST_MIN, strict=True),
    WithJsonSchema(
        {
            "title": "Time of day",
            "description": "HH:MM of the shooting day, up to 36:00 in the night that follows; or minutes.",
            "anyOf": [
                {"type": "string", "pattern": r"^\d{1,2}:\d{2}$"},
                {"type": "integer", "minimum": 0, "maximum": LATEST_MIN},
            ],
        }
    ),
]


def weekday_of(day: date) -> Weekday:
    """The weekday of a date.

    Parameters
    ----------
    day : date
        Any.

    Returns
    -------
    str
        One of ``WEEKDAYS``.

    Examples
    --------
    >>> weekday_of(date(2027, 10, 16))
    'sat'
    """
    return WEEKDAYS[day.weekday()]


def on_grid(minutes: int, step_min: int) -> int:
    """The first minute on a grid that is not before one."""
    return -(-minutes // step_min) * step_min


def joined(spans: Iterable[tuple[int, int]]) -> Spans:
    """Spans in order, those that touch made one."""
    told: list[tuple[int, int]] = []
    for start, end in sorted(span for span in spans if span[1] > span[0]):
        if told and start <= told[-1][1]:
            told[-1] = told[-1][0], max(told[-1][1], end)
        else:
            told.append((start, end))
    return tuple(told)


def in_both(these: Spans, those: Spans) -> Spans:
    """What of some spans lies in some others too."""
    return joined(
        (max(a[0], b[0]), min(a[1], b[1])) for a in these for b in those if min(a[1], b[1]) > max(a[0], b[0])
    )


def out_of(these: Spans, those: Spans) -> Spans:
    """What of some spans lies outside some others."""
    left = list(these)
    for start, end in those:
        left = [
            piece for a, b in left for piece in ((a, min(b, start)), (max(a, end), b)) if piece[1] > piece[0]
        ]
    return joined(left)
