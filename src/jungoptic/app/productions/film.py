"""What a production is: its title, its delivery, where it is shot; changed field by field."""

from __future__ import annotations

from collections.abc import Mapping
from functools import cache
from typing import Annotated, Any
from zoneinfo import available_timezones

from pydantic import AfterValidator, BeforeValidator, Field

from jungoptic.app.base.edits import Writing
from jungoptic.app.productions.models import Production
from jungoptic.core import quantities as q
from jungoptic.core.errors import FieldProblem, InputError
from jungoptic.core.kit import exact_rate_fps

LONGEST_SIDE_PX = 16_384


def _typed_rate(value: Any) -> Any:
    """A rate as it is typed: 23.98, or 24000/1001."""
    if isinstance(value, str):
        above, _, below = value.replace(",", ".").partition("/")
        try:
            return float(above) / float(below or 1)
        except (ValueError, ZeroDivisionError):
            return value
    return value


class Film(q.Record):
    """One film: what is delivered, and where and with how much room it is made."""

    title: Annotated[str, Field(title="Title", max_length=120)]
    delivery_width_px: Annotated[int, q.quantity("Width", "px", ge=16, le=LONGEST_SIDE_PX)] = 1920
    delivery_height_px: Annotated[int, q.quantity("Height", "px", ge=16, le=LONGEST_SIDE_PX)] = 1080
    frame_rate_fps: Annotated[q.FramesPerS, BeforeValidator(_typed_rate), AfterValidator(exact_rate_fps)] = (
        24.0
    )
    mains_hz: Annotated[int, q.quantity("Mains", "Hz", ge=16, le=400)] = 50
    time_zone: Annotated[str, Field(title="Time zone", max_length=64)] = "UTC"
    latitude_deg: Annotated[
        float | None, q.quantity("Latitude", "°", "North is positive.", ge=-90, le=90)
    ] = None
    longitude_deg: Annotated[
        float | None, q.quantity("Longitude", "°", "East is positive.", ge=-180, le=180)
    ] = None
    backings: Annotated[int, q.quantity("Coloured sheets", "", ge=0, le=1000)] = 0
    stage_length_m: Annotated[
        float | None, q.quantity("Stage, length", "m", "Along the view.", gt=0, le=1000)
    ] = None
    stage_width_m: Annotated[float | None, q.quantity("Stage, width", "m", gt=0, le=1000)] = None
    beams_m: Annotated[float | None, q.quantity("Up to the beams", "m", gt=0, le=1000)] = None
    put_away: q.YesNo = False


FIELDS = tuple(Film.model_fields)
JUDGES = frozenset(FIELDS) - {"title", "time_zone", "put_away", "backings"}  # what verdicts hang on


@cache
def zones() -> tuple[str, ...]:
    """The zones of the tz database that a clock on the wall can have."""
    named = (name for name in available_timezones() if "/" in name and not name.startswith("Etc/"))
    return (*sorted(named), "UTC")


def checked(values: Mapping[str, Any]) -> Film:
    """A whole film. Raises InputError at every field that is wrong."""
    problems: list[FieldProblem] = []
    film: Film | None = None
    try:
        film = Film.read(dict(values))
    except InputError as error:
        problems += error.problems
    title, zone = values.get("title"), values.get("time_zone", "UTC")
    if isinstance(title, str) and not title.strip():
        problems.append(FieldProblem("title", "A film needs a title; a working title will do."))
    if isinstance(zone, str) and zone not in zones():
        problems.append(
            FieldProblem("time_zone", f"There is no time zone “{zone}”; they are like Europe/London.")
        )
    if (values.get("latitude_deg") is None) != (values.get("longitude_deg") is None):
        lacks = "latitude_deg" if values.get("latitude_deg") is None else "longitude_deg"
        problems.append(FieldProblem(lacks, "A place needs both: latitude and longitude."))
    if problems or film is None:
        raise InputError(*problems)
    return film.model_copy(update={"title": film.title.strip()})


def as_it_is(production: Production) -> dict[str, Any]:
    return {name: getattr(production, name) for name in FIELDS}


def tried(production: Production, changes: Mapping[str, Any]) -> dict[str, Any]:
    """The fields that would be another, checked with all the others. Raises InputError."""
    now = as_it_is(production)
    film = checked({**now, **changes})
    return {name: getattr(film, name) for name in changes if getattr(film, name) != now[name]}


def change(write: Writing, production: Production, version: int, changes: Mapping[str, Any]) -> None:
    """Save what is given. Raises InputError or ConflictError."""
    write.refuse_unseen("production", production, version)
    write.save("production", production, tried(production, changes))
