"""What may be said of each kind of row of the days, with limits; and which row another one names."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Annotated, Any

from django.db import models
from pydantic import Field

from jungoptic.app.days.models import (
    Condition,
    DayFigures,
    Hand,
    JobSaid,
    OfTheDays,
    OrderSaid,
    ShootingDay,
    Site,
    Travel,
)
from jungoptic.app.productions.models import Place
from jungoptic.app.shots.models import SetUp
from jungoptic.core import days as core
from jungoptic.core import quantities as q

Name = Annotated[str, Field(title="Name", min_length=1, max_length=40)]
Names = Annotated[tuple[Name, ...], Field(max_length=20)]
Note = Annotated[str, Field(max_length=300)]
Hours = Annotated[tuple[core.Hours, ...], Field(title="Hours", max_length=200)]
Dates = Annotated[tuple[q.Day, ...], Field(title="Days off", max_length=366)]
Minutes = Annotated[int, Field(title="Minutes", ge=0, le=1440)]
Row = Annotated[int, Field(ge=1, le=2**31 - 1)]


class FiguresFields(core.DayFigures):
    stage_id: Row | None = None


class DayFields(q.Record):
    date: q.Day
    rained_from_min: Annotated[int | None, Field(title="Rain from", ge=0, le=core.LATEST_MIN)] = None
    wrapped: q.YesNo = False
    note: Note = ""


class HandFields(q.Record):
    name: Name
    role: Annotated[str, Field(title="Role", max_length=80)] = ""
    duty: core.Duty = "none"
    plays: Names = ()
    hours: Hours = ()
    off: Dates = ()
    longest_day_min: Annotated[int, Field(title="Longest day, min", ge=15, le=1440)] = 600
    most_min: Annotated[int | None, Field(title="In all, min", ge=5, le=100_000)] = None


class SiteFields(q.Record):
    place_id: Row
    hours: Hours = ()
    off: Dates = ()
    noise: Hours = ()
    models_at_once: Annotated[int, Field(title="Models that can stand at once", ge=0, le=50)] = 2
    latitude_deg: Annotated[float | None, q.quantity("Latitude", "°", ge=-90, le=90)] = None
    longitude_deg: Annotated[float | None, q.quantity("Longitude", "°", ge=-180, le=180)] = None
    horizon: Annotated[tuple[core.HorizonPoint, ...], Field(title="Horizon", max_length=360)] = ()


class ConditionFields(q.Record):
    name: Name
    hours: Hours = ()


class TravelFields(q.Record):
    here_id: Row
    there_id: Row
    minutes: Minutes


def _yes(title: str, description: str = "") -> Any:
    return Field(title=title, description=description or None)


class JobFields(q.Record):
    set_up_id: Row
    before_min: Annotated[int | None, Field(title="Rig and light, min", ge=0, le=1440)] = None
    takes_min: Annotated[int | None, Field(title="Takes, min", ge=1, le=1440)] = None
    after_min: Annotated[int | None, Field(title="Strike, min", ge=0, le=1440)] = None
    place_id: Row | None = None
    people: Names | None = None
    hour: core.Light | Annotated[str, Field(pattern="^$")] = ""
    outdoors: bool | None = None
    tight_will_do: Annotated[q.YesNo, _yes("Tight sun will do")] = False
    noisy: Annotated[q.YesNo, _yes("Makes noise", "Only at its place's noise hours.")] = False
    destroys: Annotated[q.YesNo, _yes("Destroys the model", "Everything else on it comes before.")] = False
    unit: Annotated[str, Field(title="Unit", max_length=40, description="A second crew by a name.")] = ""
    costume: Annotated[str, Field(title="Costume", max_length=80)] = ""
    fall_back: Annotated[str, Field(title="If it rains", max_length=300)] = ""
    needs: Annotated[tuple[Name, ...], Field(title="Needs", max_length=10)] = ()
    clear_of: Annotated[tuple[Name, ...], Field(title="Keeps clear of", max_length=10)] = ()
    left_out: Annotated[q.YesNo, _yes("Not filmed at all")] = False


SHOWN_OF_JOB = (
    "before_min",
    "takes_min",
    "after_min",
    "unit",
    "costume",
    "fall_back",
    "tight_will_do",
    "noisy",
    "destroys",
    "left_out",
)  # fields of a job that are shown as they are; the others are chosen from what there is


class OrderFields(q.Record):
    first_id: Row
    then_id: Row
    why: Note = ""
    rest_min: Annotated[int, Field(title="Rest between, min", ge=0, le=100_000)] = 0
    straight: q.YesNo = False
    waived: q.YesNo = False


@dataclass(frozen=True)
class Kind:
    """A kind of row: what may be said, which columns name rows of the production, which say who it is;
    ``says_of`` where it says something of what is there anyway, so that there is one at the most; how many
    there can be.
    """

    model: type[OfTheDays]
    word: str
    fields: type[q.Record]
    same: tuple[str, ...]
    names: dict[str, Callable[[int], Any]] = field(default_factory=dict)
    says_of: bool = False
    most: int | None = None

    def columns(self, record: q.Record) -> dict[str, Any]:
        """Values for the columns: what is a list of records as JSON."""
        told: dict[str, Any] = {}
        for name in self.model.FIELDS:
            value = getattr(record, name)
            column = self.model._meta.get_field(name.removesuffix("_id"))
            if isinstance(column, models.JSONField):
                value = record.model_dump(mode="json")[name]
            elif isinstance(value, tuple):
                value = list(value)
            told[name] = value
        return told

    def record(self, values: dict[str, Any]) -> q.Record:
        """What is said, checked; hours as they are kept are read again."""
        return self.fields.read(values)


def _places(production_id: int) -> Any:
    return Place.objects.filter(production=production_id, removed=False)


def _set_ups(production_id: int) -> Any:
    return SetUp.objects.filter(shot__production=production_id, shot__removed=False)


KINDS: dict[str, Kind] = {
    "figures": Kind(DayFigures, "day figures", FiguresFields, (), {"stage_id": _places}, says_of=True),
    "day": Kind(ShootingDay, "shooting day", DayFields, ("date",), most=core.MOST_DAYS),
    "person": Kind(Hand, "person called", HandFields, ("name",), most=core.MOST_PEOPLE),
    "site": Kind(Site, "site", SiteFields, ("place_id",), {"place_id": _places}, says_of=True),
    "condition": Kind(Condition, "condition", ConditionFields, ("name",), most=core.MOST_CONDITIONS),
    "travel": Kind(
        Travel, "travel", TravelFields, ("here_id", "there_id"), {"here_id": _places, "there_id": _places}
    ),
    "job": Kind(
        JobSaid,
        "job of a day",
        JobFields,
        ("set_up_id",),
        {"set_up_id": _set_ups, "place_id": _places},
        says_of=True,
    ),
    "order": Kind(
        OrderSaid,
        "order",
        OrderFields,
        ("first_id", "then_id"),
        {"first_id": _set_ups, "then_id": _set_ups},
        says_of=True,
    ),
}
BY_WORD = {kind.word: kind for kind in KINDS.values()}
