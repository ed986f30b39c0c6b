"""Room in the queues: how much somebody may ask for, and in which order it is done."""

from __future__ import annotations

import math
import statistics
from typing import Any

from jungoptic.app.base.turns import BusyError
from jungoptic.app.jobs.kinds import Queue, kinds_of
from jungoptic.app.jobs.models import GOING, Job

MOST_OF_ONE: dict[Queue, int] = {"light": 40, "heavy": 3}
MOST: dict[Queue, int] = {"light": 400, "heavy": 24}
USUAL_S: dict[Queue, float] = {"light": 4.0, "heavy": 60.0}
_LOOKS_AT = 20  # finished jobs, for how long one takes


def in_order(queue: Queue, person_id: Any) -> int:
    """The priority of a person's next job: the first of everybody comes before the second of anybody.

    Raises BusyError where there is no room for it.
    """
    going = Job.objects.filter(kind__in=kinds_of(queue), state__in=GOING)
    own = going.filter(asked_by=person_id).count()
    if own >= MOST_OF_ONE[queue] or going.count() >= MOST[queue]:
        raise BusyError(_about_s(queue), own >= MOST_OF_ONE[queue])
    return -own


def _about_s(queue: Queue) -> int:
    """Until one is done: as long as the last ones took."""
    ready = Job.objects.filter(kind__in=kinds_of(queue), state=Job.State.READY)
    took = [
        (ended - began).total_seconds()
        for began, ended in ready.order_by("-pk").values_list("began_at", "ended_at")[:_LOOKS_AT]
        if began and ended
    ]
    return max(1, math.ceil(statistics.mean(took) if took else USUAL_S[queue]))
