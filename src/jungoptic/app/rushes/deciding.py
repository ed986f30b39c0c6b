"""Keep, mend or shoot again: what each costs, and what somebody decided."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from jungoptic.app.base.answers import Json, fields_of
from jungoptic.app.base.edits import Writing, takes_back
from jungoptic.app.base.models import Change
from jungoptic.app.costs.costing import figures_of
from jungoptic.app.days.reading import DaysOf
from jungoptic.app.productions.models import Production
from jungoptic.app.rushes.columns import Told
from jungoptic.app.rushes.keeping import RUSH
from jungoptic.app.rushes.models import FrameDecision, Rush
from jungoptic.app.takes.log import uncircle
from jungoptic.app.takes.table import SAME_AMOUNT
from jungoptic.core.breakdown import Again, Mend, TakeToMend, break_even, mending_pays, mends
from jungoptic.core.days import clock_text, day_text, first_opening, there_and_back_min
from jungoptic.core.errors import InputError
from jungoptic.core.rushes import Column

DECISION = "frame decision"
_HAND = "matte-hours"
DECIDED = {"": "asked again", "keep": "kept", "mend": "mended", "again": "shot again"}
NO_WAYS: Json = {"columns": [], "again": None, "says": ""}


def decide(write: Writing, rush: Rush, version: int, told: Told, said: Mapping[str, str]) -> None:
    """Decide what becomes of an amount that does not hold; no choice asks again. Raises ConflictError,
    InputError.
    """
    write.refuse_unseen(RUSH, rush, version)
    what, amount, choice = said["what"], said["amount"], said["choice"]
    column = next(
        (each for each in told.columns if (each.row.what, each.judged.amount) == (what, amount)), None
    )
    if column is None:
        raise InputError.at("what", "That is not measured of this recording.")
    take = rush.recording.take
    assert take is not None
    values: dict[str, Any] | None = None
    if choice:
        if choice == FrameDecision.Choice.KEEP and not said["reason"].strip():
            raise InputError.at("reason", "Say why it may stay: whoever composites reads it.")
        way, hours = _priced(rush, told, column, choice, said["way"])
        values = {
            "size": column.judged.size,
            "choice": choice,
            "way": way,
            "hours": hours,
            "reason": said["reason"].strip(),
        }
    _put(write, rush, f"{what}.{amount}", values)
    if choice == FrameDecision.Choice.AGAIN:
        uncircle(write, take)
    write.count_up(RUSH, rush)
    rush.save(update_fields=["version"])


def _priced(rush: Rush, told: Told, column: Column, choice: str, way: str) -> tuple[str, float | None]:
    """How it is mended, and the hours of what was chosen."""
    if choice == FrameDecision.Choice.AGAIN:
        again, _ = _again(rush)
        return "", again.hours if again else None
    if choice == FrameDecision.Choice.KEEP:
        return "", None
    ways = _mends(rush, told, column)
    mend = next((each for each in ways if each.way == way), ways[0] if ways and not way else None)
    if mend is None:
        raise InputError.at("way", "No such mend: choose one of those that are offered, or shoot it again.")
    return mend.way, mend.hours


def _put(write: Writing, rush: Rush, field: str, said: dict[str, Any] | None) -> None:
    what, amount = field.split(".")
    standing = FrameDecision.objects.filter(rush=rush, what=what, amount=amount, withdrawn=False).first()
    before = (
        {name: getattr(standing, name) for name in ("size", "choice", "way", "hours", "reason")}
        if standing
        else None
    )
    if standing:
        standing.withdrawn = True
        standing.save(update_fields=["withdrawn"])
    if said:
        FrameDecision.objects.create(rush=rush, what=what, amount=amount, person_id=write.person.pk, **said)
    write.note(DECISION, rush.pk, rush.recording.name, field, before, said)


@takes_back(DECISION)
def _back(write: Writing, changes: Sequence[Change]) -> None:
    for change in changes:
        rush = Rush.objects.select_related("recording").get(pk=change.row_id)
        _put(write, rush, change.field, change.before)
        write.count_up(RUSH, rush)
        rush.save(update_fields=["version"])


def decisions_of(rush: Rush, columns: Sequence[Column]) -> dict[tuple[str, str], Json]:
    """What was decided of each amount and still stands, by row and amount."""
    sizes = {(each.row.what, each.judged.amount): each.judged.size for each in columns}
    told = {}
    for row in rush.decisions.filter(withdrawn=False).select_related("person"):
        size = sizes.get((row.what, row.amount))
        if size is None or abs(size - row.size) > SAME_AMOUNT * max(abs(row.size), abs(size)):
            continue
        told[row.what, row.amount] = {
            **{name: getattr(row, name) for name in ("choice", "way", "hours", "reason", "at")},
            "by": row.person.shown_name,
        }
    return told


def ways_answer(rush: Rush, told: Told) -> Json:
    """For each amount that does not hold how it is mended; what shooting again costs, and when that could be;
    which is less.
    """
    ways = {(each.row.what, each.judged.amount): _mends(rush, told, each) for each in told.columns}
    open_ways = [found for found in ways.values() if found]
    again, when = _again(rush)
    return {
        "columns": [
            {
                "what": what,
                "amount": amount,
                "mends": [_mend(each) for each in found],
                "pays": again is None or mending_pays(found[0].hours, again),
            }
            for (what, amount), found in ways.items()
            if found
        ],
        "again": None if again is None else {"hours": again.hours, "formula": again.formula, "when": when},
        "says": break_even([found[0] for found in open_ways], again) if again and open_ways else "",
    }


def _mend(mend: Mend) -> Json:
    return {
        "way": mend.way,
        "hours": mend.hours,
        "formula": mend.formula,
        "costs": [fields_of(cost) for cost in mend.costs],
    }


def _mends(rush: Rush, told: Told, column: Column) -> tuple[Mend, ...]:
    production = _production(rush)
    by_hand = told.latest.get(_HAND)
    hours = None
    if by_hand is not None:
        amounts = {each["name"]: each["value"] for each in by_hand.told["amounts"]}
        hours = amounts.get("hours")
    take = TakeToMend(told.length_frames, production.delivery_width_px, hand_h=hours)
    return mends(column, take, figures_of(production), told.tolerances)


def _production(rush: Rush) -> Production:
    return rush.recording.card.production


def _again(rush: Rush) -> tuple[Again | None, str]:
    """What filming the set-up again costs by the days, and when it could be; nothing where it is no job."""
    take = rush.recording.take
    assert take is not None
    production = _production(rush)
    days = DaysOf(production)
    keys = {key for key, own in days.whole.set_ups.items() if take.layer.set_up_id in own}
    job = next((each for each in days.jobs_of(days.whole) if each.key in keys), None)
    if job is None:
        return None, ""
    people = max(figures_of(production).crew, len(job.people))
    travel = there_and_back_min(job, days.ways, days.jobs, days.bookings)
    again = Again(people, job.minutes, travel)
    if not days.open_dates:
        return again, "No shooting day is left."
    shooting = days.in_rain(days.shooting_of(days.whole, [job], (), days.open_dates, (), days.spent))
    opening = first_opening(shooting, job, days.now or (days.today, days.now_min))
    if opening is None:
        return again, "No day that is left has its hours, people and light together."
    day, minute = opening
    return again, f"{day_text(day)}, from {clock_text(minute)} at the soonest, {job.place}."
