"""What was filmed already and could serve again: judged by light direction, camera height, lens, rate and
size in the picture.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from ..match.tolerances import ITEMS, Tolerance, verdict
from ..vocabulary import Verdict
from ..wording import number

LENS = Tolerance(0.15, 0.5)
HEIGHT = Tolerance(0.25, 1.0)
RATE = Tolerance(0.1, 0.5)
_FAR_M = 200.0  # beyond this the height of the camera is not seen in what it films
_WORST: tuple[Verdict, ...] = ("holds", "tight", "shows")


@dataclass(frozen=True, slots=True)
class Footage:
    """What is wanted, or what there is. Angles of the key as the camera sees it; None where nobody knows.

    ``view_deg`` is the angle of view across the delivered frame, ``distance_m`` how far the thing stands from
    that lens.
    """

    name: str
    words: frozenset[str]
    key_azimuth_deg: float | None = None
    key_elevation_deg: float | None = None
    camera_height_m: float | None = None
    view_deg: float | None = None
    fps: float | None = None
    width_px: float | None = None
    distance_m: float | None = None


@dataclass(frozen=True, slots=True)
class Aspect:
    """One thing in which what there is differs from what is wanted."""

    what: str
    verdict: Verdict
    text: str


@dataclass(frozen=True, slots=True)
class Fit:
    """How well a piece of footage serves; ``mirrored`` when it serves better flopped."""

    footage: Footage
    aspects: tuple[Aspect, ...]
    mirrored: bool
    unknown: tuple[str, ...]

    @property
    def verdict(self) -> Verdict:
        """The worst of its aspects; what nobody knows is at best tight."""
        unsure: Verdict = "tight" if self.unknown else "holds"
        return max((unsure, *(aspect.verdict for aspect in self.aspects)), key=_WORST.index)

    @property
    def score(self) -> float:
        """How much speaks against it; 0 is best."""
        return (
            sum(_WORST.index(aspect.verdict) for aspect in self.aspects)
            + 0.5 * len(self.unknown)
            + (0.25 if self.mirrored else 0.0)
        )


def _angle(a: tuple[float, float], b: tuple[float, float]) -> float:
    """Angle between two directions given as azimuth and elevation, degrees."""
    (az, el), (bz, bl) = (tuple(math.radians(angle) for angle in pair) for pair in (a, b))
    cosine = math.sin(el) * math.sin(bl) + math.cos(el) * math.cos(bl) * math.cos(az - bz)
    return math.degrees(math.acos(min(1.0, max(-1.0, cosine))))


def _direction(wanted: Footage, there: Footage, flop: bool) -> float | None:
    if None in (wanted.key_azimuth_deg, there.key_azimuth_deg):
        return None
    assert wanted.key_azimuth_deg is not None and there.key_azimuth_deg is not None
    azimuth = -there.key_azimuth_deg if flop else there.key_azimuth_deg
    return _angle(
        (wanted.key_azimuth_deg, wanted.key_elevation_deg or 0.0), (azimuth, there.key_elevation_deg or 0.0)
    )


def _fit(wanted: Footage, there: Footage, flop: bool) -> Fit:
    aspects, unknown = [], []
    turned = _direction(wanted, there, flop)
    if turned is None:
        unknown.append("direction of light")
    else:
        aspects.append(
            Aspect("light", verdict(turned, ITEMS["direction"].tolerance), f"light {turned:.0f}° off")
        )
    far = (wanted.distance_m or 0.0) > _FAR_M
    for what, a, b, tolerance, unit in (
        ("camera height", wanted.camera_height_m, there.camera_height_m, HEIGHT, "m"),
        ("lens", wanted.view_deg, there.view_deg, LENS, "°"),
        ("rate", wanted.fps, there.fps, RATE, "frames/s"),
    ):
        if what == "camera height" and far:
            continue
        if a is None or b is None or a <= 0 or b <= 0:
            unknown.append(what)
            continue
        sizes = [math.tan(math.radians(angle) / 2.0) for angle in (a, b)] if what == "lens" else [a, b]
        off = max(sizes) / min(sizes) - 1.0
        gap = "" if unit == "°" else " "
        aspects.append(
            Aspect(
                what,
                verdict(off, tolerance),
                f"{what} {number(b, 3)}{gap}{unit} for {number(a, 3)}{gap}{unit}",
            )
        )
    if wanted.width_px and there.width_px:
        grown = max(0.0, 100.0 * (wanted.width_px / there.width_px - 1.0))
        aspects.append(
            Aspect(
                "size",
                verdict(grown, ITEMS["sharpness"].tolerance),
                f"enlarged {100 + grown:.0f} %" if grown else "large enough",
            )
        )
    return Fit(there, tuple(aspects), flop, tuple(unknown))


_OTHERS = (
    "at",
    "the",
    "of",
    "on",
    "in",
    "a",
    "an",
    "and",
    "to",
    "from",
    "black",
    "plate",
    "stock",
    "1",
    "behind",
    "over",
)


def words_of(text: str) -> frozenset[str]:
    """The words that say what a thing is, without small ones, counts and plural endings.

    Parameters
    ----------
    text : str
        Name of a layer or a plate.

    Returns
    -------
    frozenset of str
        In small letters.

    Examples
    --------
    >>> sorted(words_of("Two clouds over the mill"))
    ['cloud', 'mill', 'two']
    """
    plain = "".join(letter.lower() if letter.isalpha() else " " for letter in text).split()
    return frozenset(word.rstrip("s") for word in plain if word not in _OTHERS and len(word) > 2)


def fitting_footage(wanted: Footage, library: Iterable[Footage], most: int = 5) -> tuple[Fit, ...]:
    """What there is of the same thing, best first, flopped where that brings the light round.

    Parameters
    ----------
    wanted : Footage
        What a shot lacks.
    library : iterable of Footage
        What there is; one word in common is enough.
    most : int, default 5
        How many at most.

    Returns
    -------
    tuple of Fit
        Judged by light, camera height, lens, rate and size.

    References
    ----------
    flop_rules, tol_direction, tol_enlarge

    Examples
    --------
    >>> sky = Footage("Evening sky", words_of("sky"), key_azimuth_deg=-118)
    >>> fit = fitting_footage(Footage("Sky", words_of("sky"), key_azimuth_deg=118), [sky])[0]
    >>> fit.mirrored, fit.verdict
    (True, 'tight')
    """
    fits: list[Fit] = []
    for there in library:
        if not wanted.words & there.words:
            continue
        both: Sequence[Fit] = [_fit(wanted, there, flop) for flop in (False, True)]
        fits.append(min(both, key=lambda fit: fit.score))
    return tuple(sorted(fits, key=lambda fit: (fit.score, fit.footage.name))[:most])
