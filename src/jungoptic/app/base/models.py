"""What was written, by whom and when; and answers already given, so that a write that is sent twice happens
once.
"""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.db.models import Q


class Reply(models.Model):
    """The answer to one keyed request of one person. ``digest`` tells a repeat from a key used for something
    else.
    """

    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    key = models.CharField(max_length=80)
    digest = models.CharField(max_length=64)
    status = models.PositiveSmallIntegerField()
    body = models.TextField()
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["person", "key"], name="one_reply_a_key")]
        indexes = [models.Index(fields=["at"])]


class Write(models.Model):
    """Everything that one request changed: it happened together, and is taken back together."""

    production = models.ForeignKey("productions.Production", on_delete=models.CASCADE, related_name="+")
    shot = models.ForeignKey("shots.Shot", on_delete=models.CASCADE, null=True, related_name="+")
    person = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+"
    )
    at = models.DateTimeField(auto_now_add=True)
    key = models.CharField(max_length=80, blank=True)
    title = models.CharField(
        max_length=200, blank=True, help_text="What was done, where its changes do not say it by themselves."
    )
    stays = models.BooleanField(
        default=False, help_text="Records a fact (a take, a paper): it cannot be taken back."
    )
    takes_back = models.OneToOneField(
        "self", on_delete=models.CASCADE, null=True, related_name="taken_back_by"
    )

    class Meta:
        ordering = ["-id"]
        constraints = [
            models.UniqueConstraint(fields=["person", "key"], condition=~Q(key=""), name="one_write_a_key")
        ]
        indexes = [models.Index(fields=["production", "-id"]), models.Index(fields=["shot", "-id"])]


class Change(models.Model):
    """One field of one row as it was and as it is since. What was made new was ``removed`` before."""

    write = models.ForeignKey(Write, on_delete=models.CASCADE, related_name="changes")
    kind = models.CharField(max_length=16)
    row_id = models.BigIntegerField()
    name = models.CharField(max_length=200, blank=True, help_text="What the row was called then.")
    field = models.CharField(max_length=200)
    before = models.JSONField(null=True)
    after = models.JSONField(null=True)

    class Meta:
        ordering = ["id"]
        indexes = [models.Index(fields=["kind", "row_id", "field", "-id"])]
