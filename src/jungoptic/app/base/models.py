"""Answers already given, so that a write that is sent twice happens once."""

from django.conf import settings
from django.db import models


class Reply(models.Model):
    """The answer to one keyed request of one person. ``digest`` tells a repeat from a key used for something else."""

    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    key = models.CharField(max_length=80)
    digest = models.CharField(max_length=64)
    status = models.PositiveSmallIntegerField()
    body = models.JSONField()
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["person", "key"], name="one_reply_a_key")]
