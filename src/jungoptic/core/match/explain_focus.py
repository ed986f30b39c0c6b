"""Focus, depth of field, diffraction and sharpness said and mended: the sentences of these items, and where a
set-up holds focus.
"""

from __future__ import annotations

import math
from itertools import islice

from ..kit.records import Kit
from ..kit.steps import STOPS, exact_stop, nearest_stop, stop_name
from ..optics import focus, frame
from ..wording import Words, number
from .camera import enlargement
from .measure import Match
from .saying import Context, Explainer, Explanation, Fix, Value, Values, limit_words
from .tolerances import Tolerance

MOST_PASSES = 20
_BAND_HALVINGS = 30


_SAME_STOP = 1.0 / 12.0  # a sixth of a stop, as the logarithm (base 2) of the f-number


def _stop_fix(match: Match, kit: Kit | None) -> Fix | None:
    """The stop with equal blur, or the smallest the lens has on the way there."""
    setup = match.setup
    assert setup is not None
    wanted = match.hero.f_number * match.layer.scale
    owned = kit.lens_of(setup.focal_length_mm) if kit else None
    name, exact = (
        nearest_stop(wanted, owned.widest_f_number, owned.smallest_f_number)
        if owned
        else nearest_stop(wanted)
    )
    return (
        None
        if abs(math.log2(exact / setup.f_number)) <= _SAME_STOP
        else Fix(f"f/{name}", "set_up", {"f_number": exact})
    )


def _split_focus_m(match: Match) -> float:
    """Focus distance that gives near and far end the same blur disc: the harmonic mean of the two."""
    setup = match.setup
    assert setup is not None
    return 2.0 * setup.distance_m * match.far_m / (setup.distance_m + match.far_m)


def _passes_text(match: Match, limit: Tolerance) -> str:
    setup = match.setup
    assert setup is not None
    if not match.far_m > setup.distance_m:
        return ""
    circle = limit.holds * match.f_px / match.f_hero_px * setup.extracted_mm / match.delivery.width_px
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
    def explain(match: Match, ctx: Context) -> Explanation:
        setup, layer, words = match.setup, match.layer, ctx.words
        assert setup is not None
        distance_m = match.far_m if far_end else setup.distance_m
        full = layer.near_m + (layer.depth_m if far_end else 0.0)
        shown, hero = (
            (match.blur_far_px, match.blur_hero_far_px)
            if far_end
            else (match.blur_near_px, match.blur_hero_near_px)
        )
        amount = match.amounts["focus_far" if far_end else "focus_near"]
        sentence = (
            f"Full size, at {words.length(full)} the hero's lens makes a blur of {words.px(hero)}; at"
            f" 1:{layer.scale:g} and {words.stop(setup.f_number)} this one makes {words.px(shown)}."
            f" {limit_words(ctx.tolerance, 'px')}"
        )
        fixes: list[Fix] = []
        dial, wants, wants_text = _focus_wish(match, words)
        if amount > ctx.tolerance.holds:
            stop = _stop_fix(match, ctx.kit)
            split = _split_focus_m(match)
            if stop:
                fixes.append(stop)
            if dial == "focus_distance_m" and wants and abs(wants - split) > 0.005 * split:
                fixes.append(Fix(f"Focus at {wants_text}, as the hero", "set_up", {dial: wants}))
            if abs(split - setup.focus_distance_m) > 0.005 * split:
                fixes.append(
                    Fix(
                        f"Focus at {words.length(round(split, 3))}",
                        "set_up",
                        {"focus_distance_m": round(split, 3)},
                    )
                )
            sentence += _passes_text(match, ctx.tolerance)

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

        return Explanation(words.length(distance_m), sentence, values, tuple(fixes), dial, wants, wants_text)

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
    m = frame.magnification(setup.focal_length_mm, setup.focus_distance_m)

    def values() -> Values:
        return (
            Value("N", "stop", ctx.words.stop(setup.f_number)),
            Value("m", "magnification", number(m, 3)),
            Value("λ", "wavelength", "0.55 µm"),
            Value("hero", "the hero's disc", ctx.words.px(match.airy_hero_px)),
        )

    return Explanation(ctx.words.stop(setup.f_number), sentence, values, fixes)


def _picture_sharpness(match: Match) -> Explanation:
    layer = match.layer
    spans = match.f_hero_px * layer.width_m / layer.near_m * layer.resize
    sentence = (
        f"The picture is {layer.picture_width_px} px wide and spans {spans:.0f} px of the delivery. "
        "Its camera is unknown: only its enlargement can be judged."
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
    [0.885, 1.15]
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
