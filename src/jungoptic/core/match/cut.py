"""Across the cut: one shot's hero against its neighbour's."""

from __future__ import annotations

import math
from dataclasses import dataclass

from .. import quantities as q
from ..light import colour
from ..vocabulary import Verdict
from ..wording import Words, number
from .camera import camera_height_m
from .lighting import from_behind_deg
from .records import SetUp
from .tolerances import Tolerance, ladder, verdict

TOLERANCES: dict[str, Tolerance] = {
    "direction": Tolerance(20.0, 45.0),
    "height": Tolerance(0.2, 0.5),
    "colour": Tolerance(15.0, 40.0),
    "screen_direction": Tolerance(0.5, 1.5),
}


@dataclass(frozen=True, slots=True)
class CutJudgement:
    """One thing that differs from the neighbouring shot.

    Tolerances are wider than inside a frame. Source: across_cut, tol_cut. ``short`` is what a joint says.
    """

    item: str
    label: str
    short: str
    amount: float
    unit: str
    ladder: float
    verdict: Verdict
    sentence: str


class CutSide(q.Record):
    """What of a hero is looked at across a cut: where the key comes from over the ground (compass degrees and
    elevation; None where nobody knows), the lens over the ground, light and white balance, the heading.
    """

    key: tuple[float, float] | None = None
    height_m: float = 0.0
    light_k: float = 5600.0
    white_balance_k: float = 5600.0
    heading_deg: float = 0.0


def _one(item: str, label: str, short: str, amount: float, unit: str, sentence: str) -> CutJudgement:
    limit = TOLERANCES[item]
    judged = verdict(amount, limit)
    return CutJudgement(item, label, short, amount, unit, ladder(amount, limit), judged, sentence)


def key_from_north(setup: SetUp) -> tuple[float, float] | None:
    """Where the key comes from over the ground, compass degrees and elevation; the camera's heading turns it
    there.
    """
    if setup.key_azimuth_deg is None or setup.key_elevation_deg is None:
        return None
    return (setup.heading_deg + 180.0 - setup.key_azimuth_deg) % 360.0, setup.key_elevation_deg


def cut_side(hero: SetUp) -> CutSide:
    """What of a hero is looked at across a cut.

    Parameters
    ----------
    hero : SetUp
        The plate's camera, its key written out.

    Returns
    -------
    CutSide
        A few numbers: a whole cut can be held at once.

    References
    ----------
    across_cut

    Examples
    --------
    >>> from jungoptic.core.example import HERO
    >>> cut_side(HERO).key
    (62.0, 14.0)
    """
    return CutSide(
        key=key_from_north(hero),
        height_m=camera_height_m(hero),
        light_k=hero.light_k,
        white_balance_k=hero.white_balance_k,
        heading_deg=hero.heading_deg,
    )


def across_cut(
    here: CutSide, there: CutSide, name: str, directions: tuple[str, str], words: Words
) -> list[CutJudgement]:
    """One shot's hero against its neighbour's.

    The light is compared over the ground, not in the frame: cameras of one scene look different ways.

    Parameters
    ----------
    here, there : CutSide
        The heroes of the two shots.
    name : str
        Of the neighbour, for the sentences.
    directions : tuple of str
        Where the main movement goes in each: "left", "right" or "".
    words : Words
        The reader's units.

    Returns
    -------
    list of CutJudgement
        Worst first.

    References
    ----------
    across_cut, tol_cut

    Examples
    --------
    >>> from jungoptic.core.example import HERO
    >>> low = cut_side(HERO.but(lens_height_m=0.4))
    >>> across_cut(cut_side(HERO), low, "TM011", ("left", "left"), Words())[0].sentence
    'The lens stands 1.6 m over the ground, 0.4 m in TM011.'
    """
    judgements = []
    mine, theirs = here.key, there.key
    if mine and theirs:
        off = colour.angle_between_deg(mine[0], mine[1], theirs[0], theirs[1])
        seen = from_behind_deg(theirs[0], here.heading_deg)
        sentence = (
            f"The key stands {number(off, 2)}° from where it stands in {name}; from there it would come from"
            f" {number(seen, 3)}° to the side in this frame."
        )
        judgements.append(
            _one("direction", "Direction of light", f"key {number(off, 2)}°", off, "°", sentence)
        )
    mine_h, theirs_h = here.height_m, there.height_m
    if mine_h > 0 and theirs_h > 0:
        ratio = abs(math.log2(mine_h / theirs_h))
        judgements.append(
            _one(
                "height",
                "Camera height",
                f"height {words.length(abs(mine_h - theirs_h))}",
                2.0**ratio - 1.0,
                "×",
                f"The lens stands {words.length(mine_h)} over the ground, {words.length(theirs_h)} in"
                f" {name}.",
            )
        )
    cast = abs(
        colour.mired_shift(here.white_balance_k, here.light_k)
        - colour.mired_shift(there.white_balance_k, there.light_k)
    )
    judgements.append(
        _one(
            "colour",
            "Colour of light",
            f"colour {number(cast, 2)} mired",
            cast,
            "mired",
            f"{here.light_k:g} K balanced for {here.white_balance_k:g} K against {there.light_k:g} K for"
            f" {there.white_balance_k:g} K in {name}.",
        )
    )
    if all(directions):
        flips = directions[0] != directions[1]
        judgements.append(
            _one(
                "screen_direction",
                "Screen direction",
                "turns round" if flips else "keeps its way",
                2.0 if flips else 0.0,
                "",
                f"It moves to the {directions[0]} here and to the {directions[1]} in {name}."
                + (" It seems to turn round at the cut." if flips else ""),
            )
        )
    return sorted(judgements, key=lambda judgement: -judgement.ladder)
