"""A password that stands: long enough, not one of those that everybody takes."""

from __future__ import annotations

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError

from jungoptic.app.people.models import Person
from jungoptic.core.errors import FieldProblem, InputError

# The demo's accounts, and the password that stands in every description of it: on this machine only.
PRINTED = "tidemill-demo"
PRINTED_FOR = ("supervisor", "camera", "runner", "stranger")


def still_printed() -> list[str]:
    """The accounts that anybody could sign in with who has read how the demo is begun."""
    rows = Person.objects.filter(username__in=PRINTED_FOR, is_active=True).order_by("pk")
    return [row.username for row in rows if row.check_password(PRINTED)]


def check(password: str, person: Person, field: str = "password") -> None:
    """Raise InputError at ``field`` with everything that is wrong with a password for this person."""
    try:
        validate_password(password, person)
    except ValidationError as error:
        raise InputError(*(FieldProblem(field, message) for message in error.messages)) from None
