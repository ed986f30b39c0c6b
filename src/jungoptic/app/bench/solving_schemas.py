"""Solving over the wire: what is asked, and the answers."""

from __future__ import annotations

from pydantic import BaseModel as Schema

from jungoptic.app.base.schemas import Changes
from jungoptic.app.bench.schemas import ChangeSet
from jungoptic.core.match import Difference
from jungoptic.core.vocabulary import School, Units, Verdict


class ScaleRowOut(Schema):
    scale: float
    size: str
    distance: str
    lens_height: str
    stop_wanted: str
    rate_wanted_fps: float
    finest: str
    verdict: Verdict
    shows: int
    tight: int
    worst: str
    light: str
    fits: bool
    against: list[str]


class ScalesOut(Schema):
    layer_id: int
    rows: list[ScaleRowOut]


class SolveIn(ChangeSet):
    locked: list[str] = []
    school: School = "measured"
    units: Units = "metric"


class AnswerOut(Schema):
    set_up: Changes
    layers: dict[int, Changes]
    verdict: Verdict
    shows: int
    tight: int
    holds: int
    changes: list[Difference]
    sentences: list[str]


class SolveOut(Schema):
    layer_id: int
    set_up_id: int
    answers: list[AnswerOut]
