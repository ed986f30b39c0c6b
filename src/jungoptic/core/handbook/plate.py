"""What a recording carries: chroma, data, noise."""

from __future__ import annotations

import math
from typing import Annotated

from .. import quantities as q
from ..calculation import calculation
from ..errors import InputError

_PITCH = {"4:4:4": (1, 1), "4:2:2": (2, 1), "4:2:0": (2, 2)}
_SAMPLES = {"4:4:4": 3.0, "4:2:2": 2.0, "4:2:0": 1.5}


class ChromaResolution(q.Record):
    horizontal_pitch_px: Annotated[
        float, q.quantity("Colour-sample spacing across", "px", "In delivered pixels.")
    ]
    vertical_pitch_px: Annotated[float, q.quantity("Colour-sample spacing up and down", "px")]


@calculation(
    question="Is there enough colour detail to key?",
    formula="pitch · delivered / recorded",
    sources=("chroma_sampling",),
)
def chroma_resolution(
    sampling: q.Sampling,
    recorded_width_px: q.WidthPx,
    recorded_height_px: q.HeightPx,
    delivery_width_px: q.WidthPx,
    delivery_height_px: q.HeightPx,
    extraction_width_px: q.WidthPx | None = None,
    extraction_height_px: q.HeightPx | None = None,
) -> ChromaResolution:
    """Distance between chroma samples in delivered pixels; the extraction is what of the recording ends in
    the delivery.
    """
    used_w, used_h = extraction_width_px or recorded_width_px, extraction_height_px or recorded_height_px
    for field, used, most in (
        ("extraction_width_px", used_w, recorded_width_px),
        ("extraction_height_px", used_h, recorded_height_px),
    ):
        if used > most:
            raise InputError.at(
                field, f"The extraction must be at most what is recorded, {most} px; {used} px was given."
            )
    across, down = _PITCH[sampling]
    return ChromaResolution(
        horizontal_pitch_px=across * delivery_width_px / used_w,
        vertical_pitch_px=down * delivery_height_px / used_h,
    )


class DataRate(q.Record):
    megabits_per_s: Annotated[float, q.quantity("Data", "Mbit/s")]
    gigabytes_per_minute: Annotated[float, q.quantity("Storage", "GB/min", "10⁹ bytes.")]


@calculation(
    question="How much storage does it eat?",
    formula="W·H·bits·samples·rate / compression",
    sources=("chroma_sampling",),
)
def data_rate(
    width_px: q.WidthPx,
    height_px: q.HeightPx,
    bit_depth: Annotated[int, q.quantity("Bit depth", "bit", ge=1, le=32)],
    sampling: q.Sampling,
    fps: q.FramesPerS,
    compression: Annotated[float, q.quantity("Compression", "to 1", ge=1, le=10000)] = 1.0,
) -> DataRate:
    """Data rate of a recording."""
    bits = width_px * height_px * bit_depth * _SAMPLES[sampling] * fps / compression
    return DataRate(megabits_per_s=bits / 1e6, gigabytes_per_minute=bits * 60 / 8 / 1e9)


class AveragedPlate(q.Record):
    sigma: Annotated[float, q.quantity("Noise of the average")]
    gain: Annotated[float, q.quantity("Cleaner by", "×")]


@calculation(question="How clean is an averaged plate?", formula="σ/√n", sources=("averaging",))
def averaged_plate(
    sigma: Annotated[float, q.quantity("Noise of one frame", "", ge=0, le=1e6)], frames: q.FrameCount
) -> AveragedPlate:
    """Noise of the average of so many frames."""
    return AveragedPlate(sigma=sigma / math.sqrt(frames), gain=math.sqrt(frames))


class Grain(q.Record):
    noise_ratio: Annotated[float, q.quantity("Noisier by", "×")]


@calculation(
    question="How much noisier is this plate?",
    formula="√(S/S_ref)·G_ref/G·enlargement",
    sources=("photon_noise",),
)
def grain(
    iso: q.Iso,
    reference_iso: q.Iso,
    gate_width_mm: q.GateWidthMm,
    reference_gate_width_mm: q.GateWidthMm,
    enlargement: Annotated[float, q.quantity("Enlargement in the composite", "×", gt=0, le=100)] = 1.0,
) -> Grain:
    """Noise for each delivered pixel against a reference."""
    return Grain(
        noise_ratio=math.sqrt(iso / reference_iso) * reference_gate_width_mm / gate_width_mm * enlargement
    )
