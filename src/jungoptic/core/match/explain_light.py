"""What is said about brightness, colour, direction and grain, and what to dial in instead."""

from __future__ import annotations

import math

from ..kit.steps import rate_name
from ..optics import frame
from ..wording import number
from . import lighting
from .camera import across_px, pixel_noise_pct
from .measure import Match
from .saying import Context, Explanation, Fix, Value, Values, limit_words


def brightness(match: Match, ctx: Context) -> Explanation:
    """Exposure against the hero's."""
    setup = match.setup
    assert setup is not None
    off = match.stops - match.stops_hero
    wants = setup.illuminance_lx * 2.0**-off
    state = (
        "as bright as the hero"
        if abs(off) < 0.005
        else f"{number(abs(off), 2)} stop too {'bright' if off > 0 else 'dark'}"
    )
    sentence = (
        f"With {ctx.words.light(setup.illuminance_lx)} at {ctx.words.stop(setup.f_number)}, ISO"
        f" {setup.iso:g}, {rate_name(setup.capture_fps)} frames/s it is {state}; it wants"
        f" {ctx.words.light(wants)}. {limit_words(ctx.tolerance, 'stop')}"
    )
    fixes = (
        (Fix(f"Light it to {ctx.words.light(wants)}", "set_up", {"illuminance_lx": round(wants, 1)}),)
        if abs(off) > ctx.tolerance.holds
        else ()
    )
    m = frame.extension(setup.focal_length_mm, setup.focus_distance_m, setup.focusing)

    def values() -> Values:
        return (
            Value("E", "light on the subject", ctx.words.light(setup.illuminance_lx)),
            Value("S", "ISO", f"{setup.iso:g}"),
            Value("t", "exposure time", f"1/{360 * setup.capture_fps / setup.shutter_angle_deg:.0f} s"),
            Value("N", "stop", ctx.words.stop(setup.f_number)),
            Value("(1+m)²", "close-up factor", number((1 + m) ** 2, 3)),
            Value("hero", "the hero's exposure", f"{number(match.stops_hero, 2)} stop"),
        )

    return Explanation(
        f"wants {ctx.words.light(wants)}",
        sentence,
        values,
        fixes,
        "illuminance_lx",
        wants,
        ctx.words.light(wants),
    )


def colour(match: Match, ctx: Context) -> Explanation:
    """Cast against the hero's."""
    setup, hero = match.setup, match.hero
    assert setup is not None
    if match.layer.kind == "light_pass":
        return _same_balance(match, ctx)
    cast = 1e6 / setup.light_k - 1e6 / setup.white_balance_k
    hero_cast = 1e6 / hero.light_k - 1e6 / hero.white_balance_k
    off = cast - hero_cast
    balance = 1e6 / (1e6 / setup.light_k - hero_cast)
    state = (
        "as in the hero"
        if abs(off) < 0.5
        else f"{number(abs(off), 2)} mired too {'warm' if off > 0 else 'cool'}"
    )
    sentence = (
        f"Light of {setup.light_k:g} K balanced for {setup.white_balance_k:g} K: {state}."
        f" {limit_words(ctx.tolerance, 'mired')}"
    )
    fixes = (
        (Fix(f"Balance for {round(balance, -1):g} K", "set_up", {"white_balance_k": round(balance, -1)}),)
        if abs(off) > ctx.tolerance.holds and 1000 <= balance <= 40000
        else ()
    )

    def values() -> Values:
        return (
            Value("T_light", "light", f"{setup.light_k:g} K"),
            Value("T_balance", "white balance", f"{setup.white_balance_k:g} K"),
            Value("hero", "the hero's cast", f"{number(hero_cast, 3)} mired"),
        )

    return Explanation(f"{setup.light_k:g} K at {setup.white_balance_k:g} K", sentence, values, fixes)


def _same_balance(match: Match, ctx: Context) -> Explanation:
    """A light pass has a colour of its own; it is balanced as the hero is, so that it looks as it is."""
    setup, hero = match.setup, match.hero
    assert setup is not None
    sentence = (
        f"Balanced for {setup.white_balance_k:g} K, the hero for {hero.white_balance_k:g} K: the light keeps"
        f" its own colour where both are alike. {limit_words(ctx.tolerance, 'mired')}"
    )
    fixes = (
        (Fix(f"Balance for {hero.white_balance_k:g} K", "set_up", {"white_balance_k": hero.white_balance_k}),)
        if match.amounts["colour"] > ctx.tolerance.holds
        else ()
    )

    def values() -> Values:
        return (
            Value("T_balance", "white balance", f"{setup.white_balance_k:g} K"),
            Value("hero", "the hero's", f"{hero.white_balance_k:g} K"),
        )

    return Explanation(f"balanced for {setup.white_balance_k:g} K", sentence, values, fixes)


def direction(match: Match, ctx: Context) -> Explanation:
    """Where the key comes from, in the camera's frame."""
    setup, hero, layer = match.setup, match.hero, match.layer
    assert setup is not None and setup.key_azimuth_deg is not None and hero.key_azimuth_deg is not None
    wanted = -hero.key_azimuth_deg if layer.mirrored else hero.key_azimuth_deg
    looks = -setup.key_azimuth_deg if layer.mirrored else setup.key_azimuth_deg

    def told(azimuth: float, elevation: float | None) -> str:
        return f"{number(azimuth, 3)}° to the side and {number(elevation or 0, 3)}° above"

    flopped = f", flopped from {number(looks, 3)}°" if layer.mirrored else ""
    sentence = (
        f"The key comes from {told(setup.key_azimuth_deg, setup.key_elevation_deg)}{flopped}; the hero's from"
        f" {told(hero.key_azimuth_deg, hero.key_elevation_deg)}. {limit_words(ctx.tolerance, '°')}"
    )
    fix = _as_wanted(match, ctx, wanted) if match.amounts["direction"] > ctx.tolerance.holds else None

    def values() -> Values:
        return (
            Value("key", "this layer's", told(looks, setup.key_elevation_deg)),
            Value("hero", "the hero's", told(hero.key_azimuth_deg or 0, hero.key_elevation_deg)),
        )

    return Explanation("key against the hero's", sentence, values, (fix,) if fix else ())


def _as_wanted(match: Match, ctx: Context, azimuth_deg: float) -> Fix | None:
    """What brings the key to where the hero has it: the set turned to the sun, the lamp carried round the
    subject, or the number that was stated. None where neither can: the sun stands too high or too low, the
    lamp would have to go through the floor or the roof.
    """
    placed, elevation_deg = ctx.placed, match.hero.key_elevation_deg or 0.0
    key = lighting.key_of(placed, match.layer) if placed is not None else None
    if placed is None or key is None or not key.source:
        change = {"key_azimuth_deg": azimuth_deg, "key_elevation_deg": elevation_deg}
        return Fix("Key as in the hero", "set_up", change)
    lamp = key.lamp
    if lamp is None:
        if abs((key.elevation_deg or 0.0) - elevation_deg) > ctx.tolerance.holds:
            return None
        turn = (azimuth_deg - (key.azimuth_deg or 0.0) + 180.0) % 360.0 - 180.0
        heading = (placed.heading_deg + turn) % 360.0
        return Fix(f"Turn the set by {number(turn, 3)}°", "set_up", {"heading_deg": round(heading, 2)})
    point = lighting.subject_point(match.layer, placed)
    far = math.dist(lamp.place, point)
    towards = lighting.direction_of(azimuth_deg, elevation_deg)
    across, high, behind = (there + far * way for there, way in zip(point, towards, strict=True))
    beams = ctx.kit.beams_m if ctx.kit is not None else None
    if high < 0 or (beams is not None and high > beams):
        return None
    moved = {
        "across_m": round(across, 3),
        "height_m": round(high, 3),
        "behind_m": round(behind, 3),
        "aim_across_m": round(point[0], 3),
        "aim_height_m": round(point[1], 3),
        "aim_behind_m": round(point[2], 3),
    }
    side, depth = ("left" if across < 0 else "right"), ("before" if behind < 0 else "behind")
    label = (
        f"{lamp.name} to {ctx.words.length(high)} high, {ctx.words.length(abs(across))} {side},"
        f" {ctx.words.length(abs(behind))} {depth} the front edge"
    )
    return Fix(label, "lamps", {"lamps": {placed.lamps.index(lamp): moved}})


def grain(match: Match, ctx: Context) -> Explanation:
    """Noise for each delivered pixel against the hero's."""
    setup, hero = match.setup, match.hero
    assert setup is not None
    ratio = match.grain_ratio()
    state = (
        f"{number(max(ratio, 1 / ratio), 3)} times {'noisier' if ratio > 1 else 'cleaner'} than the hero"
        if abs(ratio - 1) > 0.005
        else "as noisy as the hero"
    )
    mend = " Grain can be put back." if ratio < 1 else ""
    ours, heros = pixel_noise_pct(setup, setup.iso), pixel_noise_pct(hero, hero.iso)
    known = ours is not None and heros is not None
    sentence = (
        f"At ISO {setup.iso:g} against the hero's {hero.iso:g}, it is {state}"
        f"{', as both were measured' if known else ''}. Holds up to"
        f" {number(1 + ctx.tolerance.holds, 3)} times.{mend}"
    )

    def values() -> Values:
        if known:
            across = across_px(setup, setup.extracted_mm), across_px(hero, hero.extracted_mm)
            return (
                Value("σ", f"a pixel at mid grey, ISO {setup.iso:g}", f"{number(ours, 3)} % of white"),
                Value("σ_hero", f"the hero's, ISO {hero.iso:g}", f"{number(heros, 3)} % of white"),
                Value("n", "recorded px across what is delivered", f"{across[0]:.0f}"),
                Value("n_hero", "the hero's", f"{across[1]:.0f}"),
            )
        return (
            Value("S", "ISO", f"{setup.iso:g}"),
            Value("S_hero", "the hero's", f"{hero.iso:g}"),
            Value("G", "extraction width", f"{setup.extracted_mm:g} mm"),
            Value("G_hero", "the hero's", f"{hero.extracted_mm:g} mm"),
        )

    fixes: tuple[Fix, ...] = ()
    if match.amounts["grain"] > ctx.tolerance.holds and ctx.kit:
        wanted = setup.iso / ratio**2
        best = min(ctx.kit.camera.iso_steps, key=lambda step: abs(math.log(step / wanted)), default=setup.iso)
        if best != setup.iso:
            fixes = (Fix(f"ISO {best:g}", "set_up", {"iso": best}),)
    return Explanation(f"ISO {setup.iso:g}", sentence, values, fixes)
