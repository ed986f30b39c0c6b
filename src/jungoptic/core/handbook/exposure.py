"""Exposure and colour of light."""

from __future__ import annotations

from typing import Annotated

from .. import quantities as q
from ..calculation import calculation
from ..light import colour
from ..light import exposure as light
from ..optics.diffraction import closeup_factor
from ..vocabulary import LUX_PER_FOOTCANDLE


class ExposureLight(q.Record):
    illuminance_lx: Annotated[float, q.quantity("Light wanted", "lx")]
    illuminance_fc: Annotated[float, q.quantity("Light wanted", "fc")]
    exposure_time_s: Annotated[float, q.quantity("Exposure time", "s")]


@calculation(
    question="How much light does it take?",
    formula="E = 250·N²/(S·t) · 2^nd · (1+m)²; t = angle/360/rate",
    sources=("exposure_meter", "shutter", "closeup", "footcandle"),
)
def exposure_light(
    f_number: q.FNumber,
    iso: q.Iso,
    shutter_angle_deg: q.ShutterAngleDeg,
    capture_fps: q.FramesPerS,
    nd_stops: q.NdStops = 0.0,
    magnification: q.Magnification = 0.0,
) -> ExposureLight:
    """Light on the subject for a normal exposure."""
    time_s = light.exposure_time_s(shutter_angle_deg, capture_fps)
    lux = light.illuminance_lx(f_number, iso, time_s, nd_stops, closeup_factor(magnification))
    return ExposureLight(illuminance_lx=lux, illuminance_fc=lux / LUX_PER_FOOTCANDLE, exposure_time_s=time_s)


class MiredShift(q.Record):
    mired: Annotated[float, q.quantity("Shift", "mired", "Warmer is positive.")]


@calculation(
    question="How far apart are two colours of light?", formula="10⁶/T_to − 10⁶/T_from", sources=("mired",)
)
def mired_shift(from_k: q.ColourK, to_k: q.ColourK) -> MiredShift:
    """Shift in mireds."""
    return MiredShift(mired=colour.mired_shift(from_k, to_k))
