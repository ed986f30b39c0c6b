"""Frame by frame, time and its hours."""

from __future__ import annotations

import math
from itertools import pairwise
from typing import Annotated

from pydantic import Field

from .. import quantities as q
from ..calculation import calculation
from ..errors import InputError
from ..motion.blur import CLEAN_PAN_S
from ..vocabulary import Hold, Verdict

_HOLDS = {"ones": 1, "twos": 2, "threes": 3, "fours": 4}


class HandMatteHours(q.Record):
    keys: Annotated[int, q.quantity("Keys for each shape")]
    hours: Annotated[float, q.quantity("Hours", "h")]


@calculation(
    question="How long does the hand matte take?",
    formula="⌈frames / key spacing⌉ · minutes · shapes / 60",
    sources=("hours",),
)
def hand_matte_hours(
    frames: q.FrameCount,
    key_every: Annotated[int, q.quantity("A key every", "frames", ge=1, le=10000)],
    minutes_per_key: Annotated[float, q.quantity("Minutes for each key", "min", gt=0, le=600)],
    shapes: Annotated[int, q.quantity("Shapes", "", ge=1, le=10000)],
) -> HandMatteHours:
    """Keys and hours of hand mattes."""
    keys = math.ceil(frames / key_every)
    return HandMatteHours(keys=keys, hours=keys * minutes_per_key * shapes / 60)


class StopMotionHours(q.Record):
    exposures: Annotated[int, q.quantity("Exposures")]
    hours: Annotated[float, q.quantity("Hours", "h")]


@calculation(
    question="How long does it take to animate?",
    formula="n = length·rate / hold; n / (seconds an hour on twos · rate/2)",
    sources=("hours",),
)
def stop_motion_hours(
    length_s: q.DurationS,
    delivery_fps: q.FramesPerS,
    hold: Annotated[Hold, Field(title="On")],
    seconds_per_hour: Annotated[
        float,
        q.quantity("Seconds of film an hour", "s", "On twos; two to three is usual.", gt=0, le=3600),
    ] = 2.5,
) -> StopMotionHours:
    """Exposures and animator's hours: it is the exposures that take time, so ones take twice what twos do."""
    exposures = math.ceil(round(length_s * delivery_fps, 6) / _HOLDS[hold])
    return StopMotionHours(
        exposures=exposures, hours=exposures / (seconds_per_hour * delivery_fps / _HOLDS["twos"])
    )


class EasedMove(q.Record):
    turns_per_frame: Annotated[list[float], Field(title="Turns for each frame")]
    travel_mm: Annotated[float, q.quantity("Travel", "mm")]


@calculation(
    question="How many turns for each frame of an eased move?",
    formula="1, 2, … n … 2, 1, scaled; rounded along the sum so that it ends where it must",
    sources=("ease",),
)
def eased_move(
    frames: Annotated[int, q.quantity("Frames", "", ge=1, le=100000)],
    total_turns: Annotated[float, q.quantity("Turns in all", "", gt=0, le=1e7)],
    ease_in_frames: Annotated[int, q.quantity("Ease in", "frames", ge=0, le=100000)] = 0,
    ease_out_frames: Annotated[int, q.quantity("Ease out", "frames", ge=0, le=100000)] = 0,
    whole_turns: Annotated[q.YesNo, Field(title="Whole turns only")] = True,
    mm_per_turn: Annotated[float, q.quantity("Travel for each turn", "mm", gt=0, le=1000)] = 1.0,
) -> EasedMove:
    """Turns before each exposure; with whole turns the rounding is spread and the total exact."""
    if ease_in_frames + ease_out_frames > frames:
        raise InputError.at(
            "ease_in_frames",
            f"Ease in and out must fit into the move, {frames} frames; {ease_in_frames + ease_out_frames}"
            " were given.",
        )
    if whole_turns and not float(total_turns).is_integer():
        raise InputError.at(
            "total_turns", f"Turns in all must be whole for whole turns; {total_turns:g} was given."
        )
    plateau = frames - ease_in_frames - ease_out_frames
    weights = (
        [(k + 1) / ease_in_frames for k in range(ease_in_frames)]
        + [1.0] * plateau
        + [(ease_out_frames - k) / ease_out_frames for k in range(ease_out_frames)]
    )
    scale, done, turns, reached = total_turns / sum(weights), 0.0, [], 0.0
    for weight in weights:
        done += weight * scale
        stop = float(math.floor(done + 0.5 + 1e-9)) if whole_turns else done
        turns.append(stop - reached)
        reached = stop
    return EasedMove(turns_per_frame=turns, travel_mm=total_turns * mm_per_turn)


class Hyperlapse(q.Record):
    photographs: Annotated[int, q.quantity("Photographs")]
    step_m: Annotated[float, q.quantity("Step", "m")]
    shooting_time_s: Annotated[float, q.quantity("Shooting time", "s")]
    spare_px: Annotated[
        float,
        q.quantity("Left on each side after stabilising", "px", "In the photograph; below 0 the crop shows."),
    ]
    speed_up: Annotated[float, q.quantity("Faster than life", "×")]


@calculation(
    question="How many photographs, how far apart?",
    formula="n = length·rate; step = path/(n − 1); spare = (photo − delivery)/2 − jitter",
    sources=("hyperlapse",),
)
def hyperlapse(
    length_s: q.DurationS,
    delivery_fps: q.FramesPerS,
    path_m: Annotated[float, q.quantity("Path", "m", ge=0, le=1e6)],
    interval_s: Annotated[float, q.quantity("Interval", "s", gt=0, le=86400)],
    photo_width_px: q.WidthPx,
    delivery_width_px: q.WidthPx,
    jitter_px: Annotated[float, q.quantity("Worst jitter", "px", "In the photograph.", ge=0, le=32768)] = 0.0,
) -> Hyperlapse:
    """Photographs, step and time of a hyperlapse, and what stabilising leaves."""
    photographs = round(length_s * delivery_fps)
    if photographs < 2:
        raise InputError.at("length_s", f"That is {photographs} photograph: a move needs at least 2.")
    time_s = (photographs - 1) * interval_s
    return Hyperlapse(
        photographs=photographs,
        step_m=path_m / (photographs - 1),
        shooting_time_s=time_s,
        spare_px=(photo_width_px - delivery_width_px) / 2 - jitter_px,
        speed_up=time_s / length_s,
    )


class RampKey(q.Record):
    """Speed at a moment of the output; straight between the keys."""

    output_s: Annotated[float, q.quantity("At", "s", ge=0, le=1e6)]
    speed: Annotated[float, q.quantity("Speed", "×", gt=0, le=1000)]


class RetimeRamp(q.Record):
    source_s: Annotated[float, q.quantity("Source used", "s")]
    capture_fps_needed: Annotated[
        float, q.quantity("Capture at least", "frames/s", "So that the slowest part repeats no frame.")
    ]


@calculation(
    question="How much source does a speed ramp eat, and how fast must the camera run?",
    formula="∫ speed dt; rate / slowest speed",
    sources=("retime",),
)
def retime_ramp(
    keys: Annotated[list[RampKey], Field(title="Keys", min_length=2, max_length=1000)],
    delivery_fps: q.FramesPerS,
) -> RetimeRamp:
    """Source seconds of a ramp whose speed is straight between its keys."""
    for before, after in pairwise(keys):
        if after.output_s <= before.output_s:
            raise InputError.at(
                "keys",
                f"Each key must come after the one before; {after.output_s:g} s does not come after"
                f" {before.output_s:g} s.",
            )
    source_s = sum((b.output_s - a.output_s) * (a.speed + b.speed) / 2 for a, b in pairwise(keys))
    return RetimeRamp(source_s=source_s, capture_fps_needed=delivery_fps / min(key.speed for key in keys))


class Toss(q.Record):
    flight_s: Annotated[float, q.quantity("Flight", "s")]
    frames: Annotated[float, q.quantity("Frames")]
    throw_speed_m_s: Annotated[float, q.quantity("Throw at", "m/s")]


GRAVITY_M_S2 = 9.81


@calculation(
    question="How long does a throw fly?",
    formula="√(2h/g) + √(2(h+drop)/g); speed √(2gh + (range/flight)²)",
    sources=("ballistics",),
)
def toss(
    rise_m: Annotated[float, q.quantity("Rises", "m", gt=0, le=1000)],
    delivery_fps: q.FramesPerS,
    drop_m: Annotated[float, q.quantity("Lands lower by", "m", ge=0, le=1000)] = 0.0,
    range_m: Annotated[float, q.quantity("Flies across", "m", ge=0, le=10000)] = 0.0,
) -> Toss:
    """Flight time of a thrown thing, without air."""
    flight = math.sqrt(2 * rise_m / GRAVITY_M_S2) + math.sqrt(2 * (rise_m + drop_m) / GRAVITY_M_S2)
    return Toss(
        flight_s=flight,
        frames=flight * delivery_fps,
        throw_speed_m_s=math.hypot(math.sqrt(2 * GRAVITY_M_S2 * rise_m), range_m / flight),
    )


class PanJudder(q.Record):
    seconds_per_frame_width: Annotated[float, q.quantity("One frame width in", "s")]
    px_per_frame: Annotated[float, q.quantity("Travel", "px/frame")]
    verdict: Annotated[Verdict, Field(title="Verdict")]


@calculation(
    question="Will the pan judder?",
    formula="duration·view/angle; clean from 7 s·(24/rate) on, shows below half of it",
    sources=("judder",),
)
def pan_judder(
    angle_deg: Annotated[float, q.quantity("Pan", "°", gt=0, le=3600)],
    duration_s: q.DurationS,
    horizontal_view_deg: Annotated[float, q.quantity("Angle of view", "°", gt=0, lt=180)],
    delivery_fps: q.FramesPerS,
    delivery_width_px: q.WidthPx,
) -> PanJudder:
    """Time for one frame width, and the travel for each frame."""
    seconds = duration_s * horizontal_view_deg / angle_deg
    clean = CLEAN_PAN_S * 24 / delivery_fps
    verdict: Verdict = "holds" if seconds >= clean else "tight" if seconds >= clean / 2 else "shows"
    return PanJudder(
        seconds_per_frame_width=seconds,
        px_per_frame=delivery_width_px / (seconds * delivery_fps),
        verdict=verdict,
    )
