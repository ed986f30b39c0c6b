"""Focus of a layer said: passes that hold all of it, the tilt that lays focus on its ground, where it
holds.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import islice

from ..match.measure import Match
from ..match.tolerances import ITEMS
from ..optics import focus
from ..wording import Words, number

MOST_PASSES = 12
_FARTHEST_M = 1e4


@dataclass(frozen=True, slots=True)
class FocusPass:
    """One pass: focused at ``focus_m`` (m from the entrance pupil, None at infinity), and from where to
    where it holds.
    """

    text: str
    focus_m: float | None


@dataclass(frozen=True, slots=True)
class Focusing:
    """Passes from near to far, at most twelve; ``more`` says that these do not hold all of it. ``tilt_text``
    is "" where no tilt does it.
    """

    passes: tuple[FocusPass, ...]
    more: bool
    tilt_text: str


def _far(metres: float | None, words: Words) -> str:
    return "infinity" if metres is None or not math.isfinite(metres) else words.length(metres)


def focusing(match: Match, words: Words) -> Focusing:
    """Focus passes that hold a layer's whole depth, and the lens tilt that lays focus on its ground.

    The circle is what the item *Focus, near* allows in the delivered frame.

    Parameters
    ----------
    match : Match
        A layer with a set-up.
    words : Words
        The reader's units.

    Returns
    -------
    Focusing
        Passes from near to far, metres of the set.

    References
    ----------
    depth_tables, scheimpflug

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> passes = focusing(Match(HERO, MILL, MODEL, DELIVERY), Words())
    >>> len(passes.passes), passes.passes[0].text, passes.tilt_text
    (3, '1.084 m: 1 m to 1.183 m', '5.74°')
    """
    setup = match.setup
    assert setup is not None
    circle = ITEMS["focus_near"].tolerance.holds * setup.extracted_mm / match.delivery.width_px
    passes: list[FocusPass] = []
    if match.far_m > setup.distance_m:
        walk = focus.walk_passes(
            setup.focal_length_mm, setup.f_number, circle, setup.distance_m, min(match.far_m, _FARTHEST_M)
        )
        passes = [
            FocusPass(
                f"{_far(focus_m, words)}: {words.length(near)} to {_far(far, words)}",
                focus_m if math.isfinite(focus_m) else None,
            )
            for focus_m, near, far in islice(walk, MOST_PASSES + 1)
        ]
    above = setup.lens_height_m - setup.ground_height_m
    tilt = ""
    if 1000 * above > setup.focal_length_mm:
        tilt = f"{number(focus.ground_tilt_deg(setup.focal_length_mm, above), 3)}°"
    return Focusing(tuple(passes[:MOST_PASSES]), len(passes) > MOST_PASSES, tilt)


def band_text(near_m: float, far_m: float | None, words: Words) -> str:
    """Where focus holds, in words.

    Parameters
    ----------
    near_m, far_m : float
        Metres of the set from the entrance pupil; ``far_m`` None is infinity.
    words : Words
        The reader's units.

    Returns
    -------
    str
        A few words.

    Examples
    --------
    >>> band_text(0.9, 1.2, Words())
    'holds focus 0.9 m to 1.2 m'
    """
    if far_m is not None and far_m - near_m < 1e-6:
        return "holds focus nowhere at this stop"
    return (
        f"holds focus from {words.length(near_m)} on"
        if far_m is None
        else f"holds focus {words.length(near_m)} to {words.length(far_m)}"
    )
