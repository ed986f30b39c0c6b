"""What is measured, as core knows it, and what came of a measurement so far."""

from __future__ import annotations

from dataclasses import replace

from jungoptic.app.kit.models import Lens
from jungoptic.app.measuring.models import Measurement
from jungoptic.core.calibration import ENGRAVED_OFF, Asked, Instrument, Outcome, outcome

_FOCAL = "focal_length_mm"


def asked_of(row: Measurement) -> Asked:
    """What was said for it."""
    return Asked.read(row.asked)


def instrument_of(row: Measurement) -> Instrument:
    """What the kit says now of what is measured."""
    mode, lens = row.mode, row.lens
    of_mode = Instrument(
        gate_width_mm=mode.gate_width_mm,
        gate_height_mm=mode.gate_height_mm,
        recorded_height_px=mode.recorded_height_px,
        readout_ms=mode.readout_ms,
    )
    if lens is None:
        return of_mode
    return replace(
        of_mode,
        focal_length_mm=lens.focal_length_mm,
        focal_off=_focal_off(lens),
        focusing=lens.focusing,
        widest_f_number=lens.widest_f_number,
        distortion_pct=lens.distortion_pct,
        vignetting_stops=lens.vignetting_stops,
        distortion_gate_mm=lens.measured_gate_mm,
        zoom=lens.longest_mm is not None,
    )


def _focal_off(lens: Lens) -> float:
    """What its focal length may be off: as it was measured last, if that still stands in the kit."""
    last = Measurement.objects.filter(lens=lens, kind="lens", kept__isnull=False).order_by("-kept_at").first()
    for value in last.kept["values"] if last and last.kept else ():
        if value["field"] == _FOCAL and value["value"] == lens.focal_length_mm:
            return float(value["off"]) / lens.focal_length_mm
    return ENGRAVED_OFF


def came_of(row: Measurement) -> Outcome:
    """What came of it. Raises InputError where something is missing yet."""
    pictures = row.pictures.filter(removed=False)
    series = row.kind == "curve"
    told = [{**each.told, "stops": each.stops} if series else each.told for each in pictures]
    return outcome(row.kind, told, asked_of(row), instrument_of(row))
