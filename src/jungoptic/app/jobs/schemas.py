"""Jobs over the wire."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from pydantic import BaseModel as Schema

from jungoptic.app.jobs.models import Job


class JobOut(Schema):
    """``progress`` in per cent; ``opens`` is the address of what was made, once it is ready; ``asked_by``, a
    user name.
    """

    id: int
    version: int
    kind: str
    title: str
    shot: int | None
    state: Literal["waiting", "working", "ready", "stopped", "failed"]
    progress: int
    asked_at: datetime
    asked_by: str
    message: str
    opens: str | None

    @staticmethod
    def of(job: Job) -> JobOut:
        return JobOut(
            id=job.pk,
            version=job.version,
            kind=job.kind,
            title=job.title,
            shot=job.shot_id,
            state=Job.State(job.state).value,
            progress=job.progress,
            asked_at=job.asked_at,
            asked_by=job.asked_by.username,
            message=job.message,
            opens=f"/api/files/{job.file_id}" if job.file_id else None,
        )
