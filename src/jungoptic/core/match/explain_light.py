"""What is said about brightness, colour, direction and grain, and what to dial in instead."""

from __future__ import annotations

import math

from ..optics import frame
from ..wording import number
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
        f" {setup.iso:g}, {setup.capture_fps:g} frames/s it is {state}; it wants {ctx.words.light(wants)}."
        f" {limit_words(ctx.tolerance, 'stop')}"
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


def direction(match: Match, ctx: Context) -> Explanation:
    """Where the key comes from, in the camera's frame."""
    setup, hero = match.setup, match.hero
    assert setup is not None
    sentence = (
        f"The key comes from {number(setup.key_azimuth_deg or 0, 3)}° to the side and"
        f" {number(setup.key_elevation_deg or 0, 3)}° above; the hero's from"
        f" {number(hero.key_azimuth_deg or 0, 3)}° and {number(hero.key_elevation_deg or 0, 3)}°."
        f" {limit_words(ctx.tolerance, '°')}"
    )
    amount = match.amounts["direction"]
    change = {"key_azimuth_deg": hero.key_azimuth_deg, "key_elevation_deg": hero.key_elevation_deg}
    fixes = (Fix("Key as in the hero", "set_up", change),) if amount > ctx.tolerance.holds else ()

    def values() -> Values:
        return (
            Value(
                "key",
                "this layer's",
                f"{number(setup.key_azimuth_deg or 0, 3)}°, {number(setup.key_elevation_deg or 0, 3)}°",
            ),
            Value(
                "hero",
                "the hero's",
                f"{number(hero.key_azimuth_deg or 0, 3)}°, {number(hero.key_elevation_deg or 0, 3)}°",
            ),
        )

    return Explanation("key against the hero's", sentence, values, fixes)


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
    sentence = (
        f"At ISO {setup.iso:g} against the hero's {hero.iso:g}, it is {state}. Holds up to"
        f" {number(1 + ctx.tolerance.holds, 3)} times.{mend}"
    )

    def values() -> Values:
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
