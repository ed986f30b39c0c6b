"""A job from within: it says how far it is, keeps what it makes, and ends once."""

from __future__ import annotations

from typing import IO, Any

from django.db import transaction
from django.utils import timezone

from jungoptic.app.base import events
from jungoptic.app.files import keeping
from jungoptic.app.files.models import StoredFile
from jungoptic.app.jobs.models import Job


class StoppedError(Exception):
    """The job is not this process's any more: somebody stopped it, or another began it anew."""


class Running:
    """One attempt at a job.

    Nothing that it writes stands once the job was stopped or begun again by another.
    """

    def __init__(self, job: Job) -> None:
        self.job = job

    def _write(self, **values: Any) -> None:
        mine = Job.objects.filter(pk=self.job.pk, state=Job.State.WORKING, attempt=self.job.attempt)
        if not mine.update(**values):
            raise StoppedError
        tell(self.job, **values)

    def advance(self, share: float, at: str = "") -> None:
        """Say how much is done, 0 to 1, and what it is at. Raises StoppedError."""
        self._write(progress=min(99, max(0, int(100 * share))), message=at)

    def keep(self, name: str, data: bytes | IO[bytes], kinds: frozenset[str]) -> StoredFile:
        """Keep what was made, as a file of the production."""
        return keeping.keep(self.job.production_id, name, data, kinds, person_id=self.job.asked_by_id)

    def finish(self, file: StoredFile | None = None, said: Any = None, message: str = "") -> None:
        """It is done, all at once with what the caller writes in the same transaction.

        Raises StoppedError.
        """
        ended = {"progress": 100, "message": message, "file": file, "said": said, "ended_at": timezone.now()}
        self._write(state=Job.State.READY, **ended)

    def fail(self, message: str) -> None:
        """It cannot be done; ``message`` says what a person can do."""
        self._write(state=Job.State.FAILED, message=message, ended_at=timezone.now())


def tell(job: Job, **values: Any) -> None:
    """Tell whoever looks how far a job is."""
    told = {name: values.get(name, getattr(job, name)) for name in ("state", "progress")}
    with transaction.atomic():
        events.publish(job.production_id, job=job.pk, **told)
