"""Focus, depth of field, diffraction and sharpness said and mended: the sentences of these items, and where a
set-up holds focus.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial
from itertools import islice
from typing import Any

import numpy as np

from ..kit.steps import STOPS, exact_stop, stop_name
from ..optics import focus, frame
from ..wording import Words, number
from .camera import enlargement
from .glass import LEAST_DEPTH_M, blur_px
from .measure import Match
from .pose import Array
from .saying import Context, Explainer, Explanation, Fix, Value, Values, limit_words
from .taken import unknown_words
from .tolerances import Tolerance

MOST_PASSES = 20
_BAND_HALVINGS = 30
_PLANES = 60  # of focus that are tried for a fix


_SAME_STOP = 1.0 / 12.0  # a sixth of a stop, as the logarithm (base 2) of the f-number


@dataclass(frozen=True, slots=True)
class _Tried:
    """Stops and planes of focus (k,), with the greatest difference of blur at the near and the back edge, px
    (k,).
    """

    f_number: Array
    focus_distance_m: Array
    near_px: Array
    far_px: Array

    @property
    def worst_px(self) -> Array:
        """The greater of both edges."""
        return np.maximum(self.near_px, self.far_px)

    def best(self, px: Array) -> _Setting:
        """The one with the least of these differences."""
        row = int(px.argmin())
        return _Setting(*(float(column[row]) for column in self._columns))

    @property
    def _columns(self) -> tuple[Array, Array, Array, Array]:
        return self.f_number, self.focus_distance_m, self.near_px, self.far_px


@dataclass(frozen=True, slots=True)
class _Setting:
    """One of them."""

    f_number: float
    focus_distance_m: float
    near_px: float
    far_px: float

    @property
    def worst_px(self) -> float:
        """The greater of both edges."""
        return max(self.near_px, self.far_px)


def _tried(match: Match, stops: Sequence[float], planes: Sequence[float]) -> _Tried:
    """Every pairing of stops and planes of focus, held against the hero at every point of the layer."""
    setup, layer = match.setup, match.layer
    assert setup is not None
    samples, depth_m = match.place[0], np.maximum(match.own[1] / layer.scale, LEAST_DEPTH_M)
    hero = blur_px(match.hero, samples.wanted_at[1][:, :, : samples.anchor], match.delivery)
    stop, plane = (np.ravel(side) for side in np.meshgrid(stops, planes, indexing="ij"))
    by_stop: Any = stop[:, None]  # the formula takes arrays as it takes numbers
    by_plane: Any = plane[:, None]
    ends = []
    for these in samples.behind:
        by_point: Any = depth_m[0][these]
        disc = focus.blur_disc_mm(setup.focal_length_mm, by_stop, by_plane, by_point, setup.focusing)
        px = disc * (match.delivery.width_px / setup.extracted_mm * layer.resize)
        ends.append(np.abs(px - hero[0][these]).max(axis=1))
    near, far = ends
    return _Tried(stop, plane, near, far if layer.depth_m else np.zeros_like(near))


def _ways(match: Match, ctx: Context) -> tuple[_Tried, _Setting, _Setting]:
    """All stops at this plane of focus; the best plane at this stop; the best of both. Worked out once for
    both ends of a layer.
    """
    setup, kit = match.setup, ctx.kit
    ways: tuple[_Tried, _Setting, _Setting]
    owned, ways = match.worked_out.get("focus", (None, None))
    if ways is not None and owned is kit:
        return ways
    assert setup is not None
    lens = kit.lens_of(setup.focal_length_mm) if kit else None
    stops = [exact for _, exact in (lens.stops if lens else STOPS)]
    closest = max(lens.closest_focus_m if lens else 0.0, 1.05 * setup.focal_length_mm / 1000.0)
    depths = match.own[1] / match.layer.scale
    near, far = max(float(depths.min()), closest), max(float(depths.max()), closest)
    planes = [
        round(float(plane), 3)
        for plane in (
            *np.geomspace(max(closest, 0.6 * near), max(4.0 * far, 1.2 * closest), _PLANES),
            max(match.hero.focus_distance_m / match.layer.scale, closest),
            max(2.0 * near * far / (near + far), closest),
        )
        if plane * 1000.0 > 1.02 * setup.focal_length_mm
    ]
    by_stop = _tried(match, stops, [setup.focus_distance_m])
    by_plane = _tried(match, [setup.f_number], planes)
    coarse = _tried(match, stops[::2], planes[::3])
    by_both = _tried(match, stops, [coarse.best(coarse.worst_px).focus_distance_m])
    ways = by_stop, by_plane.best(by_plane.worst_px), by_both.best(by_both.worst_px)
    match.worked_out["focus"] = kit, ways
    return ways


def _mending(match: Match, ctx: Context, item: str) -> tuple[Fix, ...]:
    """What the stop, the plane of focus, or both can do: each is tried at every point before it is
    offered.
    """
    words = ctx.words

    def own(tried: _Setting) -> float:
        return tried.far_px if item == "focus_far" else tried.near_px

    now = match.amounts[item]
    stops, by_plane, by_both = _ways(match, ctx)
    by_stop = stops.best(stops.far_px if item == "focus_far" else stops.near_px)
    plane_text = words.length(by_plane.focus_distance_m)
    both_text = f"f/{stop_name(by_both.f_number)}, focus at {words.length(by_both.focus_distance_m)}"
    offered = [
        (by_stop, f"f/{stop_name(by_stop.f_number)}", {"f_number": by_stop.f_number}),
        (by_plane, f"Focus at {plane_text}", {"focus_distance_m": by_plane.focus_distance_m}),
        (
            by_both,
            both_text,
            {"f_number": by_both.f_number, "focus_distance_m": by_both.focus_distance_m},
        ),
    ]
    fixes = [
        (tried, Fix(label, "set_up", changes)) for tried, label, changes in offered if own(tried) < 0.95 * now
    ]
    fixes.sort(key=lambda fix: fix[0].worst_px)
    alone = [fix for tried, fix in fixes if tried is not by_both]
    holds = any(tried.worst_px <= ctx.tolerance.holds for tried, _ in fixes if tried is not by_both)
    both = [fix for tried, fix in fixes if tried is by_both and not holds]
    return (*alone, *both)


def _passes_text(match: Match, limit: Tolerance) -> str:
    setup = match.setup
    assert setup is not None
    if not match.far_m > setup.distance_m:
        return ""
    circle = limit.holds / match.layer.resize * setup.extracted_mm / match.delivery.width_px
    walk = focus.walk_passes(setup.focal_length_mm, setup.f_number, circle, setup.distance_m, match.far_m)
    count = sum(1 for _ in islice(walk, MOST_PASSES + 1))
    if count > MOST_PASSES:
        return ""
    return (
        " One pass holds it all if the focus is split."
        if count == 1
        else f" Or {count} focus passes at this stop."
    )


def _focus_wish(match: Match, words: Words) -> tuple[str, float | None, str]:
    """What equal blur still wants: the hero's stop at this scale; where that stands, the hero's plane of
    focus; else nothing.
    """
    setup, s = match.setup, match.layer.scale
    assert setup is not None
    stop, plane = match.hero.f_number * s, round(match.hero.focus_distance_m / s, 4)
    if abs(math.log2(stop / setup.f_number)) > _SAME_STOP:
        return "f_number", exact_stop(stop), f"f/{stop_name(stop)}"
    if not math.isclose(plane, setup.focus_distance_m, rel_tol=0.005):
        return "focus_distance_m", plane, words.length(plane)
    return "", None, ""


def focus_at(far_end: bool) -> Explainer:
    item = "focus_far" if far_end else "focus_near"

    def explain(match: Match, ctx: Context) -> Explanation:
        setup, layer, words = match.setup, match.layer, ctx.words
        assert setup is not None
        distance_m, shown, hero = (
            (match.soft_far_m, match.blur_far_px, match.blur_hero_far_px)
            if far_end
            else (match.soft_near_m, match.blur_near_px, match.blur_hero_near_px)
        )
        over = match.amounts[item] > ctx.tolerance.holds
        sharp = shown < hero
        sentence = (
            f"Full size, at {words.length(distance_m * layer.scale)} the hero's lens makes a blur of"
            f" {words.px(hero)}; at 1:{layer.scale:g} and {words.stop(setup.f_number)} this one makes"
            f" {words.px(shown)}{(', too sharp' if sharp else ', too soft') if over else ''}."
            f" {limit_words(ctx.tolerance, 'px')}"
        )
        dial, wants, wants_text = _focus_wish(match, words)
        if over:
            lacking = math.sqrt(max(hero * hero - shown * shown, 0.0))
            sentence += (
                f" Or soften it {words.px(lacking)} in the composite."
                if sharp
                else _passes_text(match, ctx.tolerance)
            )

        def values() -> Values:
            return (
                Value("f", "focal length", f"{setup.focal_length_mm:g} mm"),
                Value("N", "stop", words.stop(setup.f_number)),
                Value("d_f", "focused at", words.length(setup.focus_distance_m)),
                Value("d", "distance", words.length(distance_m)),
                Value(
                    "W/G",
                    "delivered px for each mm of gate",
                    number(match.delivery.width_px / setup.extracted_mm, 4),
                ),
                Value("hero", "the hero's blur there", words.px(hero)),
            )

        mending = partial(_mending, match, ctx, item) if over else None
        where = words.length(distance_m)
        return Explanation(where, sentence, values, (), dial, wants, wants_text, mending)

    explain.__doc__ = "Blur at one end of the layer against what the hero would have shown."
    return explain


def diffraction(match: Match, ctx: Context) -> Explanation:
    """The end of the road of stopping down."""
    setup = match.setup
    assert setup is not None
    sentence = (
        f"At {ctx.words.stop(setup.f_number)} a point is an Airy disc {ctx.words.px(match.airy_px)} across,"
        f" in the hero {ctx.words.px(match.airy_hero_px)}. {limit_words(ctx.tolerance, 'px')}"
    )
    fixes: tuple[Fix, ...] = ()
    if match.amounts["diffraction"] > ctx.tolerance.holds:
        allowed = (ctx.tolerance.holds + match.airy_hero_px) / match.airy_px * setup.f_number
        opened = [step for step in STOPS if step[1] <= allowed * (1 + 1e-9)]
        if opened:
            fixes = (Fix(f"f/{opened[-1][0]}", "set_up", {"f_number": opened[-1][1]}),)
    m = frame.extension(setup.focal_length_mm, setup.focus_distance_m, setup.focusing)

    def values() -> Values:
        return (
            Value("N", "stop", ctx.words.stop(setup.f_number)),
            Value("m", "image further out, in focal lengths", number(m, 3)),
            Value("λ", "wavelength", "0.55 µm"),
            Value("hero", "the hero's disc", ctx.words.px(match.airy_hero_px)),
        )

    return Explanation(ctx.words.stop(setup.f_number), sentence, values, fixes)


def _picture_sharpness(match: Match) -> Explanation:
    layer = match.layer
    spans = match.f_hero_px * layer.width_m / layer.near_m * layer.resize
    sentence = (
        f"The picture is {layer.picture_width_px} px wide and spans {spans:.0f} px of the delivery."
        f"{unknown_words(layer)}"
    )

    def values() -> Values:
        return (
            Value("recorded", "picture width", f"{layer.picture_width_px} px"),
            Value("spans", "in the delivery", f"{spans:.0f} px"),
        )

    return Explanation(f"{100 * spans / (layer.picture_width_px or 1):.0f} % of its size", sentence, values)


def sharpness(match: Match, ctx: Context) -> Explanation:
    """Recorded pixels spread over more delivered ones."""
    setup, layer = match.setup, match.layer
    if setup is None:
        return _picture_sharpness(match)
    size = enlargement(setup, match.delivery, layer.resize)
    sentence = (
        f"One recorded pixel becomes {number(size, 3)} delivered ones. Up to 1 nothing is lost."
        f" {limit_words(ctx.tolerance, '% over that')}"
    )

    def values() -> Values:
        return (
            Value("recorded", "recorded width", f"{setup.recorded_width_px} px"),
            Value("W", "delivered width", f"{match.delivery.width_px} px"),
            Value("r", "resize in the composite", f"{100 * layer.resize:.1f} %"),
        )

    return Explanation(f"{100 * size:.0f} %", sentence, values)


def focus_band_m(match: Match, limit_px: float) -> tuple[float, float]:
    """From where to where the layer's blur stays near what the hero would show.

    Searched outward from the plane of focus by bisection on the exact blur.

    Parameters
    ----------
    match : Match
        A layer with a set-up.
    limit_px : float
        Difference of the blur discs that is allowed, delivered px.

    Returns
    -------
    near_m : float
        Metres of the set from the entrance pupil.
    far_m : float
        As near_m; may be ``math.inf``. Both are the plane of focus where nothing holds.

    References
    ----------
    thin_lens

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL, MODEL
    >>> [round(end, 3) for end in focus_band_m(Match(HERO, MILL, MODEL, DELIVERY), 1.5)]
    [0.888, 1.144]
    """
    setup, layer = match.setup, match.layer
    assert setup is not None

    def holds(distance: float) -> bool:
        full = max(layer.near_m + (distance - setup.distance_m) * layer.scale, 1e-6)
        return abs(match.blur_at_px(distance) - match.hero_blur_at_px(full)) <= limit_px

    focused_m = setup.focus_distance_m
    if not holds(focused_m):
        return focused_m, focused_m
    ends = []
    for edge in (setup.focal_length_mm / 1000.0 * 1.01, focused_m * 1e4):
        if holds(edge):
            ends.append(edge if edge < focused_m else math.inf)
            continue
        good, bad = focused_m, edge
        for _ in range(_BAND_HALVINGS):
            middle = math.sqrt(good * bad)
            good, bad = (middle, bad) if holds(middle) else (good, middle)
        ends.append(good)
    return ends[0], ends[1]


def own_depth_m(match: Match, limit_px: float) -> tuple[float, float]:
    """Depth of field of a set-up by itself: the band of a hero, which has nothing else to be held against.

    Parameters
    ----------
    match : Match
        A layer with a set-up.
    limit_px : float
        Blur disc that is allowed, delivered px.

    Returns
    -------
    near_m : float
        Metres of the set from the entrance pupil.
    far_m : float
        As near_m; may be ``math.inf``.

    References
    ----------
    depth_tables

    Examples
    --------
    >>> from jungoptic.core.example import DELIVERY, HERO, MILL
    >>> round(own_depth_m(Match(HERO, MILL, HERO, DELIVERY), 1.5)[0], 2)
    4.93
    """
    setup = match.setup
    assert setup is not None
    circle = limit_px * setup.extracted_mm / match.delivery.width_px
    return focus.depth_limits_m(setup.focal_length_mm, setup.f_number, circle, setup.focus_distance_m)
