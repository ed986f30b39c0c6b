"""Jobs: followed, stopped, asked for again."""

from __future__ import annotations

from contextlib import AbstractContextManager
from typing import Annotated, Any

from django.db.models import Max
from django.http import HttpRequest
from ninja import Query, Router, Status

from jungoptic.app.base.edits import Writing
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Seen
from jungoptic.app.jobs import asking
from jungoptic.app.jobs.kinds import kind_of
from jungoptic.app.jobs.models import Job
from jungoptic.app.jobs.schemas import JobOut
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.productions.writing import in_production
from jungoptic.app.shots.writing import in_shot

router = Router()
MOST = 100


@router.get("/productions/{production_id}/jobs", response=list[JobOut])
def read_jobs(
    request: HttpRequest,
    production_id: int,
    kind: Annotated[str, Query(pattern=r"^[a-z_]*$")] = "",
    last_of_each_shot: bool = False,
) -> Any:
    """Jobs of one kind or all, newest first: the newest hundred, or only the last of each shot.

    Anybody in the production.
    """
    access.role_in(request, production_id)
    found = Job.objects.select_related("asked_by").filter(production=production_id)
    found = found.filter(kind=kind) if kind else found
    if last_of_each_shot:
        last = found.order_by().values("shot_id").annotate(last=Max("pk")).values("last")
        return [JobOut.of(job) for job in found.filter(pk__in=last)]
    return [JobOut.of(job) for job in found[:MOST]]


@router.get("/jobs/{job_id}", response=JobOut)
def read_job(request: HttpRequest, job_id: int) -> Any:
    """How far a job is. Anybody in the production."""
    access.of_job(request, job_id)
    return JobOut.of(Job.objects.get(pk=job_id))


@router.delete("/jobs/{job_id}", response={200: JobOut, 409: Problems})
@writes
def stop_job(request: HttpRequest, job_id: int, version: int) -> Any:
    """Stop a job that is not finished. Whoever asked for it, and the supervisor."""
    asked_by_another = Job.objects.filter(pk=job_id).exclude(asked_by=person(request)).exists()
    access.of_job(request, job_id, access.WRITES if asked_by_another else access.READS)
    with _where_it_is(request, job_id) as write:
        return JobOut.of(asking.stop(write, job_id, version))


@router.post("/jobs/{job_id}/again", response={202: JobOut, 409: Problems})
@writes
def ask_again(request: HttpRequest, job_id: int, payload: Seen) -> Any:
    """The same job once more. Whoever may ask for one of its kind."""
    access.of_job(request, job_id)
    access.of_job(request, job_id, kind_of(Job.objects.get(pk=job_id).kind).asks)
    with _where_it_is(request, job_id) as write:
        return Status(202, JobOut.of(asking.ask_again(write, job_id, payload.version)))


def _where_it_is(request: HttpRequest, job_id: int) -> AbstractContextManager[Writing]:
    production_id, shot_id = Job.objects.values_list("production_id", "shot_id").get(pk=job_id)
    return in_shot(person(request), shot_id) if shot_id else in_production(person(request), production_id)
