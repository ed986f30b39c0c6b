"""What was asked of the workers, and how far it is."""

from django.conf import settings
from django.db import models
from django.db.models import Q

from jungoptic.app.files.models import StoredFile
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import Shot


class Job(models.Model):
    """One piece of work of one kind: waiting, being done, ready, stopped or failed."""

    class State(models.TextChoices):
        WAITING = "waiting"
        WORKING = "working"
        READY = "ready"
        STOPPED = "stopped"
        FAILED = "failed"

    kind = models.CharField(max_length=40)
    title = models.CharField(max_length=200, help_text="What a person calls it.")
    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="jobs")
    shot = models.ForeignKey(Shot, on_delete=models.CASCADE, null=True, related_name="+")
    asked_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    asked_at = models.DateTimeField(auto_now_add=True)
    arguments = models.JSONField(default=dict, help_text="As the kind's own schema has them.")
    state = models.CharField(max_length=8, choices=State, default=State.WAITING)
    progress = models.PositiveSmallIntegerField(default=0, help_text="Per cent.")
    message = models.TextField(blank=True)
    attempt = models.PositiveSmallIntegerField(
        default=0, help_text="Counts the processes that began it: only the latest may end it."
    )
    began_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)
    file = models.ForeignKey(
        StoredFile,
        on_delete=models.PROTECT,
        null=True,
        related_name="+",
        help_text="What it made, to be opened.",
    )
    said = models.JSONField(null=True, help_text="What it found out, where that is no file.")
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["-id"]
        constraints = [
            models.CheckConstraint(condition=Q(progress__lte=100), name="job_progress_is_in_per_cent")
        ]
        indexes = [models.Index(fields=["production", "-id"])]

    def __str__(self) -> str:
        return self.title


GOING = (Job.State.WAITING, Job.State.WORKING)
