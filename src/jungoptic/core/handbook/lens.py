"""Lens and frame calculations."""

from __future__ import annotations

import math
from typing import Annotated

from pydantic import Field

from .. import quantities as q
from ..calculation import calculation
from ..errors import InputError
from ..optics import diffraction as airy
from ..optics import focus, frame
from ..optics.code import code_reach_m, focused_reach_m

MOST_PASSES = 200


def check_focus(focal_length_mm: float, focus_distance_m: float, field: str = "focus_distance_m") -> None:
    """Refuse a focus distance inside the lens: nothing nearer than the focal length can be imaged."""
    if 1000.0 * focus_distance_m <= focal_length_mm:
        raise InputError.at(
            field,
            f"Focus distance must be more than the focal length, {focal_length_mm:g} mm;"
            f" {1000 * focus_distance_m:g} mm was given.",
        )


class AngleOfView(q.Record):
    horizontal_deg: Annotated[float, q.quantity("Across", "°")]
    vertical_deg: Annotated[float, q.quantity("Up and down", "°")]
    diagonal_deg: Annotated[float, q.quantity("Corner to corner", "°")]


@calculation(question="How wide does the lens see?", formula="2·atan(G / 2f)", sources=("pinhole",))
def angle_of_view(
    focal_length_mm: q.FocalLengthMm, gate_width_mm: q.GateWidthMm, gate_height_mm: q.GateHeightMm
) -> AngleOfView:
    """Angles of view focused at infinity, degrees."""
    width, height = gate_width_mm, gate_height_mm
    across, up, corner = (
        frame.angle_of_view_deg(e, focal_length_mm) for e in (width, height, math.hypot(width, height))
    )
    return AngleOfView(horizontal_deg=across, vertical_deg=up, diagonal_deg=corner)


class FrameCoverage(q.Record):
    width_m: Annotated[float, q.quantity("Width seen", "m")]
    height_m: Annotated[float, q.quantity("Height seen", "m")]
    pixel_size_mm: Annotated[
        float, q.quantity("One delivered pixel on the subject", "mm", "The finest detail that can show.")
    ]
    focal_length_px: Annotated[float, q.quantity("Focal length in delivered pixels", "px")]


@calculation(
    question="How much does the frame see, and what is one pixel of it?",
    formula="d·G/v, pixel d/f_px, f_px = v·W/G",
    sources=("pinhole", "thin_lens"),
)
def frame_coverage(
    focal_length_mm: q.FocalLengthMm,
    gate_width_mm: q.GateWidthMm,
    gate_height_mm: q.GateHeightMm,
    distance_m: q.DistanceM,
    delivery_width_px: q.WidthPx,
    focus_distance_m: q.FocusDistanceM | None = None,
) -> FrameCoverage:
    """What the frame sees at a distance; focused at infinity when no focus distance is given."""
    if focus_distance_m is not None:
        check_focus(focal_length_mm, focus_distance_m)
    v = frame.image_distance_mm(focal_length_mm, math.inf if focus_distance_m is None else focus_distance_m)
    f_px = frame.focal_length_px(v, gate_width_mm, delivery_width_px)
    return FrameCoverage(
        width_m=frame.seen_m(gate_width_mm, v, distance_m),
        height_m=frame.seen_m(gate_height_mm, v, distance_m),
        pixel_size_mm=1000.0 * distance_m / f_px,
        focal_length_px=f_px,
    )


class SlateReach(q.Record):
    near_m: Annotated[float, q.quantity("Reads from", "m", "Nearer it is out of focus.")]
    far_m: Annotated[float, q.quantity("Reads to", "m", "Farther it is too small, or out of focus.")]
    reads: Annotated[bool, Field(title="Reads anywhere")]
    focused_to_m: Annotated[
        float, q.quantity("Focused on it, to", "m", "As far as the code is large enough.")
    ]


@calculation(
    question="From where does the camera read the slate?",
    formula="m = w/n; d ≤ f_px·m / 3; s·(1 − 0.7·m·N/f) ≤ d ≤ s·(1 + 0.7·m·N/f)",
    sources=("qr_code", "pinhole", "thin_lens"),
)
def slate_reach(
    focal_length_mm: q.FocalLengthMm,
    f_number: q.FNumber,
    focus_distance_m: q.FocusDistanceM,
    gate_width_mm: q.GateWidthMm,
    recorded_width_px: q.WidthPx,
    code_width_mm: Annotated[float, q.quantity("Width of the code", "mm", gt=0, le=5000)] = 60.0,
    modules: Annotated[int, q.quantity("Modules across", "", "29 at version 3.", ge=21, le=177)] = 29,
) -> SlateReach:
    """From where to where a code that is shown to the camera is read, at this focus and focused on it."""
    check_focus(focal_length_mm, focus_distance_m)
    v = frame.image_distance_mm(focal_length_mm, focus_distance_m)
    f_px = frame.focal_length_px(v, gate_width_mm, recorded_width_px)
    near, far = code_reach_m(
        f_px, focal_length_mm / f_number, focus_distance_m, code_width_mm / 1000.0, modules
    )
    least_px = frame.focal_length_px(focal_length_mm, gate_width_mm, recorded_width_px)
    focused = focused_reach_m(least_px, code_width_mm / 1000.0, modules)
    return SlateReach(near_m=near, far_m=far, reads=near < far, focused_to_m=focused)


class MatchingFocalLength(q.Record):
    focal_length_mm: Annotated[float, q.quantity("Focal length", "mm")]


@calculation(
    question="Which lens gives the same view on another gate?",
    formula="f · G_other / G",
    sources=("pinhole",),
)
def matching_focal_length(
    focal_length_mm: q.FocalLengthMm, gate_width_mm: q.GateWidthMm, other_gate_width_mm: q.GateWidthMm
) -> MatchingFocalLength:
    """Focal length on the other gate with the same angle of view, mm."""
    return MatchingFocalLength(focal_length_mm=focal_length_mm * other_gate_width_mm / gate_width_mm)


class ImageDistance(q.Record):
    image_distance_mm: Annotated[float, q.quantity("Image distance", "mm", "What the lens frames like.")]
    breathing_percent: Annotated[
        float, q.quantity("Breathing", "%", "How much narrower the view is than at infinity.")
    ]


@calculation(
    question="What does the lens act as when it focuses close?",
    formula="v = f·d_f/(d_f − f)",
    sources=("thin_lens",),
)
def image_distance(
    focal_length_mm: q.FocalLengthMm, focus_distance_m: q.FocusDistanceM, focusing: q.Focusing = "unit"
) -> ImageDistance:
    """Image distance, mm, for a lens that focuses as a unit (or keeps its view)."""
    check_focus(focal_length_mm, focus_distance_m)
    v = frame.image_distance_mm(focal_length_mm, focus_distance_m, focusing)
    return ImageDistance(image_distance_mm=v, breathing_percent=100.0 * (v / focal_length_mm - 1.0))


class DepthOfField(q.Record):
    near_m: Annotated[float, q.quantity("Near limit", "m")]
    far_m: Annotated[float | None, q.quantity("Far limit", "m", "Empty when it reaches infinity.")]
    hyperfocal_m: Annotated[float, q.quantity("Hyperfocal distance", "m")]


@calculation(
    question="From where to where is it sharp?",
    formula="H = f²/(N·c) + f; near d(H−f)/(H+d−2f), far d(H−f)/(H−d)",
    sources=("depth_tables", "thin_lens"),
)
def depth_of_field(
    focal_length_mm: q.FocalLengthMm,
    f_number: q.FNumber,
    circle_of_confusion_mm: q.CircleOfConfusionMm,
    focus_distance_m: q.FocusDistanceM,
) -> DepthOfField:
    """Limits whose blur disc equals the circle of confusion, metres; ``far_m`` is None when infinite."""
    check_focus(focal_length_mm, focus_distance_m)
    near, far = focus.depth_limits_m(focal_length_mm, f_number, circle_of_confusion_mm, focus_distance_m)
    hyper = focus.hyperfocal_m(focal_length_mm, f_number, circle_of_confusion_mm)
    return DepthOfField(near_m=near, far_m=None if math.isinf(far) else far, hyperfocal_m=hyper)


class DefocusBlur(q.Record):
    blur_px: Annotated[float, q.quantity("Blur disc", "px")]


@calculation(
    question="How soft is it there?", formula="(f/N)·f/(d_f−f)·|d−d_f|/d·W/G", sources=("thin_lens",)
)
def defocus_blur(
    focal_length_mm: q.FocalLengthMm,
    f_number: q.FNumber,
    focus_distance_m: q.FocusDistanceM,
    distance_m: q.DistanceM,
    gate_width_mm: q.GateWidthMm,
    delivery_width_px: q.WidthPx,
) -> DefocusBlur:
    """Blur disc of a point at ``distance_m``, delivered pixels."""
    check_focus(focal_length_mm, focus_distance_m)
    return DefocusBlur(
        blur_px=focus.blur_disc_mm(focal_length_mm, f_number, focus_distance_m, distance_m)
        * delivery_width_px
        / gate_width_mm
    )


class FocusPass(q.Record):
    focus_distance_m: Annotated[float, q.quantity("Focus at", "m")]
    near_m: Annotated[float, q.quantity("Holds from", "m")]
    far_m: Annotated[float | None, q.quantity("Holds to", "m", "Empty when it reaches infinity.")]


class FocusPasses(q.Record):
    count: Annotated[int, q.quantity("Passes")]
    passes: Annotated[list[FocusPass], Field(title="Passes, from the front edge")]


@calculation(
    question="How many focus passes, and where?",
    formula="walk from the front edge: each pass's near limit is the last one's far limit",
    sources=("thin_lens",),
)
def focus_passes(
    focal_length_mm: q.FocalLengthMm,
    f_number: q.FNumber,
    near_m: q.DistanceM,
    far_m: q.DistanceM,
    gate_width_mm: q.GateWidthMm,
    delivery_width_px: q.WidthPx,
    max_blur_px: q.BlurPx,
) -> FocusPasses:
    """Passes that together keep every distance from ``near_m`` to ``far_m`` within ``max_blur_px``."""
    check_focus(focal_length_mm, near_m, "near_m")
    if far_m < near_m:
        raise InputError.at(
            "far_m",
            f"The back edge must not be nearer than the front edge, {near_m:g} m; {far_m:g} m was given.",
        )
    circle = max_blur_px * gate_width_mm / delivery_width_px
    passes: list[FocusPass] = []
    for focused_m, start, end in focus.walk_passes(focal_length_mm, f_number, circle, near_m, far_m):
        if len(passes) == MOST_PASSES:
            raise InputError.at(
                "max_blur_px",
                f"That takes more than {MOST_PASSES} passes: close the stop or allow more than"
                f" {max_blur_px:g} px.",
            )
        passes.append(
            FocusPass(
                focus_distance_m=min(focused_m, 1e6), near_m=start, far_m=None if math.isinf(end) else end
            )
        )
    return FocusPasses(count=len(passes), passes=passes)


class Diffraction(q.Record):
    airy_diameter_um: Annotated[float, q.quantity("Airy disc", "µm")]
    airy_px: Annotated[float, q.quantity("Airy disc in the delivery", "px")]


@calculation(
    question="How far may the lens be stopped down?", formula="2.44·λ·N·(1+m), λ 0.55 µm", sources=("airy",)
)
def diffraction(
    f_number: q.FNumber,
    magnification: q.Magnification,
    gate_width_mm: q.GateWidthMm,
    delivery_width_px: q.WidthPx,
) -> Diffraction:
    """Diameter of the Airy disc on the sensor, µm, and in delivered pixels."""
    diameter = airy.airy_diameter_um(f_number, magnification)
    return Diffraction(
        airy_diameter_um=diameter, airy_px=diameter / 1000.0 * delivery_width_px / gate_width_mm
    )


class CloseupExposure(q.Record):
    factor: Annotated[float, q.quantity("Exposure factor", "×")]
    stops: Annotated[float, q.quantity("Open up by", "stops")]


@calculation(question="How much light does close focus cost?", formula="(1 + m/p)²", sources=("closeup",))
def closeup_exposure(magnification: q.Magnification, pupil_ratio: q.PupilRatio = 1.0) -> CloseupExposure:
    """Exposure factor and stops for magnification m and pupil ratio p."""
    factor = airy.closeup_factor(magnification, pupil_ratio)
    return CloseupExposure(factor=factor, stops=math.log2(factor))
