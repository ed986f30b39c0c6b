"""A photograph of the place beside the hero: the frame in it, and what of the hero's set-up it tells."""

from __future__ import annotations

import math
from dataclasses import dataclass

from .camera import camera_height_m, picture_view_deg
from .layer import Layer
from .marks import KNOWN_LENS_SHARE, Read, Reading
from .records import Delivery, SetUp

# What is read of a picture, and which field of a set-up it is.
_FIELDS = {
    "taken_height_m": "lens_height_m",
    "taken_tilt_deg": "tilt_deg",
    "taken_roll_deg": "roll_deg",
    "taken_key_azimuth_deg": "key_azimuth_deg",
    "taken_key_elevation_deg": "key_elevation_deg",
}
_OF_THE_KEY = ("key_azimuth_deg", "key_elevation_deg")


@dataclass(frozen=True, slots=True)
class HeroField:
    """A field of the hero's set-up beside what the photograph tells: what is ``read`` and what the hero
    ``has``, both as one says them (a height over the ground). ``written`` is what would be put into it; None
    where nothing is read, where the hero has it so within the error, or where the sun gives it (``by_sun``).
    """

    field: str
    read: Read | None
    has: float | None
    written: float | None
    by_sun: bool


def hero_fields(hero: SetUp, planned: SetUp, reading: Reading) -> tuple[HeroField, ...]:
    """What a photograph tells of the hero's set-up.

    Parameters
    ----------
    hero : SetUp
        With its key written out.
    planned : SetUp
        As it is planned: what stands in its fields.
    reading : Reading
        Of the photograph.

    Returns
    -------
    tuple of HeroField
        Lens height, tilt, roll, the key's angles.

    References
    ----------
    mark_ends

    Examples
    --------
    >>> from jungoptic.core.example import HERO
    >>> told = Reading({"taken_height_m": Read(1.2, 0.02)}, ())
    >>> [row.written for row in hero_fields(HERO, HERO, told)]
    [1.2, None, None, None, None]
    """
    rows = []
    for name, field in _FIELDS.items():
        by_sun = field in _OF_THE_KEY and planned.sun_at is not None
        high = field == "lens_height_m"
        has = camera_height_m(hero) if high else getattr(hero, field)
        read = reading.read.get(name)
        written = None
        if read is not None and not by_sun and (has is None or abs(read.amount - has) > read.within):
            written = read.rounded[0] + (planned.ground_height_m if high else 0.0)
        rows.append(HeroField(field, read, has, written, by_sun))
    return tuple(rows)


def same_lens(hero: SetUp, layer: Layer) -> bool:
    """Whether the hero's lens sees as much as the photograph, as far as one knows a lens.

    Parameters
    ----------
    hero : SetUp
        The plate's camera.
    layer : Layer
        The plate with its picture; of an unknown angle of view it is taken for the hero's.

    Returns
    -------
    bool
        Whether their focal lengths differ by less than what 95 of 100 known lenses are off.

    References
    ----------
    known_lens, pinhole

    Examples
    --------
    >>> from jungoptic.core.example import HERO
    >>> same_lens(HERO, Layer(name="Sea", near_m=12, taken_view_deg=60.0))
    False
    """
    return abs(_enlarged(hero, layer) - 1.0) <= 2.0 * KNOWN_LENS_SHARE


def _enlarged(hero: SetUp, layer: Layer) -> float:
    """How much of the photograph's width the hero's lens sees."""
    if layer.taken_view_deg is None:
        return 1.0
    return math.tan(math.radians(picture_view_deg(hero)) / 2.0) / math.tan(
        math.radians(layer.taken_view_deg) / 2.0
    )


def frame_in_picture(hero: SetUp, layer: Layer, delivery: Delivery) -> tuple[float, float, float, float]:
    """Where the delivered frame lies in the hero's photograph.

    Both look the same way, each through its own lens.

    Parameters
    ----------
    hero : SetUp
        The plate's camera.
    layer : Layer
        The plate, with its picture's size and, where that is known, angle of view.
    delivery : Delivery
        The finished frame.

    Returns
    -------
    left : float
        Of the frame, px of the picture.
    top : float
        Likewise.
    right : float
        Likewise.
    bottom : float
        Likewise.

    References
    ----------
    pinhole

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO
    >>> photograph = Layer(name="Sea", near_m=12, picture_width_px=4000, picture_height_px=3000)
    >>> frame_in_picture(HERO, photograph, DELIVERY)
    (0.0, 375.0, 4000.0, 2625.0)
    """
    width, height = layer.picture_width_px or delivery.width_px, layer.picture_height_px or delivery.height_px
    half_x = width / 2.0 * _enlarged(hero, layer)
    half_y = half_x * delivery.height_px / delivery.width_px
    return width / 2.0 - half_x, height / 2.0 - half_y, width / 2.0 + half_x, height / 2.0 + half_y
