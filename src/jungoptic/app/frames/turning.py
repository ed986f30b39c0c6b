"""A rig's crank turned by its motor, as a job: to where the next pose wants it, slack taken up."""

from __future__ import annotations

import time
from collections.abc import Callable
from functools import partial

from pydantic import BaseModel

from jungoptic.app.base.edits import Writing
from jungoptic.app.devices.in_use import device
from jungoptic.app.devices.protocols import Axis, DeviceError
from jungoptic.app.devices.protocols import Rig as Driven
from jungoptic.app.frames import keeping
from jungoptic.app.frames.models import Rig
from jungoptic.app.jobs.kinds import job_kind
from jungoptic.app.jobs.models import GOING, Job
from jungoptic.app.jobs.running import Running, StoppedError
from jungoptic.app.productions.access import LOGS
from jungoptic.app.shots.writing import in_shot
from jungoptic.core.errors import InputError
from jungoptic.core.frames import counted, turnings

CRANK = "crank"
AXIS = Axis("deg", -1e7, 1e7, 720.0)
"""Of a motor on a crank, from where it stood when it was told to turn."""
COMES_TO_REST_S, LATE_S = 3.0, 5.0
_TURN_DEG = 360.0
_LOOKS_EVERY_S = 0.1
TURNS = "It turns already: wait for it, or stop it."
_CHANGED = "The rig was changed since: look at it, and turn it by what is said now."
INTERRUPTED = (
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
        raise InputError.at("", INTERRUPTED)
    if row.removed or row.version != how.version:
        raise InputError.at("", _CHANGED)
    [turning] = turnings((row.stands, how.to), row.take_up)
    try:
        crank = Crank(device("rig", {CRANK: AXIS}), row.marks)
    except DeviceError as error:
        raise InputError.at("", str(error)) from None
    whole = max(sum(abs(by) for by in turning.parts), 1)

    def told(before: int, marks: float) -> None:
        done = before + marks
        running.advance(done / whole, f"{counted(round(done), row.marks)} of {counted(whole, row.marks)}")

    try:
        before = 0
        for by in turning.parts:
            crank.turn(by, partial(told, before))
            before += abs(by)
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


def last_turn(rig: Rig) -> Job | None:
    """The job that turns a rig now, or that was broken off and left nobody knowing where it stands."""
    jobs = Job.objects.filter(kind=turn_rig.name, arguments__rig=rig.pk).select_related("asked_by")
    newest = jobs.order_by("-pk").first()
    if newest is None or newest.state in GOING:
        return newest
    unknown = newest.state == Job.State.FAILED and newest.attempt > 1
    return newest if unknown and newest.arguments["version"] == rig.version else None


def refuse_where_unknown(rig: Rig) -> None:
    """Raise InputError where a rig turns now, or nobody said where it stands since it was broken off."""
    last = last_turn(rig)
    if last is not None:
        raise InputError.at("", TURNS if last.state in GOING else INTERRUPTED)


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
        takes_s = abs(ends - begins) / self._driven.axes()[CRANK].fastest_per_s
        self._driven.move_to({CRANK: ends}, takes_s)
        late = time.monotonic() + takes_s + LATE_S
        while abs((here := self._driven.positions()[CRANK]) - ends) > self._mark_deg / _TURN_DEG:
            told(abs(here - begins) / self._mark_deg)
            if time.monotonic() > late:
                raise DeviceError("The motor did not come to where it was sent.")
            time.sleep(_LOOKS_EVERY_S)

    def halt(self) -> None:
        """Stop at once."""
        self._driven.halt()
