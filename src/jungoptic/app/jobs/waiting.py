"""How long what waits in the queue has waited."""

from __future__ import annotations

from django.db.models import Min
from django.utils import timezone

from jungoptic.app.jobs.kinds import Queue, kinds_of
from jungoptic.app.jobs.models import Job


def oldest_waiting_s(queue: Queue) -> float:
    """Seconds since the oldest job of a queue was asked for that nobody has begun; 0 where none waits."""
    waiting = Job.objects.filter(state=Job.State.WAITING, attempt=0, kind__in=kinds_of(queue))
    oldest = waiting.aggregate(at=Min("asked_at"))["at"]
    return (timezone.now() - oldest).total_seconds() if oldest else 0.0
