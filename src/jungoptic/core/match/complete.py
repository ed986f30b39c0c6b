"""What one look at the whole stack tells: plates that nobody planned, contact that is not kept, lines that
are crossed.
"""

from __future__ import annotations

import math

from ..kit.records import Kit
from ..light import air
from ..motion.blur import CLEAN_PAN_S
from ..vocabulary import CHOICES, PICTURES
from ..wording import Words, number
from .differences import settings_in_words
from .drawn import DRAWN, lines, over_matte, split_at
from .measure import Match
from .records import REFERENCES
from .saying import Explanation, Fix, Value, Values
from .stack import Finding, Look, Member, Stack

CLEAN_FIELDS = (
    "focal_length_mm",
    "f_number",
    "focus_distance_m",
    "white_balance_k",
    "lens_height_m",
    "tilt_deg",
    "iso",
    "shutter_angle_deg",
    "illuminance_lx",
)
CLEAN_PLACE_M = 1e-3
SHORT_CLEAN_PLATE = "20 to 30 s of it can be looped and averaged."
_REFERENCE_WORDS = {"ball": "grey and mirror ball", "chart": "chart", "tape": "tape"}


def clean_plate(stack: Stack, at: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """A rig, a split, a difference matte or a paint-out wants what stands behind it, in the same set-up."""
    member = stack.members[at]
    if not stack.needs_clean_plate(member):
        return None
    layer = member.layer
    drawn = " and ".join(
        one.note or one.thing or "what is marked on the board" for one in stack.painted_out(member)
    )
    named = layer.paint_out or drawn
    why = (
        f"{named} to be painted out"
        if named
        else {"rig": "the rig", "split": "the split"}.get(layer.kind, "the difference matte")
    )
    if "clean_plate" in stack.kinds:
        return Finding(
            "clean_plate",
            0.0,
            Explanation("planned", f"A clean plate is planned for {why}. {SHORT_CLEAN_PLATE}", tuple),
        )
    sentence = (
        f"No clean plate is planned, and {why} wants one: in the same set-up, at once, everything locked."
        f" {SHORT_CLEAN_PLATE}"
    )
    plate = {
        "name": "Clean plate",
        "kind": "clean_plate",
        "combine": "behind",
        "near_m": layer.near_m,
        "depth_m": layer.depth_m,
        "width_m": layer.width_m,
        "height_m": layer.height_m,
        "fills_frame": True,
        "base_m": layer.base_m,
        "offset_m": layer.offset_m,
    }
    return Finding(
        "clean_plate",
        2.0,
        Explanation(f"for {why}", sentence, tuple, (Fix("Plan a clean plate", "new_layer", plate),)),
    )


def _cleans(stack: Stack, member: Member) -> Member | None:
    """The plate that a clean plate cleans: one that needs it and is filmed, nearest in distance; else the
    hero.
    """
    wanting = [other for other in stack.cleaned if other.setup is not None]
    if wanting:
        return min(wanting, key=lambda other: abs(math.log(other.layer.near_m / member.layer.near_m)))
    return next((other for other in stack.members if other.is_hero), None)


def clean_match(stack: Stack, at: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """A clean plate with another focus, stop, white balance or height does not cover what it should."""
    member = stack.members[at]
    if member.layer.kind != "clean_plate" or member.setup is None:
        return None
    other = _cleans(stack, member)
    if other is None or other.setup is None or other is member:
        return None
    setup = other.setup
    differ: list[str] = []
    if other.set_up_key != member.set_up_key:
        differ = [
            name
            for name in CLEAN_FIELDS
            if not math.isclose(getattr(member.setup, name), getattr(setup, name), rel_tol=1e-6, abs_tol=1e-9)
        ]
        # Distances are counted to each layer's own near end: what must agree is where the lens stands.
        moved = (member.setup.distance_m - member.layer.near_m / member.layer.scale) - (
            setup.distance_m - other.layer.near_m / other.layer.scale
        )
        differ += ["distance_m"] if abs(moved) > CLEAN_PLACE_M else []
    labels = {field: label.lower() for field, label, _ in settings_in_words(setup, words, kit)}
    named = ", ".join(labels.get(name, name) for name in differ)
    sentence = f"It cleans {other.layer.name}: " + (
        f"{named} differ. Film it in that plate's set-up, at once."
        if differ
        else "the same set-up, so it fits."
    )
    wanted = {name: getattr(setup, name) for name in differ}
    if "distance_m" in wanted:
        wanted["distance_m"] = round(
            setup.distance_m
            - other.layer.near_m / other.layer.scale
            + member.layer.near_m / member.layer.scale,
            5,
        )
    fixes = (Fix(f"As {other.layer.name}", "set_up", wanted),) if differ else ()

    def values() -> Values:
        told = {field: text for field, _, text in settings_in_words(setup, words, kit)}
        return tuple(
            Value(labels.get(name, name), f"of {other.layer.name}", told.get(name, "")) for name in differ
        )

    return Finding(
        "clean_match",
        2.0 * len(differ),
        Explanation(named or "as the plate it cleans", sentence, values, fixes),
    )


def contact(stack: Stack, at: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """A thing that stands on something wants its contact shadow, on wet ground its reflection too."""
    member = stack.members[at]
    layer = member.layer
    if layer.contact == "nothing" or layer.combine in ("base", "in_camera"):
        return None
    shadow = "contact_shadow" in layer.kept or "shadow_pass" in stack.kinds
    mirror = layer.contact != "wet_ground" or "reflection" in layer.kept or "reflection_pass" in stack.kinds
    lacking = [name for name, has in ((CHOICES["contact_shadow"], shadow), ("reflection", mirror)) if not has]
    amount = (0.0 if shadow else 2.0) + (0.0 if mirror else 1.0)
    wet = " on wet ground" if layer.contact == "wet_ground" else ""
    sentence = f"{layer.name} stands on something{wet}; " + (
        f"its {' and '.join(lacking)} {'is' if len(lacking) == 1 else 'are'} neither kept nor planned as a"
        " pass. Cut wide enough to keep it, or film it as a pass."
        if lacking
        else "what touches the world is kept."
    )
    kept = [*layer.kept, *(["contact_shadow"] if not shadow else []), *(["reflection"] if not mirror else [])]
    fixes = (Fix(f"Keep its {' and '.join(lacking)}", "layer", {"kept": kept}),) if lacking else ()
    return Finding("contact", amount, Explanation(", ".join(lacking) or "kept", sentence, tuple, fixes))


def references(stack: Stack, at: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """Ball, chart and tape in the light that the layer is in, once for each set-up."""
    member = stack.members[at]
    if member.setup is None or at not in stack.first_of_set_up or member.layer.kind in PICTURES:
        return None
    lacking = [name for name in REFERENCES if name not in member.setup.references]
    said = ", ".join(_REFERENCE_WORDS[name] for name in lacking)
    sentence = (
        f"In this light no {said} {'is' if len(lacking) == 1 else 'are'} planned: without them light, colour"
        " and place are guessed later."
        if lacking
        else "Ball, chart and tape are planned in this light."
    )
    fixes = (Fix("Film ball, chart and tape", "set_up", {"references": list(REFERENCES)}),) if lacking else ()
    return Finding(
        "references", len(lacking) / len(REFERENCES), Explanation(said or "planned", sentence, tuple, fixes)
    )


def handed(stack: Stack, at: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """Lettering, hands and the side of the light turn round in a mirror."""
    layer = stack.members[at].layer
    if not layer.mirrored:
        return None
    wrong = layer.lettering
    sentence = "Mirrored: " + (
        "lettering and handedness in it read the wrong way. Cover them, make them mirrored, or film the other"
        " half."
        if wrong
        else "nothing in it has a right way round. The side of the light is judged as it will look."
    )
    fixes = (
        (
            Fix("Film it unmirrored", "layer", {"mirrored": False}),
            Fix("Cover the lettering", "layer", {"lettering": False}),
        )
        if wrong
        else ()
    )
    return Finding(
        "handed",
        2.0 if wrong else 0.0,
        Explanation("lettering" if wrong else "nothing handed in it", sentence, tuple, fixes),
    )


def recurring(stack: Stack, at: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """What recurs in the place must be in every shot of it; said of the hero."""
    if not stack.members[at].is_hero or not stack.plan.recurring:
        return None
    has = {name.casefold() for name in stack.plan.carries}
    has |= {line.thing.casefold() for line in lines(stack, "recurring")}
    for member in stack.members:
        has |= {member.layer.name.casefold(), *(part.name.casefold() for part in member.layer.parts)}
    lacking = [name for name in stack.plan.recurring if name.casefold() not in has]
    sentence = f"The place has {', '.join(stack.plan.recurring)}; " + (
        f"no layer of this shot carries {', '.join(lacking)}. Add it, or say that it is in the picture."
        if lacking
        else "all of it is here."
    )
    fixes = tuple(
        Fix(f"{name} is in the picture", "shot", {"carries": [*stack.plan.carries, name]}) for name in lacking
    )
    return Finding(
        "recurring", 2.0 * len(lacking), Explanation(", ".join(lacking) or "all here", sentence, tuple, fixes)
    )


def split_line(stack: Stack, at: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """Each half stays on its side of the line."""
    layer, line, feather = stack.members[at].layer, stack.plan.split_px, stack.plan.split_feather_px
    if not layer.split_side:
        return None
    high, low = (stack.y_px(match.f_hero_px, layer.base_m + up, layer.near_m) for up in (layer.height_m, 0.0))
    drawn = split_at(stack, layer.split_side, high, low)
    if drawn is not None:
        line, feather = drawn
    if line is None:
        return None
    left, right = (stack.x_px(match.f_hero_px, x, layer.near_m) for x in layer.sweep_m)
    slack = feather / 2.0
    over = max(0.0, right - line - slack) if layer.split_side == "left" else max(0.0, line - slack - left)
    to_m = (line - stack.delivery.width_px / 2.0) * layer.near_m / match.f_hero_px
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


def matte_line(stack: Stack, at: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """A thing that rises above its matte line is cut off; where the camera may stand so that it does not.

    The lines drawn on the board speak where there are some, else the layer's own level line.
    """
    layer = stack.members[at].layer
    f_px = match.f_hero_px
    drawn = over_matte(stack, stack.members[at], f_px)
    if drawn is not None:
        over, line, top_m, near_m = drawn
    elif layer.matte_line_px is not None:
        up = max(0.0, layer.travel_up_m)
        line = layer.matte_line_px
        top_m, near_m = min(
            ((y + up, max(z, 0.01)) for _, y, z in layer.corners_m), key=lambda one: stack.y_px(f_px, *one)
        )
        over = line - stack.y_px(f_px, top_m, near_m)
    else:
        return None
    over = max(0.0, over)
    top_px = stack.y_px(f_px, top_m, near_m)
    free_m = near_m * (stack.y_px(f_px, 0.0, 1e9) - line) / f_px
    lens = stack.hero.lens_height_m - stack.hero.ground_height_m
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


def haze(stack: Stack, at: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """What the air of the place would lay over the layer, where neither smoke nor a fog layer stands for
    it.
    """
    member, seen = stack.members[at], stack.plan.visibility_m
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


def judder(stack: Stack, at: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """A pan that is too quick for the rate; said of the hero."""
    member, move = stack.members[at], stack.delivery.move
    if not member.is_hero or move.kind not in ("pan", "tilt") or match.move_hero_px < 1e-6:
        return None
    rate = stack.delivery.frame_rate_fps
    width = stack.delivery.width_px if move.kind == "pan" else stack.delivery.height_px
    seconds = width / (match.move_hero_px * rate)
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
            Value("travel", "for each frame", f"{number(match.move_hero_px, 3)} px"),
            Value("rate", "delivered", f"{rate:g} frames/s"),
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


COMPLETE: tuple[Look, ...] = (
    clean_plate,
    clean_match,
    contact,
    references,
    handed,
    recurring,
    split_line,
    matte_line,
    haze,
    judder,
    *DRAWN,
)
