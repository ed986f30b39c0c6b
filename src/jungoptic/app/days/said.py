"""What somebody said over what follows from the shots."""

from __future__ import annotations

from collections.abc import Collection, Mapping

from jungoptic.app.days.models import JobSaid, OrderSaid
from jungoptic.core import days as core


def said_over(
    job: core.Job,
    said: JobSaid,
    places: Mapping[int, str],
    people: Collection[str],
    conditions: Collection[str],
) -> core.Job | None:
    """A job as somebody said it is; None where it is not filmed at all. Names that there are no more are left
    out.
    """
    if said.left_out:
        return None
    update: dict[str, object] = {
        "place": places.get(said.place_id or 0, job.place),
        "tight_will_do": said.tight_will_do,
        "noisy": said.noisy,
        "unit": said.unit,
        "costume": said.costume,
        "fall_back": said.fall_back,
        "needs": tuple(name for name in said.needs if name in conditions),
        "clear_of": tuple(name for name in said.clear_of if name in conditions),
    }
    whole = "." not in job.key
    if said.before_min is not None and whole:
        update["before_min"] = said.before_min
    if said.takes_min is not None and whole:
        update["takes_min"] = said.takes_min
    if said.after_min is not None and whole:
        update["after_min"] = said.after_min
    if said.people is not None:
        update["people"] = tuple(name for name in said.people if name in people)
    if said.outdoors is not None:
        update["outdoors"] = said.outdoors
    if said.hour:
        update |= {"hour": said.hour, "sun": None}
    return job.model_copy(update=update)


def order_said(row: OrderSaid, why: str) -> dict[str, object]:
    """What of an order is said, with the reason that it has anyway."""
    return {
        "why": row.why or why,
        "rest_min": row.rest_min,
        "straight": row.straight,
        "waived": row.waived,
    }
