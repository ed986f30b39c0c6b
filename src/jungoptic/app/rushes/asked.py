"""What is to be measured of which file, and its pictures brought to light and to a size that fits.

It knows nothing of Django: the command line and the process that measures in the background use it alike.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from itertools import islice
from pathlib import Path

import cv2
import numpy as np
import numpy.typing as npt

from jungoptic.app.footage.pictures import Footage, Picture, open_footage
from jungoptic.core.errors import InputError
from jungoptic.core.measure import Curve, linear
from jungoptic.core.rushes import Sized

Image = npt.NDArray[np.float32]
Mask = npt.NDArray[np.bool_]
Region = tuple[float, float, float, float]

WIDEST_PX = 3840  # of one picture: a wider one is brought to it
WORKING_PX = 960  # of every frame of a clip


@dataclass(frozen=True)
class Asked:
    """``region`` is left, top, width and height, px of the picture, or shares of it where none is over 1;
    ``places`` those of a line, a zone or corners, likewise; ``frame`` the one that is looked at of a clip,
    ``begins`` the first that counts, before which is a slate, ``ends`` the last; ``against_begins`` and
    ``against_ends`` those of the other, of which ``against_region`` and ``against_delivery`` are where these
    are others than of the file.
    ``going`` is told how far it is where all frames are looked at.
    """

    file: Path
    against: Path | None = None
    region: Region | None = None
    places: tuple[tuple[float, float], ...] = ()
    curve: Curve | None = None
    delivery: tuple[int, int] | None = None
    frame: int | None = None
    rate_fps: float | None = None
    mains_hz: float | None = None
    shutter_angle_deg: float = 180.0
    view_deg: float | None = None
    kind: str = ""
    begins: int = 0
    ends: int | None = None
    against_begins: int = 0
    against_ends: int | None = None
    against_region: Region | None = None
    against_delivery: tuple[int, int] | None = None
    going: Callable[[float], None] | None = field(default=None, compare=False)


@dataclass
class Opened:
    """A file with what is asked of it."""

    asked: Asked
    footage: Footage
    assumes: list[str] = field(default_factory=list)

    @classmethod
    def of(cls, asked: Asked, path: Path | None = None) -> Opened:
        """Raises InputError where it cannot be read."""
        if path not in (None, asked.file):  # of what it is held against the middle is looked at
            asked = replace(
                asked,
                frame=None,
                begins=asked.against_begins,
                ends=asked.against_ends,
                region=asked.against_region or asked.region,
                delivery=asked.against_delivery or asked.delivery,
            )
        footage = open_footage(path or asked.file, asked.rate_fps)
        opened = cls(asked, footage, [*footage.remarks])
        opened.assumes += footage.colour.guessed if asked.curve is None else [f"{asked.curve.text}, as told."]
        return opened

    @property
    def curve(self) -> Curve:
        """As it is told, else as the file says or lets one guess."""
        return self.asked.curve or Curve(self.footage.colour.curve)

    def share(self, widest: int) -> float:
        """By how much its pictures are made smaller to be no wider."""
        return min(1.0, widest / self.footage.width_px)

    def sized(self, widest: int) -> Sized:
        """The pictures that are measured when they are brought to a width."""
        share = self.share(widest)
        width, height = round(self.footage.width_px * share), round(self.footage.height_px * share)
        delivered = self.asked.delivery[0] if self.asked.delivery else self.footage.width_px
        return Sized(
            width, height, delivered / width, self.footage.rate_fps, self.asked.shutter_angle_deg, self.begins
        )

    @property
    def begins(self) -> int:
        """The first frame that counts."""
        return self.asked.begins if self.footage.kind != "still" else 0

    @property
    def ends(self) -> int | None:
        """The last frame that counts; None where nobody knows how many there are, and all count."""
        last = self.footage.frames - 1 if self.footage.frames else None
        if self.asked.ends is None or self.footage.kind == "still":
            return last
        return self.asked.ends if last is None else min(last, self.asked.ends)

    def pictures(self) -> Iterator[Picture]:
        """Every picture that counts, from the first on."""
        going, frames = self.asked.going, self.footage.frames
        stop = None if self.asked.ends is None else self.asked.ends + 1
        for picture in islice(self.footage.pictures(), self.begins, stop):
            yield picture
            if going is not None:
                going(picture.index / (frames or 2 * (picture.index + 1)))

    def light(self, picture: Picture, widest: int) -> Image:
        """A picture in linear light, no wider; float32 (h, w, 3)."""
        return linear(self.signal(picture, widest), self.curve)

    def signal(self, picture: Picture, widest: int) -> Image:
        """A picture as it was recorded, no wider; float32 (h, w, 3)."""
        return _no_wider(picture.signal(), self.sized(widest))

    def look(self, frame: int | None = None) -> Picture:
        """The picture that is asked for; of a clip its middle one where none is."""
        if frame is None:
            frame = self.asked.frame
        if frame is None:
            frame = (self.begins + (self.ends or 0) + 1) // 2
        return self.footage.picture(frame)

    def luma_light(self, widest: int = WORKING_PX) -> Iterator[Image]:
        """Every frame: linear light behind its luma, no wider; float32 (h, w)."""
        sized = self.sized(widest)
        for picture in self.pictures():
            yield self.curve.light(_no_wider(picture.luma, sized))

    def box(self, sized: Sized) -> tuple[int, int, int, int] | None:
        """The region, px of the pictures that are measured: left, top, width, height. Raises InputError."""
        if self.asked.region is None:
            return None
        left, top, width, height = self.asked.region
        across, down = (
            (1.0, 1.0) if max(self.asked.region) > 1.0 else (self.footage.width_px, self.footage.height_px)
        )
        share = sized.width / self.footage.width_px
        box = tuple(
            round(each * side * share)
            for each, side in ((left, across), (top, down), (width, across), (height, down))
        )
        x, y, w, h = box
        if w < 2 or h < 2 or x < 0 or y < 0 or x + w > sized.width + 1 or y + h > sized.height + 1:
            raise InputError.at(
                "region",
                f"The region must lie in the picture of {self.footage.width_px} ×"
                f" {self.footage.height_px} px: give left, top, width and height.",
            )
        return x, y, w, h

    def inside(self, sized: Sized) -> Mask | None:
        """The region as a mask."""
        box = self.box(sized)
        if box is None:
            return None
        x, y, w, h = box
        mask = np.zeros((sized.height, sized.width), bool)
        mask[y : y + h, x : x + w] = True
        return mask

    def shares(self) -> tuple[tuple[float, float], ...]:
        """The places, shares of the frame."""
        if not self.asked.places or max(max(each) for each in self.asked.places) <= 1.0:
            return self.asked.places
        width, height = self.footage.width_px, self.footage.height_px
        return tuple((x / width, y / height) for x, y in self.asked.places)


def cut(picture: Image, box: tuple[int, int, int, int] | None) -> Image:
    """The part of a picture that is in a box; all of it where there is none."""
    if box is None:
        return picture
    x, y, width, height = box
    return picture[y : y + height, x : x + width]


def _no_wider(picture: Image, sized: Sized) -> Image:
    if picture.shape[1] <= sized.width:
        return picture
    size = (sized.width, sized.height)
    return np.asarray(cv2.resize(picture, size, interpolation=cv2.INTER_AREA), np.float32)
