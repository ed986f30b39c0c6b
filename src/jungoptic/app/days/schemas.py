"""The days over the wire. Times are minutes after midnight of the shooting day."""

from __future__ import annotations

from datetime import date, datetime
from typing import Annotated, Any

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Seen
from jungoptic.core.days import LATEST_MIN, MOST_DAYS
from jungoptic.core.handbook import CardField


class DayRowIn(Seen):
    """A new row; ``version`` is the production's."""

    fields: dict[str, Any]


class DayRowChange(Seen):
    """What is said otherwise of a row; ``removed`` takes it out, or brings it back."""

    changes: dict[str, Any]


class BookingIn(Schema):
    """A set-up, or one block of it (from 1), on a day at a time; no date = on no day. ``version`` is that of
    the booking, 0 where there is none yet.
    """

    set_up_id: Annotated[int, Field(ge=1, le=2**31 - 1)]
    block: Annotated[int, Field(ge=0, le=500)] = 0
    version: Annotated[int, Field(ge=0, le=2**31 - 1)] = 0
    date: date | None
    start_min: Annotated[int, Field(ge=0, le=LATEST_MIN)] = 0
    locked: bool = False


class BookingsIn(Schema):
    """Bookings that change together."""

    bookings: Annotated[list[BookingIn], Field(min_length=1, max_length=400)]


class BookingOut(Schema):
    job: str
    set_up_id: int
    block: int
    version: int
    date: date | None
    start_min: int
    locked: bool


class WindowOut(Schema):
    start_min: int
    end_min: int
    holds: bool


class ChangedOut(Schema):
    """Something that is changed between two jobs, and how long that takes by itself."""

    kind: str
    minutes: int


class SpanOut(Schema):
    start_min: int
    end_min: int


class ChoiceOut(Schema):
    """Something to choose, and what it is called."""

    key: str
    title: str


class SlotOut(Schema):
    """A job on its day; what is changed before it (kind, minutes), and what is left over then. ``state`` is
    ``done``, ``running`` or ``next``; ``late_min`` counts from when it was booked, less than 0 = earlier.
    """

    job: str
    state: str
    late_min: int
    start_min: int
    takes_from_min: int
    takes_to_min: int
    end_min: int
    locked: bool
    change: list[ChangedOut]
    change_min: int
    idle_min: int
    windows: list[WindowOut]


class CallOut(Schema):
    person: str
    from_min: int
    to_min: int
    waits_min: int
    waits: list[SpanOut]


class BoardDayOut(Schema):
    """One shooting day; ``sun`` is its height every quarter of an hour from 00:00 to 36:00, degrees, where
    anybody said where the place lies. ``over`` is one on which nothing more is planned; ``now_min`` how far
    the one is that is under way, ``late_min`` by how much its last job is later than booked.
    """

    id: int
    version: int
    date: date
    name: str
    note: str
    rained_from_min: int | None
    wrapped: bool
    over: bool
    now_min: int | None
    late_min: int
    units: list[str]
    slots: list[SlotOut]
    calls: list[CallOut]
    places: list[str]
    daylight: list[SpanOut]
    sun: list[float]


class JobOfDayOut(Schema):
    """A job as it is planned, of a set-up or of one block of it (from 1; 0 = all of it); ``set_ups`` are all
    that it films, ``said`` and ``version`` the row that says otherwise than follows from the shots.
    ``filmed``: its takes are circled. ``slipped_from``: the day that is over on which it was booked.
    """

    key: str
    shot_id: int
    set_up_id: int
    block: int
    set_ups: list[int]
    name: str
    shots: list[str]
    before_min: int
    takes_min: int
    after_min: int
    unit: str
    place: str
    camera: str
    lens: str
    model: str
    light: str
    backing: str
    position: str
    costume: str
    people: list[str]
    outdoors: bool
    fall_back: str
    hour: str
    sun: bool
    tight_will_do: bool
    noisy: bool
    needs: list[str]
    clear_of: list[str]
    said: int | None
    version: int
    filmed: bool
    slipped_from: date | None


class OrderOut(Schema):
    first: str
    then: str
    why: str
    rest_min: int
    straight: bool
    waived: bool


class DayRowOut(Schema):
    """A row of the days with its kind and what is said of it."""

    kind: str
    id: int | None
    version: int
    name: str
    fields: dict[str, Any]


class BreakOut(Schema):
    """A rule that the plan breaks, in words; ``warns`` is one that was waived."""

    kind: str
    jobs: list[str]
    day: date | None
    warns: bool
    sentence: str


class DaysCostsOut(Schema):
    """What the plan costs; ``fewest_days`` and ``fewest_people_days`` are proven, 0 where nothing is."""

    days: int
    people_days: int
    changing_min: int
    waiting_min: int
    fewest_days: int
    fewest_people_days: int
    best: bool


class GuestOut(Schema):
    """Somebody whose time in all is limited: minutes to spare, and in words what is lost beyond them."""

    person: str
    spare_min: int
    sentence: str


class DaysOut(Schema):
    """All that the board of days shows. ``why`` says what kept jobs out at the last planning; ``stale`` that
    something it was planned from has changed since; ``faults`` what nothing can be planned from;
    ``under_way`` are the days as the best plan so far has them while one is made. Times are multiples of
    ``grid_min``, up to ``latest_min``. ``said_of`` names, for the kinds of row that say something of what is
    there anyway, the fields by which they are found: of each there is one.
    """

    production_id: int
    version: int
    role: str
    jobs: list[JobOfDayOut]
    order: list[OrderOut]
    days: list[BoardDayOut]
    bookings: list[BookingOut]
    unplaced: list[str]
    costs: DaysCostsOut
    breaks: list[BreakOut]
    guests: list[GuestOut]
    why: list[str]
    stale: bool
    faults: list[str]
    rows: list[DayRowOut]
    said_of: dict[str, list[str]]
    under_way: list[BoardDayOut]
    places: list[PlaceOfDaysOut]
    fields: dict[str, list[CardField]]
    lights: list[ChoiceOut]
    duties: list[ChoiceOut]
    weekdays: list[ChoiceOut]
    grid_min: int
    latest_min: int


class BookingsTried(Schema):
    """Bookings as they would be, of jobs that are moved; the others stay."""

    bookings: Annotated[list[BookingIn], Field(min_length=1, max_length=400)]


class DaysTriedOut(Schema):
    """What the moved plan costs, the days as they would be, and which rules it breaks."""

    costs: DaysCostsOut
    breaks: list[BreakOut]
    days: list[BoardDayOut]


class ShootingDaysIn(Seen):
    """Dates on which something can be filmed."""

    dates: Annotated[list[date], Field(min_length=1, max_length=MOST_DAYS)]


class PlanIn(Seen):
    """Have the days planned; ``again`` changes as little as can be. ``rains_on`` says before that it rains on
    a day, from a minute on: nothing is filmed outdoors then.
    """

    again: bool = False
    rains_on: date | None = None
    rains_from_min: Annotated[int, Field(ge=0, le=LATEST_MIN)] = 0


class DropOut(Schema):
    """Jobs without which the rest of the day fits, with what that loses, in words."""

    jobs: list[str]
    sentence: str


class FillerOut(Schema):
    """A job of another day, or of none, that fits into spare minutes."""

    job: str
    change: list[ChangedOut]
    change_min: int
    end_min: int


class LightOut(Schema):
    """A kind of daylight on a day at the place where it is spent: golden, twilight, day."""

    kind: str
    spans: list[SpanOut]


class CallSheetOut(Schema):
    """The last call sheet that was given out of a day, and what is otherwise by now, in words."""

    number: int
    issued_at: datetime
    issued_by: str
    job: int | None
    changed: list[str]


class PersonOfDayOut(Schema):
    """Somebody on a day: the hours at which they are there by what was typed, and whether they are off."""

    id: int
    name: str
    off: bool
    hours: list[SpanOut]


class ShootingDayOut(Schema):
    """One day as a crew follows it: jobs as they are to be expected, what no longer fits and could be
    dropped, what fills spare minutes, the last call sheet.
    """

    production_id: int
    version: int
    role: str
    day: BoardDayOut
    before: date | None
    after: date | None
    jobs: list[JobOfDayOut]
    breaks: list[BreakOut]
    drop: DropOut | None
    fillers: list[FillerOut]
    light: list[LightOut]
    people: list[PersonOfDayOut]
    guests: list[GuestOut]
    sheet: CallSheetOut | None


class PlaceOfDaysOut(Schema):
    """A place of the production, with the row that says more of it where there is one."""

    id: int
    name: str
    site: int | None
