"""Lines that are crossed, air that is missing, pans that judder: what one look at the picture tells."""

from __future__ import annotations

import math

import numpy as np

from ..kit.records import Kit
from ..kit.steps import rate_name
from ..light import air
from ..motion.blur import CLEAN_PAN_S
from ..optics.frame import angle_of_view_deg
from ..wording import Words, number
from .drawn import over_matte, split_at
from .measure import Match
from .saying import Explanation, Fix, Value, Values
from .stack import Finding, Stack
from .view import wanted_view


def split_line(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """Each half stays on its side of the line."""
    layer, line, feather = stack.members[position].layer, stack.plan.split_px, stack.plan.split_feather_px
    if not layer.split_side:
        return None
    size = (stack.delivery.width_px, stack.delivery.height_px)
    view = wanted_view(stack.hero, layer, stack.delivery)
    # its corners: two at its left end, then two at its right, foot and top
    corners = np.array([(x, y, 0.0) for x in layer.sweep_m for y in (0.0, layer.height_m)])
    seen = view.seen(corners, *size)
    drawn = split_at(stack, layer.split_side, float(seen[:, 1].min()), float(seen[:, 1].max()))
    if drawn is not None:
        line, feather = drawn
    if line is None:
        return None
    left, right = float(seen[:2, 0].min()), float(seen[2:, 0].max())
    slack = feather / 2.0
    on_left = layer.split_side == "left"
    over = max(0.0, right - line - slack) if on_left else max(0.0, line - slack - left)
    reaching = seen[2 + int(seen[2:, 0].argmax())] if on_left else seen[int(seen[:2, 0].argmin())]
    ray = view.ray(line, float(reaching[1]), *size)
    to_m = float(ray[0] / ray[2]) * layer.near_m if ray[2] > 0 else 0.0
    sentence = (
        f"{layer.name} reaches {right if layer.split_side == 'left' else left:.0f} px; the line stands at"
        f" {line:.0f} px with {feather:.0f} px of feather, {words.length(abs(to_m))}"
        f" {'right' if to_m > 0 else 'left'} of the middle of the set. "
    )
    sentence += (
        "If something must cross, mark the place and the frame of the hand-over and throw to one spot several"
        " times."
        if over
        else "It stays on its side."
    )
    name = "moves_to_m" if layer.split_side == "left" else "moves_from_m"
    fixes = (Fix(f"Mark its limit at {words.length(to_m)}", "layer", {name: round(to_m, 3)}),) if over else ()

    def values() -> Values:
        return (
            Value("left", "reaches", f"{left:.0f} px"),
            Value("right", "reaches", f"{right:.0f} px"),
            Value("line", "split", f"{line:.0f} px"),
        )

    return Finding(
        "split_line",
        over,
        Explanation(f"{over:.0f} px over" if over else "on its side", sentence, values, fixes),
    )


def matte_line(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """A thing that rises above its matte line is cut off; where the camera may stand so that it does not.

    The lines drawn on the board speak where there are some, else the layer's own level line.
    """
    layer = stack.members[position].layer
    drawn = over_matte(stack, stack.members[position])
    if drawn is None and layer.matte_line_px is None:
        return None
    size = (stack.delivery.width_px, stack.delivery.height_px)
    view = wanted_view(stack.hero, layer, stack.delivery)
    if drawn is not None:
        over, line, place = drawn
    else:
        assert layer.matte_line_px is not None
        line = layer.matte_line_px
        corners = layer.wire.starts + np.array([0.0, max(0.0, layer.travel_up_m), 0.0])
        down = view.seen(corners, *size)[:, 1]
        place = corners[int(down.argmin())] + np.array([0.0, layer.base_m, layer.near_m])
        over = line - float(down.min())
    top_m, near_m = float(place[1]), max(float(place[2]), 0.01)
    lens = stack.hero.lens_height_m - stack.hero.ground_height_m
    local = place - np.array([0.0, layer.base_m, layer.near_m])
    top_x, top_px = view.seen(local[None], *size)[0].tolist()
    ray = view.ray(top_x, line, *size)
    # how far the line stands over the lens at the thing's distance
    free_m = near_m * float(ray[1] / ray[2]) if ray[2] > 0 else 0.0
    over = max(0.0, over)
    least_height = top_m - free_m
    rises = top_m > lens
    # what goes away rises or sinks towards the horizon: past the line only from the line's other side
    away = near_m * (top_m - lens) / free_m if (top_m - lens) * free_m > 0 else None
    allowed = [f"the lens at {words.length(least_height)} or higher"]
    if away is not None:
        allowed.append(f"the thing {words.length(away)} away or {'further' if rises else 'nearer'}")
    sentence = (
        f"Its top stands at {top_px:.0f} px, the line at {line:.0f} px: "
        + ("it is cut off above the line. " if over else "it stays below. ")
        + f"It stays below with {', or '.join(allowed)}."
    )
    fixes: list[Fix] = []
    if over:
        if away is not None:
            moved_m = round(away - near_m + layer.near_m + (0.01 if rises else -0.01), 2)
            if moved_m > 0.0:
                fixes.append(Fix(f"{words.length(away)} away", "layer", {"near_m": moved_m}))
        if drawn is None:
            fixes.append(Fix(f"Line at {top_px:.0f} px", "layer", {"matte_line_px": math.floor(top_px)}))

    def values() -> Values:
        return (
            Value("top", "of the thing", words.length(top_m)),
            Value("d", "distance", words.length(near_m)),
            Value("line", "matte line", f"{line:.0f} px"),
        )

    return Finding(
        "matte_line",
        over,
        Explanation(f"{over:.0f} px over it" if over else "below it", sentence, values, tuple(fixes)),
    )


def haze(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """What the air of the place would lay over the layer, where neither smoke nor a fog layer stands for
    it.
    """
    member, seen = stack.members[position], stack.plan.visibility_m
    layer = member.layer
    if (
        seen is None
        or member.is_hero
        or layer.kind in ("haze", "clean_plate")
        or (layer.scale == 1.0 and layer.kind in ("live", "rig", "split"))
    ):
        return None
    veil = 100.0 * air.veil(seen, layer.near_m)
    has = any(
        other.layer.kind == "haze" and other.layer.near_m <= layer.near_m * 1.05 for other in stack.members
    )
    sentence = (
        f"With {words.length(seen)} of visibility the air lays {number(veil, 2)} % over what stands"
        f" {words.length(layer.near_m)} away. "
        + (
            "A fog layer stands for it."
            if has
            else (
                "Lay a flat fog layer of that opacity in front of it, or smoke the set to"
                f" {words.length(seen / layer.scale)}."
            )
        )
    )
    plate = {
        "name": "Haze",
        "kind": "haze",
        "combine": "screen",
        "near_m": round(layer.near_m * 0.98, 3),
        "width_m": layer.width_m,
        "height_m": layer.height_m,
        "fills_frame": True,
    }
    fixes = () if has or veil <= 5 else (Fix("Plan a fog layer", "new_layer", plate),)

    def values() -> Values:
        return (
            Value("V", "visibility", words.length(seen)),
            Value("d", "distance", words.length(layer.near_m)),
        )

    return Finding(
        "haze",
        0.0 if has else veil,
        Explanation("planned" if has else f"{number(veil, 2)} % left out", sentence, values, fixes),
    )


def judder(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """A pan that is too quick for the rate; said of the hero."""
    member, move = stack.members[position], stack.delivery.move
    if not member.is_hero or move.still or move.kind not in ("pan", "tilt", "arc"):
        return None
    rate = stack.delivery.frame_rate_fps
    side = stack.delivery.height_px if move.kind == "tilt" else stack.delivery.width_px
    a_second = move.fastest_per_frame * rate
    seconds = angle_of_view_deg(side, match.f_hero_px) / a_second
    clean = CLEAN_PAN_S * 24.0 / rate
    sentence = (
        f"At its fastest the {move.kind} takes {number(seconds, 2)} s for one frame width; from"
        f" {number(clean, 2)} s on it is clean. "
    )
    sentence += (
        "Slower, shorter, or follow something that the eye holds on to." if clean > seconds else "It is."
    )

    def values() -> Values:
        return (
            Value("view", "of the frame", f"{number(angle_of_view_deg(side, match.f_hero_px), 3)}°"),
            Value("angle", "in a second", f"{number(a_second, 3)}°"),
            Value("rate", "delivered", f"{rate_name(rate)} frames/s"),
        )

    frames = math.ceil((move.end_frame - move.start_frame) * clean / seconds)
    fixes = (
        (Fix(f"Move over {frames} frames", "shot", {"move_end_frame": move.start_frame + frames}),)
        if clean > seconds and move.start_frame + frames <= stack.plan.length_frames
        else ()
    )
    return Finding(
        "judder",
        clean / seconds,
        Explanation(f"{number(seconds, 2)} s for a frame width", sentence, values, fixes),
    )
