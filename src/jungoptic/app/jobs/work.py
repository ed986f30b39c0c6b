"""A job carried out: in a process of its own, which is stopped when somebody says so, dies with its worker,
and may not take for ever.
"""

from __future__ import annotations

import logging
import shutil
import tempfile
import time
from multiprocessing.connection import wait
from pathlib import Path

from django.db import connections
from django.db.models import F
from django.utils import timezone

from jungoptic.app.base.processes import CONTEXT, TOO_MUCH, die_with_parent, limit_memory
from jungoptic.app.jobs.kinds import Kind, kind_of
from jungoptic.app.jobs.models import GOING, Job
from jungoptic.app.jobs.running import Running, StoppedError, tell
from jungoptic.core.errors import InputError

MOST_ATTEMPTS = 3
LOOKS_EVERY_S = 0.3
SCRATCH = "jungoptic-job-"  # what a job puts down beside its work
DAY_S = 86_400
logger = logging.getLogger(__name__)


class DiedError(Exception):
    """The process that did the job died: the queue brings it again."""


def begin(job_id: int) -> Job | None:
    """Take a job up; None where there is nothing left to do."""
    if not Job.objects.filter(pk=job_id, state__in=GOING).update(
        state=Job.State.WORKING, attempt=F("attempt") + 1, began_at=timezone.now(), progress=0
    ):
        return None
    job = Job.objects.get(pk=job_id)
    if job.attempt > MOST_ATTEMPTS:
        _fail(
            job,
            f"It was interrupted again and again{_at(job)}. Try again later; if that fails too, tell whoever"
            " runs this server.",
        )
        return None
    tell(job)
    return job


def _at(job: Job) -> str:
    """Where it stood."""
    message = Job.objects.values_list("message", flat=True).get(pk=job.pk)
    return f" at {message}" if message else ""


def _fail(job: Job, message: str) -> None:
    try:
        Running(job).fail(message)
    except StoppedError:
        logger.info("job %s was stopped before it could fail", job.pk)


def carry_out(job: Job) -> None:
    """Do what was asked, here and now; what goes wrong is said on the job."""
    running = Running(job)
    try:
        kind = kind_of(job.kind)
        kind.work(running, kind.arguments.model_validate(job.arguments))
    except StoppedError:
        return
    except InputError as error:
        _fail(job, str(error))
    except MemoryError:
        _fail(job, f"{TOO_MUCH} It stood{_at(job)}." if _at(job) else TOO_MUCH)
    except Exception:
        logger.exception("job %s (%s) failed", job.pk, job.kind)
        _fail(
            job,
            f"{job.title} could not be made. Try again; if it fails again, tell whoever runs this server.",
        )


def _in_child(job_id: int, scratch: str) -> None:
    die_with_parent()
    tempfile.tempdir = scratch
    try:
        job = Job.objects.get(pk=job_id)
        if memory_bytes := kind_of(job.kind).memory_bytes:
            limit_memory(memory_bytes)
        carry_out(job)
    finally:
        connections.close_all()


def attend(job_id: int) -> None:
    """Have a process of its own carry a job out, and see to it until it ends.

    Raises DiedError where the process died in the middle.
    """
    job = begin(job_id)
    if job is None:
        return
    CONTEXT.set_forkserver_preload(["jungoptic.app.jobs.preloaded"])
    try:
        kind = kind_of(job.kind)
    except InputError as error:
        _fail(job, str(error))
        return
    with tempfile.TemporaryDirectory(prefix=SCRATCH, ignore_cleanup_errors=True) as scratch:
        _see_to(job, kind, scratch)


def forget_scratch() -> None:
    """Remove what a worker that was killed left lying about, a day later."""
    for left in Path(tempfile.gettempdir()).glob(f"{SCRATCH}*"):
        if left.stat().st_mtime < time.time() - DAY_S:
            shutil.rmtree(left, ignore_errors=True)


def _see_to(job: Job, kind: Kind, scratch: str) -> None:
    longest_s = kind.longest_s
    child = CONTEXT.Process(target=_in_child, args=(job.pk, scratch), daemon=True)
    child.start()
    ends = time.monotonic() + longest_s
    mine = Job.objects.filter(pk=job.pk, state=Job.State.WORKING, attempt=job.attempt)
    try:
        while child.is_alive():
            if wait([child.sentinel], LOOKS_EVERY_S):
                break
            if not mine.exists():
                child.join(kind.rests_s)
                return
            if time.monotonic() > ends:
                _fail(
                    job,
                    f"It took longer than {longest_s:.0f} s and was given up{_at(job)}. Try again; if it"
                    " happens again, tell whoever runs this server.",
                )
                child.join(kind.rests_s)
                return
    finally:
        child.kill()
        child.join()
    if mine.update(state=Job.State.WAITING):
        raise DiedError(f"job {job.pk}: its process ended with {child.exitcode}")
