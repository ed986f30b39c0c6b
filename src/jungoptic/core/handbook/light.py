"""Lamps, sun, mains and backings."""

from __future__ import annotations

import math
from collections.abc import Callable
from datetime import date as calendar_date
from datetime import datetime, timedelta, timezone
from itertools import pairwise
from typing import Annotated

import numpy as np
from pydantic import Field
from scipy.optimize import brentq, minimize_scalar

from .. import quantities as q
from ..calculation import calculation
from ..errors import InputError
from ..kit.steps import rate_name
from ..light import exposure, mains, sun

Latitude = Annotated[float, q.quantity("Latitude", "°", ge=-90, le=90)]
Longitude = Annotated[float, q.quantity("Longitude", "°", "East is positive.", ge=-180, le=180)]
MainsHz = Annotated[float, q.quantity("Mains", "Hz", gt=0, le=1000)]
_MOST_CLEAN = 8


class MainsFlicker(q.Record):
    amplitude: Annotated[float, q.quantity("Frame-to-frame flicker", "", "(max − min)/(max + min)")]
    stops: Annotated[float, q.quantity("At worst", "stops")]
    clean: Annotated[bool, Field(title="Clean")]
    clean_exposures_s: Annotated[list[float], Field(title="Clean exposures, s")]
    clean_shutter_angles_deg: Annotated[list[float], Field(title="Clean shutter angles, °")]


@calculation(
    question="Will the mains flicker?",
    formula="a = depth·|sin x / x|, x = π·2f·t; log₂((1+a)/(1−a)) stops",
    sources=("mains_ripple", "mains_angles"),
)
def mains_flicker(
    mains_hz: MainsHz,
    capture_fps: q.FramesPerS,
    exposure_s: Annotated[float, q.quantity("Exposure", "s", gt=0, le=10)],
    ripple_depth: Annotated[
        float, q.quantity("Lamp flicker depth", "", "(max − min)/(max + min)", ge=0, lt=1)
    ],
) -> MainsFlicker:
    """Ripple that is left from frame to frame; none when the frame rate divides 2f evenly or the exposure is
    whole ripples.
    """
    if exposure_s * capture_fps > 1 + 1e-9:
        raise InputError.at(
            "exposure_s",
            f"Exposure must be at most one frame, {1 / capture_fps:.4g} s at {rate_name(capture_fps)}"
            f" frames/s; {exposure_s:g} s was given.",
        )
    amplitude = mains.ripple_amplitude(mains_hz, capture_fps, exposure_s, ripple_depth)
    angles = mains.clean_angles_deg(mains_hz, capture_fps, _MOST_CLEAN)
    return MainsFlicker(
        amplitude=amplitude,
        stops=mains.ripple_stops(amplitude),
        clean=amplitude < 1e-6,
        clean_exposures_s=[exposure.exposure_time_s(angle, capture_fps) for angle in angles],
        clean_shutter_angles_deg=angles,
    )


class SunLampDistance(q.Record):
    distance_m: Annotated[float, q.quantity("Lamp to the front edge", "m")]


@calculation(
    question="How far must a lamp stand to pass for the sun?",
    formula="L / (2^(x/2) − 1)",
    sources=("inverse_square",),
)
def sun_lamp_distance(
    depth_m: q.LengthM, falloff_stops: Annotated[float, q.quantity("Fall-off allowed", "stops", gt=0, le=10)]
) -> SunLampDistance:
    """Distance from the lamp to the front edge of a model of that depth, for that fall-off across it."""
    return SunLampDistance(distance_m=depth_m / (2 ** (falloff_stops / 2) - 1))


class LightFalloff(q.Record):
    illuminance_lx: Annotated[float, q.quantity("Light there", "lx")]


@calculation(
    question="How much light does the lamp throw there?", formula="I·cosθ/d²", sources=("inverse_square",)
)
def light_falloff(
    intensity_cd: q.IntensityCd,
    distance_m: q.DistanceM,
    angle_deg: Annotated[float, q.quantity("Angle to the surface's normal", "°", ge=-90, le=90)] = 0.0,
) -> LightFalloff:
    """Illuminance from a small lamp (beyond five times its size within 1 %)."""
    return LightFalloff(illuminance_lx=exposure.lamp_lx(intensity_cd, distance_m, angle_deg))


class SourceHardness(q.Record):
    angular_diameter_deg: Annotated[float, q.quantity("Source looks", "°", "The sun is 0.53°.")]
    penumbra_m: Annotated[float, q.quantity("Soft edge of the shadow", "m")]


@calculation(
    question="How hard is the shadow?",
    formula="2·atan(D/2d); penumbra = o·D/(d − o)",
    sources=("penumbra",),
)
def source_hardness(
    source_diameter_m: q.LengthM,
    source_distance_m: Annotated[
        float, q.quantity("Lamp to the surface", "m", "On which the shadow falls.", gt=0, le=1e7)
    ],
    occluder_distance_m: Annotated[
        float, q.quantity("Edge to the surface", "m", "What throws the shadow.", gt=0, le=1e7)
    ],
) -> SourceHardness:
    """Angular size of a source as the surface sees it, and the width of the penumbra on the surface behind an
    edge that stands that far before it.
    """
    if occluder_distance_m >= source_distance_m:
        raise InputError.at(
            "occluder_distance_m",
            f"What throws the shadow must stand between surface and lamp, nearer than"
            f" {source_distance_m:g} m; {occluder_distance_m:g} m was given.",
        )
    return SourceHardness(
        angular_diameter_deg=math.degrees(2 * math.atan(source_diameter_m / 2 / source_distance_m)),
        penumbra_m=occluder_distance_m * source_diameter_m / (source_distance_m - occluder_distance_m),
    )


class SunPosition(q.Record):
    azimuth_deg: Annotated[float, q.quantity("Azimuth", "°", "From north, clockwise.")]
    elevation_deg: Annotated[float, q.quantity("Elevation", "°", "As it is seen, lifted by the air.")]


@calculation(
    question="Where is the sun?",
    formula="position by the library, refraction (P/1010)(283/(273+T))·1.02/(60·tan(e+10.3/(e+5.11)))",
    sources=("spa",),
)
def sun_position(
    latitude_deg: Latitude,
    longitude_deg: Longitude,
    time: Annotated[
        str,
        Field(title="Time", description="ISO 8601 with its offset: 2027-10-23T16:30:00+01:00", max_length=40),
    ],
    elevation_m: Annotated[
        float,
        q.quantity("Height above the sea", "m", "Sets the pressure when none is given.", ge=-500, le=9000),
    ] = 0.0,
    pressure_hpa: Annotated[float | None, q.quantity("Pressure", "hPa", gt=0, le=1200)] = None,
    temperature_c: Annotated[float, q.quantity("Temperature", "°C", ge=-80, le=60)] = 10.0,
) -> SunPosition:
    """Azimuth and apparent elevation of the sun."""
    try:
        moment = datetime.fromisoformat(time)
    except ValueError:
        raise InputError.at(
            "time", f"Time must be ISO 8601, like 2027-10-23T16:30:00+01:00; {time!r} was given."
        ) from None
    if moment.tzinfo is None:
        raise InputError.at("time", f"Time must say its offset from UTC, like +01:00; {time!r} was given.")
    if not 1900 <= moment.year <= 2100:
        raise InputError.at("time", f"Time must be between the years 1900 and 2100; {moment.year} was given.")
    pressure = 1013.25 * (1 - 2.25577e-5 * elevation_m) ** 5.2559 if pressure_hpa is None else pressure_hpa
    azimuth, elevation = sun.sun_deg(latitude_deg, longitude_deg, moment, pressure, temperature_c)
    return SunPosition(azimuth_deg=azimuth, elevation_deg=elevation)


class SunWindow(q.Record):
    start: Annotated[str, Field(title="From")]
    end: Annotated[str, Field(title="To")]
    camera_heading_deg: Annotated[
        float, q.quantity("Camera looks at the middle", "°", "From north, clockwise.")
    ]
    first_heading_deg: Annotated[float, q.quantity("As it begins", "°")]
    last_heading_deg: Annotated[float, q.quantity("As it ends", "°", "Turned all the while from the first.")]


class TurnToSun(q.Record):
    windows: Annotated[list[SunWindow], Field(title="Windows")]


_DAY_S = 86400.0
_TURNS_LOOKED_FOR = 48  # pieces of the day; the path of the sun turns twice in it
_LEAST_S = 1.0


@calculation(
    question="When can the model be turned to the sun, and which way?",
    formula="|elevation − wanted| ≤ tolerance; heading = sun − 180° + wanted azimuth",
    sources=("spa", "turn_to_sun"),
)
def turn_to_sun(
    latitude_deg: Latitude,
    longitude_deg: Longitude,
    date: Annotated[str, Field(title="Date", description="2027-10-23", max_length=10)],
    utc_offset_h: Annotated[float, q.quantity("Clock ahead of UTC", "h", ge=-14, le=14)],
    sun_relative_azimuth_deg: Annotated[
        float,
        q.quantity(
            "Light from the side", "°", "0 behind the camera, positive to camera right.", ge=-180, le=180
        ),
    ],
    sun_elevation_deg: Annotated[
        float, q.quantity("Elevation", "°", "A sun under the horizon gives no light.", ge=0, le=90)
    ],
    tolerance_deg: Annotated[float, q.quantity("Tolerance", "°", gt=0, le=45)],
) -> TurnToSun:
    """The times of the day at which the sun stands as high as wanted, and where the camera must look as each
    begins, at its middle and as it ends.
    """
    try:
        day = calendar_date.fromisoformat(date)
    except ValueError:
        raise InputError.at("date", f"Date must be like 2027-10-23; {date!r} was given.") from None
    if not 1900 <= day.year <= 2100:
        raise InputError.at("date", f"Date must be between the years 1900 and 2100; {day.year} was given.")
    midnight = datetime(day.year, day.month, day.day, tzinfo=timezone(timedelta(hours=utc_offset_h)))

    def height(seconds: float) -> float:
        return sun.sun_deg(latitude_deg, longitude_deg, midnight + timedelta(seconds=seconds))[1]

    def heading(seconds: float) -> float:
        azimuth = sun.sun_deg(latitude_deg, longitude_deg, midnight + timedelta(seconds=seconds))[0]
        return (azimuth - 180 + sun_relative_azimuth_deg) % 360

    def moment(seconds: float) -> str:
        return (midnight + timedelta(seconds=seconds)).isoformat(timespec="minutes")

    low, high = sun_elevation_deg - tolerance_deg, sun_elevation_deg + tolerance_deg
    return TurnToSun(
        windows=[
            SunWindow(
                start=moment(start),
                end=moment(end),
                camera_heading_deg=heading((start + end) / 2),
                first_heading_deg=heading(start),
                last_heading_deg=heading(end),
            )
            for start, end in _when_within(height, low, high)
        ]
    )


def _when_within(height: Callable[[float], float], low: float, high: float) -> list[tuple[float, float]]:
    """When the sun stands between two heights, seconds of the day.

    Between the turns of its path it only climbs or only sinks, so each edge is where a straight search finds
    it, however short the window is.
    """
    ends = np.linspace(0.0, _DAY_S, _TURNS_LOOKED_FOR + 1)
    heights = [height(end) for end in ends]
    turns = [0.0]
    for place in range(1, len(ends) - 1):
        way = math.copysign(1.0, heights[place] - heights[place - 1])
        if way * (heights[place + 1] - heights[place]) < 0:
            bounds = ends[place - 1], ends[place + 1]
            turns.append(float(minimize_scalar(lambda t, way=way: -way * height(t), bounds=bounds).x))
    turns.append(_DAY_S)
    windows: list[tuple[float, float]] = []
    for first, last in pairwise(turns):
        start, end = sorted(_reached(height, edge, first, last) for edge in (low, high))
        inside = low <= height((start + end) / 2.0) <= high
        if not inside or end - start < _LEAST_S:
            continue
        if windows and start - windows[-1][1] < _LEAST_S:
            windows[-1] = windows[-1][0], end
        else:
            windows.append((start, end))
    return windows


def _reached(height: Callable[[float], float], wanted: float, first: float, last: float) -> float:
    """When a height is reached on a climb or a fall; the end that is nearer to it where it is not."""
    low, high = height(first) - wanted, height(last) - wanted
    if low * high < 0:
        return float(brentq(lambda t: height(t) - wanted, first, last, xtol=0.5))
    return first if abs(low) < abs(high) else last
