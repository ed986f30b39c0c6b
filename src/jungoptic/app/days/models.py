"""What a production's days are planned from, beside its shots, and when each set-up is filmed."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import F, Q

from jungoptic.app.productions.models import Place, Production
from jungoptic.app.shots.models import SetUp
from jungoptic.core import days as core


def job_key(set_up_id: int, block: int) -> str:
    """What core calls the job of a set-up, or one block of it (from 1; 0 = all of it)."""
    return f"{set_up_id}.{block}" if block else str(set_up_id)


def set_up_and_block(key: str) -> tuple[int, int]:
    """Which set-up a job films, and which block of it."""
    set_up, _, block = key.partition(".")
    return int(set_up), int(block or 0)


class OfTheDays(models.Model):
    """A row of the days: of a production, taken out and brought back, counted."""

    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="+")
    removed = models.BooleanField(default=False, help_text="Out of the days; kept, so that it can come back.")
    version = models.PositiveIntegerField(default=1)

    class Meta:
        abstract = True
        ordering = ["id"]

    FIELDS: tuple[str, ...] = ()

    def values(self) -> dict[str, Any]:
        """What somebody says of it, by column."""
        return {name: getattr(self, name) for name in self.FIELDS}


class DayFigures(OfTheDays):
    """What the production reckons its days with, and where models and elements are filmed; see core's
    DayFigures.
    """

    rig_min = models.FloatField(default=30)
    light_min = models.FloatField(default=30)
    takes = models.PositiveSmallIntegerField(default=6)
    pass_takes = models.PositiveSmallIntegerField(default=2)
    destroyed_takes = models.PositiveSmallIntegerField(default=3)
    roll_min = models.FloatField(default=1)
    reset_min = models.FloatField(default=3)
    destroyed_reset_min = models.FloatField(default=60)
    strike_min = models.FloatField(default=10)
    block_min = models.FloatField(default=240)
    place_min = models.FloatField(default=90)
    model_min = models.FloatField(default=40)
    light_change_min = models.FloatField(default=30)
    backing_min = models.FloatField(default=25)
    costume_min = models.FloatField(default=20)
    position_min = models.FloatField(default=15)
    lens_min = models.FloatField(default=5)
    rest_share = models.FloatField(default=1 / 3)
    off_set_h = models.FloatField(default=20)
    stage = models.ForeignKey(Place, on_delete=models.SET_NULL, null=True, blank=True, related_name="+")

    FIELDS = (*core.DayFigures.model_fields, "stage_id")

    class Meta(OfTheDays.Meta):
        constraints = [models.UniqueConstraint(fields=["production"], name="one_day_figures")]

    @property
    def name(self) -> str:
        return "what the days are reckoned with"


class ShootingDay(OfTheDays):
    """A day on which something may be filmed."""

    date = models.DateField()
    rained_from_min = models.PositiveSmallIntegerField(
        null=True, blank=True, help_text="From then on nothing is filmed outdoors; minutes after midnight."
    )
    wrapped = models.BooleanField(default=False, help_text="It is over: nothing more is planned on it.")
    note = models.CharField(max_length=300, blank=True)

    FIELDS = ("date", "rained_from_min", "wrapped", "note")

    class Meta(OfTheDays.Meta):
        ordering = ["date"]
        constraints = [models.UniqueConstraint(fields=["production", "date"], name="one_shooting_day_a_date")]

    @property
    def name(self) -> str:
        return core.day_text(self.date)


class Hand(OfTheDays):
    """Somebody who is called: when they are there, for how long, and for what; see core's Person and Hand."""

    name = models.CharField(max_length=40)
    role = models.CharField(max_length=80, blank=True)
    duty = models.CharField(max_length=8, default="none")
    plays = ArrayField(models.CharField(max_length=40), default=list, blank=True)
    hours = models.JSONField(default=list, blank=True)
    off = models.JSONField(default=list, blank=True)
    longest_day_min = models.PositiveSmallIntegerField(default=600)
    most_min = models.PositiveIntegerField(null=True, blank=True)

    FIELDS = ("name", "role", "duty", "plays", "hours", "off", "longest_day_min", "most_min")

    class Meta(OfTheDays.Meta):
        constraints = [
            models.UniqueConstraint(
                fields=["production", "name"], condition=Q(removed=False), name="one_hand_of_a_name"
            )
        ]

    def __str__(self) -> str:
        return self.name


class Site(OfTheDays):
    """When a place is open, when noise may be made there, where it lies and what hides the sun; see core's
    Place.
    """

    place = models.OneToOneField(Place, on_delete=models.CASCADE, related_name="site")
    hours = models.JSONField(default=list, blank=True)
    off = models.JSONField(default=list, blank=True)
    noise = models.JSONField(default=list, blank=True)
    models_at_once = models.PositiveSmallIntegerField(default=2)
    latitude_deg = models.FloatField(null=True, blank=True)
    longitude_deg = models.FloatField(null=True, blank=True)
    horizon = models.JSONField(default=list, blank=True)

    FIELDS = (
        "place_id",
        "hours",
        "off",
        "noise",
        "models_at_once",
        "latitude_deg",
        "longitude_deg",
        "horizon",
    )

    @property
    def name(self) -> str:
        return self.place.name


class Condition(OfTheDays):
    """Something that comes and goes and is typed in: a tide, a train."""

    name = models.CharField(max_length=40)
    hours = models.JSONField(default=list, blank=True)

    FIELDS = ("name", "hours")

    class Meta(OfTheDays.Meta):
        constraints = [
            models.UniqueConstraint(
                fields=["production", "name"], condition=Q(removed=False), name="one_condition_of_a_name"
            )
        ]

    def __str__(self) -> str:
        return self.name


class Travel(OfTheDays):
    """How long it takes between two places, with everything."""

    here = models.ForeignKey(Place, on_delete=models.CASCADE, related_name="+")
    there = models.ForeignKey(Place, on_delete=models.CASCADE, related_name="+")
    minutes = models.PositiveSmallIntegerField()

    FIELDS = ("here_id", "there_id", "minutes")

    class Meta(OfTheDays.Meta):
        constraints = [
            models.CheckConstraint(condition=~Q(here=F("there")), name="travel_leads_elsewhere"),
            models.UniqueConstraint(fields=["here", "there"], name="one_travel_a_way"),
        ]

    @property
    def name(self) -> str:
        return f"{self.here.name} to {self.there.name}"


class JobSaid(OfTheDays):
    """What somebody said of the job of a set-up, in place of what follows from the shot. Empty = as it
    follows. People and conditions by their names.
    """

    set_up = models.OneToOneField(SetUp, on_delete=models.CASCADE, related_name="job_said")
    before_min = models.PositiveSmallIntegerField(null=True, blank=True)
    takes_min = models.PositiveSmallIntegerField(null=True, blank=True)
    after_min = models.PositiveSmallIntegerField(null=True, blank=True)
    place = models.ForeignKey(Place, on_delete=models.SET_NULL, null=True, blank=True, related_name="+")
    people = ArrayField(models.CharField(max_length=40), null=True, blank=True)
    hour = models.CharField(max_length=8, blank=True)
    outdoors = models.BooleanField(null=True, blank=True)
    tight_will_do = models.BooleanField(default=False)
    noisy = models.BooleanField(default=False)
    destroys = models.BooleanField(default=False)
    unit = models.CharField(max_length=40, blank=True)
    costume = models.CharField(max_length=80, blank=True)
    fall_back = models.CharField(max_length=300, blank=True)
    needs = ArrayField(models.CharField(max_length=40), default=list, blank=True)
    clear_of = ArrayField(models.CharField(max_length=40), default=list, blank=True)
    left_out = models.BooleanField(default=False, help_text="Not filmed at all.")

    FIELDS = (
        "set_up_id",
        "before_min",
        "takes_min",
        "after_min",
        "place_id",
        "people",
        "hour",
        "outdoors",
        "tight_will_do",
        "noisy",
        "destroys",
        "unit",
        "costume",
        "fall_back",
        "needs",
        "clear_of",
        "left_out",
    )

    @property
    def name(self) -> str:
        return f"{self.set_up.shot.code} {self.set_up.name}"


class OrderSaid(OfTheDays):
    """An order between two set-ups that somebody typed, or one that follows from the shots and is waived."""

    first = models.ForeignKey(SetUp, on_delete=models.CASCADE, related_name="+")
    then = models.ForeignKey(SetUp, on_delete=models.CASCADE, related_name="+")
    why = models.CharField(max_length=300, blank=True)
    rest_min = models.PositiveIntegerField(default=0)
    straight = models.BooleanField(default=False)
    waived = models.BooleanField(default=False)

    FIELDS = ("first_id", "then_id", "why", "rest_min", "straight", "waived")

    class Meta(OfTheDays.Meta):
        constraints = [
            models.CheckConstraint(condition=~Q(first=F("then")), name="order_of_two"),
            models.UniqueConstraint(fields=["first", "then"], name="one_order_of_two_set_ups"),
        ]

    @property
    def name(self) -> str:
        return f"{self.first.shot.code} {self.first.name} before {self.then.shot.code} {self.then.name}"


class Booked(OfTheDays):
    """When a set-up is filmed, or one block of it (from 1; 0 = all of it); no date = on no day."""

    set_up = models.ForeignKey(SetUp, on_delete=models.CASCADE, related_name="booked")
    block = models.PositiveSmallIntegerField(default=0)
    date = models.DateField(null=True, blank=True)
    start_min = models.PositiveSmallIntegerField(default=0)
    locked = models.BooleanField(default=False)

    FIELDS = ("date", "start_min", "locked")

    class Meta(OfTheDays.Meta):
        constraints = [
            models.UniqueConstraint(fields=["set_up", "block"], name="one_booking_a_block"),
            models.CheckConstraint(
                condition=Q(start_min__lte=core.LATEST_MIN), name="booking_begins_on_its_day"
            ),
        ]

    @property
    def key(self) -> str:
        return job_key(self.set_up_id, self.block)

    @property
    def name(self) -> str:
        return f"{self.set_up.shot.code} {self.set_up.name}"


class DaysPlanned(models.Model):
    """What the last planning came to: what is proven, why something was left out, and the best plan of one
    that is under way.
    """

    production = models.OneToOneField(Production, on_delete=models.CASCADE, related_name="days_planned")
    fewest_days = models.PositiveSmallIntegerField(default=0)
    fewest_people_days = models.PositiveSmallIntegerField(default=0)
    jobs = models.PositiveSmallIntegerField(
        default=0, help_text="So many were to film; of fewer it proves nothing."
    )
    best = models.BooleanField(default=False)
    why = models.JSONField(default=list, blank=True)
    under_way = models.JSONField(default=list, blank=True)
    planned_from = models.CharField(max_length=64, blank=True)
    at = models.DateTimeField(null=True)


class CallSheet(models.Model):
    """A call sheet that was given out: what it called for, so that the next says what has changed."""

    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="+")
    date = models.DateField()
    number = models.PositiveSmallIntegerField()
    contents = models.JSONField(help_text="Core's Sheet.")
    issued_at = models.DateTimeField(auto_now_add=True)
    issued_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    job = models.ForeignKey(
        "jobs.Job", on_delete=models.SET_NULL, null=True, blank=True, related_name="+", help_text="Its print."
    )

    class Meta:
        ordering = ["date", "number"]
        constraints = [
            models.UniqueConstraint(fields=["production", "date", "number"], name="one_sheet_of_a_number")
        ]

    @property
    def name(self) -> str:
        return f"call sheet {self.number} of {core.day_text(self.date)}"

    def sheet(self) -> core.Sheet:
        """What it called for."""
        found: core.Sheet = core.Sheet.read(self.contents)
        return found
