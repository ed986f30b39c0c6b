"""Motion blur."""

from __future__ import annotations

from typing import Annotated

from .. import quantities as q
from ..calculation import calculation
from ..motion import blur


class MotionBlur(q.Record):
    blur_px: Annotated[float, q.quantity("Smear", "px")]


@calculation(
    question="How long is the smear?", formula="travel per frame · angle/360", sources=("shutter", "pinhole")
)
def motion_blur(image_speed_px_per_frame: q.ImageSpeedPx, shutter_angle_deg: q.ShutterAngleDeg) -> MotionBlur:
    """Length of the smear in delivered pixels, every captured frame shown."""
    return MotionBlur(blur_px=blur.motion_blur_px(image_speed_px_per_frame, shutter_angle_deg))
