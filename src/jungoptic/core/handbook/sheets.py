"""Sheets behind a subject: size, evenness, spill, colour."""

from __future__ import annotations

import math
from typing import Annotated, Literal

import numpy as np
from pydantic import Field, model_validator

from .. import quantities as q
from ..calculation import calculation
from ..errors import InputError, refuse
from ..light import radiate
from ..light.difference import keying_separation
from ..light.placed import PlacedLamp, light_on
from ..vocabulary import SHEETS


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
    if any(size is not None for size in given):
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

    x_m: Annotated[float, q.quantity("To the side of the middle", "m", ge=-1000, le=1000)]
    y_m: Annotated[float, q.quantity("Above the foot", "m", ge=-1000, le=1000)]
    z_m: Annotated[float, q.quantity("In front of the backing", "m", gt=0, le=1000)]
    intensity_cd: q.IntensityCd
    aim_x_m: Annotated[float, q.quantity("Aimed left or right", "m", ge=-1000, le=1000)] = 0.0
    aim_y_m: Annotated[float, q.quantity("Aimed up to", "m", ge=-1000, le=1000)] = 1.0
    beam_deg: Annotated[float, q.quantity("Beam", "°", "Half the light at its edge.", gt=1, le=178)] = 110.0
    length_m: Annotated[float, q.quantity("Length of a tube", "m", ge=0, le=10)] = 0.0

    def placed(self) -> PlacedLamp:
        """The same lamp in a set whose middle is the foot of the sheet.

        Returns
        -------
        PlacedLamp
            Metres as in the set.

        Examples
        --------
        >>> BackingLamp(x_m=1.0, y_m=2.0, z_m=2.5, intensity_cd=700).placed().behind_m
        -2.5
        """
        return PlacedLamp(
            name="Lamp",
            intensity_cd=self.intensity_cd,
            beam_deg=self.beam_deg,
            length_m=self.length_m,
            across_m=self.x_m,
            height_m=self.y_m,
            behind_m=-self.z_m,
            aim_across_m=self.aim_x_m,
            aim_height_m=self.aim_y_m,
        )


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
    points = np.column_stack((xs.ravel(), ys.ravel(), np.zeros(xs.size)))

    def lit(where: radiate.Array) -> radiate.Array:
        total = np.full(len(where), sun_lx + sky_lx)
        for lamp in lamps:
            total += light_on(where, lamp.placed(), (0.0, 0.0, -1.0))
        return total

    if region is None:
        whole = judged = lit(points)
    else:
        rx, ry = np.meshgrid(
            np.linspace(region.left_m, region.right_m, _COLUMNS),
            np.linspace(region.bottom_m, region.top_m, _ROWS),
        )
        whole, judged = np.split(
            lit(np.vstack((points, np.column_stack((rx.ravel(), ry.ravel(), np.zeros(rx.size)))))), 2
        )
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
    glows: Annotated[q.YesNo, Field(title="It glows")] = False,
    dark_subject: Annotated[q.YesNo, Field(title="Dark subject")] = False,
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
    return BackingColour(ranking=[row for _, row in sorted(ranked, key=lambda pair: -pair[0])])
