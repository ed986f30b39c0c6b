"""The queue: jobs put into it, done by the workers, brought again when a worker was killed; and what is
tidied up from time to time.
"""

from __future__ import annotations

import logging
from datetime import timedelta

from django.conf import settings
from django.db import close_old_connections
from django.utils import timezone
from procrastinate import JobContext, RetryStrategy
from procrastinate.contrib.django import app

from jungoptic.app.base.once import forget_replies
from jungoptic.app.files.cleaning import clean
from jungoptic.app.jobs.kinds import kind_of
from jungoptic.app.jobs.models import GOING, Job
from jungoptic.app.jobs.work import MOST_ATTEMPTS, DiedError, attend, forget_scratch
from jungoptic.app.people.forgetting import forget_visits

KEPT_LONG_REPLIES = timedelta(days=3)
LONG_REPLY = 4000  # characters: whole benches, which a page reads anew
KEPT = timedelta(days=30)  # finished jobs with what they made, and the answers to writes
logger = logging.getLogger(__name__)


@app.task(
    name="work_on", retry=RetryStrategy(max_attempts=MOST_ATTEMPTS, wait=1, retry_exceptions=[DiedError])
)
def work_on(job_id: int) -> None:
    close_old_connections()  # a worker's thread has no request that would
    attend(job_id)


def put_into_queue(job: Job, priority: int) -> None:
    """Have a free worker of its queue do it, the higher the ``priority`` the sooner: with the transaction, so
    that neither is there without the other.
    """
    work_on.configure(queue=kind_of(job.kind).queue, priority=priority).defer(job_id=job.pk)


@app.periodic(cron=settings.JOB_SWEEP)
@app.task(name="bring_stalled", queue="upkeep", queueing_lock="bring_stalled", pass_context=True)
async def bring_stalled(context: JobContext, timestamp: int) -> None:
    """What a worker was doing that gives no sign of life any more goes back into its queue."""
    manager = context.app.job_manager
    for stalled in await manager.get_stalled_jobs(seconds_since_heartbeat=settings.JOB_STALLED_S):
        logger.warning("job %s was left by its worker: it is brought again", stalled.id)
        await manager.retry_job(stalled, retry_at=timezone.now())


@app.periodic(cron="17 * * * *")
@app.task(name="tidy", queue="upkeep", queueing_lock="tidy")
def tidy(timestamp: int) -> None:
    """Forget what nobody can ask for any more. By the hour: a laptop is not on at a certain one."""
    before = timezone.now() - KEPT
    Job.objects.filter(asked_at__lt=before).exclude(state__in=GOING).delete()
    forget_replies(before)
    forget_replies(timezone.now() - KEPT_LONG_REPLIES, longer_than=LONG_REPLY)
    forget_visits()
    forget_scratch()
    clean()
