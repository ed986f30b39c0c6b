"""What an item is judged by in this picture: its tolerance, its production's, and what covers it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from ..vocabulary import School
from .measure import Match
from .tolerances import ITEMS, MOTION_BLUR_FLOOR, MOTION_BLUR_SHARE, STROBES, Tolerance, widened

BRIEF_S = 0.5


_ITS_OWN = frozenset({"focus_near", "focus_far", "motion_blur"})
"""Items that what is soft in the picture covers otherwise than all others."""

Cover = tuple[float, str]


@dataclass(frozen=True)
class _Covers:
    """What hides any error of a layer, and what hides an error of twice its tolerance whatever it is."""

    px: tuple[Cover, ...]
    twice: tuple[str, ...]

    @cached_property
    def most(self) -> Cover:
        """The largest, of one set-up."""
        return max(self.px, key=_size)


def _covers(match: Match, item: str) -> _Covers:
    own: str = item if item in _ITS_OWN else ""
    kept = match.worked_out
    key = "covers", own
    covering: _Covers | None = kept.get(key)
    if covering is None:
        near, far = match.blur_hero_near_px, match.blur_hero_far_px
        soft = {"focus_near": (near,), "focus_far": (far,), "motion_blur": ()}.get(own, (near, far))
        px = (
            (match.motion_hero_px / 2.0, "half the motion blur"),
            *((blur_px, "the blur that the hero wants there") for blur_px in soft),
        )
        twice = []
        seen_s = match.layer.seen_s
        if seen_s is None and match.delivery.length_frames is not None:
            seen_s = match.delivery.length_frames / match.delivery.frame_rate_fps
        if seen_s is not None and seen_s < BRIEF_S:
            twice.append("under half a second on screen")
        if match.layer.behind_weather:
            twice.append("moving weather in front of it")
        covering = kept[key] = _Covers(px, tuple(twice))
    return covering


def _size(cover: Cover) -> float:
    return cover[0]


def covers(match: Match, item: str) -> list[Cover]:
    """Everything that hides an error in pixels, delivered px, and its name; only what the hero wants counts.
    Source: covered.
    """
    if match.setup is None:
        return []
    hidden = _covers(match, item)
    twice = 2.0 * ITEMS[item].tolerance.holds
    return [*hidden.px, *((twice, name) for name in hidden.twice)]


def cover_px(match: Match, item: str) -> Cover:
    """The largest single thing that hides an error in pixels, delivered px, and its name."""
    if match.setup is None:
        return 0.0, ""
    hidden = _covers(match, item)
    if not hidden.twice:
        return hidden.most
    return max(hidden.most, (2.0 * ITEMS[item].tolerance.holds, hidden.twice[0]), key=_size)


def tolerance_of(
    match: Match, item: str, school: School, custom: Mapping[str, Tolerance]
) -> tuple[Tolerance, str]:
    """The tolerance that judges an item here.

    Parameters
    ----------
    match : Match
        The layer, measured.
    item : str
        Key of the item.
    school : {"measured", "covered"}
        Whether what blur covers counts.
    custom : mapping of str to Tolerance
        In place of the items' own, by key.

    Returns
    -------
    tolerance : Tolerance
        In the item's unit.
    by : str
        What covered it; "" when nothing did.

    References
    ----------
    covered, finish, tol_motion_blur

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> tolerance_of(Match(HERO, MILL, MODEL, DELIVERY), "lens", "covered", {})[1]
    'half the motion blur'
    """
    base = measured_tolerance(match, item, custom)
    return covered_tolerance(match, item, base) if school == "covered" else (base, "")


def measured_tolerance(match: Match, item: str, custom: Mapping[str, Tolerance]) -> Tolerance:
    """What the school Measured judges by: the item's own, or the production's, under its finish. Sources:
    finish, tol_motion_blur.
    """
    base = custom.get(item, ITEMS[item].tolerance)
    if item == "motion_blur" and match.layer.kind == "frame_by_frame":
        base = STROBES
    elif item == "motion_blur":
        share = match.motion_hero_px
        base = Tolerance(
            max(MOTION_BLUR_FLOOR.holds, MOTION_BLUR_SHARE.holds * share),
            max(MOTION_BLUR_FLOOR.tight, MOTION_BLUR_SHARE.tight * share),
        )
    return _after_finish(match, item, base)


def covered_tolerance(match: Match, item: str, base: Tolerance) -> tuple[Tolerance, str]:
    """``base`` widened by what covers the item in the picture, and what that is: the school Covered."""
    if not ITEMS[item].in_pixels:
        return base, ""
    cover, by = cover_px(match, item)
    return (widened(base, cover), by) if cover > base.holds else (base, "")


def _after_finish(match: Match, item: str, base: Tolerance) -> Tolerance:
    """What the softness and the grain of the finish are larger than, they cover. Source: finish."""
    delivery = match.delivery
    if item == "grain" and delivery.grain_added:
        return Tolerance(base.holds + delivery.grain_added, base.tight + delivery.grain_added)
    if ITEMS[item].in_pixels and delivery.soften_px:
        return widened(base, delivery.soften_px)
    return base


def only_informs(match: Match, item: str) -> str:
    """Why the item only informs here and does not judge; "" when it judges."""
    if match.delivery.shows_models and ITEMS[item].needs_models_true:
        return "the production shows its models openly"
    if match.delivery.black_and_white and ITEMS[item].needs_colour:
        return "the finish is black and white"
    return ""
