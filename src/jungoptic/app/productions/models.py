"""Productions, who is in them, and the tolerances that they changed."""

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.db import models
from django.db.models import F, Q
from django.utils import timezone


class Production(models.Model):
    """One film: its delivery and its place."""

    title = models.CharField(max_length=120)
    slug = models.SlugField(unique=True)
    delivery_width_px = models.PositiveIntegerField(default=1920)
    delivery_height_px = models.PositiveIntegerField(default=1080)
    frame_rate_fps = models.FloatField(default=24)
    mains_hz = models.PositiveSmallIntegerField(default=50)
    time_zone = models.CharField(max_length=64, default="UTC")
    latitude_deg = models.FloatField(null=True, blank=True)
    longitude_deg = models.FloatField(null=True, blank=True)
    backings = models.PositiveSmallIntegerField(
        default=0, help_text="Coloured sheets that the production has."
    )
    stage_length_m = models.FloatField(null=True, blank=True)
    stage_width_m = models.FloatField(null=True, blank=True)
    beams_m = models.FloatField(null=True, blank=True)
    black_and_white = models.BooleanField(default=False)
    soften_px = models.FloatField(default=0)
    grain_added = models.FloatField(default=0)
    shows_models = models.BooleanField(default=False)
    tape_error_m = models.FloatField(default=0)
    level_error_deg = models.FloatField(default=0)
    put_away = models.BooleanField(
        default=False, help_text="Finished, or left for now: out of the list, and whole."
    )
    version = models.PositiveIntegerField(default=1)
    revision = models.PositiveIntegerField(
        default=0,
        help_text="Counts up, in the database, when the kit, a tolerance, a place or the delivery changes.",
    )

    class Meta:
        ordering = ["title"]
        constraints = [
            models.CheckConstraint(
                condition=Q(delivery_width_px__gt=0, delivery_height_px__gt=0),
                name="production_delivery_size",
            ),
            models.CheckConstraint(condition=Q(frame_rate_fps__gt=0), name="production_frame_rate"),
            models.CheckConstraint(
                condition=Q(
                    soften_px__gte=0, grain_added__gte=0, tape_error_m__gte=0, level_error_deg__gte=0
                ),
                name="production_finish_and_errors",
            ),
        ]

    def __str__(self) -> str:
        return self.title

    @property
    def upright(self) -> bool:
        """Whether the delivered frame is higher than wide."""
        return self.delivery_height_px > self.delivery_width_px


class Place(models.Model):
    """Somewhere that shots are set, and what recurs in it: a landmark, a sign, damage."""

    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="places")
    name = models.CharField(max_length=80)
    recurring = ArrayField(models.CharField(max_length=80), default=list, blank=True)
    cautions = ArrayField(models.CharField(max_length=24), default=list, blank=True)
    removed = models.BooleanField(
        default=False, help_text="Out of the production; kept, so that it can come back."
    )
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["name"]
        constraints = [
            models.UniqueConstraint(
                fields=["production", "name"], condition=Q(removed=False), name="one_place_of_a_name"
            )
        ]

    def __str__(self) -> str:
        return self.name


class Membership(models.Model):
    """A person's role in a production: the supervisor writes, the crew logs, a guest reads."""

    class Role(models.TextChoices):
        SUPERVISOR = "supervisor"
        CREW = "crew"
        GUEST = "guest"

    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="memberships")
    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=12, choices=Role)
    since = models.DateTimeField(default=timezone.now)
    removed = models.BooleanField(
        default=False, help_text="Taken out: sees nothing any more; takes and names stay."
    )
    version = models.PositiveIntegerField(default=1)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["person", "production"], name="one_role_in_a_production")
        ]

    @property
    def name(self) -> str:
        return str(self.person.shown_name)


class Invitation(models.Model):
    """A way in that is used once: to a role in a production; for a person who has forgotten the password; or,
    without either, for the first account of a machine. Only a hash of what the address carries is kept.
    """

    digest = models.CharField(max_length=64, unique=True)
    production = models.ForeignKey(
        Production, on_delete=models.CASCADE, null=True, related_name="invitations"
    )
    role = models.CharField(max_length=12, choices=Membership.Role, blank=True)
    name = models.CharField(max_length=80, blank=True, help_text="Whom it is for.")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, null=True, related_name="+")
    forgetful = models.ForeignKey(
        settings.AUTH_USER_MODEL,
        on_delete=models.CASCADE,
        null=True,
        related_name="+",
        help_text="Whose password is chosen anew, or whose account it is that came in with a file.",
    )
    expires_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)
    used_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+"
    )
    removed = models.BooleanField(default=False, help_text="Withdrawn.")
    version = models.PositiveIntegerField(default=1)

    class Meta:
        ordering = ["-id"]
        constraints = [
            models.CheckConstraint(
                condition=Q(production__isnull=True, role="") | (Q(production__isnull=False) & ~Q(role="")),
                name="invitation_has_a_role_where_it_leads_somewhere",
            )
        ]


class ToleranceChange(models.Model):
    """A tolerance that this production judges by instead of the default."""

    production = models.ForeignKey(Production, on_delete=models.CASCADE, related_name="tolerances")
    item = models.CharField(max_length=24)
    holds = models.FloatField()
    tight = models.FloatField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["production", "item"], name="one_tolerance_an_item"),
            models.CheckConstraint(
                condition=Q(holds__gt=0, tight__gte=F("holds")), name="tolerance_in_order"
            ),
        ]
