"""What the log knows of the set-ups: when their takes began, when what is needed was circled."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from jungoptic.app.productions.models import Production
from jungoptic.app.takes.models import Take

NIGHT_ENDS_H = 5  # what is filmed before five in the morning belongs to the day before


class Clock:
    """The production's clock: which shooting day a moment belongs to, and which minute of it."""

    def __init__(self, time_zone: str) -> None:
        self.zone = ZoneInfo(time_zone)

    def reads(self, at: datetime) -> tuple[date, int]:
        """The shooting day of a moment, and minutes after its midnight."""
        there = at.astimezone(self.zone)
        day = (there.replace(tzinfo=None) - timedelta(hours=NIGHT_ENDS_H)).date()
        return day, (there.date() - day).days * 1440 + there.hour * 60 + there.minute

    def moment(self, day: date, minute: int) -> datetime:
        """The moment of a minute of a shooting day."""
        there = datetime(day.year, day.month, day.day) + timedelta(minutes=minute)
        return there.replace(tzinfo=self.zone)


@dataclass
class Rolls:
    """Takes of a set-up by shooting day: the minute of the first, of the last, and of the last that
    is circled.
    """

    first: dict[date, int] = field(default_factory=dict)
    last: dict[date, int] = field(default_factory=dict)
    circled: dict[date, int] = field(default_factory=dict)


def rolls_of(production: Production, clock: Clock) -> dict[int, Rolls]:
    """What was logged of each set-up of a production."""
    told: dict[int, Rolls] = {}
    takes = Take.objects.filter(layer__shot__production=production, layer__set_up__isnull=False)
    for set_up, at, circled in takes.order_by("recorded_at").values_list(
        "layer__set_up_id", "recorded_at", "circled"
    ):
        day, minute = clock.reads(at)
        rolls = told.setdefault(set_up, Rolls())
        rolls.first.setdefault(day, minute)
        rolls.last[day] = minute
        if circled:
            rolls.circled[day] = minute
    return told
