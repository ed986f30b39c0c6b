"""Measurements over the wire."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Seen
from jungoptic.core.handbook import CardField
from jungoptic.core.quantities import YesNo
from jungoptic.core.vocabulary import Verdict


class GuideOut(Schema):
    """A measurement as it is guided; ``fields`` are what is asked for it."""

    key: str
    title: str
    tells: str
    of: Literal["lens", "mode", "lamp"]
    minutes: int
    frames: int
    fewest: int
    chart: str
    steps: list[str]
    fields: list[CardField]


class ThingOut(Schema):
    """A lens, a recording or a lamp that can be measured; ``camera_id`` of a recording, or of a lens that is
    built in.
    """

    id: int
    name: str
    camera_id: int | None = None


class MeasuredOut(Schema):
    """A measurement in a line. ``says`` is what came of it, or what is missing."""

    id: int
    name: str
    kind: str
    begun_at: datetime
    begun_by: str
    kept_at: datetime | None
    pictures: int
    says: str
    version: int


class MeasuringOut(Schema):
    version: int
    guides: list[GuideOut]
    cameras: list[ThingOut]
    modes: list[ThingOut]
    lenses: list[ThingOut]
    lamps: list[ThingOut]
    measured: list[MeasuredOut]


class PictureTold(Schema):
    """What a picture told. ``px``: where corners of the board are, as shares of the frame."""

    id: int
    name: str
    says: str
    stops: float | None
    px: list[list[float]]


class ValueOut(Schema):
    """A value with its error (two deviations), and what the kit says now; ``kept`` where it goes into it."""

    title: str
    text: str
    off: str
    now: str
    kept: bool


class MeasurementOut(Schema):
    """A measurement: what was said and filmed, and what comes of it, or what is missing."""

    id: int
    version: int
    name: str
    kind: str
    recording: str
    asked: dict[str, Any]
    pictures: list[PictureTold]
    values: list[ValueOut]
    says: str
    missing: str
    kept_at: datetime | None
    begun_by: str
    removed: bool


class EffectOut(Schema):
    """A verdict that the measurement changes: as it was planned, as it really is, and as it is once the dial
    stands where it is wanted.
    """

    shot_id: int
    shot: str
    layer: str
    item: str
    planned: str
    planned_verdict: Verdict
    really: str
    verdict: Verdict
    to_do: str = ""
    then: str = ""
    then_verdict: Verdict | None = None


class EffectsOut(Schema):
    """``shots``: how many it films at all; ``left_out``: lines that are not listed."""

    lines: list[EffectOut]
    shots: int
    left_out: int


class MeasureIn(Seen):
    """Begin a measurement; ``version`` is the production's."""

    kind: str
    mode_id: int
    lens_id: int | None = None
    lamp_id: int | None = None
    asked: dict[str, Any] = Field(default_factory=dict)


class AskedIn(Seen):
    asked: dict[str, Any]


class PictureChange(Seen):
    """Drop a picture, or say by how many stops it is over the metered one."""

    dropped: YesNo = False
    stops: float | None = Field(None, ge=-20, le=20)


class DiscardIn(Seen):
    discarded: YesNo
