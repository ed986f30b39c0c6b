"""Costs over the wire."""

from __future__ import annotations

from pydantic import BaseModel as Schema

from jungoptic.app.base.schemas import Seen
from jungoptic.core.breakdown import Hours, Job, Saving, Wanted
from jungoptic.core.handbook import CardField


class OptionOut(Schema):
    key: str
    name: str
    school: str
    layers: list[str]
    hours: float
    days: float
    chosen: bool
    crafts: list[Hours]
    wanted: list[Wanted]
    cautions: list[str]
    shows: list[str]
    savings: list[Saving]
    mended: Hours


class CostingOut(Schema):
    version: int
    chosen: str
    job: Job
    derived: Job
    said: list[str]
    options: list[OptionOut]
    fields: list[CardField]
    crafts: list[str]
    fitting: list[str]
    hours_spent: float


class CostIn(Seen):
    """What is said of the costs; None goes back to what follows from the shot."""

    changes: dict[str, float | int | bool | str | None]


class FiguresOut(Schema):
    version: int
    values: dict[str, float]
    fields: list[CardField]


class FiguresIn(Seen):
    changes: dict[str, int | float]
