"""What the days are planned from: jobs, people, places, windows, and in which order they must come."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from .. import quantities as q
from ..errors import refuse
from .clock import Clock, Weekday, clock_text

Key = Annotated[str, Field(title="Key", min_length=1, max_length=80)]
Name = Annotated[str, Field(title="Name", max_length=120)]
Why = Annotated[str, Field(title="Why", max_length=300)]
Minutes = Annotated[int, Field(title="Minutes", ge=0, le=1440)]
Light = Literal["any", "day", "dark", "golden", "twilight"]
LIGHTS: dict[Light, str] = {
    "any": "any hour",
    "day": "daylight",
    "dark": "darkness",
    "golden": "golden hour",
    "twilight": "civil twilight",
}
MOST_JOBS, MOST_DAYS, MOST_PEOPLE, MOST_CONDITIONS = 1000, 120, 60, 60


class Hours(q.Record):
    """From when to when something is there: on some weekdays, on one date, or every day.

    What is said of a date stands in place of what is said of its weekday.
    """

    weekdays: Annotated[tuple[Weekday, ...], Field(title="Weekdays", max_length=7)] = ()
    date: q.Day | None = None
    start: Clock
    end: Clock

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.end <= self.start:
            raise refuse(
                "end",
                f"These hours end at {clock_text(self.end)}, before they start at {clock_text(self.start)}: "
                "an end after midnight is written 25:00 for one o'clock.",
            )
        if self.weekdays and self.date is not None:
            raise refuse("date", "Hours are of weekdays or of a date: leave one of them out.")
        return self


Presence = Annotated[tuple[Hours, ...], Field(title="Hours", max_length=200)]
DaysOff = Annotated[tuple[q.Day, ...], Field(title="Days off", max_length=366)]


class Person(q.Record):
    """Somebody who is called. ``most_min`` is how long in all (a guest), of which ``spent_min`` are gone
    already, ``longest_day_min`` how long on a day, from the first job to the last.
    """

    key: Key
    name: Name = ""
    role: Name = ""
    hours: Presence
    off: DaysOff = ()
    longest_day_min: Annotated[int, Field(title="Longest day, min", ge=15, le=1440)] = 600
    most_min: Annotated[int | None, Field(title="In all, min", ge=5, le=100_000)] = None
    spent_min: Annotated[int, Field(title="Spent already, min", ge=0, le=100_000)] = 0

    @property
    def left_min(self) -> int | None:
        """How long they can still be there, minutes; None where nothing limits it."""
        return None if self.most_min is None else max(0, self.most_min - self.spent_min)

    @property
    def title(self) -> str:
        """The name, or the key where nobody gave one."""
        return self.name or self.key


class HorizonPoint(q.Record):
    """How high the horizon stands in one direction: a hill, a roof."""

    azimuth_deg: Annotated[float, q.quantity("Direction", "°", "From north, clockwise.", ge=0, le=360)]
    height_deg: Annotated[float, q.quantity("Height of the horizon", "°", ge=-5, le=90)]


class Place(q.Record):
    """Somewhere to film. ``noise`` says when noise may be made (empty = always),
    ``models_at_once`` how many models can stand there on one day.
    """

    key: Key
    name: Name = ""
    hours: Presence = ()
    off: DaysOff = ()
    noise: Presence = ()
    models_at_once: Annotated[int, Field(title="Models that can stand at once", ge=0, le=50)] = 2
    latitude_deg: Annotated[float | None, q.quantity("Latitude", "°", ge=-90, le=90)] = None
    longitude_deg: Annotated[float | None, q.quantity("Longitude", "°", ge=-180, le=180)] = None
    horizon: Annotated[tuple[HorizonPoint, ...], Field(title="Horizon", max_length=360)] = ()

    @property
    def lies(self) -> tuple[float, float] | None:
        """Latitude and longitude, degrees; None where nobody said."""
        if self.latitude_deg is None or self.longitude_deg is None:
            return None
        return self.latitude_deg, self.longitude_deg

    @property
    def title(self) -> str:
        """The name, or the key where nobody gave one."""
        return self.name or self.key


class Travel(q.Record):
    """How long it takes from one place to another, either way, with everything packed and unpacked."""

    places: Annotated[tuple[Key, Key], Field(title="Places")]
    minutes: Minutes


class Condition(q.Record):
    """Something that comes and goes and is typed in: low tide, a neighbour's leave, a train.

    Jobs name it as what they need or as what they must keep clear of.
    """

    key: Key
    name: Name = ""
    hours: Presence

    @property
    def title(self) -> str:
        """The name, or the key where nobody gave one."""
        return self.name or self.key


class SunKey(q.Record):
    """Where the key must stand for the sun to be it: the hero's, in the camera's frame.

    ``heading_deg`` is where the camera looks; with ``heading_to_deg`` it may look anywhere from the one to
    the other, clockwise (a model that can be turned).
    """

    azimuth_deg: Annotated[
        float,
        q.quantity("Key, side angle", "°", "0 behind the camera, positive to camera right.", ge=-180, le=180),
    ]
    elevation_deg: Annotated[float, q.quantity("Key, height angle", "°", ge=-90, le=90)]
    heading_deg: Annotated[float, q.quantity("Camera looks", "°", "From north, clockwise.", ge=0, le=360)]
    heading_to_deg: Annotated[float | None, q.quantity("Or as far round as", "°", ge=0, le=360)] = None
    holds_deg: Annotated[float, q.quantity("Holds", "°", gt=0, le=180)] = 7.0
    tight_deg: Annotated[float, q.quantity("Tight", "°", gt=0, le=180)] = 20.0

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.tight_deg < self.holds_deg:
            raise refuse("tight_deg", "What is tight cannot be less than what holds.")
        return self


class Job(q.Record):
    """One set-up filmed. ``minutes`` are those before the first take (rig, light), of all takes, and after
    the last (strike); sun, noise and what disturbs sound count during the takes, all else throughout.

    ``model``, ``light``, ``backing``, ``position``, ``lens``, ``costume`` say what stands: two jobs that say
    the same need nothing changed between them. ``tight_will_do`` lets it be filmed while the sun is tight;
    ``not_on`` names days on which it cannot be (rain, for what is outdoors).
    """

    key: Key
    name: Name = ""
    shots: Annotated[tuple[Key, ...], Field(title="Shots", max_length=50)] = ()
    before_min: Minutes = 60
    takes_min: Annotated[int, Field(title="Takes, min", ge=1, le=1440)] = 24
    after_min: Minutes = 10
    unit: Annotated[str, Field(title="Unit", max_length=40)] = ""
    place: Key
    camera: Name = ""
    lens: Name = ""
    model: Name = ""
    table: Name = ""
    light: Name = ""
    backing: Name = ""
    position: Name = ""
    costume: Name = ""
    people: Annotated[tuple[Key, ...], Field(title="People", max_length=MOST_PEOPLE)] = ()
    outdoors: q.YesNo = False
    fall_back: Annotated[str, Field(title="Fall-back", max_length=300)] = ""
    hour: Annotated[Light, Field(title="Light wanted")] = "any"
    sun: SunKey | None = None
    tight_will_do: q.YesNo = False
    noisy: q.YesNo = False
    not_on: DaysOff = ()
    needs: Annotated[tuple[Key, ...], Field(title="Needs", max_length=10)] = ()
    clear_of: Annotated[tuple[Key, ...], Field(title="Keeps clear of", max_length=10)] = ()

    @property
    def minutes(self) -> int:
        """From the first hand on it until it is struck."""
        return self.before_min + self.takes_min + self.after_min

    @property
    def title(self) -> str:
        """The name, or the key where nobody gave one."""
        return self.name or self.key


class Order(q.Record):
    """What must come before what, and why. ``rest_min`` must lie between (paint that dries, nights count);
    ``straight`` allows nothing else between them; ``waived`` makes it a warning.
    """

    first: Key
    then: Key
    why: Why = ""
    rest_min: Annotated[int, Field(title="Rest between, min", ge=0, le=100_000)] = 0
    straight: q.YesNo = False
    waived: q.YesNo = False


class Run(q.Record):
    """Jobs that follow one another with nothing else on their table between them: blocks of stop motion."""

    jobs: Annotated[tuple[Key, ...], Field(title="Jobs", min_length=2, max_length=60)]
    why: Why = ""


class Changes(q.Record):
    """What it costs to change what stands between two jobs: the largest that differs and a share of the rest.

    Minutes.
    """

    place_min: Minutes = 90
    model_min: Minutes = 40
    light_min: Minutes = 30
    backing_min: Minutes = 25
    position_min: Minutes = 15
    lens_min: Minutes = 5
    costume_min: Minutes = 20
    rest_share: Annotated[float, q.quantity("Share of the rest", "", ge=0, le=1)] = 1.0 / 3.0


class Booking(q.Record):
    """When a job is filmed. A locked one stays."""

    job: Key
    date: q.Day
    start: Clock
    locked: q.YesNo = False


class Shooting(q.Record):
    """All that days are planned from. ``locked`` bookings stay as they are."""

    days: Annotated[tuple[q.Day, ...], Field(title="Possible days", max_length=MOST_DAYS)]
    jobs: Annotated[tuple[Job, ...], Field(title="Jobs", max_length=MOST_JOBS)]
    people: Annotated[tuple[Person, ...], Field(title="People", max_length=MOST_PEOPLE)] = ()
    places: Annotated[tuple[Place, ...], Field(title="Places", max_length=60)]
    travel: Annotated[tuple[Travel, ...], Field(title="Travel", max_length=2000)] = ()
    conditions: Annotated[tuple[Condition, ...], Field(title="Conditions", max_length=MOST_CONDITIONS)] = ()
    order: Annotated[tuple[Order, ...], Field(title="Order", max_length=4000)] = ()
    runs: Annotated[tuple[Run, ...], Field(title="Runs", max_length=100)] = ()
    changes: Changes = Changes()
    locked: Annotated[tuple[Booking, ...], Field(title="Locked", max_length=MOST_JOBS)] = ()
    time_zone: Annotated[str, Field(title="Time zone", max_length=64)] = "UTC"
    grid_min: Annotated[int, Field(title="Times are multiples of, min", ge=1, le=60)] = 5
