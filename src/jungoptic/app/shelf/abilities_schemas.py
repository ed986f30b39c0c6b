"""What the kit can do, over the wire."""

from __future__ import annotations

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.jobs.schemas import JobOut
from jungoptic.core.vocabulary import Units, Verdict


class AbilitiesAsked(Schema):
    """``scale``: the s of a model, 1:s; ``f_number``: the stop of the hero's camera."""

    scale: float = Field(12, ge=1, le=1000)
    f_number: float = Field(8, ge=0.5, le=64)
    iso: float = Field(800, ge=25, le=102_400)
    card_gb: float = Field(128, ge=1, le=100_000)
    units: Units = "metric"


class LensAbilityOut(Schema):
    """In words. ``reaches``: whether the lens stops down as far as the model wants."""

    lens_id: int
    name: str
    view: str
    narrowest: str
    finest: str
    reaches: bool
    reaches_scale: str
    light: str


class ModeAbilityOut(Schema):
    """``hours`` is empty where nobody has said the data rate."""

    mode_id: int
    name: str
    rate: str
    smallest_scale: str
    hours: str
    lenses: list[LensAbilityOut]


class CameraAbilityOut(Schema):
    camera_id: int
    name: str
    modes: list[ModeAbilityOut]


class AbilitiesOut(Schema):
    """``rate``: what a falling thing of this scale wants; ``stop``: what is as blurred as at the hero's;
    ``light``: the most that the lamps throw on a metre together, in one colour.
    """

    rate: str
    stop: str
    light: str
    cameras: list[CameraAbilityOut]


class OpenedAddition(Schema):
    key: str
    title: str


class OpenedShot(Schema):
    """``after``: the shot's verdict with each addition that betters it, by its key."""

    id: int
    code: str
    title: str
    before: Verdict
    shows: int
    after: dict[str, Verdict]
    shows_after: dict[str, int]


class OpenedFound(Schema):
    """``additions``: what was tried; ``holding``: how many shots the kit brings to Holds as it is; ``shots``:
    those that it does not.
    """

    additions: list[OpenedAddition]
    holding: int
    shots: list[OpenedShot]


class OpenedOut(Schema):
    """``stale``: the plan or the kit has changed since."""

    job: JobOut | None
    found: OpenedFound | None
    stale: bool
