"""The people who sign in, and how they like to read numbers."""

from django.contrib.auth.models import AbstractUser
from django.db import models


class Person(AbstractUser):
    """An account. The preferences follow the person from desk to cart to phone."""

    class Units(models.TextChoices):
        METRIC = "metric"
        IMPERIAL = "imperial"

    class Theme(models.TextChoices):
        STAGE = "stage"
        DAYLIGHT = "daylight"

    class School(models.TextChoices):
        MEASURED = "measured"
        COVERED = "covered"

    units = models.CharField(max_length=8, choices=Units, default=Units.METRIC)
    theme = models.CharField(max_length=8, choices=Theme, default=Theme.STAGE)
    school = models.CharField(max_length=8, choices=School, default=School.MEASURED)
    single_keys = models.BooleanField(default=True)

    @property
    def shown_name(self) -> str:
        return self.get_full_name() or self.username
