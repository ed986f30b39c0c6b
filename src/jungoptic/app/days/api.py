"""The days: who, where and when, the board, and planning."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from jungoptic.app.base.answers import written
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Written
from jungoptic.app.days.ahead import ahead
from jungoptic.app.days.ahead_schemas import OutlookOut, SunChartOut
from jungoptic.app.days.answers import bookings_of, day_out, days_out, tried
from jungoptic.app.days.fields import KINDS
from jungoptic.app.days.jobs import Asked, plan_days
from jungoptic.app.days.keeping import add_row, book, change_row, kind_called
from jungoptic.app.days.reading import DaysOf
from jungoptic.app.days.schemas import (
    BookingsIn,
    BookingsTried,
    DayRowChange,
    DayRowIn,
    DaysOut,
    DaysTriedOut,
    PlanIn,
    ShootingDayOut,
    ShootingDaysIn,
)
from jungoptic.app.days.sun import sun_chart
from jungoptic.app.jobs.asking import ask_for
from jungoptic.app.jobs.schemas import JobOut
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.productions.models import Production
from jungoptic.app.productions.writing import in_production
from jungoptic.core.days import day_text, plan_faults
from jungoptic.core.errors import InputError

router = Router()


def _days(production_id: int) -> DaysOf:
    return DaysOf(Production.objects.select_related("figures").get(pk=production_id))


@router.get("/productions/{production_id}/days", response=DaysOut)
def read_days(request: HttpRequest, production_id: int) -> Any:
    """The jobs, the days that there are, and the plan. Anybody in the production."""
    role = access.role_in(request, production_id)
    return days_out(_days(production_id), role)


@router.get("/productions/{production_id}/shooting-days/{day}", response={200: ShootingDayOut, 422: Problems})
def read_shooting_day(request: HttpRequest, production_id: int, day: date) -> Any:
    """One day as a crew follows it: late or early, what no longer fits, what fills a gap. Anybody in the
    production.
    """
    role = access.role_in(request, production_id)
    return day_out(_days(production_id), role, day)


@router.get("/productions/{production_id}/sun-charts/{set_up_id}", response={200: SunChartOut, 422: Problems})
def read_sun_chart(
    request: HttpRequest, production_id: int, set_up_id: int, day: date, block: int = 0
) -> Any:
    """The sun for the job of a set-up, on a day and in the weeks around. Anybody in the production."""
    access.role_in(request, production_id)
    return sun_chart(_days(production_id), set_up_id, block, day)


@router.get("/productions/{production_id}/outlook", response=OutlookOut)
def read_outlook(request: HttpRequest, production_id: int) -> Any:
    """When it will all be finished, at the pace so far. Anybody in the production."""
    access.role_in(request, production_id)
    return ahead(_days(production_id))


@router.post("/productions/{production_id}/days-tried", response={200: DaysTriedOut, 422: Problems})
def try_bookings(request: HttpRequest, production_id: int, payload: BookingsTried) -> Any:
    """What the plan would cost and break with some jobs at other times. Anybody in the production."""
    access.role_in(request, production_id)
    days = _days(production_id)
    return tried(days, bookings_of(days, payload.bookings))


@router.put("/productions/{production_id}/bookings", response={200: DaysOut, 409: Problems, 422: Problems})
@writes
def change_bookings(request: HttpRequest, production_id: int, payload: BookingsIn) -> Any:
    """Film jobs at other times, or on no day; lock them. The supervisor."""
    role = access.role_in(request, production_id, access.WRITES)
    with in_production(person(request), production_id) as write:
        book(write, [row.model_dump() for row in payload.bookings])
    return days_out(_days(production_id), role)


@router.post(
    "/productions/{production_id}/shooting-days", response={201: DaysOut, 409: Problems, 422: Problems}
)
@writes
def new_shooting_days(request: HttpRequest, production_id: int, payload: ShootingDaysIn) -> Any:
    """Dates on which something can be filmed, in one go. The supervisor."""
    role = access.role_in(request, production_id, access.WRITES)
    with in_production(person(request), production_id, payload.version) as write:
        for day in payload.dates:
            add_row(write, KINDS["day"], {"date": day})
    return Status(201, days_out(_days(production_id), role))


@router.post("/productions/{production_id}/days-plan", response={202: JobOut, 409: Problems, 422: Problems})
@writes
def have_days_planned(request: HttpRequest, production_id: int, payload: PlanIn) -> Any:
    """Have the jobs ordered into days. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    days = _days(production_id)
    faults = plan_faults(days.shooting)
    if payload.rains_on is not None and payload.rains_on not in days.open_dates:
        raise InputError.at(
            "rains_on", f"{day_text(payload.rains_on)} is over, or none of the shooting days."
        )
    if faults:
        raise InputError(*faults)
    with in_production(person(request), production_id, payload.version) as write:
        title = "Days planned again" if payload.again else "Days planned"
        if payload.rains_on is not None:
            title = f"Rain on {day_text(payload.rains_on)}"
        asked = Asked(**payload.model_dump(exclude={"version"}))
        return Status(202, JobOut.of(ask_for(write, plan_days, title, asked)))


@router.post(
    "/productions/{production_id}/days/{kind}", response={201: Written, 409: Problems, 422: Problems}
)
@writes
def new_row_of_days(request: HttpRequest, production_id: int, kind: str, payload: DayRowIn) -> Any:
    """A person who is called, a shooting day, a condition, a way, an order; what is said of a job, of a site,
    of the figures. The supervisor.
    """
    access.role_in(request, production_id, access.WRITES)
    with in_production(person(request), production_id, payload.version) as write:
        row = add_row(write, kind_called(kind), payload.fields)
    return Status(201, written(write, row.pk, row.version))


@router.patch(
    "/productions/{production_id}/days/{kind}/{row_id}", response={200: Written, 409: Problems, 422: Problems}
)
@writes
def change_row_of_days(
    request: HttpRequest, production_id: int, kind: str, row_id: int, payload: DayRowChange
) -> Any:
    """Say something else of a row of the days, take it out or bring it back. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    with in_production(person(request), production_id) as write:
        row = change_row(write, kind_called(kind), row_id, payload.version, payload.changes)
    return written(write, row.pk, row.version)
