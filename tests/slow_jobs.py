"""Kinds of jobs that only take time, for the tests of the workers."""

from __future__ import annotations

import os
import tempfile
import time

from pydantic import BaseModel

from jungoptic.app.jobs.kinds import job_kind
from jungoptic.app.jobs.models import Job
from jungoptic.app.jobs.running import Running, StoppedError


class Slow(BaseModel):
    seconds: float


def _sleep(running: Running, how: Slow) -> None:
    """Says which process it is, then looks at nothing any more until it is over."""
    Job.objects.filter(pk=running.job.pk).update(message=str(os.getpid()))
    time.sleep(how.seconds)
    running.finish()


light = job_kind("test_light", Slow)(_sleep)
heavy = job_kind("test_heavy", Slow, queue="heavy")(_sleep)


@job_kind("test_impatient", Slow, longest_s=4)
def impatient(running: Running, how: Slow) -> None:
    """Says where it puts down what it needs meanwhile."""
    running.advance(0.5, at=tempfile.mkdtemp())
    time.sleep(how.seconds)


@job_kind("test_resting", Slow, rests_s=30.0)
def resting(running: Running, how: Slow) -> None:
    """Comes to rest by itself once it is stopped, which takes a while."""
    try:
        while True:
            running.advance(0.5, at="going")
            time.sleep(0.05)
    except StoppedError:
        time.sleep(how.seconds)
        Job.objects.filter(pk=running.job.pk).update(message="at rest")
        raise


@job_kind("test_dying", Slow)
def dying(running: Running, how: Slow) -> None:
    os.abort()


@job_kind("test_greedy", Slow, memory_bytes=100_000_000)
def greedy(running: Running, how: Slow) -> None:
    running.advance(0.5, at="the large one")
    bytearray(300_000_000)
