"""Ways in that are used once: made, withdrawn, looked at, used."""

from __future__ import annotations

import hashlib
import secrets
from collections.abc import Sequence
from datetime import datetime, timedelta

from django.contrib.auth.models import AnonymousUser
from django.contrib.auth.validators import UnicodeUsernameValidator
from django.core.exceptions import ValidationError
from django.db import transaction
from django.utils import timezone

from jungoptic.app.base.edits import Writing, as_before, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.base.removing import row_of
from jungoptic.app.people import passwords
from jungoptic.app.people.models import Person
from jungoptic.app.productions import people
from jungoptic.app.productions.models import Invitation
from jungoptic.app.productions.writing import in_production
from jungoptic.core.errors import InputError

INVITATION = "invitation"
SHORTEST, LONGEST = 32, 128  # characters of a token: 192 bits and more
LONGEST_DAYS = 60
MOST_OPEN = 100  # of one production
OF_THE_MACHINE = timedelta(hours=24)
_NONE = "This address is of no use any more: it was used, withdrawn, or has run out. Ask for another one."


def digest_of(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def open_ones(production_id: int) -> list[Invitation]:
    """Those that can still be used."""
    return list(
        Invitation.objects.filter(
            production=production_id, removed=False, used_at=None, expires_at__gt=timezone.now()
        ).select_related("by")
    )


def invite(
    write: Writing,
    by: Person,
    token: str,
    role: str,
    name: str,
    days: float,
    member_id: int | None = None,
) -> Invitation:
    """A way into the production with this role; for ``member_id``, the account of somebody who came in with a
    file. Raises InputError.
    """
    waiting = None
    if member_id is not None:
        waiting = Person.objects.filter(
            memberships__pk=member_id, memberships__production=write.production_id, is_active=False
        ).first()
        if waiting is None:
            raise InputError.at(
                "member", "That person can sign in here already, or is not in the production."
            )
    if not SHORTEST <= len(token) <= LONGEST:
        raise InputError.at("token", f"A token has {SHORTEST} to {LONGEST} characters.")
    if not 0 < days <= LONGEST_DAYS:
        raise InputError.at("days", f"It may stand for up to {LONGEST_DAYS} days; {days:g} was given.")
    if len(open_ones(write.production_id)) >= MOST_OPEN:
        raise InputError.at("", f"{MOST_OPEN} invitations are open: withdraw some first.")
    if Invitation.objects.filter(digest=digest_of(token)).exists():
        raise InputError.at("token", "This token was used before: make another one.")
    row = Invitation.objects.create(
        digest=digest_of(token),
        production_id=write.production_id,
        role=role,
        name=name.strip() or f"somebody as {role}",
        by=by,
        forgetful=waiting,
        expires_at=timezone.now() + timedelta(days=days),
    )
    write.made(INVITATION, row)
    return row


def withdraw(write: Writing, invitation_id: int, version: int, removed: bool = True) -> Invitation:
    row = row_of(write, Invitation, INVITATION, invitation_id)
    write.refuse_unseen(INVITATION, row, version)
    write.save(INVITATION, row, {"removed": removed})
    return row


@takes_back(INVITATION)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    fields = as_before(changes)
    for row in Invitation.objects.filter(pk__in=list(fields)):
        withdraw(write, row.pk, row.version, fields[row.pk]["removed"])


def found(token: str, *, lock: bool = False) -> Invitation:
    """What an address leads to. Raises InputError where it leads nowhere any more."""
    rows = Invitation.objects.filter(
        digest=digest_of(token), removed=False, used_at=None, expires_at__gt=timezone.now()
    )
    row = (rows.select_for_update() if lock else rows.select_related("production", "by", "forgetful")).first()
    if row is None or (row.production_id is None and row.forgetful_id is None and has_accounts()):
        raise InputError.at("token", _NONE)
    return row


def has_accounts() -> bool:
    """Whether anybody could sign in here."""
    return Person.objects.filter(is_active=True).exists()


def of_the_machine(forgetful: Person | None = None) -> tuple[str, datetime]:
    """A token for the first account, or for a person whose password is chosen anew; earlier ones are of no
    use any more.
    """
    token = secrets.token_urlsafe(32)
    expires = timezone.now() + OF_THE_MACHINE
    with transaction.atomic():
        Invitation.objects.filter(production=None, forgetful=forgetful, used_at=None).update(removed=True)
        Invitation.objects.create(digest=digest_of(token), forgetful=forgetful, expires_at=expires)
    return token, expires


def _used(row: Invitation, person: Person) -> None:
    row.used_at, row.used_by = timezone.now(), person
    row.save(update_fields=["used_at", "used_by"])
    if row.production_id is not None:
        with in_production(person, row.production_id) as write:
            write.title = f"{person.shown_name} came in as {row.role}"
            people.join(write, person, row.role)


def _make_it_theirs(person: Person, username: str, name: str) -> None:
    """The account of somebody who came in with a file: what they did is theirs."""
    if person.is_active:
        raise InputError.at("token", _NONE)
    chosen = _new_person(username, name or person.first_name)
    person.username, person.first_name, person.is_active = chosen.username, chosen.first_name, True


def _new_person(username: str, name: str) -> Person:
    username = username.strip()
    try:
        UnicodeUsernameValidator()(username)
    except ValidationError:
        raise InputError.at(
            "username", "A name to sign in with has letters, figures and @ . + - _ only, and no spaces."
        ) from None
    if len(username) > 150:
        raise InputError.at("username", "A name to sign in with has at most 150 characters.")
    if Person.objects.filter(username__iexact=username).exists():
        raise InputError.at("username", f"There is somebody called “{username}” here: choose another name.")
    return Person(username=username, first_name=name.strip() or username)


@transaction.atomic
def use_with_account(token: str, username: str, name: str, password: str) -> Person:
    """Make an account and come in with it; for whoever forgot the password, choose a new one.

    Raises InputError.
    """
    row = found(token, lock=True)
    if row.forgetful_id is not None:
        person = Person.objects.select_for_update().get(pk=row.forgetful_id)
        if row.production_id is not None:
            _make_it_theirs(person, username, name)
    else:
        person = _new_person(username, name)
    passwords.check(password, person)
    person.set_password(password)
    person.save()
    _used(row, person)
    return person


@transaction.atomic
def use_as(token: str, person: Person | AnonymousUser) -> int:
    """Come in with the account that one has. Returns the production's id. Raises InputError."""
    row = found(token, lock=True)
    if row.production_id is None or not isinstance(person, Person):
        raise InputError.at("token", "This address makes an account: sign out first, then open it again.")
    _used(row, person)
    return row.production_id
