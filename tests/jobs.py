"""Jobs done here and now, as a worker's process does them."""

from __future__ import annotations

from jungoptic.app.jobs.models import Job
from jungoptic.app.jobs.work import begin, carry_out


def done(job_id: int) -> Job:
    begun = begin(job_id)
    if begun:
        carry_out(begun)
    return Job.objects.get(pk=job_id)
