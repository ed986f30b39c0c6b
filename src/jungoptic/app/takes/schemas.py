"""The Log over the wire."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Changes, Role, Seen, Units, Verdict
from jungoptic.core.match.differences import Difference
from jungoptic.core.plan.dials import Mark


class TakeIn(Schema):
    actual: Changes = {}
    note: str = Field("", max_length=2000)
    circled: bool = False
    recorded_at: datetime | None = None
    units: Units = "metric"


class CircleIn(Seen):
    circled: bool
    units: Units = "metric"


class TakeItemOut(Schema):
    item: str
    label: str
    where: str
    amount_text: str
    unit: str
    ladder: float
    verdict: Verdict
    sentence: str


class TakeOut(Schema):
    id: int
    layer_id: int
    layer_name: str
    number: int
    slate: str
    circled: bool
    note: str
    recorded_at: datetime
    recorded_by: str
    version: int
    verdict: Verdict
    shows: int
    tight: int
    holds: int
    against: str
    differences: list[Difference]
    items: list[TakeItemOut]


class SettingOut(Schema):
    """One line of the set-up card at the camera."""

    field: str
    label: str
    text: str
    value: float | None
    unit: str
    quantity: Literal["number", "length", "light"]
    choices: list[Mark]


class LogLayerOut(Schema):
    id: int
    name: str
    kind: str
    is_hero: bool
    verdict: Verdict
    shows: int
    tight: int
    holds: int
    next_take: int
    settings: list[SettingOut]
    takes: list[TakeOut]


class LogOut(Schema):
    shot_id: int
    code: str
    title: str
    production_id: int
    role: Role
    previous_id: int | None
    next_id: int | None
    hero_basis: str
    layers: list[LogLayerOut]
