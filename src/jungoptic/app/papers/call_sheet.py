"""A call sheet: a day on one page, with times, light, people, settings, kit, cautions, what has changed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from django.template.loader import render_to_string
from django.utils import timezone

from jungoptic.app.days.going import Going
from jungoptic.app.days.models import CallSheet, set_up_and_block
from jungoptic.app.days.reading import DaysOf
from jungoptic.app.papers.pdf import fonts
from jungoptic.app.safety.cautions import hazards, signatures
from jungoptic.app.shots.models import Layer
from jungoptic.app.takes.table import BenchTable, shot_with_everything
from jungoptic.core import days as core
from jungoptic.core.cautions import DEFERENCE
from jungoptic.core.match import NOT_SET, settings_in_words
from jungoptic.core.vocabulary import Units

_NONE = ("roll_deg", "nd_stops")  # not said where it is none
# What a crew sets at the camera, in this order; what else there is stands on the shot card.
_SETTINGS = (
    "focal_length_mm",
    "f_number",
    "focus_distance_m",
    "distance_m",
    "lens_height_m",
    "tilt_deg",
    "roll_deg",
    "recorded_width_px",
    "capture_fps",
    "shutter_angle_deg",
    "iso",
    "nd_stops",
    "white_balance_k",
)


@dataclass
class _Gathered:
    """What the shots of a day bring together: kit, and cautions with who was asked."""

    kit: dict[str, set[str]] = field(default_factory=dict)
    cautions: dict[str, dict[str, Any]] = field(default_factory=dict)

    def takes(self, what: str, shot: str) -> None:
        if what:
            self.kit.setdefault(what, set()).add(shot)

    def warns(self, table: BenchTable) -> None:
        signed = signatures(table.shot)
        for raised in hazards(table):
            row = self.cautions.setdefault(
                raised.caution.key, {"caution": raised.caution, "shots": [], "signed": [], "open": []}
            )
            row["shots"].append(table.shot.code)
            sign = signed.get(raised.caution.key)
            if sign is None:
                row["open"].append(table.shot.code)
            else:
                note = sign.note.rstrip(".")
                row["signed"].append(f"{table.shot.code}: {sign.person.shown_name}, {note}")


def call_sheet_html(sheet: CallSheet, *, paper: str, units: Units) -> str:
    """The call sheet as one HTML page for the PDF maker. What it calls for is what was given out; settings
    are as they stand when it is printed.
    """
    production = sheet.production
    going = Going(DaysOf(production))
    table = going.table(sheet.date)
    called = sheet.sheet()
    before = CallSheet.objects.filter(production=production, date=sheet.date, number__lt=sheet.number).last()
    gathered = _Gathered()
    jobs = {slot.job.key: slot for _, row in table.rows for slot in row}
    shots = _tables(going, [job.key for job in called.jobs], units)
    for shot in shots.values():
        gathered.warns(shot)
    rows = [_job(job, jobs.get(job.key), shots, gathered) for job in called.jobs]
    row = next(day for day in going.days.days if day.date == sheet.date)
    return render_to_string(
        "call_sheet.html",
        {
            "production": production,
            "number": sheet.number,
            "day": core.day_text(sheet.date),
            "note": row.note,
            "rain": None if row.rained_from_min is None else core.clock_text(row.rained_from_min),
            "issued": timezone.localtime(sheet.issued_at, going.days.clock.zone),
            "by": sheet.issued_by.shown_name,
            "paper": "A4" if paper == "a4" else "letter",
            "changed": core.sheet_changes(before.sheet(), called) if before else [],
            "before": before.number if before else None,
            "light": _light(going, table),
            "places": list(dict.fromkeys(slot.job.place for slot in jobs.values())),
            "people": [
                {
                    "name": person.name,
                    "role": _role(going, person.name),
                    "called": core.clock_text(person.start),
                    "until": core.clock_text(person.end),
                    "jobs": ", ".join(
                        dict.fromkeys(
                            code
                            for job in called.jobs
                            if job.key in jobs and person.name in jobs[job.key].job.people
                            for code in jobs[job.key].job.shots
                        )
                    ),
                }
                for person in called.people
            ],
            "guests": [
                core.Words(going.shooting).of_guest(guest)
                for guest in going.guests(going.days.bookings)
                if guest.person in {person.name for person in called.people}
            ],
            "jobs": rows,
            "kit": [
                {"name": name, "shots": ", ".join(sorted(codes))}
                for name, codes in sorted(gathered.kit.items())
            ],
            "cautions": list(gathered.cautions.values()),
            "deference": DEFERENCE,
            "fonts": fonts(),
        },
    )


def _role(going: Going, name: str) -> str:
    return next((hand.role for hand in going.days.hands if hand.name == name), "")


def _tables(going: Going, keys: list[str], units: Units) -> dict[int, BenchTable]:
    """The benches of the shots of some jobs, by shot."""
    ids = {going.days.shot_ids[set_up] for key in keys for set_up in _set_ups(going, key)}
    return {pk: BenchTable(shot_with_everything(pk), school="measured", units=units) for pk in sorted(ids)}


def _set_ups(going: Going, key: str) -> tuple[int, ...]:
    return going.days.whole.set_ups.get(key, (set_up_and_block(key)[0],))


def _job(
    called: core.CalledJob, slot: core.Slot | None, shots: dict[int, BenchTable], gathered: _Gathered
) -> dict[str, Any]:
    set_up = set_up_and_block(called.key)[0]
    told: dict[str, Any] = {
        "start": core.clock_text(called.start),
        "end": core.clock_text(called.end),
        "name": called.name,
    }
    found = next(
        (
            (table, layer)
            for table in shots.values()
            for layer in table.layers
            if layer.set_up_id == set_up and layer.set_up is not None
        ),
        None,
    )
    if found is not None:
        told |= {"settings": _settings(*found), "lamps": _carried(*found, gathered)}
    if slot is None:
        return told
    job = slot.job
    holds = [window for window in slot.windows if window.holds] or list(slot.windows)
    return told | {
        "takes": f"{core.clock_text(slot.takes_from_min)} to {core.clock_text(slot.takes_to_min)}",
        "where": ", ".join(filter(None, (job.place, job.model, job.backing))),
        "people": ", ".join(job.people),
        "change": ", ".join(kind for kind, _ in slot.change),
        "change_for": core.duration_text(slot.change_min) if slot.change_min else "",
        "sun": " and ".join(
            f"{core.clock_text(one.start_min)} to {core.clock_text(one.end_min)}" for one in holds
        ),
        "hour": "" if job.hour == "any" else f"{job.hour} light",
        "outdoors": job.outdoors,
        "fall_back": job.fall_back,
    }


def _settings(table: BenchTable, layer: Layer) -> list[tuple[str, str]]:
    assert layer.set_up is not None
    record = table.set_up_record(layer)
    said = {
        name: (label, text)
        for name, label, text in settings_in_words(record, table.words, table.kit(layer.set_up))
        if text != NOT_SET
    }
    return [said[name] for name in _SETTINGS if name in said and (name not in _NONE or getattr(record, name))]


def _carried(table: BenchTable, layer: Layer, gathered: _Gathered) -> str:
    """Lamps and backing of a set-up; with camera and lens they leave the shelf."""
    assert layer.set_up is not None
    code, set_up = table.shot.code, layer.set_up
    record = table.set_up_record(layer)
    gathered.takes(set_up.mode.camera.name, code)
    gathered.takes(set_up.lens.name, code)
    lamps = [f"{lamp.name} {100 * lamp.level:.0f} %" for lamp in record.lamps]
    for lamp in record.lamps:
        gathered.takes(lamp.name, code)
    if record.backing is not None:
        gathered.takes(record.backing.name, code)
        lamps.append(record.backing.name)
    return ", ".join(lamps)


def _light(going: Going, table: core.DayTable) -> str:
    """Twilight, sunrise, golden hours and sunset in one line; "" where nobody said where any place lies."""
    if table.lit_at is None or table.lit_at.lies is None:
        return ""
    light = core.light_of_day(*table.lit_at.lies, table.day, going.days.production.time_zone)
    return "; ".join(_LIGHTS[kind]([_clocks(span) for span in spans]) for kind, spans in light.items())


def _clocks(span: tuple[int, int]) -> tuple[str, str]:
    return core.clock_text(span[0]), core.clock_text(span[1])


def _said_of_golden(spans: list[tuple[str, str]]) -> str:
    return (
        "golden " + " and ".join(f"{start} to {end}" for start, end in spans) if spans else "no golden hour"
    )


def _said_of_sun(spans: list[tuple[str, str]]) -> str:
    return f"sunrise {spans[0][0]}, sunset {spans[-1][1]}" if spans else "the sun does not rise"


def _said_of_twilight(spans: list[tuple[str, str]]) -> str:
    return f"first light {spans[0][0]}, dark {spans[-1][1]}" if spans else "no twilight"


_LIGHTS: dict[core.Light, Callable[[list[tuple[str, str]]], str]] = {
    "day": _said_of_sun,
    "golden": _said_of_golden,
    "twilight": _said_of_twilight,
}
