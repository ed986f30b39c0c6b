"""Lamps, sun, mains and backings."""

from __future__ import annotations

import math
from datetime import date as calendar_date
from datetime import datetime, timedelta, timezone
from typing import Annotated, Literal

import numpy as np
from pydantic import Field, model_validator

from .. import quantities as q
from ..calculation import calculation
from ..errors import InputError, refuse
from ..light import exposure, mains, radiate, sun
from ..light.difference import keying_separation
from ..vocabulary import SHEETS

Latitude = Annotated[float, q.quantity("Latitude", "°", ge=-90, le=90)]
Longitude = Annotated[float, q.quantity("Longitude", "°", "East is positive.", ge=-180, le=180)]
MainsHz = Annotated[float, q.quantity("Mains", "Hz", gt=0, le=1000)]
Elevation = Annotated[float, q.quantity("Elevation", "°", ge=-90, le=90)]
_MOST_CLEAN = 8


class MainsFlicker(q.Record):
    amplitude: Annotated[float, q.quantity("Frame-to-frame ripple", "", "(max − min)/(max + min)")]
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
        float, q.quantity("Ripple of the lamp", "", "(max − min)/(max + min)", ge=0, lt=1)
    ],
) -> MainsFlicker:
    """Ripple that is left from frame to frame; none when the frame rate divides 2f evenly or the exposure is
    whole ripples.
    """
    if exposure_s * capture_fps > 1 + 1e-9:
        raise InputError.at(
            "exposure_s",
            f"Exposure must be at most one frame, {1 / capture_fps:.4g} s at {capture_fps:g} frames/s;"
            f" {exposure_s:g} s was given.",
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
    distance_m: Annotated[float, q.quantity("Lamp to the near end", "m")]


@calculation(
    question="How far must a lamp stand to pass for the sun?",
    formula="L / (2^(x/2) − 1)",
    sources=("inverse_square",),
)
def sun_lamp_distance(
    depth_m: q.LengthM, falloff_stops: Annotated[float, q.quantity("Fall-off allowed", "stops", gt=0, le=10)]
) -> SunLampDistance:
    """Distance from the lamp to the near end of a model of that depth, for that fall-off across it."""
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
    formula="2·atan(D/2d); penumbra = occluder distance · D/d",
    sources=("penumbra",),
)
def source_hardness(
    source_diameter_m: q.LengthM, source_distance_m: q.DistanceM, occluder_distance_m: q.DistanceM
) -> SourceHardness:
    """Angular size of a source and the width of the penumbra behind an edge that far in front of the
    surface.
    """
    return SourceHardness(
        angular_diameter_deg=math.degrees(2 * math.atan(source_diameter_m / 2 / source_distance_m)),
        penumbra_m=occluder_distance_m * source_diameter_m / source_distance_m,
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
        at = datetime.fromisoformat(time)
    except ValueError:
        raise InputError.at(
            "time", f"Time must be ISO 8601, like 2027-10-23T16:30:00+01:00; {time!r} was given."
        ) from None
    if at.tzinfo is None:
        raise InputError.at("time", f"Time must say its offset from UTC, like +01:00; {time!r} was given.")
    if not 1900 <= at.year <= 2100:
        raise InputError.at("time", f"Time must be between the years 1900 and 2100; {at.year} was given.")
    pressure = 1013.25 * (1 - 2.25577e-5 * elevation_m) ** 5.2559 if pressure_hpa is None else pressure_hpa
    azimuth, elevation = sun.sun_deg(latitude_deg, longitude_deg, at, pressure, temperature_c)
    return SunPosition(azimuth_deg=azimuth, elevation_deg=elevation)


class SunWindow(q.Record):
    start: Annotated[str, Field(title="From")]
    end: Annotated[str, Field(title="To")]
    camera_heading_deg: Annotated[
        float, q.quantity("Camera looks at the middle", "°", "From north, clockwise.")
    ]


class TurnToSun(q.Record):
    windows: Annotated[list[SunWindow], Field(title="Windows")]


_STEP = timedelta(minutes=10)


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
    sun_elevation_deg: Elevation,
    tolerance_deg: Annotated[float, q.quantity("Tolerance", "°", gt=0, le=45)],
) -> TurnToSun:
    """The times of the day at which the sun stands as high as wanted, and where the camera must look at the
    middle of each.
    """
    try:
        day = calendar_date.fromisoformat(date)
    except ValueError:
        raise InputError.at("date", f"Date must be like 2027-10-23; {date!r} was given.") from None
    if not 1900 <= day.year <= 2100:
        raise InputError.at("date", f"Date must be between the years 1900 and 2100; {day.year} was given.")
    midnight = datetime(day.year, day.month, day.day, tzinfo=timezone(timedelta(hours=utc_offset_h)))

    def off(at: datetime) -> float:
        return abs(sun.sun_deg(latitude_deg, longitude_deg, at)[1] - sun_elevation_deg) - tolerance_deg

    def edge(outside: datetime, inside: datetime) -> datetime:
        for _ in range(10):
            middle = outside + (inside - outside) / 2
            outside, inside = (outside, middle) if off(middle) <= 0 else (middle, inside)
        return inside

    times = [midnight + n * _STEP for n in range(145)]
    holds = [off(at) <= 0 for at in times]
    windows: list[SunWindow] = []
    start: datetime | None = times[0] if holds[0] else None
    for n in range(1, len(times)):
        if holds[n] and not holds[n - 1]:
            start = edge(times[n - 1], times[n])
        if start and (not holds[n] or n == len(times) - 1):
            end = times[n] if holds[n] else edge(times[n], times[n - 1])
            azimuth = sun.sun_deg(latitude_deg, longitude_deg, start + (end - start) / 2)[0]
            heading = (azimuth - 180 + sun_relative_azimuth_deg) % 360
            windows.append(
                SunWindow(
                    start=start.isoformat(timespec="minutes"),
                    end=end.isoformat(timespec="minutes"),
                    camera_heading_deg=heading,
                )
            )
            start = None
    return TurnToSun(windows=windows)


# --- backings


class BackingSize(q.Record):
    width_m: Annotated[float, q.quantity("Whole frame, width", "m")]
    height_m: Annotated[float, q.quantity("Whole frame, height", "m")]
    envelope_width_m: Annotated[
        float | None, q.quantity("What must be even, width", "m", "The envelope of the movement.")
    ]
    envelope_height_m: Annotated[float | None, q.quantity("What must be even, height", "m")]


@calculation(
    question="How large must the backing be?",
    formula="(d·G/f + travel)·(1 + 2·margin); envelope: w·d/d_s + travel·(d/d_s − 1)",
    sources=("pinhole",),
)
def backing_size(
    focal_length_mm: q.FocalLengthMm,
    gate_width_mm: q.GateWidthMm,
    gate_height_mm: q.GateHeightMm,
    distance_m: q.DistanceM,
    travel_m: Annotated[float, q.quantity("Camera travel", "m", ge=0, le=1e5)] = 0.0,
    margin: Annotated[float, q.quantity("Margin on each side", "", "0.1 is 10 %.", ge=0, le=5)] = 0.1,
    subject_width_m: q.LengthM | None = None,
    subject_height_m: q.LengthM | None = None,
    subject_distance_m: q.DistanceM | None = None,
) -> BackingSize:
    """Size of the backing for the whole frame, and for the envelope of the subject's movement alone."""
    grow = 1 + 2 * margin
    width, height = None, None
    given = (subject_width_m, subject_height_m, subject_distance_m)
    if any(one is not None for one in given):
        if subject_width_m is None or subject_height_m is None or subject_distance_m is None:
            raise InputError.at(
                "subject_distance_m",
                "The envelope needs width, height and distance of the subject, all three.",
            )
        if subject_distance_m > distance_m:
            raise InputError.at(
                "subject_distance_m",
                f"The subject must stand in front of the backing, at most {distance_m:g} m;"
                f" {subject_distance_m:g} m was given.",
            )
        out = distance_m / subject_distance_m
        width, height = (subject_width_m * out + travel_m * (out - 1)) * grow, subject_height_m * out * grow
    return BackingSize(
        width_m=(distance_m * gate_width_mm / focal_length_mm + travel_m) * grow,
        height_m=distance_m * gate_height_mm / focal_length_mm * grow,
        envelope_width_m=width,
        envelope_height_m=height,
    )


class BackingLamp(q.Record):
    """A lamp on a backing: x from its middle, y from its foot, z in front of it."""

    x_m: Annotated[float, q.quantity("To the side of the middle", "m", ge=-1e6, le=1e6)]
    y_m: Annotated[float, q.quantity("Above the foot", "m", ge=-1e6, le=1e6)]
    z_m: Annotated[float, q.quantity("In front of the backing", "m", gt=0, le=1000)]
    intensity_cd: q.IntensityCd
    aim_x_m: Annotated[float, q.quantity("Aimed to the side", "m", ge=-1e6, le=1e6)] = 0.0
    aim_y_m: Annotated[float, q.quantity("Aimed up to", "m", ge=-1e6, le=1e6)] = 1.0
    beam_deg: Annotated[float, q.quantity("Beam", "°", "Half the light at its edge.", gt=1, le=178)] = 110.0
    length_m: Annotated[float, q.quantity("Length of a tube", "m", ge=0, le=10)] = 0.0


class Region(q.Record):
    """A rectangle of the backing: what the subject crosses."""

    left_m: Annotated[float, q.quantity("Left", "m", ge=-1e6, le=1e6)]
    right_m: Annotated[float, q.quantity("Right", "m", ge=-1e6, le=1e6)]
    bottom_m: Annotated[float, q.quantity("Bottom", "m", ge=-1e6, le=1e6)]
    top_m: Annotated[float, q.quantity("Top", "m", ge=-1e6, le=1e6)]

    @model_validator(mode="after")
    def _has_area(self) -> Region:
        if self.right_m <= self.left_m or self.top_m <= self.bottom_m:
            raise refuse("region", "The region must have right beyond left and top beyond bottom.")
        return self


class BackingEvenness(q.Record):
    min_lx: Annotated[float, q.quantity("Darkest", "lx")]
    max_lx: Annotated[float, q.quantity("Brightest", "lx")]
    spread_stops: Annotated[float, q.quantity("Spread", "stops", "log₂ of brightest over darkest.")]
    map: Annotated[list[list[float]], Field(title="Map, lx, rows from the top")]


_COLUMNS, _ROWS = 33, 25


@calculation(
    question="How even is my sheet?",
    formula="Σ I·cosⁿθ·cosφ/d², tubes integrated; log₂(max/min)",
    sources=("inverse_square", "backing_practice"),
)
def backing_evenness(
    width_m: q.LengthM,
    height_m: q.LengthM,
    lamps: Annotated[list[BackingLamp], Field(title="Lamps", min_length=1, max_length=64)],
    region: Region | None = None,
    sun_lx: q.IlluminanceLx = 0.0,
    sky_lx: q.IlluminanceLx = 0.0,
) -> BackingEvenness:
    """Illuminance over the backing, and its spread over the region (all of it when none is given).

    Sun and sky add evenly.
    """
    x = np.linspace(-width_m / 2, width_m / 2, _COLUMNS)
    y = np.linspace(height_m, 0, _ROWS)
    xs, ys = np.meshgrid(x, y)
    points = np.column_stack((xs.ravel(), ys.ravel()))

    def lit(where: radiate.Array) -> radiate.Array:
        total = np.full(len(where), sun_lx + sky_lx)
        for lamp in lamps:
            total += radiate.lamp_on_plane(
                where,
                (lamp.x_m, lamp.y_m, lamp.z_m),
                lamp.intensity_cd,
                (lamp.aim_x_m, lamp.aim_y_m),
                lamp.beam_deg,
                lamp.length_m,
            )
        return total

    if region is None:
        whole = judged = lit(points)
    else:
        rx, ry = np.meshgrid(
            np.linspace(region.left_m, region.right_m, _COLUMNS),
            np.linspace(region.bottom_m, region.top_m, _ROWS),
        )
        whole, judged = np.split(lit(np.vstack((points, np.column_stack((rx.ravel(), ry.ravel()))))), 2)
    low, high = float(judged.min()), float(judged.max())
    if low <= 0:
        raise InputError.at(
            "lamps", "Part of the region gets no light at all: turn a lamp towards it or widen a beam."
        )
    return BackingEvenness(
        min_lx=low,
        max_lx=high,
        spread_stops=math.log2(high / low),
        map=whole.reshape(_ROWS, _COLUMNS).round(2).tolist(),
    )


class Spill(q.Record):
    configuration_factor: Annotated[
        float, q.quantity("Configuration factor", "", "Share of what the surface sees that is backing.")
    ]
    spill_lx: Annotated[float, q.quantity("Spill", "lx")]


@calculation(
    question="How much does the backing spill on the subject?",
    formula="ρ·E·F",
    sources=("howell", "backing_practice"),
)
def spill(
    backing_width_m: q.LengthM,
    backing_height_m: q.LengthM,
    distance_m: q.DistanceM,
    backing_illuminance_lx: q.IlluminanceLx,
    reflectance: Annotated[float, q.quantity("Reflectance", "", ge=0, le=1)],
    facing_deg: Annotated[
        float,
        q.quantity(
            "Turned from the backing", "°", "0 faces it, 90 a rim that faces sideways.", ge=-180, le=180
        ),
    ] = 0.0,
) -> Spill:
    """Light that an even backing sends to a surface in front of its centre."""
    factor = radiate.rectangle_factor(backing_width_m, backing_height_m, distance_m, facing_deg)
    return Spill(configuration_factor=factor, spill_lx=reflectance * backing_illuminance_lx * factor)


BackingName = Literal["green", "blue", "black", "white", "sky", "snow", "plain"]
# Usual colours of usual backings; a real sheet should be measured.
_BACKINGS: dict[str, str] = {
    **SHEETS,
    "sky": "#a9c9e8",
    "snow": "#eef2f6",
    "plain": "#9a9a9a",
}


class KeptColour(q.Record):
    """Something that must stay: its colour and its name."""

    hex: Annotated[str, Field(title="Colour", pattern=r"^#[0-9a-fA-F]{6}$")]
    name: Annotated[str, Field(title="Name", max_length=60)] = ""


class RankedBacking(q.Record):
    backing: Annotated[str, Field(title="Backing")]
    separation: Annotated[float, q.quantity("Separation", "ΔE", "From the nearest thing that must stay.")]
    reasons: Annotated[list[str], Field(title="Reasons")]


class BackingColour(q.Record):
    ranking: Annotated[list[RankedBacking], Field(title="Ranking")]


@calculation(
    question="Which backing colour?",
    formula="least CIEDE2000 between chromas (coloured) or lightness (black, white, plain) to what must stay",
    sources=("ciede2000", "backing_choice"),
)
def backing_colour(
    colours: Annotated[list[KeptColour], Field(title="What must stay", min_length=1, max_length=64)],
    glows: Annotated[bool, Field(title="It glows")] = False,
    dark_subject: Annotated[bool, Field(title="Dark subject")] = False,
    available: Annotated[
        list[BackingName] | None, Field(title="Backings that there are", min_length=1)
    ] = None,
) -> BackingColour:
    """Backings in order, with the reasons: distance to what must stay first, then the trade's habits."""
    ranked: list[tuple[float, RankedBacking]] = []
    for backing in dict.fromkeys(available or _BACKINGS):
        nearest = min(colours, key=lambda kept: keying_separation(_BACKINGS[backing], kept.hex.lower()))
        apart = keying_separation(_BACKINGS[backing], nearest.hex.lower())
        reasons = [f"nearest to it is {nearest.name or nearest.hex}, {apart:.0f} away"]
        score = apart
        if glows:
            score += 1000 if backing == "black" else 0
            reasons.append(
                "what glows is added over black"
                if backing == "black"
                else "a glow takes on the backing's colour"
            )
        elif backing == "black":
            score -= 30
            reasons.append("keys only what glows; anything dark goes with it")
        if dark_subject and backing in ("white", "sky", "snow"):
            score += 60
            reasons.append("a dark subject stands out against it")
        if backing in ("white", "snow", "plain") and not dark_subject:
            score -= 30
            reasons.append("wants hand mattes where the subject is as light")
        if backing == "green":
            score += 3
            reasons.append("carries most of luma and half of the photosites: least noise")
        if backing == "blue":
            reasons.append("kinder to hair and dusk scenes, noisier than green")
        ranked.append((score, RankedBacking(backing=backing, separation=apart, reasons=reasons)))
    return BackingColour(ranking=[one for _, one in sorted(ranked, key=lambda pair: -pair[0])])
