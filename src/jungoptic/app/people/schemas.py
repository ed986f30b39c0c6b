"""An account over the wire."""

from __future__ import annotations

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Dates, Theme, WeekStart
from jungoptic.core.quantities import YesNo
from jungoptic.core.vocabulary import School, Units


class PersonOut(Schema):
    username: str
    name: str
    units: Units
    theme: Theme
    school: School
    single_keys: bool
    dates: Dates
    week_starts: WeekStart


class SessionOut(Schema):
    """``events``: the address at which ``/events/{production}`` tells what happens, or none."""

    person: PersonOut | None
    events: str | None = None


class SignIn(Schema):
    username: str = Field(max_length=150)
    password: str = Field(max_length=200)


class Preferences(Schema):
    units: Units | None = None
    theme: Theme | None = None
    school: School | None = None
    single_keys: YesNo | None = None
    dates: Dates | None = None
    week_starts: WeekStart | None = None
    name: str | None = Field(None, max_length=150)


class NewPassword(Schema):
    old: str = Field(max_length=200)
    new: str = Field(max_length=200)
