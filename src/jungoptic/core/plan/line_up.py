"""A live picture held against the one that it should be: laid in the delivered frame, measured, and which
dial to turn.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from ..match.limits import tolerance_of
from ..match.measure import Match
from ..match.pose import Array
from ..match.standing_off import Off, off_view
from ..match.tolerances import Tolerance, ladder, verdict
from ..measure.registered import Textured, registered, textured
from ..vocabulary import School, Verdict
from ..wording import Words, number
from .laying import Grey, Laying
from .lined_up import DialOff, LinedUp, in_the_set, lined_up

_JUDGED_BY = "tilt"
"""A camera that stands off shifts the picture as a wrong tilt does, and is judged as one."""


@dataclass(frozen=True, slots=True)
class Turn:
    """A dial to be turned: what to do in words, and by how much it is off in the delivered frame, px."""

    dial: str
    label: str
    to_do: str
    px: float


@dataclass(frozen=True, slots=True)
class LineUp:
    """A live picture against the one that it should be: measured, judged, and what to turn, worst first."""

    measured: LinedUp
    verdict: Verdict
    place: float
    holds_px: float
    turns: tuple[Turn, ...]


@dataclass(frozen=True, slots=True)
class Reference:
    """The delivered frame as it should be, ready to be found again, and where each of its points stands (n,
    3), full-size metres from the lens: right, up, forward of a level camera.
    """

    textured: Textured
    places: Array


def reference_of(match: Match, laying: Laying, picture: Grey) -> Reference:
    """A picture of a layer, made ready to be lined up with.

    Parameters
    ----------
    match : Match
        The layer, measured, with its set-up.
    laying : Laying
        Of that layer.
    picture : ndarray of uint8, shape (h, w)
        Grey codes of its whole gate.

    Returns
    -------
    Reference
        With the points that have texture.

    References
    ----------
    good_features, pinhole

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> from jungoptic.core.stage import LiveCamera
    >>> match = Match(HERO, MILL, MODEL, DELIVERY)
    >>> found = reference_of(match, Laying(match, 480), LiveCamera(match, 480).picture(Off(), 0)[..., 1])
    >>> len(found.places) == len(found.textured.points)
    True
    """
    ready = textured(*laying.lay(picture))
    return Reference(ready, in_the_set(match, (ready.points + 0.5) / laying.k) - off_view(match, Off()).eye)


def line_up(
    match: Match,
    laying: Laying,
    reference: Reference,
    picture: Grey,
    words: Words,
    *,
    zooms: bool = False,
    school: School = "measured",
    custom: Mapping[str, Tolerance] | None = None,
) -> LineUp:
    """A live picture of a layer against the one that it should be.

    Parameters
    ----------
    match : Match
        The layer, measured, with its set-up.
    laying : Laying
        Of that layer, as wide as the reference.
    reference : Reference
        From :func:`reference_of`: of this layer, or of another that the same camera films from there.
    picture : ndarray of uint8, shape (h, w)
        The live one: grey codes of the whole gate.
    words : Words
        In whose units.
    zooms : bool, default False
        Whether the lens is a zoom.
    school : {"measured", "covered"}
        By which it is judged.
    custom : mapping of str to Tolerance, optional
        The production's own tolerances.

    Returns
    -------
    LineUp
        In delivered px, and what to turn.

    Raises
    ------
    NothingSharedError
        Where both pictures show too little of the same.

    References
    ----------
    pinhole, lucas_kanade, biweight

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> from jungoptic.core.stage import LiveCamera
    >>> match = Match(HERO, MILL, MODEL, DELIVERY)
    >>> camera, laying = LiveCamera(match, 480), Laying(match, 480)
    >>> planned, live = (camera.picture(Off(pan=pan), 0)[..., 1] for pan in (0.0, 0.5))
    >>> line_up(match, laying, reference_of(match, laying, planned), live, Words("metric")).turns[0].to_do
    'Pan 0.50° to the left'
    """
    laid, covered = laying.lay(picture)
    shared = registered(reference.textured, laid, covered)
    places = reference.places[shared.which] + off_view(match, Off()).eye
    here, followed = (shared.here + 0.5) / laying.k, len(reference.textured.points)
    measured = lined_up(match, places, here, followed, zooms=zooms)
    tolerance = tolerance_of(match, _JUDGED_BY, school, custom or {})[0]
    turns = tuple(_turn(match, each, words, zooms) for each in measured.dials)
    return LineUp(
        measured,
        verdict(measured.off_px, tolerance),
        ladder(measured.off_px, tolerance),
        tolerance.holds,
        turns,
    )


_LABELS = {
    "pan": "Pan",
    "tilt": "Tilt",
    "roll": "Roll",
    "zoom": "Focal length",
    "aside": "Place, aside",
    "up": "Height",
    "forward": "Distance",
}


def _turn(match: Match, off: DialOff, words: Words, zooms: bool) -> Turn:
    """What to do about a dial: the other way than it is off."""
    amount = abs(off.amount)
    back = off.amount > 0
    match off.dial:
        case "pan":
            to_do = f"Pan {_degrees(amount)} to the {'left' if back else 'right'}"
        case "tilt":
            to_do = f"Tilt {_degrees(amount)} {'down' if back else 'up'}"
        case "roll":
            to_do = f"Roll {_degrees(amount)} to the {'left' if back else 'right'}"
        case "aside":
            to_do = f"Move it {words.length(amount)} to the {'left' if back else 'right'}"
        case "up":
            to_do = f"{'Lower' if back else 'Raise'} it {words.length(amount)}"
        case "forward":
            to_do = f"Move it {words.length(amount)} {'back' if back else 'nearer'}"
        case _:
            planned = (match.setup or match.hero).focal_length_mm
            to_do = (
                f"Zoom to {number(planned, 3)} mm: it stands at {number(planned * math.exp(off.amount), 3)}"
                if zooms
                else f"It frames {100 * math.expm1(amount):.1f} % {'longer' if back else 'shorter'} than"
                " planned: look at the lens, or at how it breathes"
            )
    return Turn(off.dial, _LABELS[off.dial], to_do, off.px)


def _degrees(amount: float) -> str:
    return f"{amount:.2f}°"
