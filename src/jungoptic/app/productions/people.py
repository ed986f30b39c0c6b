"""Who is in a production: roles changed, people taken out and brought back."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from jungoptic.app.base.edits import Writing, as_before, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Membership
from jungoptic.core.errors import InputError

MEMBERSHIP = "membership"
_FIELDS = ("role", "removed")
_ORDER = tuple(Membership.Role.values)  # who may most comes first


def in_production(production_id: int) -> list[Membership]:
    """Everybody who is in it, supervisors first."""
    rows = Membership.objects.filter(production=production_id, removed=False).select_related("person")
    return sorted(rows, key=lambda row: (_ORDER.index(row.role), row.name.casefold()))


def change(write: Writing, membership_id: int, version: int, values: dict[str, Any]) -> Membership:
    """Another role, out of the production, or back into it. The last supervisor stays one.

    Raises InputError or ConflictError.
    """
    row = (
        Membership.objects.filter(production=write.production_id, pk=membership_id)
        .select_related("person")
        .first()
    )
    if row is None:
        raise InputError.at("person", "There is no such person in the production.")
    write.refuse_unseen(MEMBERSHIP, row, version)
    stays = values.get("role", row.role) == Membership.Role.SUPERVISOR and not values.get(
        "removed", row.removed
    )
    was = row.role == Membership.Role.SUPERVISOR and not row.removed
    if was and not stays:
        others = Membership.objects.filter(
            production=write.production_id,
            role=Membership.Role.SUPERVISOR,
            removed=False,
            person__is_active=True,
        ).exclude(pk=row.pk)
        if not others.exists():
            raise InputError.at(
                "role", f"{row.name} is the only supervisor: make somebody else one first, then try again."
            )
    write.save(MEMBERSHIP, row, {name: values[name] for name in _FIELDS if name in values})
    return row


def join(write: Writing, person: Person, role: str) -> Membership:
    """In with this role; who is in already keeps the greater of both."""
    row = Membership.objects.filter(production=write.production_id, person=person).first()
    if row is None:
        row = Membership.objects.create(production_id=write.production_id, person=person, role=role)
        write.made(MEMBERSHIP, row)
        return row
    kept = role if row.removed else min(role, row.role, key=_ORDER.index)
    write.save(MEMBERSHIP, row, {"role": kept, "removed": False})
    return row


@takes_back(MEMBERSHIP)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    fields = as_before(changes)
    for row in Membership.objects.filter(pk__in=list(fields)):
        change(write, row.pk, row.version, fields[row.pk])
