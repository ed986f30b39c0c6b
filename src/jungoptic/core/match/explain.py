"""What is said about each item: where, how much, why, and what to dial in instead."""

from __future__ import annotations

import math

from ..kit.steps import rate_name
from ..optics import frame
from ..wording import number
from .apart import ITEMS_OF_PLACE
from .camera import camera_height_m
from .explain_camera import CAMERA_EXPLAINERS
from .explain_focus import diffraction, focus_at, sharpness
from .explain_light import brightness, colour, direction, grain
from .measure import Match
from .saying import Context, Explainer, Explanation, Fix, Value, Values, limit_words
from .tolerances import ITEMS


def _common_values(match: Match) -> tuple[Value, ...]:
    return (
        Value("f_px,hero", "hero's focal length in delivered px", number(match.f_hero_px, 4)),
        Value("f_px", "this layer's", number(match.f_px, 4)),
    )


def lens(match: Match, ctx: Context) -> Explanation:
    """Size against the hero at the front edge, with the resize that would mend it."""
    setup, layer = match.setup, match.layer
    assert setup is not None
    ratio = layer.resize * match.f_px * match.wanted_distance_m / (match.f_hero_px * setup.distance_m)
    mend = layer.resize / ratio
    v = frame.image_distance_mm(setup.focal_length_mm, setup.focus_distance_m, setup.focusing)
    size = (
        "the same size"
        if abs(ratio - 1) < 5e-5
        else f"{number(100 * abs(ratio - 1), 2)} % too {'large' if ratio > 1 else 'small'}"
    )
    sentence = (
        f"Focused at {ctx.words.length(setup.focus_distance_m)}, the {setup.focal_length_mm:g} mm frames like"
        f" {v:.1f} mm: the layer stands {size}. A resize about the middle of the frame mends it exactly when"
        " the distance is right."
    )
    fixes = (
        ()
        if abs(mend - layer.resize) < 5e-5
        else (Fix(f"Resize to {100 * mend:.1f} %", "layer", {"resize": round(mend, 5)}),)
    )

    def values() -> Values:
        return (
            *_common_values(match),
            Value("v", "image distance", f"{v:.2f} mm"),
            Value("r", "resize in the composite", f"{100 * layer.resize:.1f} %"),
            Value("D", "lens to front edge", ctx.words.length(setup.distance_m)),
            Value("D₀", "wanted", ctx.words.length(match.wanted_distance_m)),
        )

    return Explanation(f"frames like {v:.1f} mm", sentence, values, fixes)


def edges(match: Match, ctx: Context) -> Explanation:
    """Where the recorded picture ends inside what the hero shows of the layer."""
    setup, r, missing = match.setup, match.layer.resize, match.amounts["edges"]
    assert setup is not None
    if missing:
        sentence = (
            f"Resized to {100 * r:.1f} %, the recorded picture ends {ctx.words.px(missing)} inside what the"
            " hero shows of this layer. Put the camera where it belongs first; then a wider lens or a larger"
            " resize reaches it."
        )
    else:
        sentence = (
            f"Resized to {100 * r:.1f} %, the recorded picture covers all that the hero shows of this layer."
        )
    fixes = (Fix("Resize to 100 %", "layer", {"resize": 1.0}),) if missing and r < 1 else ()

    def values() -> Values:
        return (
            Value("r", "resize in the composite", f"{100 * r:.1f} %"),
            Value("gate", "gate width", f"{setup.gate_width_mm:g} mm"),
            Value("G", "extraction width", f"{setup.extracted_mm:g} mm"),
        )

    where = f"{ctx.words.px(missing)} missing" if missing else "all recorded"
    return Explanation(where, sentence, values, fixes)


def perspective(match: Match, ctx: Context) -> Explanation:
    """Camera too near or too far for the scale."""
    setup = match.setup
    assert setup is not None
    wants = match.wanted_distance_m
    off = setup.distance_m - wants
    place = (
        "at the right distance"
        if abs(off) < 5e-4 * wants
        else f"{ctx.words.length(abs(off))} too {'far' if off > 0 else 'near'}"
    )
    sentence = (
        f"The lens stands {place}: 1:{match.layer.scale:g} of {ctx.words.length(match.layer.near_m)} is"
        f" {ctx.words.length(wants)}. {limit_words(ctx.tolerance, 'px')}"
    )
    fixes = (
        ()
        if abs(off) < 5e-4 * wants
        else (Fix(f"Lens at {ctx.words.length(wants)}", "set_up", {"distance_m": round(wants, 4)}),)
    )

    def values() -> Values:
        return (
            Value("D", "lens to front edge", ctx.words.length(setup.distance_m)),
            Value("D₀", "wanted", ctx.words.length(wants)),
            Value("δ", "depth behind the front edge", ctx.words.length(match.far_m - setup.distance_m)),
        )

    return Explanation(
        f"{ctx.words.length(setup.distance_m)}, wants {ctx.words.length(wants)}",
        sentence,
        values,
        fixes,
        "distance_m",
        wants,
        ctx.words.length(wants),
    )


def height(match: Match, ctx: Context) -> Explanation:
    """Lens too high or too low over the layer's ground; the tripod's lowest decides whether the model is
    raised.
    """
    setup, words = match.setup, ctx.words
    assert setup is not None
    now, wants = camera_height_m(setup), match.wanted_height_m
    off = now - wants
    lens_wants = setup.ground_height_m + wants
    lowest = ctx.kit.lowest_lens_m if ctx.kit else 0.0
    fixes: list[Fix] = []
    if abs(off) > 5e-5:
        if lens_wants >= lowest:
            fixes.append(
                Fix(f"Lens at {words.length(lens_wants)}", "set_up", {"lens_height_m": round(lens_wants, 4)})
            )
        ground = setup.lens_height_m - wants
        if ground >= 0:
            raised = ground - setup.ground_height_m
            fixes.append(
                Fix(
                    f"{'Raise' if raised > 0 else 'Lower'} the model {words.length(abs(raised))}",
                    "set_up",
                    {"ground_height_m": round(ground, 4)},
                )
            )
    state = (
        "where it should be"
        if abs(off) <= 5e-5
        else f"{words.length(abs(off))} too {'high' if off > 0 else 'low'}"
    )
    sentence = (
        f"The lens is {state} over the layer's ground: the hero's {words.length(camera_height_m(match.hero))}"
        f" at 1:{match.layer.scale:g} is {words.length(wants)}. Ground contacts at the back edge slide"
        " against the front edge."
    )
    if lens_wants < lowest and abs(off) > 5e-5:
        sentence += f" The support goes no lower than {words.length(lowest)}."

    def values() -> Values:
        return (
            Value("f_px", "focal length in delivered px", number(match.f_px, 4)),
            Value("Δh", "height off by", words.length(abs(off))),
            Value("d_near", "front edge", words.length(setup.distance_m)),
            Value("d_far", "back edge", words.length(match.far_m)),
        )

    return Explanation(
        f"{words.length(now)}, wants {words.length(wants)}",
        sentence,
        values,
        tuple(fixes),
        "lens_height_m",
        lens_wants,
        words.length(lens_wants),
    )


def _angle(name: str, dial: str) -> Explainer:
    def explain(match: Match, ctx: Context) -> Explanation:
        setup = match.setup
        assert setup is not None
        now, wants = getattr(setup, dial), getattr(match.hero, dial)
        off = now - wants
        sentence = (
            f"{name} is {number(now, 3)}°, the hero's {number(wants, 3)}°; angles stay the same at every"
            f" scale. {limit_words(ctx.tolerance, 'px')}"
        )
        fixes = (Fix(f"{name} to {number(wants, 3)}°", "set_up", {dial: wants}),) if abs(off) > 1e-4 else ()

        def values() -> Values:
            return (Value(f"Δ{name.lower()}", "off by", f"{number(off, 3)}°"), *_common_values(match)[:1])

        return Explanation(
            f"{number(now, 3)}°, wants {number(wants, 3)}°",
            sentence,
            values,
            fixes,
            dial,
            wants,
            f"{number(wants, 3)}°",
        )

    explain.__doc__ = f"{name} against the hero's."
    return explain


def together(match: Match, ctx: Context) -> Explanation:
    """What every dial at once does beyond the greatest of them."""
    amount = match.amounts["together"]
    off = [item for item in ITEMS_OF_PLACE if match.amounts.get(item, 0.0) > ctx.tolerance.holds / 10.0]
    named = ", ".join(ITEMS[item].label.lower() for item in off)
    sentence = (
        f"Each by itself is said above ({named}); all at once lie {ctx.words.px(amount)} further off than the"
        f" greatest of them. Mend the greatest first. {limit_words(ctx.tolerance, 'px')}"
        if amount > 0.05
        else "No two things of the camera's place add to each other."
    )

    def values() -> Values:
        return tuple(
            Value(ITEMS[item].label, "put right alone moves it", ctx.words.px(match.amounts[item]))
            for item in (off or ITEMS_OF_PLACE[:1])
        )

    return Explanation("all at once" if amount > 0.05 else "nothing adds up", sentence, values)


def _set_speed(match: Match, ctx: Context, pace: str) -> Explanation:
    """The speed at which a thing that we drive must run on the model."""
    setup, layer = match.setup, match.layer
    assert setup is not None
    wants = layer.fastest_m_s * setup.capture_fps / match.hero.capture_fps / layer.scale
    sentence = (
        f"We set this speed: at {rate_name(setup.capture_fps)} frames/s the model must run"
        f" {ctx.words.speed(wants)}."
        f" It will look {pace}."
    )
    over = match.amounts["time"] > ctx.tolerance.holds
    fixes = (
        (Fix(f"Run it at {ctx.words.speed(wants)}", "set_up", {"model_speed_m_s": round(wants, 4)}),)
        if over
        else ()
    )

    def values() -> Values:
        return (
            Value("v", "full-size speed", ctx.words.speed(layer.fastest_m_s)),
            Value("set", "speed on the model", ctx.words.speed(match.speed_set_m_s)),
        )

    return Explanation(pace, sentence, values, fixes, "model_speed_m_s", wants, ctx.words.speed(wants))


def time(match: Match, ctx: Context) -> Explanation:
    """How much too fast or too slow what moves will look."""
    setup, layer = match.setup, match.layer
    assert setup is not None
    ratio = match.speed_ratio
    pace = (
        "at its right speed"
        if abs(ratio - 1) < 0.005
        else f"{number(100 * abs(ratio - 1), 3)} % too {'fast' if ratio > 1 else 'slow'}"
    )
    if layer.driver == "set_speed":
        return _set_speed(match, ctx, pace)
    law = (
        "gravity drives it"
        if layer.driver == "gravity"
        else "fire, smoke and dust want between √s and s times the rate; test and choose"
    )
    sentence = (
        f"At 1:{layer.scale:g} it wants {match.wanted_fps:.0f} frames/s ({law}); at"
        f" {rate_name(setup.capture_fps)} it looks {pace}."
    )

    def values() -> Values:
        return (
            Value("s", "scale", f"1:{layer.scale:g}"),
            Value("rate_hero", "the hero's rate", f"{rate_name(match.hero.capture_fps)} frames/s"),
            Value("rate", "captured at", f"{rate_name(setup.capture_fps)} frames/s"),
        )

    return Explanation(
        f"{rate_name(setup.capture_fps)} of {match.wanted_fps:.0f} frames/s",
        sentence,
        values,
        (),
        "capture_fps",
        match.wanted_fps,
        f"{match.wanted_fps:.0f}",
        lambda: _rates(match, ctx),
    )


def _rates(match: Match, ctx: Context) -> tuple[Fix, ...]:
    """The nearest rate of the mode that is recorded, and of a faster one where that is too slow."""
    setup, kit, wanted = match.setup, ctx.kit, match.wanted_fps
    assert setup is not None
    if match.amounts["time"] <= ctx.tolerance.holds or kit is None:
        return ()
    fixes = []
    mode = kit.mode_of(setup.recorded_width_px, setup.gate_width_mm)
    rates = mode.rates_fps if mode else kit.camera.rates_fps
    nearest = min(rates, key=lambda rate: abs(math.log(rate / wanted)))
    if nearest != setup.capture_fps:
        fixes.append(Fix(f"{rate_name(nearest)} frames/s", "set_up", {"capture_fps": nearest}))
    if mode and max(rates) < wanted and kit.camera.rates_fps[-1] > max(rates):
        fast = max(kit.camera.modes, key=lambda m: m.highest_fps)
        best = min(fast.rates_fps, key=lambda rate: abs(math.log(rate / wanted)))
        change = {
            "recorded_width_px": fast.recorded_width_px,
            "recorded_height_px": fast.recorded_height_px,
            "gate_width_mm": fast.gate_width_mm,
            "gate_height_mm": fast.gate_height_mm,
            "capture_fps": best,
        }
        fixes.append(Fix(f"{rate_name(best)} frames/s in {fast.name}", "set_up", change))
    return tuple(fixes)


def motion_blur(match: Match, ctx: Context) -> Explanation:
    """Length of the smear at the fastest movement."""
    setup, layer = match.setup, match.layer
    assert setup is not None
    goes = []
    if layer.driver != "still" and layer.fastest_m_s:
        goes.append(f"it goes {ctx.words.speed(layer.fastest_m_s)}")
    elif layer.travels:
        goes.append("it travels")
    if match.move_hero_px > 0.005:
        goes.append(f"the camera's move takes it {ctx.words.px(match.move_hero_px)} in a frame")
    stepped = layer.kind == "frame_by_frame"
    here = (
        "Filmed frame by frame nothing smears: what should and does not, strobes."
        if stepped
        else f"Here it smears {ctx.words.px(match.motion_px)}."
    )
    sentence = (
        f"At its fastest {' and '.join(goes) or 'it stands'}: the hero smears it"
        f" {ctx.words.px(match.motion_hero_px)}. {here} {limit_words(ctx.tolerance, 'px')}"
    )
    fixes: tuple[Fix, ...] = ()
    over = match.amounts["motion_blur"] > ctx.tolerance.holds and not stepped
    if over and not setup.follows_move and match.move_hero_px > match.motion_hero_px / 2.0:
        fixes = (Fix("Make the shot's move", "set_up", {"follows_move": True}),)
    elif over and match.motion_px > 0 and match.motion_hero_px > 0:
        wanted = setup.shutter_angle_deg * match.motion_hero_px / match.motion_px
        angles = ctx.kit.shutter_angles_deg if ctx.kit else (180.0,)
        best = min(angles, key=lambda angle: abs(math.log(angle / wanted)))
        if best != setup.shutter_angle_deg:
            fixes = (Fix(f"Shutter {best:g}°", "set_up", {"shutter_angle_deg": best}),)

    def values() -> Values:
        return (
            Value("v", "on the model", ctx.words.speed(match.speed_set_m_s)),
            Value("d", "distance", ctx.words.length(setup.distance_m)),
            Value("rate", "captured at", f"{rate_name(setup.capture_fps)} frames/s"),
            Value("angle", "shutter", f"{setup.shutter_angle_deg:g}°"),
            Value("hero", "the hero's smear", ctx.words.px(match.motion_hero_px)),
        )

    return Explanation(
        f"{ctx.words.px(match.motion_px)}, hero {ctx.words.px(match.motion_hero_px)}", sentence, values, fixes
    )


EXPLAINERS: dict[str, Explainer] = {
    "lens": lens,
    "edges": edges,
    "perspective": perspective,
    "height": height,
    "tilt": _angle("Tilt", "tilt_deg"),
    "roll": _angle("Roll", "roll_deg"),
    "together": together,
    "focus_near": focus_at(False),
    "focus_far": focus_at(True),
    "diffraction": diffraction,
    "time": time,
    "motion_blur": motion_blur,
    "brightness": brightness,
    "colour": colour,
    "direction": direction,
    "sharpness": sharpness,
    "grain": grain,
    **CAMERA_EXPLAINERS,
}
