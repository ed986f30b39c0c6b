"""A film begun: from nothing, or with what another one has."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Any

from django.db import transaction
from django.utils.text import slugify

from jungoptic.app.base.edits import Writing, writing
from jungoptic.app.base.names import free_name
from jungoptic.app.films.copying import What, copy_into
from jungoptic.app.people.models import Person
from jungoptic.app.productions import film, people
from jungoptic.app.productions.models import Membership, Production
from jungoptic.core.errors import InputError

MOST = 200  # productions of one person


@transaction.atomic
def begin(
    person: Person, values: Mapping[str, Any], source_id: int | None, what: Iterable[What]
) -> tuple[Writing, Production]:
    """A new production, with the person as its supervisor. Raises InputError."""
    check_not_too_many(person)
    source = None
    if source_id is not None:
        source = Production.objects.filter(
            pk=source_id, memberships__person=person, memberships__removed=False
        ).first()
        if source is None:
            raise InputError.at("source", "There is no such production, or you are not in it.")
    made = film.checked(values)
    production = Production.objects.create(slug=free_slug(made.title), **made.model_dump())
    if source is not None:
        copy_into(production, source, set(what), values.keys())
    with writing(person, production.pk) as write:
        write.title = f"“{production.title}” begun"
        write.stays = True
        write.note("production", production.pk, production.title, "title", "", production.title)
        people.join(write, person, Membership.Role.SUPERVISOR)
    return write, production


def check_not_too_many(person: Person) -> None:
    """Whether somebody may be in one production more. Raises InputError."""
    if Membership.objects.filter(person=person, removed=False).count() >= MOST:
        raise InputError.at("", f"You are in {MOST} productions already: leave some first.")


def free_slug(title: str) -> str:
    """A name for addresses and files that no other production has."""
    base = slugify(title)[:40] or "film"
    taken = set(Production.objects.filter(slug__startswith=base).values_list("slug", flat=True))
    return free_name(base, taken)
