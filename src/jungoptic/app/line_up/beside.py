"""Live pictures filmed and measured from what is handed in: no table is asked, so that any process can do it.

What does not change from picture to picture is kept by the process that worked it out.
"""

from __future__ import annotations

import io
from dataclasses import dataclass, field
from functools import lru_cache

import cv2
import numpy as np
import numpy.typing as npt
from PIL import Image, UnidentifiedImageError

from jungoptic.core.errors import InputError
from jungoptic.core.match import Delivery, Layer, Match, Off, SetUp, Tolerance
from jungoptic.core.plan import Laying, LineUp, NothingSharedError, Reference, line_up, reference_of
from jungoptic.core.stage import LiveCamera, LiveFault, jpeg
from jungoptic.core.vocabulary import School, Units
from jungoptic.core.wording import Words

MEASURED_PX = 640
"""The delivered frame is looked at so wide: more tells hardly more, and takes longer than a picture lasts."""
_QUALITY = 90
_MOST_PX = 4096
_MOST_KEPT = 12
Grey = npt.NDArray[np.uint8]


@dataclass(frozen=True)
class Standing:
    """A layer and its camera as planned: ``key`` names them in their version."""

    key: tuple[int, ...]
    hero: SetUp = field(compare=False)
    layer: Layer = field(compare=False)
    setup: SetUp = field(compare=False)
    delivery: Delivery = field(compare=False)
    zooms: bool = field(compare=False)


@dataclass(frozen=True)
class Held:
    """A picture through the taking camera, as that camera stood: its number and its file."""

    number: int
    data: bytes = field(compare=False)
    standing: Standing


@lru_cache(_MOST_KEPT)
def match_of(standing: Standing) -> Match:
    """The layer, measured."""
    return Match(standing.hero, standing.layer, standing.setup, standing.delivery)


@lru_cache(_MOST_KEPT)
def _camera(standing: Standing, width_px: int, faults: tuple[LiveFault, ...]) -> LiveCamera:
    return LiveCamera(match_of(standing), width_px, faults)


def live_jpeg(
    standing: Standing, off: dict[str, float], number: int, width_px: int, faults: tuple[LiveFault, ...]
) -> bytes:
    """One live picture of the simulated camera, a JPEG."""
    cv2.setNumThreads(1)
    return jpeg(_camera(standing, width_px, faults).picture(Off(**off), number), _QUALITY)


@dataclass(frozen=True)
class Asked:
    """In whose units and by which tolerances a picture is measured."""

    units: Units
    school: School
    custom: dict[str, Tolerance]


def filmed(
    standing: Standing,
    off: dict[str, float],
    number: int,
    width_px: int,
    faults: tuple[LiveFault, ...],
    held: Held | None,
    asked: Asked,
) -> tuple[bytes, LineUp | str | None]:
    """One live picture of the simulated camera, and measured as :func:`measured` does where one is held."""
    made = live_jpeg(standing, off, number, width_px, faults)
    return made, measured(standing, made, held, asked) if held else None


def _grey(data: bytes, field: str) -> Grey:
    """The codes of a JPEG, PNG or WebP. Raises InputError."""
    try:
        with Image.open(io.BytesIO(data), formats=("JPEG", "PNG", "WEBP")) as image:
            if max(image.size) > _MOST_PX:
                raise InputError.at(field, f"A live picture has at most {_MOST_PX} px across.")
            image.draft("L", (2 * MEASURED_PX, 2 * MEASURED_PX))
            return np.asarray(image.convert("L"))
    except InputError:
        raise
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError, Image.DecompressionBombError):
        raise InputError.at(field, "The picture could not be read as a JPEG, PNG or WebP.") from None


@lru_cache(_MOST_KEPT)
def _laying(standing: Standing) -> Laying:
    return Laying(match_of(standing), MEASURED_PX)


@lru_cache(_MOST_KEPT)
def _reference(held: Held) -> Reference:
    grey = _grey(held.data, "against")
    return reference_of(match_of(held.standing), _laying(held.standing), grey)


def measured(standing: Standing, live: bytes, held: Held, asked: Asked) -> LineUp | str:
    """A live picture against the one that it should be; in words, why it cannot be measured. Raises
    InputError.
    """
    cv2.setNumThreads(1)
    reference = _reference(held)
    picture = _grey(live, "file")
    try:
        return line_up(
            match_of(standing),
            _laying(standing),
            reference,
            picture,
            Words(asked.units),
            zooms=standing.zooms,
            school=asked.school,
            custom=asked.custom,
        )
    except NothingSharedError as nothing:
        return str(nothing)
