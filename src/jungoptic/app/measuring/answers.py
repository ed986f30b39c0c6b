"""What is said of measurements."""

from __future__ import annotations

from typing import Any

from django.db.models import Count, Q

from jungoptic.app.kit.models import RecordingMode
from jungoptic.app.measuring.instruments import came_of
from jungoptic.app.measuring.models import Measurement
from jungoptic.app.measuring.schemas import (
    GuideOut,
    MeasuredOut,
    MeasurementOut,
    MeasuringOut,
    PictureTold,
    ThingOut,
    ValueOut,
)
from jungoptic.app.productions.models import Production
from jungoptic.core.calibration import Asked, MeasuredValue, guides
from jungoptic.core.errors import InputError
from jungoptic.core.handbook import record_fields
from jungoptic.core.wording import number

MOST_LISTED = 60
_KEPT: dict[str, Any] = {"values": [], "says": "", "before": {}}


def measuring_answer(production: Production) -> MeasuringOut:
    """What can be measured, and what was."""
    fields = {field.name: field for field in record_fields(Asked)}
    modes = RecordingMode.objects.filter(camera__production=production, removed=False, camera__removed=False)
    rows = (
        production.measurements.filter(removed=False)
        .select_related("mode", "lens", "lamp", "begun_by")
        .annotate(count=Count("pictures", filter=Q(pictures__removed=False)))[:MOST_LISTED]
    )
    return MeasuringOut(
        version=production.version,
        guides=[
            GuideOut(
                key=key,
                title=guide.title,
                tells=guide.tells,
                of=guide.of,
                minutes=guide.minutes,
                frames=guide.frames,
                fewest=guide.fewest,
                chart=guide.chart,
                steps=list(guide.steps),
                fields=[fields[name] for name in guide.asks],
            )
            for key, guide in guides().items()
        ],
        cameras=_things(production.cameras.filter(removed=False)),
        modes=[
            ThingOut(id=mode.pk, name=mode.name, camera_id=mode.camera_id)
            for mode in modes.order_by("camera__name", "-recorded_width_px", "pk")
        ],
        lenses=[
            ThingOut(id=lens.pk, name=lens.name, camera_id=lens.camera_id)
            for lens in production.lenses.filter(removed=False, on__isnull=True)
        ],
        lamps=_things(production.lamps.filter(removed=False)),
        measured=[_line(row) for row in rows],
    )


def _things(rows: Any) -> list[ThingOut]:
    return [ThingOut(id=row.pk, name=row.name) for row in rows]


def _line(row: Any) -> MeasuredOut:
    return MeasuredOut(
        id=row.pk,
        name=row.name,
        kind=row.kind,
        begun_at=row.begun_at,
        begun_by=row.begun_by.shown_name,
        kept_at=row.kept_at,
        pictures=row.count,
        says=row.kept["says"] if row.kept else "",
        version=row.version,
    )


def measurement_answer(row: Measurement) -> MeasurementOut:
    """A measurement, and what comes of it."""
    kept = row.kept or _KEPT
    values = [MeasuredValue(**each) for each in kept["values"]]
    says, missing, before = kept["says"], "", kept["before"]
    if row.kept is None:
        try:
            came = came_of(row)
            values, says = list(came.values), came.says
            thing = getattr(row, guides()[row.kind].of)
            before = {name: getattr(thing, name) for name in came.kit}
        except InputError as error:
            missing = str(error)
    return MeasurementOut(
        id=row.pk,
        version=row.version,
        name=row.name,
        kind=row.kind,
        recording=f"{row.mode.camera.name}, {row.mode.name}",
        asked=row.asked,
        pictures=[_told(each) for each in row.pictures.filter(removed=False)],
        values=[_value(each, before) for each in values],
        says=says,
        missing=missing,
        kept_at=row.kept_at,
        begun_by=row.begun_by.shown_name,
        removed=row.removed,
    )


def _value(value: MeasuredValue, before: dict[str, Any]) -> ValueOut:
    now = before.get(value.field)
    return ValueOut(
        title=value.title,
        text=_text(value.value, value.unit),
        off=f"± {number(value.off, 2)}" if value.off else "",
        now=_text(float(now), value.unit) if now is not None else "",
        kept=bool(value.field),
    )


def _text(value: float, unit: str) -> str:
    return f"{number(value, 5)}{'' if unit == '°' else ' '}{unit}".strip()


def _told(picture: Any) -> PictureTold:
    told = picture.told
    width, height = told.get("size", (1, 1))
    return PictureTold(
        id=picture.pk,
        name=picture.name,
        says=told["says"],
        stops=picture.stops,
        px=[[round(x / width, 4), round(y / height, 4)] for x, y in told.get("px", [])],
    )
