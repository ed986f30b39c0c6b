"""What is looked at instead of a recording: a small film of which every frame can be gone to at once, a strip
of some of its frames, or a small picture of a still. Django-free, as :mod:`.pictures` is.
"""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import cv2
import numpy as np
import numpy.typing as npt
from av.video.reformatter import ColorRange, Colorspace

from jungoptic.app.footage.pictures import Picture
from jungoptic.core.stage import encoded, jpeg

HEIGHT_PX = 720
STILL_PX = 1920
STRIP_FRAMES, STRIP_HEIGHT_PX = 48, 54
_QUALITY, _STRIP_QUALITY = 90, 80
_OPTIONS = {"preset": "veryfast", "crf": "24", "g": "1", "bf": "0", "tune": "fastdecode"}
_SPACES = {"bt709": Colorspace.ITU709, "bt601": Colorspace.ITU601, "bt2020": Colorspace.ITU709}
_BT709, _MPEG = 1, 1
Rgb = npt.NDArray[np.uint8]


def small_size(width: int, height: int, most_height: int) -> tuple[int, int]:
    """Even sides, no higher."""
    share = min(1.0, most_height / height)
    return max(2, round(width * share / 2) * 2), max(2, round(height * share / 2) * 2)


class Proxy:
    """A film of frames as they come: H.264, every one a key frame, the rate that it is played at. Frame n is
    the one that is seen n + ½ frames from its beginning, whatever the recording's own times were.
    """

    def __init__(self, path: Path, width_px: int, height_px: int, rate_fps: float) -> None:
        self.width_px, self.height_px = small_size(width_px, height_px, HEIGHT_PX)
        self._container = av.open(str(path), "w", format="mp4", options={"movflags": "+faststart"})
        rate = Fraction(rate_fps).limit_denominator(1001)
        self._a_frame = 1 / rate
        self._stream: Any = self._container.add_stream("libx264", rate=rate, options=_OPTIONS)
        self._stream.width, self._stream.height = self.width_px, self.height_px
        self._stream.pix_fmt = "yuv420p"
        context = self._stream.codec_context
        context.color_range, context.colorspace = _MPEG, _BT709
        context.color_primaries, context.color_trc = _BT709, _BT709
        self._strip: list[Rgb] = []
        self._every, self._count = 1, 0

    def add(self, picture: Picture) -> None:
        """One frame more."""
        frame = self._small(picture)
        if not self._count % self._every:
            self._strip.append(self._thumb(frame))
            if len(self._strip) > STRIP_FRAMES:
                self._strip, self._every = self._strip[::2], 2 * self._every
        frame.pts, frame.time_base = self._count, self._a_frame
        self._count += 1
        self._container.mux(self._stream.encode(frame))

    def end(self) -> None:
        """Write what is left, and close the file."""
        if self._count:
            self._container.mux(self._stream.encode(None))
        self._container.close()

    def strip(self) -> tuple[bytes, int]:
        """Its strip, a JPEG of pictures side by side, and from how many frames each is one."""
        return jpeg(np.ascontiguousarray(np.hstack(self._strip)), _STRIP_QUALITY), self._every

    def _small(self, picture: Picture) -> Any:
        frame = picture.frame
        if frame is None or picture.turned:
            seen = seen_picture(picture, (self.width_px, self.height_px))
            return av.VideoFrame.from_ndarray(seen, format="rgb24").reformat(
                format="yuv420p", dst_colorspace=Colorspace.ITU709, dst_color_range=ColorRange.MPEG
            )
        colour = picture.colour
        return frame.reformat(
            width=self.width_px,
            height=self.height_px,
            format="yuv420p",
            src_colorspace=_SPACES[colour.matrix],
            dst_colorspace=Colorspace.ITU709,
            src_color_range=ColorRange.MPEG if colour.legal else ColorRange.JPEG,
            dst_color_range=ColorRange.MPEG,
        )

    def _thumb(self, frame: Any) -> Rgb:
        width, height = small_size(self.width_px, self.height_px, STRIP_HEIGHT_PX)
        small = frame.reformat(width=width, height=height, format="rgb24", src_colorspace=Colorspace.ITU709)
        return np.asarray(small.to_ndarray(), np.uint8)


def seen_picture(picture: Picture, size: tuple[int, int]) -> Rgb:
    """A picture as a screen shows it: red, green and blue of sRGB, of this width and height."""
    seen = cv2.resize(picture.signal(), size, interpolation=cv2.INTER_AREA)
    if picture.colour.curve == "linear":
        return encoded(np.asarray(seen, np.float32))
    return np.asarray(np.rint(255.0 * np.clip(seen, 0.0, 1.0)), np.uint8)


def still_jpeg(picture: Picture, width_px: int, height_px: int) -> bytes:
    """A still, as it is looked at."""
    share = min(1.0, STILL_PX / max(width_px, height_px))
    return jpeg(seen_picture(picture, (round(width_px * share), round(height_px * share))), _QUALITY)
