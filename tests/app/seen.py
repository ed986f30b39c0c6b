"""Which version a page has seen that has just read: of the row that a write changes, or of what it adds
to.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from typing import Any

from jungoptic.app.builds.models import Build
from jungoptic.app.costs.models import Costing, Figures
from jungoptic.app.days.fields import KINDS as DAY_KINDS
from jungoptic.app.days.models import Booked
from jungoptic.app.footage.models import Card
from jungoptic.app.frames.models import (
    Exposure,
    ExposureSheet,
    FigurePoint,
    Hyperlapse,
    Piece,
    Pose,
    Rig,
    SheetCheat,
    SheetClip,
)
from jungoptic.app.jobs.models import Job
from jungoptic.app.measuring.models import Measurement
from jungoptic.app.productions.models import Invitation, Membership, Place, Production
from jungoptic.app.recipes.models import ShotRecipe
from jungoptic.app.rushes.models import Rush
from jungoptic.app.shelf.rows import KINDS
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.stills.models import Still
from jungoptic.app.stock.models import StockItem
from jungoptic.app.takes.models import Take

Body = Mapping[str, Any]


def _row(model: Any, **where: Any) -> int:
    if not all(isinstance(key, int) for key in where.values()):
        return 1
    return next(iter(model.objects.filter(**where).values_list("version", flat=True)), 1)


def _of(model: Any, group: int = 1) -> Callable[[re.Match[str], Body], int]:
    return lambda path, body: _row(model, pk=int(path[group]))


def _kit_row(path: re.Match[str], body: Body) -> int:
    return _row(KINDS[path[2]].model, pk=int(path[3])) if path[2] in KINDS else 1


def _booking(path: re.Match[str], body: Body) -> int:
    first = next(iter(body.get("bookings") or ()), {})
    set_up = first.get("set_up_id") if isinstance(first, Mapping) else None
    return _row(Booked, set_up=set_up) if isinstance(set_up, int) and 0 < set_up < 2**31 else 1


def _day_row(path: re.Match[str], body: Body) -> int:
    return _row(DAY_KINDS[path[2]].model, pk=int(path[3])) if path[2] in DAY_KINDS else 1


VERSIONS: tuple[tuple[str, Callable[[re.Match[str], Body], int]], ...] = (
    (r"/shots/(\d+)/accept", lambda path, body: _row(Layer, pk=body.get("layer_id", 0))),
    (r"/shots/(\d+)/recipes/(\d+)", _of(ShotRecipe, 2)),
    (r"/shots/(\d+)/costs", lambda path, body: _row(Costing, shot=int(path[1]))),
    (r"/shots/(\d+)/(add|recipes|save-recipe|sign|cautions|who|line|board|cards|page)", _of(Shot)),
    (r"/layers/(\d+)/(?:ticks|picture)", _of(Layer)),
    (r"/cards/(\d+)/(?:filings|copies)", _of(Card)),
    (r"/recordings/(\d+)/(?:curve|frames|decisions)", lambda path, body: _row(Rush, recording=int(path[1]))),
    (r"/recordings/(\d+)/reference", lambda path, body: _row(Take, recordings=int(path[1]))),
    (r"/productions/(\d+)/(?:cards|simulated-card|rushes)", _of(Production)),
    (r"/measurements/(\d+)(?:/\w+(?:/\d+)?)?", _of(Measurement)),
    (r"/productions/(\d+)/measurements", _of(Production)),
    (r"/productions/(\d+)/places/(\d+)", _of(Place, 2)),
    (r"/productions/(\d+)/stock/(\d+)", _of(StockItem, 2)),
    (r"/productions/(\d+)/builds/(\d+)", _of(Build, 2)),
    (r"/productions/(\d+)/invitations/(\d+)", _of(Invitation, 2)),
    (r"/productions/(\d+)/kit/(\w+)/(\d+)", _kit_row),
    (r"/productions/(\d+)/kit(?:-start|-table|-opened|/\w+)", _of(Production)),
    (r"/productions/(\d+)/people/(\d+)", _of(Membership, 2)),
    (r"/productions/(\d+)/days/(\w+)/(\d+)", _day_row),
    (r"/productions/(\d+)/bookings", _booking),
    (r"/productions/(\d+)/(?:days/\w+|days-plan|shooting-days|call-sheets)", _of(Production)),
    (r"/productions/(\d+)", _of(Production)),
    (r"/productions/(\d+)/figures", lambda path, body: _row(Figures, production=int(path[1]))),
    (r"/productions/(\d+)/(places|stock|builds|boards|take-in|book|judging|invitations)", _of(Production)),
    (r"/builds/(\d+)", _of(Build)),
    (r"/takes/(\d+)", _of(Take)),
    (r"/stills/(\d+)", _of(Still)),
    (
        r"/exposure-sheets/(\d+)(?:/(?:rigs|poses|span|pieces|figure-points|pictures|clips|cheats))?",
        _of(ExposureSheet),
    ),
    (r"/set-pieces/(\d+)", _of(Piece)),
    (r"/figure-points/(\d+)(?:/places)?", _of(FigurePoint)),
    (r"/hyperlapses/(\d+)", _of(Hyperlapse)),
    (r"/sheet-clips/(\d+)", _of(SheetClip)),
    (r"/sheet-cheats/(\d+)", _of(SheetCheat)),
    (r"/rigs/(\d+)(?:/turns)?", _of(Rig)),
    (r"/poses/(\d+)", _of(Pose)),
    (r"/exposures/(\d+)", _of(Exposure)),
    (r"/jobs/(\d+)(?:/again)?", _of(Job)),
)


def version_seen(path: str, body: Body) -> int | None:
    """The version as it stands; None for what asks none."""
    for pattern, version in VERSIONS:
        found = re.fullmatch(pattern, path.partition("?")[0])
        if found:
            return version(found, body)
    return None
