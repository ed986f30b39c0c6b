"""What is measured, as core knows it, and what came of a measurement so far."""

from __future__ import annotations

from dataclasses import replace

from jungoptic.app.measuring.models import Measurement
from jungoptic.core.measure import Asked, Instrument, Outcome, outcome


def asked_of(row: Measurement) -> Asked:
    """What was said for it."""
    return Asked.read(row.asked)


def instrument_of(row: Measurement) -> Instrument:
    """What the kit says now of what is measured."""
    mode, lens = row.mode, row.lens
    of_mode = Instrument(
        gate_width_mm=mode.gate_width_mm, gate_height_mm=mode.gate_height_mm, readout_ms=mode.readout_ms
    )
    if lens is None:
        return of_mode
    return replace(
        of_mode,
        focal_length_mm=lens.focal_length_mm,
        focusing=lens.focusing,
        widest_f_number=lens.widest_f_number,
        distortion_pct=lens.distortion_pct,
        vignetting_stops=lens.vignetting_stops,
        distortion_gate_mm=lens.measured_gate_mm,
        zoom=lens.longest_mm is not None,
    )


def came_of(row: Measurement) -> Outcome:
    """What came of it. Raises InputError where something is missing yet."""
    told = [{**each.told, "stops_over": each.stops} for each in row.pictures.filter(removed=False)]
    if row.kind == "curve":
        told = [{**each, "stops": each["stops_over"]} for each in told]
    return outcome(row.kind, told, asked_of(row), instrument_of(row))
