"""What is said about the items of camera, lens, light quality and move."""

from __future__ import annotations

import math
from typing import TYPE_CHECKING

from ..kit.steps import rate_name
from ..light import mains
from ..light.exposure import exposure_time_s
from ..wording import number
from .camera import codes_in_a_stop, enlargement
from .measure import Match
from .saying import Explainer, Explanation, Fix, Value, Values
from .saying import limit_words as _limit

if TYPE_CHECKING:
    from .saying import Context


def hardness(match: Match, ctx: Context) -> Explanation:
    """The key's size against the hero's."""
    setup, hero = match.setup, match.hero
    assert setup is not None and setup.key_size_deg is not None and hero.key_size_deg is not None
    ratio = setup.key_size_deg / hero.key_size_deg
    state = "as hard as the hero's."
    if abs(ratio - 1) >= 0.02:
        how, mend = (
            ("softer", "Move the lamp away or take the diffusion off")
            if ratio > 1
            else ("harder", "Bring it nearer or diffuse it")
        )
        state = f"{number(max(ratio, 1 / ratio), 2)} times {how}. {mend} until they agree."
    sentence = (
        f"The key looks {number(setup.key_size_deg, 2)}° across, the hero's {number(hero.key_size_deg, 2)}°:"
        f" shadow edges are {state}"
    )

    def values() -> Values:
        return (
            Value("key", "this key, across", f"{number(setup.key_size_deg or 0, 3)}°"),
            Value("hero", "the hero's", f"{number(hero.key_size_deg or 0, 3)}°"),
        )

    fixes = (
        ()
        if match.amounts["hardness"] <= ctx.tolerance.holds
        else (Fix("Key as large as the hero's", "set_up", {"key_size_deg": hero.key_size_deg}),)
    )
    return Explanation(
        f"{number(setup.key_size_deg, 2)}°, hero {number(hero.key_size_deg, 2)}°", sentence, values, fixes
    )


def key_fill(match: Match, ctx: Context) -> Explanation:
    """Depth of the shadows against the hero's."""
    setup, hero = match.setup, match.hero
    assert setup is not None and setup.key_to_fill_stops is not None and hero.key_to_fill_stops is not None
    off = setup.key_to_fill_stops - hero.key_to_fill_stops
    state = (
        "as deep as the hero's"
        if abs(off) < 0.05
        else f"{number(abs(off), 2)} stop too {'deep: add fill' if off > 0 else 'open: take fill away'}"
    )
    sentence = (
        f"Key and fill stand {number(setup.key_to_fill_stops, 2)} stops over the fill; shadows are {state}."
        f" {_limit(ctx.tolerance, 'stop')}"
    )

    def values() -> Values:
        return (
            Value("key/fill", "this layer's", f"{number(setup.key_to_fill_stops or 0, 3)} stops"),
            Value("hero", "the hero's", f"{number(hero.key_to_fill_stops or 0, 3)} stops"),
        )

    over = match.amounts["key_fill"] > ctx.tolerance.holds
    fixes = (
        (Fix("Fill as in the hero", "set_up", {"key_to_fill_stops": hero.key_to_fill_stops}),) if over else ()
    )
    return Explanation(
        f"{number(setup.key_to_fill_stops, 2)}, hero {number(hero.key_to_fill_stops, 2)} stops",
        sentence,
        values,
        fixes,
    )


def distortion(match: Match, ctx: Context) -> Explanation:
    """Straight lines that bend differently."""
    setup, hero = match.setup, match.hero
    assert setup is not None
    sentence = (
        f"Where it bends the layer most, this lens displaces it {ctx.words.px(match.bent_px)}, the hero's"
        f" {ctx.words.px(match.bent_hero_px)}. The same lens agrees; else film a grid with both and"
        " straighten, then bend as the hero does."
    )
    fixes: tuple[Fix, ...] = ()
    if (
        match.amounts["distortion"] > ctx.tolerance.holds
        and ctx.kit
        and ctx.kit.lens_of(hero.focal_length_mm)
        and setup.focal_length_mm != hero.focal_length_mm
    ):
        fixes = (
            Fix(
                f"The hero's {hero.focal_length_mm:g} mm", "set_up", {"focal_length_mm": hero.focal_length_mm}
            ),
        )

    def values() -> Values:
        return (
            Value("k", "at the corner of the gate", f"{number(setup.distortion_pct, 2)} %"),
            Value("k_hero", "the hero's", f"{number(hero.distortion_pct, 2)} %"),
        )

    return Explanation(
        f"{number(setup.distortion_pct, 2)} %, hero {number(hero.distortion_pct, 2)} %",
        sentence,
        values,
        fixes,
    )


def vignetting(match: Match, ctx: Context) -> Explanation:
    """Corners that are darker or lighter than the hero's."""
    setup = match.setup
    assert setup is not None
    here, there = match.dark_stops, match.dark_hero_stops
    sentence = (
        f"Where it is darkest the layer is {number(here, 2)} stop down, the hero's {number(there, 2)}."
        f" Stopping down evens a lens; a flat grey frame measures it. {_limit(ctx.tolerance, 'stop')}"
    )

    def values() -> Values:
        return (
            Value("V", "wide open", f"{number(setup.vignetting_stops, 2)} stop"),
            Value("N", "stop", ctx.words.stop(setup.f_number)),
            Value("hero", "the hero's there", f"{number(there, 2)} stop"),
        )

    return Explanation(f"{number(here, 2)}, hero {number(there, 2)} stop", sentence, values)


def skew(match: Match, ctx: Context) -> Explanation:
    """How far what moves leans by the readout."""
    setup = match.setup
    assert setup is not None
    sentence = (
        f"Rows are read in {number(setup.readout_ms, 3)} ms: at its fastest it leans"
        f" {ctx.words.px(match.lean_px)} from its top to its foot, in the hero"
        f" {ctx.words.px(match.lean_hero_px)}. A faster readout or a slower movement mends it."
    )

    def values() -> Values:
        return (
            Value("readout", "of the whole frame", f"{number(setup.readout_ms, 3)} ms"),
            Value("lean", "here", ctx.words.px(match.lean_px)),
            Value("hero", "in the hero", ctx.words.px(match.lean_hero_px)),
        )

    return Explanation(
        f"{ctx.words.px(match.lean_px)}, hero {ctx.words.px(match.lean_hero_px)}", sentence, values
    )


def clipping(match: Match, ctx: Context) -> Explanation:
    """A highlight that must keep detail and does not."""
    setup, brightest = match.setup, match.layer.brightest_stops
    assert setup is not None and brightest is not None
    over = match.amounts["clipping"]
    state = (
        f"loses {number(over, 2)} stop"
        if over > 0.005
        else (
            f"keeps its detail with {number(setup.headroom_stops - brightest - match.stops, 2)} stop to spare"
        )
    )
    sentence = (
        f"The brightest that must keep detail stands {number(brightest + match.stops, 2)} stops over mid-grey"
        f" as exposed; the camera holds {number(setup.headroom_stops, 2)}. It {state}."
    )
    fixes: tuple[Fix, ...] = ()
    if over > ctx.tolerance.holds:
        nd = math.ceil(over * 3) / 3 + setup.nd_stops
        fixes = (Fix(f"ND {number(nd, 2)} stops", "set_up", {"nd_stops": round(nd, 3)}),)

    def values() -> Values:
        return (
            Value("brightest", "over mid-grey", f"{number(brightest, 3)} stops"),
            Value("exposure", "over normal", f"{number(match.stops, 2)} stop"),
            Value("headroom", "of the camera", f"{number(setup.headroom_stops, 3)} stops"),
        )

    return Explanation(
        f"{number(brightest + match.stops, 2)} of {number(setup.headroom_stops, 2)} stops",
        sentence,
        values,
        fixes,
    )


def flicker(match: Match, ctx: Context) -> Explanation:
    """What the mains leave from frame to frame."""
    setup, amount = match.setup, match.amounts["flicker"]
    assert setup is not None
    angles = [angle for angle in mains.clean_angles_deg(setup.mains_hz, setup.capture_fps) if angle <= 360]
    nearest = min(angles, key=lambda angle: abs(angle - setup.shutter_angle_deg), default=None)
    time_s = exposure_time_s(setup.shutter_angle_deg, setup.capture_fps)
    beats = mains.ripple_amplitude(setup.mains_hz, setup.capture_fps, time_s, setup.ripple_depth)
    state = (
        "is steady"
        if amount < 1e-4
        else f"flickers {number(amount, 2)} stop from frame to frame"
        if mains.ripple_stops(beats) > amount - 1e-9
        else f"stands in bands of {number(amount, 2)} stop, which the rows of a rolling shutter see"
    )
    sentence = (
        f"Lamps on {setup.mains_hz:g} Hz with {100 * setup.ripple_depth:.0f} % ripple: at"
        f" {rate_name(setup.capture_fps)} frames/s and {setup.shutter_angle_deg:g}° it {state}."
    )
    if beats == 0 and mains.clean_angles_deg(setup.mains_hz, setup.capture_fps):
        whole = any(abs(angle - setup.shutter_angle_deg) < 0.05 for angle in angles)
        sentence += "" if whole else " In step with the mains, every frame is alike; another take may not be."
    if nearest and amount > ctx.tolerance.holds:
        sentence += f" {nearest:.1f}° takes in whole ripples; flicker-free lamps mend it at every angle."
    steps = ctx.kit.shutter_angles_deg if ctx.kit else ()
    clean = [angle for angle in steps if nearest and abs(angle - nearest) < 0.6]
    fixes = (
        (Fix(f"Shutter {clean[0]:g}°", "set_up", {"shutter_angle_deg": clean[0]}),)
        if clean and amount > ctx.tolerance.holds
        else ()
    )

    def values() -> Values:
        return (
            Value("f", "mains", f"{setup.mains_hz:g} Hz"),
            Value("t", "exposure", f"1/{360 * setup.capture_fps / setup.shutter_angle_deg:.0f} s"),
            Value("depth", "ripple of the lamps", f"{number(setup.ripple_depth, 2)}"),
        )

    return Explanation(f"{setup.mains_hz:g} Hz at {setup.shutter_angle_deg:g}°", sentence, values, fixes)


def chroma(match: Match, ctx: Context) -> Explanation:
    """Distance of the colour samples that the key is cut from."""
    setup, amount = match.setup, match.amounts["chroma"]
    assert setup is not None
    sentence = (
        f"{setup.sampling} at {setup.recorded_width_px} px: the key sees a colour sample every"
        f" {number(amount, 2)} delivered px. "
    )
    sentence += (
        "Record larger, or frame the element larger."
        if amount > ctx.tolerance.holds
        else "Enough for an edge."
    )
    fixes: tuple[Fix, ...] = ()
    if amount > ctx.tolerance.holds and ctx.kit:
        largest = max(ctx.kit.camera.modes, key=lambda mode: mode.recorded_width_px)
        if largest.recorded_width_px > setup.recorded_width_px and largest.highest_fps >= setup.capture_fps:
            fixes = (
                Fix(
                    f"Record {largest.name}",
                    "set_up",
                    {
                        "recorded_width_px": largest.recorded_width_px,
                        "recorded_height_px": largest.recorded_height_px,
                        "gate_width_mm": largest.gate_width_mm,
                        "gate_height_mm": largest.gate_height_mm,
                    },
                ),
            )

    def values() -> Values:
        return (
            Value("pitch", "colour samples", setup.sampling),
            Value(
                "delivered/recorded",
                "enlargement",
                number(enlargement(setup, match.delivery, match.layer.resize), 3),
            ),
        )

    return Explanation(f"{setup.sampling}", sentence, values, fixes)


def codes(match: Match, ctx: Context) -> Explanation:
    """Codes that the key has to tell the backing's shades apart."""
    setup = match.setup
    assert setup is not None
    has = codes_in_a_stop(setup.bit_depth)
    groups = ", in long groups of pictures that smear between frames" if setup.long_groups else ""
    sentence = f"{setup.bit_depth} bit gives a stop of the backing {has:.0f} codes{groups}. "
    sentence += (
        "Light the backing to its level and evenly, or use a recorder with more bits."
        if match.amounts["codes"] > ctx.tolerance.holds
        else "Enough to key from."
    )

    def values() -> Values:
        return (
            Value("bits", "bit depth", f"{setup.bit_depth}"),
            Value("codes", "in a stop under mid-grey", f"{has:.0f}"),
        )

    return Explanation(f"{setup.bit_depth} bit", sentence, values)


def move(match: Match, ctx: Context) -> Explanation:
    """The set-up's travel against the hero's at this scale."""
    setup, shot_move, words = match.setup, match.delivery.move, ctx.words
    assert setup is not None
    turns = shot_move.kind == "arc"  # made whole, at 1:s of its radius, or not at all
    wants, has = match.wanted_travel_m, match.travel_m
    wanted = f"{number(abs(shot_move.amount), 3)}°" if turns else words.length(abs(wants))
    made = (wanted if setup.follows_move else "0°") if turns else words.length(abs(has))
    if not setup.follows_move:
        state = (
            f"stands still in the hero's {shot_move.kind}: front and back edge must slide against each other"
            " and do not"
        )
    elif turns or abs(has - wants) < 1e-6:
        state = f"makes the hero's {shot_move.kind} at 1:{match.layer.scale:g}, {wanted}"
    else:
        state = (
            f"travels {made}; the hero's {words.length(abs(shot_move.amount))} at 1:{match.layer.scale:g} is"
            f" {wanted}"
        )
    sentence = f"The rig {state}. {_limit(ctx.tolerance, 'px')}"
    changes: dict[str, object] = {"follows_move": True}
    if not turns:
        changes["travel_m"] = round(wants, 5)
    over = match.amounts["move"] > ctx.tolerance.holds
    label = "Make the arc" if turns else f"Travel {wanted}"
    fixes = (Fix(label, "set_up", changes),) if over else ()

    def values() -> Values:
        return (
            Value("travel", "of the rig", made),
            Value("wanted", "the hero's" if turns else "hero's ÷ s", wanted),
            Value("d_near", "front edge", words.length(setup.distance_m)),
            Value("d_far", "back edge", words.length(match.far_m)),
        )

    return Explanation(f"{made}, wants {wanted}", sentence, values, fixes)


def pupil(match: Match, ctx: Context) -> Explanation:
    """A thing that slides in a turn, because the camera does not turn about its entrance pupil."""
    setup, layer, kind = match.setup, match.layer, match.delivery.move.kind
    assert setup is not None
    hung = layer.combine == "in_camera"
    wants = 0.0 if hung else match.hero.pupil_off_mm / layer.scale
    off, slides = number(abs(setup.pupil_off_mm), 3), ctx.words.px(match.amounts["pupil"])
    if hung:
        sentence = (
            f"The {kind} turns about an axis {off} mm from the entrance pupil: the near miniature slides"
            f" {slides} against what it stands for. Slide the camera on its plate until near and far keep"
            " together."
        )
    else:
        sentence = (
            f"The {kind} turns about an axis {off} mm from the entrance pupil, the hero's"
            f" {number(abs(match.hero.pupil_off_mm), 3)} mm off at 1:{layer.scale:g} is"
            f" {number(abs(wants), 3)} mm: near and far slide {slides} otherwise than in the hero."
        )
    label = f"Axis {number(wants, 3)} mm off the pupil" if wants else "Turn about the entrance pupil"
    change: dict[str, object] = {"pupil_off_mm": round(wants, 4)}
    if not hung and not setup.follows_move:
        change["follows_move"] = True  # what does not turn has no axis
    over = match.amounts["pupil"] > ctx.tolerance.holds
    fixes = (Fix(label, "set_up", change),) if over else ()

    def values() -> Values:
        return (
            Value("e", "pupil off the axis", f"{number(setup.pupil_off_mm, 3)} mm"),
            Value(kind, "of the shot", f"{number(match.delivery.move.amount, 3)}°"),
            Value("d_near", "front edge", ctx.words.length(setup.distance_m)),
            Value("wanted", "pupil off the axis", f"{number(wants, 3)} mm"),
        )

    return Explanation(f"{off} mm", sentence, values, fixes)


CAMERA_EXPLAINERS: dict[str, Explainer] = {
    "hardness": hardness,
    "key_fill": key_fill,
    "distortion": distortion,
    "vignetting": vignetting,
    "skew": skew,
    "clipping": clipping,
    "flicker": flicker,
    "chroma": chroma,
    "codes": codes,
    "move": move,
    "pupil": pupil,
}
