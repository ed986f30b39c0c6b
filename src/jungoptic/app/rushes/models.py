"""Recordings as they are looked at, what was measured of them, and what was marked on their pictures."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from jungoptic.app.files.models import StoredFile
from jungoptic.app.footage.models import Recording
from jungoptic.app.shots.models import SetUp
from jungoptic.app.stills.models import Still


class Rush(models.Model):
    """A recording as it is looked at: ``says`` is how it was recorded, ``proxy`` a film of which every frame
    can be gone to (of a still a picture), ``strip`` some of its frames side by side, ``clip`` what all its
    frames came to; ``fault`` what is wrong with it, in words. ``curve`` is core's, as somebody said it;
    ``counts`` the first and the last frame that count, where somebody said so.
    """

    recording = models.OneToOneField(Recording, on_delete=models.CASCADE, related_name="rush")
    fault = models.TextField(blank=True)
    says = models.JSONField(default=dict)
    curve = models.JSONField(default=dict, help_text="Empty: as the file says, or lets one guess.")
    counts = models.JSONField(default=list, help_text="Empty: all of it after its slate.")
    proxy = models.ForeignKey(StoredFile, on_delete=models.PROTECT, null=True, related_name="+")
    strip = models.ForeignKey(StoredFile, on_delete=models.PROTECT, null=True, related_name="+")
    clip = models.JSONField(null=True)
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["recording"]

    def __str__(self) -> str:
        return self.recording.name


class FrameMeasure(models.Model):
    """One row of what is measured of frames, as it came out: of which frame, against which recording, with
    what was marked. The last of a row is the one that counts.
    """

    rush = models.ForeignKey(Rush, on_delete=models.CASCADE, related_name="measures")
    what = models.CharField(max_length=16)
    against = models.ForeignKey(Recording, on_delete=models.SET_NULL, null=True, related_name="+")
    asked = models.JSONField(default=dict, help_text="Frame, region, places, kind, curve, delivery.")
    told = models.JSONField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-id"]

    def __str__(self) -> str:
        return f"{self.rush}, {self.what}"


class FrameDecision(models.Model):
    """What somebody decided of a measured amount that does not hold, and why. It stands for the ``size`` that
    was seen, in the unit of its item: another brings the question back.
    """

    class Choice(models.TextChoices):
        """What becomes of it."""

        KEEP = "keep", "It stays as it is."
        MEND = "mend", "It is mended in the composite."
        AGAIN = "again", "It is shot again."

    rush = models.ForeignKey(Rush, on_delete=models.CASCADE, related_name="decisions")
    what = models.CharField(max_length=16)
    amount = models.CharField(max_length=24)
    size = models.FloatField()
    choice = models.CharField(max_length=5, choices=Choice)
    way = models.CharField(max_length=120, blank=True, help_text="How it is mended.")
    hours = models.FloatField(null=True, help_text="At the desk, or of all people together on the set.")
    reason = models.CharField(max_length=400, blank=True)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    withdrawn = models.BooleanField(default=False)

    class Meta:
        ordering = ["-id"]
        constraints = [
            models.UniqueConstraint(
                fields=["rush", "what", "amount"],
                condition=models.Q(withdrawn=False),
                name="one_decision_an_amount",
            )
        ]

    def __str__(self) -> str:
        return f"{self.rush}, {self.what}: {self.choice}"


class SheetRead(models.Model):
    """What a photograph of a lit sheet tells; ``fault`` why it tells nothing. ``corners`` of the sheet and
    ``ball``, its middle and a place on its rim, are what somebody marked on it, shares of the photograph.
    """

    still = models.OneToOneField(Still, on_delete=models.CASCADE, related_name="sheet")
    corners = models.JSONField(default=list)
    ball = models.JSONField(default=list)
    told = models.JSONField(null=True)
    fault = models.TextField(blank=True)

    class Meta:
        ordering = ["still"]

    def __str__(self) -> str:
        return self.still.name


class SetUpMark(models.Model):
    """What was marked on the pictures of a set-up, in shares of the frame: one of a kind. It stands for every
    recording of the set-up.
    """

    set_up = models.ForeignKey(SetUp, on_delete=models.CASCADE, related_name="frame_marks")
    kind = models.CharField(max_length=16)
    places = models.JSONField()
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")

    class Meta:
        ordering = ["set_up", "kind"]
        constraints = [models.UniqueConstraint(fields=["set_up", "kind"], name="one_mark_of_a_kind_a_set_up")]

    def __str__(self) -> str:
        return self.kind
