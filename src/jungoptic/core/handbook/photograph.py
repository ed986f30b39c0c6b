"""What a photograph tells: where the light came from, the lens, the camera's height."""

from __future__ import annotations

import math
from typing import Annotated

import numpy as np
from pydantic import Field

from .. import optics
from .. import quantities as q
from ..calculation import calculation
from ..errors import InputError

BallPlace = Annotated[
    float, q.quantity("Across or up the ball", "", "−1 … 1 from its middle to its rim.", ge=-1, le=1)
]
ImagePx = Annotated[float, q.quantity("In the picture", "px", ge=-1e6, le=1e6)]


class LightDirection(q.Record):
    azimuth_deg: Annotated[
        float, q.quantity("Light from the side", "°", "0 behind the camera, positive to camera right.")
    ]
    elevation_deg: Annotated[float, q.quantity("Light from above", "°")]


@calculation(
    question="Where does the light on the mirror ball come from?",
    formula="r = 2(n·v)n − v",
    sources=("debevec",),
)
def mirror_ball(
    x: BallPlace,
    y: BallPlace,
    camera_distance_in_radii: Annotated[
        float | None, q.quantity("Camera from the ball's centre", "radii", "Empty: far away.", gt=1, le=1e6)
    ] = None,
) -> LightDirection:
    """Direction of the light whose highlight stands at (x right, y up) on a mirrored ball."""
    if math.hypot(x, y) > 1:
        raise InputError.at(
            "x", f"The highlight must lie on the ball: x² + y² at most 1; {x * x + y * y:.3f} was given."
        )
    if camera_distance_in_radii is None:
        normal, view = (x, y, math.sqrt(max(1 - x * x - y * y, 0.0))), (0.0, 0.0, 1.0)
    else:
        d = camera_distance_in_radii
        rim = 1 / math.sqrt(d * d - 1)  # tangent of the angle under which the rim is seen
        ray = (x * rim, y * rim, -1.0)
        length2 = sum(c * c for c in ray)
        b, c = -d, d * d - 1
        root = max(b * b - length2 * c, 0.0)
        t = (-b - math.sqrt(root)) / length2
        normal = (ray[0] * t, ray[1] * t, d + ray[2] * t)
        view = (-ray[0] / math.sqrt(length2), -ray[1] / math.sqrt(length2), 1 / math.sqrt(length2))
    along = 2 * sum(n * v for n, v in zip(normal, view, strict=True))
    r = [along * n - v for n, v in zip(normal, view, strict=True)]
    return LightDirection(
        azimuth_deg=math.degrees(math.atan2(r[0], r[2])),
        elevation_deg=math.degrees(math.asin(max(-1.0, min(1.0, r[1])))),
    )


class ShadowStick(q.Record):
    elevation_deg: Annotated[float, q.quantity("Light from above", "°")]
    azimuth_deg: Annotated[
        float | None,
        q.quantity("Light from the side", "°", "Against the shadow; empty without its direction."),
    ]


@calculation(
    question="Where does the light come from, by a stick's shadow?",
    formula="atan(stick/shadow); the light stands opposite the shadow",
    sources=("pinhole",),
)
def shadow_stick(
    stick_m: q.LengthM,
    shadow_m: Annotated[float, q.quantity("Shadow", "m", ge=0, le=1e6)],
    shadow_direction_deg: Annotated[float | None, q.quantity("Shadow points", "°", ge=-360, le=360)] = None,
) -> ShadowStick:
    """Direction of the light by the shadow of an upright stick on level ground."""
    opposite = (
        None if shadow_direction_deg is None else -((180.0 - (shadow_direction_deg + 180.0)) % 360.0 - 180.0)
    )
    return ShadowStick(elevation_deg=math.degrees(math.atan2(stick_m, shadow_m)), azimuth_deg=opposite)


class LensFromPhotograph(q.Record):
    focal_length_px: Annotated[float, q.quantity("Focal length", "px")]
    focal_length_mm: Annotated[float, q.quantity("Focal length", "mm")]
    tilt_deg: Annotated[float, q.quantity("Camera tilted", "°", "Up is positive.")]
    roll_deg: Annotated[float, q.quantity("Camera rolled", "°")]


@calculation(
    question="What lens took this photograph?", formula="f² = −(v₁ − c)·(v₂ − c)", sources=("caprile_torre",)
)
def lens_from_photograph(
    width_px: q.WidthPx,
    height_px: q.HeightPx,
    vanishing_points: Annotated[
        list[tuple[ImagePx, ImagePx]], Field(title="Vanishing points", min_length=2, max_length=2)
    ],
    gate_width_mm: q.GateWidthMm,
) -> LensFromPhotograph:
    """Focal length, tilt and roll from the vanishing points of two level directions at right angles."""
    places = np.array(
        [[x - width_px / 2, y - height_px / 2, 1.0] for x, y in vanishing_points], dtype=np.float64
    )
    focal = optics.focal_lengths(places[:1], places[1:])
    if np.isnan(focal[0]):
        raise InputError.at(
            "vanishing_points",
            "These two directions are not at right angles in any lens: the points must lie on opposite sides"
            " of the picture's middle.",
        )
    up = np.cross(*optics.directions(places[None], focal)[0])
    tilt, roll = optics.turned_deg(optics.upwards(up[None]))
    return LensFromPhotograph(
        focal_length_px=float(focal[0]),
        focal_length_mm=float(focal[0]) * gate_width_mm / width_px,
        tilt_deg=float(tilt[0]),
        roll_deg=float(roll[0]),
    )


class CameraHeight(q.Record):
    camera_height_m: Annotated[float, q.quantity("Camera height", "m")]
    tilt_deg: Annotated[float, q.quantity("Tilt", "°", "Up is positive; 0 where it is taken for level.")]


@calculation(
    question="How high was the camera?",
    formula="H·(foot − horizon)/(foot − head); tilted: H/(1 − tan h/tan g), angles under the horizon",
    sources=("pinhole",),
)
def camera_height_from_photograph(
    horizon_y_px: ImagePx,
    foot_y_px: ImagePx,
    head_y_px: ImagePx,
    known_height_m: q.LengthM,
    focal_length_px: Annotated[
        float | None,
        q.quantity("Focal length", "px", "With the next, lets the camera be tilted.", gt=0, le=1e7),
    ] = None,
    centre_y_px: Annotated[
        float | None, q.quantity("Middle of the picture, y", "px", "Empty = a level camera.", ge=-1e6, le=1e6)
    ] = None,
) -> CameraHeight:
    """Height of the lens above the ground on which something upright of known height stands (image y down).

    A horizon off the middle of the picture is a tilted camera, and shortens what stands upright: then its
    focal length counts.
    """
    if foot_y_px - head_y_px < 1e-9:
        raise InputError.at("head_y_px", "The head must stand above the foot: its y must be smaller.")
    if centre_y_px is not None and focal_length_px is None:
        raise InputError.at("focal_length_px", "A tilted camera needs its focal length too.")
    if focal_length_px is None or centre_y_px is None:
        return CameraHeight(
            camera_height_m=known_height_m * (foot_y_px - horizon_y_px) / (foot_y_px - head_y_px),
            tilt_deg=0.0,
        )
    tilt = math.atan((horizon_y_px - centre_y_px) / focal_length_px)
    foot, head = (
        math.tan(math.atan((y - centre_y_px) / focal_length_px) - tilt) for y in (foot_y_px, head_y_px)
    )
    if foot <= 0:
        raise InputError.at("foot_y_px", "The foot must stand below the horizon: its y must be larger.")
    return CameraHeight(camera_height_m=known_height_m / (1.0 - head / foot), tilt_deg=math.degrees(tilt))
