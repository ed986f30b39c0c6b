"""The people who sign in, and how they like to read numbers and dates."""

from django.contrib.auth.models import AbstractUser
from django.db import models
from django.utils.crypto import salted_hmac


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

    class Dates(models.TextChoices):
        """A language and country as RFC 5646 names them, or the figures of ISO 8601."""

        BRITISH = "en-GB"
        AMERICAN = "en-US"
        CZECH = "cs"
        DANISH = "da"
        DUTCH = "nl"
        FRENCH = "fr"
        GERMAN = "de"
        ITALIAN = "it"
        JAPANESE = "ja"
        NORWEGIAN = "nb"
        POLISH = "pl"
        PORTUGUESE = "pt"
        SPANISH = "es"
        SWEDISH = "sv"
        FIGURES = "iso"

    class WeekStart(models.TextChoices):
        MONDAY = "monday"
        SATURDAY = "saturday"
        SUNDAY = "sunday"

    units = models.CharField(max_length=8, choices=Units, default=Units.METRIC)
    theme = models.CharField(max_length=8, choices=Theme, default=Theme.STAGE)
    school = models.CharField(max_length=8, choices=School, default=School.MEASURED)
    single_keys = models.BooleanField(default=True)
    dates = models.CharField(max_length=8, choices=Dates, default=Dates.BRITISH)
    week_starts = models.CharField(max_length=8, choices=WeekStart, default=WeekStart.MONDAY)
    signed_out = models.PositiveIntegerField(
        default=0, help_text="Counts up when the person signs out everywhere else."
    )

    @property
    def shown_name(self) -> str:
        return self.get_full_name() or self.username

    def _get_session_auth_hash(self, secret: str | None = None) -> str:
        """A session stands while the password and ``signed_out`` are what they were when it began."""
        salt = "jungoptic.app.people.Person.session"
        return salted_hmac(
            salt, f"{self.password}:{self.signed_out}", secret=secret, algorithm="sha256"
        ).hexdigest()
