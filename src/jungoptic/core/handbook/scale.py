"""Model scale and time."""

from __future__ import annotations

from typing import Annotated

from .. import quantities as q
from ..calculation import calculation
from ..errors import InputError
from ..scale import similarity


class MiniatureFrameRate(q.Record):
    capture_fps: Annotated[
        float, q.quantity("Capture at", "frames/s", "For fire, the low end of what to test.")
    ]
    capture_fps_high: Annotated[
        float | None, q.quantity("High end of the test", "frames/s", "Fire, smoke and dust only.")
    ]
    model_speed_m_s: Annotated[float, q.quantity("Speed on the model", "m/s", "At the rate that is used.")]
    speed_ratio: Annotated[
        float, q.quantity("Looks too fast by", "×", "1.39 is 39 % too fast; 1 when no camera rate is given.")
    ]


@calculation(
    question="How fast must the camera run?",
    formula="gravity: rate·√s, speed v/√s; set speed: any rate, v·(capture/delivery)/s; fire: √s to s",
    sources=("froude", "fire_rate"),
)
def miniature_frame_rate(
    scale: q.Scale,
    delivery_fps: q.FramesPerS,
    driver: q.Driver,
    full_size_speed_m_s: q.SpeedMS = 0.0,
    camera_fps: q.FramesPerS | None = None,
) -> MiniatureFrameRate:
    """Capture rate and model speed for a 1:s model; with ``camera_fps`` how wrong the time looks at that
    rate.
    """
    if driver == "fire" and scale < 1:
        raise InputError.at("scale", f"Scale must be at least 1 for fire; {scale:g} was given.")
    if driver in ("gravity", "fire"):
        wanted = similarity.gravity_rate_fps(scale, delivery_fps)
        high = delivery_fps * scale if driver == "fire" else None
        speed = similarity.gravity_speed_m_s(full_size_speed_m_s, scale)
        if camera_fps is None:
            ratio = 1.0
        elif high is not None and camera_fps > wanted:
            ratio = min(1.0, high / camera_fps)
        else:
            ratio = similarity.gravity_speed_ratio(scale, delivery_fps, camera_fps)
        return MiniatureFrameRate(
            capture_fps=wanted, capture_fps_high=high, model_speed_m_s=speed, speed_ratio=ratio
        )
    used = delivery_fps if camera_fps is None else camera_fps
    speed = (
        0.0 if driver == "still" else similarity.set_speed_m_s(full_size_speed_m_s, scale, used, delivery_fps)
    )
    return MiniatureFrameRate(capture_fps=used, capture_fps_high=None, model_speed_m_s=speed, speed_ratio=1.0)


class ScaleMatch(q.Record):
    distance_m: Annotated[float, q.quantity("Lens to model", "m")]
    height_m: Annotated[float, q.quantity("Lens above the model's ground", "m")]
    travel_m: Annotated[float, q.quantity("Camera travel", "m")]
    f_number_for_equal_blur: Annotated[
        float, q.quantity("Stop for equal blur", "f/", "At the hero's framing.")
    ]


@calculation(
    question="Where does the camera stand for a model?",
    formula="distance, height, travel ÷ s; equal blur at N·s",
    sources=("pinhole", "thin_lens"),
)
def scale_match(
    scale: q.Scale,
    distance_m: q.DistanceM,
    height_m: q.HeightM,
    travel_m: q.TravelM = 0.0,
    f_number: q.FNumber = 1.0,
) -> ScaleMatch:
    """The hero's camera brought down to a 1:s model."""
    return ScaleMatch(
        distance_m=distance_m / scale,
        height_m=height_m / scale,
        travel_m=travel_m / scale,
        f_number_for_equal_blur=f_number * scale,
    )
