"""Jobs asked for, stopped, asked for again: each is a write of whoever does it."""

from __future__ import annotations

from contextlib import suppress
from typing import Any

from django.db import transaction
from pydantic import BaseModel

from jungoptic.app.base.edits import Writing
from jungoptic.app.base.turns import BusyError
from jungoptic.app.jobs.kinds import Kind, kind_of
from jungoptic.app.jobs.models import GOING, Job
from jungoptic.app.jobs.queue import put_into_queue
from jungoptic.app.jobs.room import in_order
from jungoptic.app.jobs.running import tell

JOB = "job"


def ask_for(write: Writing, kind: Kind, title: str, arguments: BaseModel) -> Job:
    """Put a job of the write's shot or production into the queue. Raises BusyError."""
    return _asked(write, kind.name, title, arguments.model_dump(mode="json"))


def ask_by_itself(production_id: int, person_id: Any, kind: Kind, title: str, arguments: BaseModel) -> None:
    """Put a job into the queue that follows from what somebody did: it is nobody's write, and where there is
    no room for it now it is asked for later.
    """
    with suppress(BusyError), transaction.atomic():
        priority = in_order(kind.queue, person_id)
        job = Job.objects.create(
            kind=kind.name,
            title=title[:200],
            production_id=production_id,
            asked_by_id=person_id,
            arguments=arguments.model_dump(mode="json"),
        )
        put_into_queue(job, priority)
        tell(job)


def ask_again(write: Writing, job_id: int, version: int) -> Job:
    """The same once more, as a job of its own. Raises BusyError."""
    job = Job.objects.get(pk=job_id)
    write.refuse_unseen(JOB, job, version)
    return _asked(write, job.kind, job.title, job.arguments)


def _asked(write: Writing, kind: str, title: str, arguments: object) -> Job:
    priority = in_order(kind_of(kind).queue, write.person.pk)
    job = Job.objects.create(
        kind=kind,
        title=title[:200],
        production_id=write.production_id,
        shot_id=write.shot_id,
        asked_by_id=write.person.pk,
        arguments=arguments,
    )
    write.stays, write.title = True, f"{job.title} asked for"
    write.note(JOB, job.pk, job.title, "state", None, job.state)
    put_into_queue(job, priority)
    return job


def stop(write: Writing, job_id: int, version: int) -> Job:
    """Stop a job that is not finished; one that is stays as it is."""
    job = Job.objects.select_for_update(no_key=True).get(pk=job_id)
    write.refuse_unseen(JOB, job, version)
    write.stays = True
    if job.state in GOING:
        write.save(JOB, job, {"state": Job.State.STOPPED, "message": "Stopped."})
        tell(job)
    return job
