"""What moves while a hyperlapse is taken: how far between photographs, and how it smears in each."""

from __future__ import annotations

from dataclasses import dataclass

from .hyperlapse import HyperPlan, drifts_px, passes_px
from .spacing import STROBES_PX

SHARP_PX = 1.0
"""Delivered px: what smears by less is as sharp as its lens has it."""


@dataclass(frozen=True, slots=True)
class Mover:
    """Something that moves: its name, how far from one photograph to the next, and how far it smears in each,
    delivered px.
    """

    name: str
    px: float
    smears_px: float

    @property
    def strobes(self) -> bool:
        """Whether it goes farther than an eye joins."""
        return self.px > STROBES_PX


@dataclass(frozen=True, slots=True)
class Meanwhile:
    """What moves; and the longest exposure in which the reference point does not smear, s, None where it does
    not as it is planned.
    """

    movers: tuple[Mover, ...]
    sharp_s: float | None


def smears_px(goes_px: float, exposure_s: float, interval_s: float) -> float:
    """How far something smears in one photograph.

    Parameters
    ----------
    goes_px : float
        How far it goes from one photograph to the next, evenly.
    exposure_s, interval_s : float
        Of one photograph, and from one to the next.

    Returns
    -------
    float
        Delivered px.

    References
    ----------
    shutter, pinhole

    Examples
    --------
    >>> smears_px(160.0, 0.25, 5.0)
    8.0
    """
    return goes_px * exposure_s / interval_s


def sharp_exposure_s(goes_px: float, interval_s: float) -> float:
    """The longest exposure in which something smears by no more than a delivered px.

    Parameters
    ----------
    goes_px : float
        How far it goes from one photograph to the next, evenly; more than nothing.
    interval_s : float
        From one photograph to the next.

    Returns
    -------
    float
        s, the whole interval at most.

    References
    ----------
    shutter, pinhole

    Examples
    --------
    >>> sharp_exposure_s(160.0, 4.0)
    0.025
    """
    return interval_s * min(1.0, SHARP_PX / goes_px)


def meanwhile(plan: HyperPlan, step_m: float, near_m: float, focal_px: float) -> Meanwhile:
    """What moves while a hyperlapse is taken.

    Parameters
    ----------
    plan : HyperPlan
        As it is planned.
    step_m : float
        From one photograph to the next.
    near_m : float
        How far away what is nearest stands.
    focal_px : float
        Of the lens, delivered px.

    Returns
    -------
    Meanwhile
        A camera that goes on is aimed again between its photographs and not in them: then the reference point
        smears as well.

    References
    ----------
    pinhole, shutter

    Examples
    --------
    >>> told = meanwhile(HyperPlan(goes_on=True, exposure_s=0.5, away_m=10.0), 0.1, 5.0, 1600.0)
    >>> [(each.name, round(each.smears_px, 1)) for each in told.movers][2:], told.sharp_s
    ([('what is nearest', 3.2), ('the reference point', 1.6)], 0.3125)
    """
    clouds = drifts_px(plan.clouds_m_s, plan.clouds_away_m, plan.interval_s, focal_px)
    people = drifts_px(plan.people_m_s, plan.people_away_m, plan.interval_s, focal_px)
    passes = passes_px(step_m, near_m, plan.away_m, focal_px)
    rows = [("clouds", clouds, clouds), ("people", people, people), ("what is nearest", passes, 0.0)]
    sharp = None
    if plan.goes_on:
        near_px, point_px = (step_m * focal_px / away for away in (near_m, plan.away_m))
        rows[-1] = ("what is nearest", passes, near_px)
        rows.append(("the reference point", 0.0, point_px))
        longest = sharp_exposure_s(point_px, plan.interval_s)
        sharp = longest if longest < plan.exposure_s else None
    movers = [
        Mover(name, px, smears_px(goes_px, plan.exposure_s, plan.interval_s)) for name, px, goes_px in rows
    ]
    return Meanwhile(tuple(movers), sharp)
