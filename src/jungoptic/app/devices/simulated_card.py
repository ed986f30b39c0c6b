"""The card of the simulated camera: clips in an open format, with what a camera writes into them."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import UTC, datetime
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import numpy.typing as npt

CAMERA = "Simulated camera"
_DAY_S = 86_400


@dataclass(frozen=True)
class Written:
    """What the camera writes beside the pictures. ``began`` is by its own clock; ``settings`` are by the
    names of EXIF 2.32's tags.
    """

    rate_fps: float
    began: datetime
    settings: Mapping[str, float] = field(default_factory=dict)


def write_clip(
    path: Path, frames: Iterable[npt.NDArray[np.uint8]], written: Written, quality: int = 26
) -> None:
    """Write one clip (H.264 in an MP4), frames of shape (h, w, 3), red first; the quality is x264's crf."""
    rate = Fraction(written.rate_fps).limit_denominator(1001)
    with av.open(str(path), "w", format="mp4", options={"movflags": "use_metadata_tags+faststart"}) as out:
        stream = None
        for picture in frames:
            if stream is None:
                stream = out.add_stream("libx264", rate=rate)
                stream.height, stream.width = picture.shape[:2]
                stream.pix_fmt = "yuv420p"
                stream.options = {"preset": "ultrafast", "crf": str(quality)}
                out.metadata.update(_metadata(written))
            out.mux(stream.encode(av.VideoFrame.from_ndarray(picture, format="rgb24")))
        if stream is not None:
            out.mux(stream.encode(None))


def _metadata(written: Written) -> dict[str, str]:
    began = written.began.astimezone(UTC)
    seconds = (began - began.replace(hour=0, minute=0, second=0, microsecond=0)).total_seconds() % _DAY_S
    frames = int(seconds % 1 * written.rate_fps)
    timecode = (
        f"{int(seconds) // 3600:02d}:{int(seconds) // 60 % 60:02d}:{int(seconds) % 60:02d}:{frames:02d}"
    )
    return {
        "creation_time": began.isoformat(timespec="microseconds").replace("+00:00", "Z"),
        "model": CAMERA,
        "timecode": timecode,
        **{name: f"{value:.6g}" for name, value in written.settings.items()},
    }
