"""A password that stands: long enough, not one of those that everybody takes."""

from __future__ import annotations

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError

from jungoptic.app.people.models import Person
from jungoptic.core.errors import FieldProblem, InputError


def check(password: str, person: Person, field: str = "password") -> None:
    """Raise InputError at ``field`` with everything that is wrong with a password for this person."""
    try:
        validate_password(password, person)
    except ValidationError as error:
        raise InputError(*(FieldProblem(field, message) for message in error.messages)) from None
