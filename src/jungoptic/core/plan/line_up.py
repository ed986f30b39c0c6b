"""A live picture held against the one that it should be: laid in the delivered frame, measured, and which
dial to turn.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from ..match.camera import camera_height_m, focal_px, picture_view_deg
from ..match.ground import GroundLine, ground_lines
from ..match.limits import tolerance_of
from ..match.measure import Match
from ..match.standing_off import Off, off_view
from ..match.tolerances import Tolerance, ladder, verdict
from ..measure.registered import Textured, registered
from ..optics.projection import horizon_y_px
from ..vocabulary import School, Verdict
from ..wording import Words, number
from .lined_up import DialOff, LinedUp, lined_up

Grey = npt.NDArray[np.uint8]

_JUDGED_BY = "tilt"
"""A camera that stands off shifts the picture as a wrong tilt does, and is judged as one."""
_STRAIGHTENED = 12


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


def gate_in_frame(match: Match) -> tuple[float, float, float, float]:
    """Where a layer's whole recorded picture lies in the delivered frame.

    Parameters
    ----------
    match : Match
        The layer, measured, with its set-up.

    Returns
    -------
    tuple of float
        Left, top, width and height, delivered px.

    References
    ----------
    pinhole

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL
    >>> [round(side) for side in gate_in_frame(Match(HERO, MILL, HERO, DELIVERY))]
    [0, 1, 1920, 1078]
    """
    setup, delivery = match.setup or match.hero, match.delivery
    width = delivery.width_px * setup.gate_width_mm / setup.extracted_mm * match.resize
    height = width * setup.gate_height_mm / setup.gate_width_mm
    across, down = off_view(match, Off()).shift_px
    return (
        delivery.width_px / 2.0 + across - width / 2.0,
        delivery.height_px / 2.0 + down - height / 2.0,
        width,
        height,
    )


def ground_in_frame(match: Match) -> tuple[GroundLine, ...]:
    """The ground as the hero wants it in the delivered frame: lines in round metres, full size.

    Parameters
    ----------
    match : Match
        A layer of the shot, measured.

    Returns
    -------
    tuple of GroundLine
        Near ones first; empty for a lens that is not over the ground.

    References
    ----------
    pinhole, rotation

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> [line.metres for line in ground_in_frame(Match(HERO, MILL, MODEL, DELIVERY))][:3]
    [10.0, 15.0, 20.0]
    """
    hero, delivery = match.hero, match.delivery
    camera = (picture_view_deg(hero), hero.tilt_deg, hero.roll_deg, camera_height_m(hero))
    return ground_lines(camera, delivery.width_px, delivery.height_px)


def planned_place(match: Match, words: Words) -> list[tuple[str, str]]:
    """How a layer's camera is to stand, for whoever puts it there.

    Parameters
    ----------
    match : Match
        The layer, measured, with its set-up.
    words : Words
        In whose units.

    Returns
    -------
    list of tuple of str
        Labels and texts.

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> planned_place(Match(HERO, MILL, MODEL, DELIVERY), Words("metric"))[:2]
    [('Lens', '35 mm'), ('Distance', '1 m')]
    """
    setup = match.setup or match.hero
    return [
        ("Lens", f"{number(setup.focal_length_mm, 3)} mm"),
        ("Distance", words.length(setup.distance_m)),
        ("Lens height", words.length(setup.lens_height_m)),
        ("Tilt", f"{setup.tilt_deg:.1f}°"),
        ("Roll", f"{setup.roll_deg:.1f}°"),
    ]


def horizon_in_frame(match: Match) -> tuple[tuple[float, float], tuple[float, float]]:
    """The hero's horizon, where it enters and leaves the delivered frame.

    Parameters
    ----------
    match : Match
        A layer of the shot, measured.

    Returns
    -------
    tuple of tuple of float
        Its left and its right end, delivered px; above or under the frame where nothing of it is seen.

    References
    ----------
    pinhole, rotation

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> horizon_in_frame(Match(HERO, MILL, MODEL, DELIVERY))
    ((0.0, 540.0), (1920.0, 540.0))
    """
    hero, delivery = match.hero, match.delivery
    width, height = float(delivery.width_px), float(delivery.height_px)
    ends = [
        horizon_y_px(focal_px(hero, delivery), height, hero.tilt_deg, hero.roll_deg, across)
        for across in (-width / 2.0, width / 2.0)
    ]
    return (0.0, ends[0]), (width, ends[1])


def laid_in_frame(match: Match, picture: Grey, width_px: int) -> tuple[Grey, Grey]:
    """A layer's whole recorded picture as the composite lays it, without the bend of its lens.

    Parameters
    ----------
    match : Match
        The layer, measured, with its set-up.
    picture : ndarray of uint8, shape (h, w)
        Grey codes of the whole gate, of any size.
    width_px : int
        Of the frame that comes out; its shape is the delivery's.

    Returns
    -------
    picture : ndarray of uint8, shape (h, w)
        The delivered frame.
    covered : ndarray of uint8, shape (h, w)
        0 where the recorded picture does not reach.

    References
    ----------
    pinhole, distortion_scale

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL
    >>> grey = np.full((540, 960), 99, np.uint8)
    >>> laid_in_frame(Match(HERO, MILL, HERO, DELIVERY), grey, 192)[0][54, 96]
    np.uint8(99)
    """
    left, top, width, height = gate_in_frame(match)
    setup = match.setup or match.hero
    k = width_px / match.delivery.width_px
    rows, columns = picture.shape
    a_px = columns / width
    if a_px > k * 1.5:  # what is finer than the frame is averaged first
        share = k / a_px
        picture = np.asarray(
            cv2.resize(picture, None, fx=share, fy=share, interpolation=cv2.INTER_AREA), np.uint8
        )
        rows, columns = picture.shape
        a_px = columns / width
    high = round(match.delivery.height_px * k)
    down, across = np.mgrid[0:high, 0:width_px]
    x = (across + 0.5) / k - left - width / 2.0
    y = (down + 0.5) / k - top - height / 2.0
    bend = setup.distortion_pct / 100.0
    tall = setup.gate_height_mm / setup.gate_width_mm
    corner = width * setup.measured_on_mm / setup.gate_width_mm * math.hypot(1.0, tall) / 2.0
    grow = 1.0 + bend * (np.hypot(x, y) / corner) ** 2
    from_x = ((x * grow) * a_px + columns / 2.0 - 0.5).astype(np.float32)
    from_y = ((y * grow) * a_px + rows / 2.0 - 0.5).astype(np.float32)
    laid = cv2.remap(picture, from_x, from_y, cv2.INTER_CUBIC, borderMode=cv2.BORDER_REPLICATE)
    inside = (from_x >= 0) & (from_x <= columns - 1) & (from_y >= 0) & (from_y <= rows - 1)
    return np.asarray(laid, np.uint8), np.where(inside, 255, 0).astype(np.uint8)


def line_up(
    match: Match,
    reference: Textured,
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
    reference : Textured
        The delivered frame as it should be, from a picture that :func:`laid_in_frame` laid there.
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
    >>> from jungoptic.core.measure import textured
    >>> from jungoptic.core.stage import LiveCamera
    >>> match = Match(HERO, MILL, MODEL, DELIVERY)
    >>> camera = LiveCamera(match, 480)
    >>> planned, live = (camera.picture(Off(pan=pan), 0)[..., 1] for pan in (0.0, 0.5))
    >>> told = line_up(match, textured(*laid_in_frame(match, planned, 480)), live, Words("metric"))
    >>> told.turns[0].to_do
    'Pan 0.50° to the left'
    """
    wide = reference.picture.shape[1]
    laid, covered = laid_in_frame(match, picture, wide)
    shared = registered(reference, laid, covered)
    k = wide / match.delivery.width_px
    measured = lined_up(
        match, (shared.there + 0.5) / k, (shared.here + 0.5) / k, shared.followed, zooms=zooms
    )
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
