"""Hyperlapses over the wire."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel as Schema
from pydantic import Field

from jungoptic.app.base.schemas import Seen
from jungoptic.app.frames.point_schemas import PointName
from jungoptic.core.frames import HyperPlan
from jungoptic.core.vocabulary import Verdict

Sides = Annotated[list[float], Field(min_length=2, max_length=2)]
"""At the sides, and at top and bottom."""


class StationOut(Schema):
    """Where a photograph is taken from: to the right of the first and ahead of it, m; turned clockwise since,
    degrees.
    """

    right_m: float
    ahead_m: float
    turned_deg: float


class RhythmOut(Schema):
    """The least interval, by how much the planned one is too short, and how long all of it takes, s."""

    least_s: float
    lacks_s: float
    takes_s: float


class MoverOut(Schema):
    """How far something goes from one photograph to the next, delivered px a frame; ``strobes`` where that is
    more than an eye joins; and how far it smears in each.
    """

    name: str
    px: float
    strobes: bool
    smears_px: float


class AimOut(Schema):
    """How one photograph is aimed: to the right of the guide mark and below it, delivered px, null where the
    point was not found; and by how much it is laid to the right and down to be steady, shares of it.
    """

    place: int
    exposure_id: int
    right_px: float | None
    down_px: float | None
    verdict: Verdict
    shift: Sides | None


class SteadiedOut(Schema):
    """What it costs to make it steady, shares of the width: off every side, what is left, and what of that is
    delivered; and by how much what was recorded is enlarged then.
    """

    margin: float
    crop: float
    kept: float
    enlarged: float
    verdict: Verdict


class HyperlapseOut(Schema):
    """A hyperlapse as it is planned and as its photographs are aimed: ``frame_px`` is how large those are in
    delivered px, ``spare_px`` the margin on each side, ``left_px`` what of it the aims leave, ``most_px`` the
    worst of them; an aim ``holds`` up to that share of the margin; ``again`` are the places in the sheet of
    what is worth taking again; ``steadied`` is null where the point is found in too few. ``open_deg`` is how
    long each is exposed, of a turn of 360 an interval; ``sharp_s`` the longest exposure in which the point of
    a camera that goes on does not smear, null where that holds.
    """

    id: int
    point_id: int
    name: str
    plan: HyperPlan
    step_m: float
    stations: list[StationOut]
    rhythm: RhythmOut
    movers: list[MoverOut]
    open_deg: float
    sharp_s: float | None
    frame_px: Sides
    spare_px: Sides
    left_px: Sides
    most_px: float
    aims: list[AimOut]
    holds: float
    again: list[int]
    steadied: SteadiedOut | None
    version: int


class HyperlapseIn(Schema):
    """Plan a hyperlapse of a layer: what the reference point is called; what is left out of the plan follows
    from the shot's move and its first tracking mark.
    """

    name: PointName | None = None
    plan: HyperPlan | None = None


class HyperlapseChange(Seen):
    """Another plan."""

    plan: HyperPlan
