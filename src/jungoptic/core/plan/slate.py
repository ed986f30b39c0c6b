"""The slate that a camera can read: what its code says, and from where a set-up reads it."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass

from ..match.records import SetUp
from ..optics import code_reach_m, focal_length_px, focused_reach_m, image_distance_mm
from ..wording import Words

SLATE = "JO:{code}:{shot}:{layer}:{take}"
"""What a code says: the random id of the take, the shot's code, the layer's number, the take as slated."""
_SLATE = re.compile(r"JO:(?P<code>[0-9A-Z]{8}):(?P<shot>[^:]*):(?P<layer>\d{1,9}):(?P<take>\d{1,5})")
CODE_WIDTHS_MM = (30, 40, 50, 60, 70, 80, 100, 120, 150, 200, 300)
"""Codes that a reach is told for: telephones, tablets, sheets of paper."""
_MM = 1000.0
_PER_M = 20.0
"""A reach is told in steps of so many to the metre, never too far."""


@dataclass(frozen=True, slots=True)
class Slated:
    """What a slate said: ``code`` is the take's own, ``take`` the number that was shown."""

    code: str
    shot: str
    layer: int
    take: int


def slated(text: str) -> Slated | None:
    """What a code that was read says.

    Parameters
    ----------
    text : str
        As a reader gave it.

    Returns
    -------
    Slated or None
        None for a code that is no slate of ours.

    Examples
    --------
    >>> slated("JO:7F3K9Q2W:TM010:2:5")
    Slated(code='7F3K9Q2W', shot='TM010', layer=2, take=5)
    >>> slated("something else") is None
    True
    """
    read = _SLATE.fullmatch(text)
    if read is None:
        return None
    return Slated(read["code"], read["shot"], int(read["layer"]), int(read["take"]))


@dataclass(frozen=True, slots=True)
class SlateReach:
    """From where a set-up reads a code of one width: metres from the lens, and in words. ``reads`` is False
    where it is read nowhere at this focus.
    """

    code_mm: int
    near_m: float
    far_m: float
    focused_to_m: float
    reads: bool
    text: str


def _up(metres: float) -> float:
    return math.ceil(metres * _PER_M) / _PER_M if math.isfinite(metres) else metres


def _down(metres: float) -> float:
    return math.floor(metres * _PER_M) / _PER_M if math.isfinite(metres) else metres


def slate_reaches(setup: SetUp, words: Words) -> list[SlateReach]:
    """From where a set-up reads the slate, for codes of :data:`CODE_WIDTHS_MM`.

    Parameters
    ----------
    setup : SetUp
        Lens, stop, focus, gate and recording.
    words : Words
        The reader's units.

    Returns
    -------
    list of SlateReach
        One a width, the smallest first.

    References
    ----------
    qr_code, pinhole, thin_lens

    Examples
    --------
    >>> from jungoptic.core.example import HERO
    >>> slate_reaches(HERO, Words())[3].text
    'Read nowhere at this focus: focused on it, up to 3.9 m.'
    """
    f_px = focal_length_px(
        image_distance_mm(setup.focal_length_mm, setup.focus_distance_m, setup.focusing),
        setup.gate_width_mm,
        setup.recorded_width_px,
    )
    # focused nearer a lens shows things larger, not smaller: what is said holds wherever it is focused
    least_px = focal_length_px(setup.focal_length_mm, setup.gate_width_mm, setup.recorded_width_px)
    aperture_mm = setup.focal_length_mm / setup.f_number
    reaches = []
    for width_mm in CODE_WIDTHS_MM:
        width_m = width_mm / _MM
        near, far = code_reach_m(f_px, aperture_mm, setup.focus_distance_m, width_m)
        focused = focused_reach_m(least_px, width_m)
        reads = _up(near) < _down(far)
        if reads:
            text = f"Read from {words.length(_up(near))} to {words.length(_down(far))}."
        else:
            text = f"Read nowhere at this focus: focused on it, up to {words.length(_down(focused))}."
        reaches.append(SlateReach(width_mm, near, far, focused, reads, text))
    return reaches
