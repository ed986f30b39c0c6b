"""What a photograph says of itself: its tags by EXIF 2.32, read without looking at the picture.

Nobody can rely on tags: each is read by itself, what cannot be is left out and said.
"""

from __future__ import annotations

import io
import math
import warnings
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from PIL import ExifTags, Image, UnidentifiedImageError

from jungoptic.core.errors import InputError
from jungoptic.core.optics import angle_of_view_deg, gate_of_equivalent_mm

MOST_BYTES = 30_000_000
FORMATS = ("JPEG", "TIFF", "PNG", "WEBP")
_LONGEST = 80  # characters of a name
_TELEPHONE_MM = 12.0  # of gate: who can change the lens has a larger one, common practice
SIDEWAYS = (5, 6, 7, 8)  # orientations that lie on their side


@dataclass(frozen=True)
class Tags:
    """``gate_off_mm``: what half a millimetre of the tag makes of the gate's width. ``built_in``: so small a
    gate is a telephone's. ``left_out``: tags that make no sense, in words. The place only where it was asked
    for.
    """

    width_px: int
    height_px: int
    camera: str = ""
    lens: str = ""
    focal_length_mm: float | None = None
    equivalent_mm: float | None = None
    gate_width_mm: float | None = None
    gate_height_mm: float | None = None
    gate_off_mm: float | None = None
    gate_how: str = ""
    built_in: bool = False
    f_number: float | None = None
    exposure_s: float | None = None
    iso: float | None = None
    taken_at: str | None = None
    latitude_deg: float | None = None
    longitude_deg: float | None = None
    left_out: list[str] = field(default_factory=list)


def read(name: str, data: bytes, *, where: bool = False) -> Tags:
    """The tags of a JPEG, TIFF, PNG or WebP, from its beginning or the whole of it.

    Raises InputError where it is none of these.
    """
    if len(data) > MOST_BYTES:
        raise InputError.at(
            "file", f"“{name}” has more than {MOST_BYTES / 1e6:.0f} MB: save it smaller, its tags stay."
        )
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # of damaged tags; they are said below
            image = Image.open(io.BytesIO(data), formats=FORMATS)
            return _Reader(image, image.getexif()).tags(where)
    except Image.DecompressionBombError:
        raise InputError.at("file", f"“{name}” says that it is larger than any photograph.") from None
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
        if isinstance(error, InputError):
            raise
        raise InputError.at(
            "file",
            f"“{name}” could not be read as a JPEG, TIFF, PNG or WebP. A telephone that keeps another kind"
            " can send a JPEG.",
        ) from None


class _Reader:
    def __init__(self, image: Image.Image, exif: Image.Exif) -> None:
        self.left_out: list[str] = []
        self.size = image.size
        self.main: Mapping[int, Any] = exif
        self.own = self._directory(exif, ExifTags.IFD.Exif, "camera settings")
        self.exif = exif

    def _directory(self, exif: Image.Exif, which: int, said: str) -> Mapping[int, Any]:
        try:
            return dict(exif.get_ifd(which))
        except Exception:  # whatever a damaged directory makes of a reader
            self.left_out.append(f"The tags for {said} are damaged.")
            return {}

    def tags(self, where: bool) -> Tags:
        width, height = self.size
        if self._value(self.main, ExifTags.Base.Orientation, int) in SIDEWAYS:
            width, height = height, width
        focal = self._number(ExifTags.Base.FocalLength, "Focal length", 0.5, 5000, "mm")
        equal = self._number(
            ExifTags.Base.FocalLengthIn35mmFilm,
            "Focal length on 36 × 24",
            1,
            20000,
            "mm",
            zero_is_unknown=True,
        )
        gate: tuple[float | None, float | None] = (None, None)
        off, how = None, ""
        if focal and equal:
            across, down = gate_of_equivalent_mm(focal, equal, max(width, height) / min(width, height))
            if down >= 0.5 and across <= 100:
                gate = (round(across, 2), round(down, 2))
                off = round(across * 0.5 / equal, 3)
                how = f"43.27 mm · {focal:g} / {equal:g}; the tag is whole millimetres, so ± {off:.1f} mm"
            else:
                self.left_out.append(
                    f"A gate of {across:.1f} × {down:.1f} mm follows from them: no such camera."
                )
        latitude, longitude = self._where() if where else (None, None)
        return Tags(
            width_px=width,
            height_px=height,
            camera=self._camera(),
            lens=self._text(self.own, ExifTags.Base.LensModel),
            focal_length_mm=focal,
            equivalent_mm=equal,
            gate_width_mm=gate[0],
            gate_height_mm=gate[1],
            gate_off_mm=off,
            gate_how=how,
            built_in=bool(gate[0] and gate[0] < _TELEPHONE_MM),
            f_number=self._number(ExifTags.Base.FNumber, "Stop", 0.5, 128, ""),
            exposure_s=self._number(ExifTags.Base.ExposureTime, "Exposure", 1e-6, 3600, "s"),
            iso=self._number(ExifTags.Base.ISOSpeedRatings, "ISO", 1, 10_000_000, ""),
            taken_at=self._taken(),
            latitude_deg=latitude,
            longitude_deg=longitude,
            left_out=self.left_out,
        )

    @staticmethod
    def _value(tags: Mapping[int, Any], tag: int, read: Callable[[Any], Any]) -> Any:
        try:
            value = tags.get(tag)
            if isinstance(value, tuple) and len(value) == 1:
                value = value[0]
            return None if value is None else read(value)
        except Exception:  # a value of another type than the standard says
            return None

    def _number(
        self, tag: int, said: str, least: float, most: float, unit: str, *, zero_is_unknown: bool = False
    ) -> float | None:
        if tag not in self.own:
            return None
        value = self._value(self.own, tag, float)
        if value == 0 and zero_is_unknown:  # the standard's own way to say so
            return None
        if value is None or not math.isfinite(value) or not least <= value <= most:
            shown = (
                "nothing that is a number"
                if value is None or not math.isfinite(value)
                else f"{value:g} {unit}"
            )
            self.left_out.append(f"{said}: the tag says {shown.strip()}.")
            return None
        return float(value)

    def _text(self, tags: Mapping[int, Any], tag: int) -> str:
        value = self._value(tags, tag, str) or ""
        plain = "".join(one if one.isprintable() else " " for one in value)
        return " ".join(plain.split())[:_LONGEST]

    def _camera(self) -> str:
        make, model = (self._text(self.main, tag) for tag in (ExifTags.Base.Make, ExifTags.Base.Model))
        return model if model.casefold().startswith(make.casefold()) else f"{make} {model}".strip()[:_LONGEST]

    def _taken(self) -> str | None:
        said = self._text(self.own, ExifTags.Base.DateTimeOriginal)
        if not said:
            return None
        try:
            taken = datetime.strptime(said, "%Y:%m:%d %H:%M:%S")
        except ValueError:
            self.left_out.append("Time: the tag is no time.")
            return None
        offset = self._text(self.own, ExifTags.Base.OffsetTimeOriginal)
        try:
            return datetime.fromisoformat(f"{taken.isoformat()}{offset}").isoformat()
        except ValueError:
            return taken.isoformat()

    def _where(self) -> tuple[float | None, float | None]:
        tags = self._directory(self.exif, ExifTags.IFD.GPSInfo, "place")
        if not tags:
            return None, None
        latitude = self._angle(tags, ExifTags.GPS.GPSLatitude, ExifTags.GPS.GPSLatitudeRef, "S", 90)
        longitude = self._angle(tags, ExifTags.GPS.GPSLongitude, ExifTags.GPS.GPSLongitudeRef, "W", 180)
        if latitude is None or longitude is None:
            self.left_out.append("Place: the tags make no place.")
            return None, None
        return latitude, longitude

    def _angle(
        self, tags: Mapping[int, Any], tag: int, side: int, negative: str, most: float
    ) -> float | None:
        def degrees(value: Any) -> float:
            whole, minutes, seconds = (float(one) for one in value)
            if not (0 <= minutes < 60 and 0 <= seconds < 60.5):
                raise ValueError
            return whole + minutes / 60 + seconds / 3600

        found: float | None = self._value(tags, tag, degrees)
        if found is None or not math.isfinite(found) or not 0 <= found <= most:
            return None
        sign = -1 if self._text(tags, side).upper().startswith(negative) else 1
        return round(sign * found, 6)


def tagged_view_deg(name: str, data: bytes) -> float | None:
    """Angle of view across by a photograph's tags, degrees; None where they do not tell it."""
    try:
        found = read(name, data)
    except InputError:
        return None
    if not found.gate_width_mm or not found.focal_length_mm:
        return None
    return angle_of_view_deg(found.gate_width_mm, found.focal_length_mm)
