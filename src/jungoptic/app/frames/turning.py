"""A rig's crank turned by its motor, as a job: to where the next pose wants it, slack taken up."""

from __future__ import annotations

import time
from collections.abc import Callable

from pydantic import BaseModel

from jungoptic.app.base.edits import Writing
from jungoptic.app.devices.in_use import device
from jungoptic.app.devices.protocols import Axis, DeviceError
from jungoptic.app.devices.protocols import Rig as Driven
from jungoptic.app.frames import keeping
from jungoptic.app.frames.models import Rig
from jungoptic.app.jobs.kinds import job_kind
from jungoptic.app.jobs.running import Running, StoppedError
from jungoptic.app.productions.access import LOGS
from jungoptic.app.shots.writing import in_shot
from jungoptic.core.errors import InputError
from jungoptic.core.frames import counted, turnings

CRANK = "crank"
AXIS = Axis("deg", -1e7, 1e7, 720.0)
"""Of a motor on a crank, from where it stood when it was told to turn."""
COMES_TO_REST_S = 3.0
_TURN_DEG = 360.0
_LOOKS_EVERY_S = 0.1
_CHANGED = "The rig was changed since: look at it, and turn it by what is said now."
_INTERRUPTED = (
    "It was interrupted, and nobody knows where it stands: read its marks, type in where it stands, then turn"
    " it again."
)


class ToTurn(BaseModel):
    """Which rig as it was seen, and to which count of marks."""

    rig: int
    version: int
    to: int


@job_kind("turn_rig", ToTurn, longest_s=600.0, rests_s=COMES_TO_REST_S, asks=LOGS)
def turn_rig(running: Running, how: ToTurn) -> None:
    """Turn it, going beyond where it goes back; where it is stopped, what it came to is written down."""
    row = Rig.objects.select_related("sheet__layer").get(pk=how.rig)
    if running.job.attempt > 1:
        raise InputError.at("", _INTERRUPTED)
    if row.removed or row.version != how.version:
        raise InputError.at("", _CHANGED)
    [turning] = turnings((row.stands, how.to), row.take_up)
    crank = Crank(device("rig", {CRANK: AXIS}), row.marks)
    whole = max(sum(abs(by) for by in turning.parts), 1)

    def told(marks: float) -> None:
        running.advance(marks / whole, f"{counted(round(marks), row.marks)} of {counted(whole, row.marks)}")

    try:
        gone = 0
        for by in turning.parts:
            crank.turn(by, lambda marks, gone=gone: told(gone + marks))  # type: ignore[misc]
            gone += abs(by)
    except (StoppedError, DeviceError) as error:
        crank.halt()
        with in_shot(running.job.asked_by, row.sheet.layer.shot_id) as write:
            write.title = f"{row.name} stopped"
            _stands(write, row, row.stands + crank.marks)
        if isinstance(error, StoppedError):
            raise
        raise InputError.at("", f"{error} It stands at {counted(row.stands, row.marks)}.") from None
    with in_shot(running.job.asked_by, row.sheet.layer.shot_id) as write:
        write.title = f"{row.name} turned"
        _stands(write, row, row.stands + crank.marks)
        running.finish(message=f"It stands at {counted(row.stands, row.marks)}.")


def _stands(write: Writing, row: Rig, marks: int) -> None:
    row.refresh_from_db()
    keeping.change(write, keeping.RIG, row, row.version, {"stands": marks})


class Crank:
    """A crank on a motor: so many marks a turn."""

    def __init__(self, driven: Driven, marks: int) -> None:
        self._driven, self._mark_deg = driven, _TURN_DEG / marks
        self._began = driven.positions()[CRANK]

    @property
    def marks(self) -> int:
        """By how many it was turned, to the nearest; less than 0 is back."""
        return round((self._driven.positions()[CRANK] - self._began) / self._mark_deg)

    def turn(self, by: int, told: Callable[[float], None]) -> None:
        """Turn by so many marks, and wait until it stands there: ``told`` hears how many are done, and may
        raise. Raises DeviceError.
        """
        begins = self._driven.positions()[CRANK]
        ends = begins + by * self._mark_deg
        axis = self._driven.axes()[CRANK]
        self._driven.move_to({CRANK: ends}, abs(ends - begins) / axis.fastest_per_s)
        while abs((here := self._driven.positions()[CRANK]) - ends) > self._mark_deg / _TURN_DEG:
            told(abs(here - begins) / self._mark_deg)
            time.sleep(_LOOKS_EVERY_S)

    def halt(self) -> None:
        """Stop at once."""
        self._driven.halt()
