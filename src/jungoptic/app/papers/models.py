"""Printed shot cards and the break-down book, made by the worker."""

from django.conf import settings
from django.db import models

from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import Shot


class Card(models.Model):
    """A shot card, a shot's page of the break-down book, or the whole book: waiting, being made, ready, stopped or failed."""

    class Kind(models.TextChoices):
        CARD = "card"
        PAGE = "page"
        BOOK = "book"

    class State(models.TextChoices):
        WAITING = "waiting"
        WORKING = "working"
        READY = "ready"
        STOPPED = "stopped"
        FAILED = "failed"

    class Paper(models.TextChoices):
        A4 = "a4"
        LETTER = "letter"

    kind = models.CharField(max_length=4, choices=Kind, default=Kind.CARD)
    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="cards")
    shot = models.ForeignKey(Shot, on_delete=models.CASCADE, null=True, blank=True, related_name="cards")
    asked_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    asked_at = models.DateTimeField(auto_now_add=True)
    paper = models.CharField(max_length=8, choices=Paper)
    units = models.CharField(max_length=8, default="metric")
    school = models.CharField(max_length=8, default="measured")
    state = models.CharField(max_length=8, choices=State, default=State.WAITING)
    progress = models.PositiveSmallIntegerField(default=0)
    message = models.TextField(blank=True)
    pdf = models.BinaryField(null=True, blank=True)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["-asked_at"]
        constraints = [models.CheckConstraint(condition=models.Q(kind="book") | models.Q(shot__isnull=False), name="card_is_of_a_shot")]

    @property
    def name(self) -> str:
        words = {self.Kind.CARD: "shot card", self.Kind.PAGE: "page of the book", self.Kind.BOOK: "break-down book"}
        return words[self.Kind(self.kind)] + (f" of {self.shot.code}" if self.shot else "")
