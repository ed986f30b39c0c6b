"""Where things stand: depth, haze, lines, crowds, eyes, hanging miniatures, and how exactly they must be
placed.
"""

from __future__ import annotations

import math
from typing import Annotated

from pydantic import Field

from .. import quantities as q
from ..calculation import calculation
from ..errors import InputError
from ..light import air
from ..match.layer import Layer
from ..match.records import Delivery, SetUp
from ..optics.focus import ground_tilt_deg
from ..plan.placing import place
from ..vocabulary import School

Distances = Annotated[list[q.DistanceM], Field(title="Distances, m", min_length=1, max_length=1000)]
Point = Annotated[
    tuple[q.PlaceM, q.PlaceM, q.PlaceM],
    Field(title="Place x, y, z, m", description="x right, y up, z away from the camera."),
]


class TiltForGroundPlane(q.Record):
    tilt_deg: Annotated[float, q.quantity("Tilt the lens", "°")]


@calculation(
    question="How far must the lens be tilted to hold the ground?",
    formula="asin(f / J)",
    sources=("scheimpflug",),
)
def tilt_for_ground_plane(
    focal_length_mm: q.FocalLengthMm,
    lens_height_m: Annotated[float, q.quantity("Lens above the ground", "m", gt=0, le=1000)],
) -> TiltForGroundPlane:
    """Tilt that lays the plane of focus on the ground, for a level camera."""
    share = focal_length_mm / (1000 * lens_height_m)
    if share >= 1:
        raise InputError.at(
            "lens_height_m",
            f"The lens must stand higher than its focal length, {focal_length_mm:g} mm;"
            f" {1000 * lens_height_m:g} mm was given.",
        )
    return TiltForGroundPlane(tilt_deg=ground_tilt_deg(focal_length_mm, lens_height_m))


class Haze(q.Record):
    transmission: Annotated[float, q.quantity("Comes through")]
    opacity: Annotated[float, q.quantity("Opacity of a flat fog layer")]
    model_visibility_m: Annotated[float, q.quantity("Visibility in the model", "m")]


@calculation(
    question="How thick is the haze in front of it?",
    formula="exp(−3.912·d/V); model V/s",
    sources=("koschmieder",),
)
def haze(visibility_m: q.DistanceM, distance_m: q.DistanceM, scale: q.Scale = 1.0) -> Haze:
    """What comes through haze of that visibility, and the visibility that a model wants.

    Distances full size.
    """
    through = air.transmission(visibility_m, distance_m)
    return Haze(transmission=through, opacity=1 - through, model_visibility_m=visibility_m / scale)


class ParallaxSpeeds(q.Record):
    shift_px: Annotated[list[float], Field(title="Shift, px")]
    ratio_to_nearest: Annotated[list[float], Field(title="Of the nearest layer's")]


@calculation(question="How far does each layer slide?", formula="f_px·travel/d", sources=("pinhole",))
def parallax_speeds(
    distances_m: Distances, camera_travel_m: q.TravelM, focal_length_px: q.FocalLengthPx
) -> ParallaxSpeeds:
    """Shift of each layer for a sideways camera move, and its share of the nearest layer's."""
    nearest = min(distances_m)
    return ParallaxSpeeds(
        shift_px=[focal_length_px * camera_travel_m / d for d in distances_m],
        ratio_to_nearest=[nearest / d for d in distances_m],
    )


class MatteLineClearance(q.Record):
    clearance_px: Annotated[float, q.quantity("Below the line", "px", "Negative: it stands above.")]
    greatest_height_m: Annotated[float, q.quantity("May be as high as", "m")]


@calculation(
    question="Does it stay behind the matte line?",
    formula="f_px·((h_e − h_c)/d_e − (h_t − h_c)/d_t)",
    sources=("pinhole",),
)
def matte_line_clearance(
    camera_height_m: q.HeightM,
    edge_distance_m: q.DistanceM,
    edge_height_m: q.HeightM,
    thing_distance_m: q.DistanceM,
    thing_height_m: q.HeightM,
    focal_length_px: q.FocalLengthPx,
) -> MatteLineClearance:
    """How far the top of a thing stays below the edge that it passes behind."""
    if thing_distance_m < edge_distance_m:
        raise InputError.at(
            "thing_distance_m",
            f"What passes behind the edge must be at least {edge_distance_m:g} m away; {thing_distance_m:g} m"
            " was given.",
        )
    edge, thing = (
        (edge_height_m - camera_height_m) / edge_distance_m,
        (thing_height_m - camera_height_m) / thing_distance_m,
    )
    return MatteLineClearance(
        clearance_px=focal_length_px * (edge - thing),
        greatest_height_m=camera_height_m + edge * thing_distance_m,
    )


class CrowdRow(q.Record):
    height_px: Annotated[float, q.quantity("Height", "px")]
    feet_below_horizon_px: Annotated[float, q.quantity("Feet below the horizon", "px")]
    camera_height_when_filmed_m: Annotated[float, q.quantity("Lens above their feet when filmed", "m")]
    tilt_when_filmed_deg: Annotated[
        float,
        q.quantity("Tilt when filmed", "°", "Puts the middle of the person in the middle of the frame."),
    ]
    tilt_error_px: Annotated[
        float,
        q.quantity("Which costs", "px", "Head or feet against the level camera; level costs nothing."),
    ]
    enlargement: Annotated[float, q.quantity("Size in the composite", "×")]


def _tilt_error_px(focal_px: float, lens_m: float, person_m: float, distance_m: float) -> float:
    """How much longer head or feet stand from a person's middle for a camera that is tilted at it than for a
    level one.
    """
    aimed = math.atan((person_m / 2 - lens_m) / distance_m)
    return max(
        abs(
            focal_px * math.tan(math.atan((end - lens_m) / distance_m) - aimed)
            - focal_px * (end - person_m / 2) / distance_m
        )
        for end in (0.0, person_m)
    )


class CrowdRows(q.Record):
    rows: Annotated[list[CrowdRow], Field(title="Rows")]


@calculation(
    question="How must each row of a crowd be filmed?",
    formula="f_px·p/d; f_px·(h − base)/d; lens (h − base)·d_f/d above their feet",
    sources=("pinhole",),
)
def crowd_rows(
    distances_m: Distances,
    base_heights_m: Annotated[
        list[q.HeightM] | None, Field(title="Ground under each row, m", max_length=1000)
    ] = None,
    person_height_m: q.LengthM = 1.7,
    camera_height_m: q.HeightM = 1.6,
    focal_length_px: q.FocalLengthPx = 2000.0,
    filming_distance_m: q.DistanceM = 5.0,
) -> CrowdRows:
    """Size and place of each row in the frame, and the camera at which it must be filmed from one distance to
    look the same.
    """
    bases = base_heights_m if base_heights_m is not None else [0.0] * len(distances_m)
    if len(bases) != len(distances_m):
        raise InputError.at(
            "base_heights_m",
            f"There must be a ground height for each of the {len(distances_m)} rows; {len(bases)} were"
            " given.",
        )
    rows = []
    for d, base in zip(distances_m, bases, strict=True):
        above = (camera_height_m - base) * filming_distance_m / d
        rows.append(
            CrowdRow(
                height_px=focal_length_px * person_height_m / d,
                feet_below_horizon_px=focal_length_px * (camera_height_m - base) / d,
                camera_height_when_filmed_m=above,
                tilt_when_filmed_deg=math.degrees(
                    math.atan((person_height_m / 2 - above) / filming_distance_m)
                ),
                tilt_error_px=_tilt_error_px(
                    focal_length_px * filming_distance_m / d, above, person_height_m, filming_distance_m
                ),
                enlargement=filming_distance_m / d,
            )
        )
    return CrowdRows(rows=rows)


class Eyeline(q.Record):
    mark_xyz_m: Annotated[list[float], Field(title="Mark at x, y, z, m")]
    mark_height_m: Annotated[float, q.quantity("Mark above the floor", "m")]
    azimuth_deg: Annotated[
        float, q.quantity("Looks to the side", "°", "0 towards the camera, positive to camera right.")
    ]
    elevation_deg: Annotated[float, q.quantity("Looks up", "°")]


@calculation(
    question="Where does the actor look?",
    formula="mark = eye + unit(target − eye)·distance",
    sources=("pinhole",),
)
def eyeline(actor_xyz_m: Point, target_xyz_m: Point, mark_distance_m: q.DistanceM) -> Eyeline:
    """A mark on the line from the actor's eyes to what is not there."""
    gaze = [t - a for a, t in zip(actor_xyz_m, target_xyz_m, strict=True)]
    far = math.sqrt(sum(g * g for g in gaze))
    if far < 1e-9:
        raise InputError.at("target_xyz_m", "The target must not be where the actor's eyes are.")
    mark = [a + g / far * mark_distance_m for a, g in zip(actor_xyz_m, gaze, strict=True)]
    return Eyeline(
        mark_xyz_m=mark,
        mark_height_m=mark[1],
        azimuth_deg=math.degrees(math.atan2(gaze[0], -gaze[2])),
        elevation_deg=math.degrees(math.asin(gaze[1] / far)),
    )


class NodalParallax(q.Record):
    error_px: Annotated[float, q.quantity("Slides by", "px")]


@calculation(
    question="Will the pan give the hanging miniature away?",
    formula="f_px·e·sin a·|1/(d_near − e·cos a) − 1/(d_far − e·cos a)|, cos a = cos(pan)·cos(tilt)",
    sources=("pinhole",),
)
def nodal_parallax(
    pupil_offset_mm: Annotated[
        float, q.quantity("Nodal offset", "mm", "Ahead of it is positive.", ge=-1e5, le=1e5)
    ],
    pan_deg: Annotated[float, q.quantity("Pan", "°", ge=-180, le=180)],
    near_m: Annotated[float, q.quantity("Near thing", "m", "From the axis.", gt=0, le=1e7)],
    far_m: Annotated[float, q.quantity("Far thing", "m", "From the axis.", gt=0, le=1e7)],
    focal_length_px: q.FocalLengthPx,
    tilt_deg: Annotated[float, q.quantity("Tilt", "°", ge=-90, le=90)] = 0.0,
) -> NodalParallax:
    """How far a near thing slides against a far one, at most, in a pan and tilt about an axis that misses the
    entrance pupil.

    The two cover one another as the turn begins.
    """
    if far_m < near_m:
        raise InputError.at(
            "far_m",
            f"The far thing must not be nearer than the near one, {near_m:g} m; {far_m:g} m was given.",
        )
    ahead = pupil_offset_mm / 1000.0
    if abs(ahead) >= near_m:
        raise InputError.at(
            "near_m",
            f"The near thing must stand beyond the lens, {abs(ahead):g} m; {near_m:g} m was given.",
        )
    turned = math.acos(math.cos(math.radians(pan_deg)) * math.cos(math.radians(tilt_deg)))
    # The slide grows until the way to the near thing touches the circle of the pupil.
    worst = min(turned, math.acos(ahead / near_m))
    across, along = ahead * math.sin(worst), ahead * math.cos(worst)
    return NodalParallax(
        error_px=abs(focal_length_px * across * (1 / (near_m - along) - 1 / (far_m - along)))
    )


class ForegroundMiniature(q.Record):
    model_distance_m: Annotated[float, q.quantity("Model from the entrance pupil", "m")]
    model_height_m: Annotated[float, q.quantity("Model's height", "m")]
    model_base_below_lens_m: Annotated[float, q.quantity("Its ground below the lens", "m")]
    error_per_mm_px: Annotated[float, q.quantity("A millimetre off is", "px")]


@calculation(
    question="Where does a foreground miniature hang?",
    formula="everything ÷ s about the entrance pupil; f_px/d for each millimetre",
    sources=("pinhole",),
)
def foreground_miniature(
    scale: q.Scale,
    full_size_distance_m: q.DistanceM,
    full_size_height_m: q.LengthM,
    camera_height_m: q.HeightM,
    focal_length_px: q.FocalLengthPx,
) -> ForegroundMiniature:
    """Place and size of a miniature that stands for a full-size thing in camera."""
    near = full_size_distance_m / scale
    return ForegroundMiniature(
        model_distance_m=near,
        model_height_m=full_size_height_m / scale,
        model_base_below_lens_m=camera_height_m / scale,
        error_per_mm_px=focal_length_px / 1000 / near,
    )


class DialPlacing(q.Record):
    dial: Annotated[str, Field(title="Dial")]
    wanted: Annotated[float, q.quantity("Wants to be at")]
    unit: Annotated[str, Field(title="Unit")]
    minus: Annotated[float | None, q.quantity("May be less by", "", "Empty when it is beyond Holds already.")]
    plus: Annotated[float | None, q.quantity("May be more by")]
    item: Annotated[str, Field(title="What gives way first")]


class PlacingAnswer(q.Record):
    placings: Annotated[list[DialPlacing], Field(title="Dials")]


@calculation(
    question="How exactly must I place it?",
    formula="search for the first item that leaves Holds",
    sources=("tol_px", "pinhole", "thin_lens"),
)
def placing(
    hero: Annotated[SetUp, Field(title="Hero's set-up")],
    layer: Annotated[Layer, Field(title="Layer")],
    set_up: Annotated[SetUp, Field(title="The layer's set-up")],
    delivery: Annotated[Delivery | None, Field(title="Delivery")] = None,
    school: Annotated[School, Field(title="School")] = "measured",
) -> PlacingAnswer:
    """± for each dial before the worst item that it moves leaves Holds."""
    placings = place(hero, layer, set_up, delivery or Delivery(), school=school)
    return PlacingAnswer(
        placings=[
            DialPlacing(dial=p.dial, wanted=p.wanted, unit=p.unit, minus=p.minus, plus=p.plus, item=p.item)
            for p in placings
        ]
    )
