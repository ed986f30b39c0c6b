"""The simulated camera measured in place of a real one: its lenses are not what they say, as real ones."""

from __future__ import annotations

from contextlib import suppress
from random import Random
from zlib import crc32

from pydantic import BaseModel

from jungoptic.app.jobs.kinds import job_kind
from jungoptic.app.jobs.running import Running
from jungoptic.app.measuring import keeping
from jungoptic.app.measuring.instruments import asked_of, instrument_of
from jungoptic.app.measuring.models import Measurement
from jungoptic.app.productions.access import LOGS
from jungoptic.app.productions.writing import in_production
from jungoptic.core.calibration import guides, watch
from jungoptic.core.errors import InputError
from jungoptic.core.example import HERO
from jungoptic.core.stage import Truth, film_kit

FOCAL_OFF = (0.012, 0.032)
_USUAL_READOUT_MS = 18.0
_LEAST_HEADROOM = 2.6


class OfAMeasurement(BaseModel):
    """Which measurement."""

    measurement: int


@job_kind("simulated_measuring", OfAMeasurement, queue="heavy", longest_s=600.0, asks=LOGS)
def simulated_measuring(running: Running, of: OfAMeasurement) -> None:
    """Take the pictures of a measurement with the simulated camera."""
    row = Measurement.objects.select_related("mode", "lens", "lamp").get(
        pk=of.measurement, production=running.job.production_id
    )
    instrument, asked, truth = instrument_of(row), asked_of(row), truth_of(row)
    told = []
    wanted = guides()[row.kind].fewest
    for number, filmed in enumerate(film_kit(row.kind, truth, asked, row.pk), 1):
        running.advance(min(0.95, number / (wanted + 2)), at=f"picture {number}")
        with suppress(InputError):  # one that tells nothing is taken again
            told.append((watch(row.kind, filmed.frames, instrument), filmed.stops))
    with in_production(running.job.asked_by, row.production_id) as write:
        row.refresh_from_db()
        write.title = f"{row.name} filmed by the simulated camera"
        for number, (each, stops) in enumerate(told, 1):
            keeping.add_picture(write, row, row.version, f"simulated {number}", each, stops)
        running.finish(said={"measurement": row.pk}, message=f"{len(told)} pictures taken.")


def truth_of(row: Measurement) -> Truth:
    """What the simulated camera with this lens is really like: always the same for one name, whatever was
    measured before.
    """
    instrument, asked, mode = instrument_of(row), asked_of(row), row.mode
    lens = Random(crc32(f"lens {row.lens.name if row.lens else ''}".encode()))
    body = Random(crc32(f"body {mode.name}".encode()))
    lamp = Random(crc32(f"lamp {row.lamp.name if row.lamp else ''}".encode()))
    engraved = _first_said(row, "lens", "focal_length_mm", instrument.focal_length_mm)
    readout = _first_said(row, "mode", "readout_ms", instrument.readout_ms) or _USUAL_READOUT_MS
    headroom = _first_said(row, "mode", "headroom_stops", mode.headroom_stops)
    setup = HERO.but(
        focal_length_mm=engraved * (1.0 + lens.uniform(*FOCAL_OFF) * lens.choice((1.0, -1.0))),
        distortion_pct=lens.uniform(-2.4, -0.4),
        vignetting_stops=lens.uniform(0.4, 1.6),
        focusing=instrument.focusing,
        focus_distance_m=asked.focus_distance_m,
        widest_f_number=instrument.widest_f_number,
        gate_width_mm=mode.gate_width_mm,
        gate_height_mm=mode.gate_height_mm,
        extraction_width_mm=None,
        readout_ms=readout * body.uniform(0.9, 1.15),
        headroom_stops=max(_LEAST_HEADROOM, headroom + body.uniform(-0.8, 0.3)),
    )
    return Truth(
        setup,
        pupil_mm=lens.uniform(15.0, 55.0),
        ripple_depth=lamp.uniform(0.03, 0.35),
        rate_fps=asked.capture_fps * body.choice((1.0, 1000 / 1001)),
        shutter_angle_deg=asked.shutter_angle_deg * body.uniform(0.94, 1.0),
    )


def _first_said(row: Measurement, of: str, field: str, now: float) -> float:
    """What the kit said of it before anything was measured."""
    kept = Measurement.objects.filter(
        **{f"{of}_id": getattr(row, f"{of}_id")}, kept__before__has_key=field
    ).order_by("kept_at")
    first = kept.first()
    return float(first.kept["before"][field]) if first and first.kept else now
