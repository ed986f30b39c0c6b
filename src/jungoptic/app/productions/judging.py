"""How a production is judged: its finish, its errors of placing, the tolerances that it changed."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from jungoptic.app.base.edits import Writing, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.productions import film
from jungoptic.app.productions.models import Production, ToleranceChange
from jungoptic.core.errors import FieldProblem, InputError
from jungoptic.core.match import ITEMS, Judging

PRODUCTION, TOLERANCE = "production", "tolerance"
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
                "item": key,
                "label": item.label,
                "unit": item.unit,
                "holds": own.holds if own else item.tolerance.holds,
                "tight": own.tight if own else item.tolerance.tight,
                "default_holds": item.tolerance.holds,
                "default_tight": item.tolerance.tight,
            }
        )
    return {
        "version": production.version,
        **{name: getattr(production, name) for name in _FIELDS},
        "tolerances": rows,
    }


def change(
    write: Writing,
    version: int,
    fields: Mapping[str, Any],
    tolerances: Mapping[str, tuple[float | None, float | None]],
) -> None:
    """Save what is given; a tolerance without numbers goes back to its default.

    Raises InputError or ConflictError.
    """
    Judging.read(dict(fields))
    production = Production.objects.get(pk=write.production_id)
    write.refuse_unseen(PRODUCTION, production, version)
    problems = [
        FieldProblem(item, f"There is no item called “{item}”.") for item in tolerances if item not in ITEMS
    ]
    problems += [
        FieldProblem(
            item,
            f"{ITEMS[item].label}: {which} must be more than 0 and at most {MOST:,}; {value:g} was given.",
        )
        for item, both in tolerances.items()
        for which, value in zip(("Holds", "Tight"), both, strict=True)
        if item in ITEMS and value is not None and not 0 < value <= MOST
    ]
    problems += [
        FieldProblem(
            item,
            f"{ITEMS[item].label}: Tight must not be smaller than Holds; {tight:g} and {holds:g} were given.",
        )
        for item, (holds, tight) in tolerances.items()
        if item in ITEMS and holds is not None and tight is not None and tight < holds
    ]
    if problems:
        raise InputError(*problems)
    write.save(PRODUCTION, production, fields)
    for item, (holds, tight) in tolerances.items():
        _put(write, production, item, None if holds is None or tight is None else [holds, tight])


def _put(write: Writing, production: Production, item: str, limits: list[float] | None) -> None:
    own = ToleranceChange.objects.filter(production=production, item=item)
    row = own.first()
    write.note(
        TOLERANCE, production.pk, production.title, item, [row.holds, row.tight] if row else None, limits
    )
    if limits is None:
        own.delete()
    else:
        ToleranceChange.objects.update_or_create(
            production=production, item=item, defaults={"holds": limits[0], "tight": limits[1]}
        )


@takes_back(PRODUCTION, TOLERANCE)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    production = Production.objects.get(pk=write.production_id)
    fields = {one.field: one.before for one in changes if one.kind == PRODUCTION}
    limits = {one.field: tuple(one.before or (None, None)) for one in changes if one.kind == TOLERANCE}
    if of_film := {name: value for name, value in fields.items() if name in film.FIELDS}:
        film.change(write, production, production.version, of_film)
    of_judging = {name: value for name, value in fields.items() if name not in film.FIELDS}
    if of_judging or limits:
        change(write, production.version, of_judging, limits)
