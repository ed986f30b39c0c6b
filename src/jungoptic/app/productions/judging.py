"""How a production is judged: its finish, its errors of placing, the tolerances that it changed."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.db import transaction

from jungoptic.app.productions.models import Production, ToleranceChange
from jungoptic.core.errors import FieldProblem, InputError
from jungoptic.core.match.records import Judging
from jungoptic.core.match.tolerances import ITEMS

_FIELDS = tuple(Judging.model_fields)
MOST = 1_000_000  # of any item's unit


def read(production_id: int) -> dict[str, Any]:
    """Everything that the judging of this production turns on, by name."""
    production = Production.objects.prefetch_related("tolerances").get(pk=production_id)
    changed = {one.item: one for one in production.tolerances.all()}
    rows = []
    for key, item in ITEMS.items():
        own = changed.get(key)
        rows.append(
            {
                "item": key, "label": item.label, "unit": item.unit, "holds": own.holds if own else item.tolerance.holds, "tight": own.tight if own else item.tolerance.tight,
                "default_holds": item.tolerance.holds, "default_tight": item.tolerance.tight,
            }
        )  # fmt: skip
    return {"version": production.version, **{name: getattr(production, name) for name in _FIELDS}, "tolerances": rows}


def change(
    production_id: int, version: int, fields: Mapping[str, Any], tolerances: Mapping[str, tuple[float | None, float | None]]
) -> dict[str, Any]:
    """Save what is given; a tolerance without numbers goes back to its default. Raises InputError or ConflictError."""
    from jungoptic.app.base.edits import ConflictError

    Judging.read(dict(fields))
    with transaction.atomic():
        production = Production.objects.select_for_update().get(pk=production_id)
        if production.version != version:
            raise ConflictError("judging", "how the production is judged", "Somebody", [])
        problems = [FieldProblem(item, f"There is no item called “{item}”.") for item in tolerances if item not in ITEMS]
        problems += [
            FieldProblem(item, f"{ITEMS[item].label}: {which} must be more than 0 and at most {MOST:,}; {value:g} was given.")
            for item, both in tolerances.items()
            for which, value in zip(("Holds", "Tight"), both, strict=True)
            if item in ITEMS and value is not None and not 0 < value <= MOST
        ]
        problems += [
            FieldProblem(item, f"{ITEMS[item].label}: Tight must not be smaller than Holds; {tight:g} and {holds:g} were given.")
            for item, (holds, tight) in tolerances.items()
            if item in ITEMS and holds is not None and tight is not None and tight < holds
        ]
        if problems:
            raise InputError(*problems)
        for name, value in fields.items():
            setattr(production, name, value)
        production.version += 1
        production.save(update_fields=[*fields, "version"])
        for item, (holds, tight) in tolerances.items():
            if holds is None or tight is None:
                ToleranceChange.objects.filter(production=production, item=item).delete()
            else:
                ToleranceChange.objects.update_or_create(production=production, item=item, defaults={"holds": holds, "tight": tight})
    return read(production_id)
