"""What one look at the whole stack tells: plates that nobody planned, contact that is not kept, lines that
are crossed.
"""

from __future__ import annotations

import math

from ..kit.records import Kit
from ..vocabulary import CHOICES, PICTURES
from ..wording import Words
from .complete_picture import haze, judder, matte_line, split_line
from .differences import settings_in_words
from .drawn import DRAWN, lines
from .measure import Match
from .passes import belongs_to, has_pass, serves
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


def clean_plate(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """A rig, a split, a difference matte or a paint-out wants what stands behind it, in the same set-up."""
    member = stack.members[position]
    if not stack.needs_clean_plate(member):
        return None
    layer = member.layer
    drawn = " and ".join(
        line.note or line.thing or "what is marked on the board" for line in stack.painted_out(member)
    )
    named = layer.paint_out or drawn
    why = (
        f"{named} to be painted out"
        if named
        else {"rig": "the rig", "split": "the split"}.get(layer.kind, "the difference matte")
    )
    if has_pass(stack, member, "clean_plate"):
        plates = [other for other in stack.members if other.layer.kind == "clean_plate"]
        made = next(plate.layer.made_from for plate in plates if serves(stack, plate, member))
        how = {
            "film": f"is planned for {why}. {SHORT_CLEAN_PLATE}",
            "neighbours": f"is put together from neighbouring frames for {why}: each part of it must be"
            " free in some of them.",
            "paint": f"is painted for {why}: nothing in it may move.",
        }[made]
        return Finding("clean_plate", 0.0, Explanation("planned", f"A clean plate {how}", tuple))
    elsewhere = "clean_plate" in stack.kinds
    sentence = (
        f"The clean plate of this shot is filmed in another set-up, and {why} wants one of its own: at once,"
        f" everything locked. {SHORT_CLEAN_PLATE}"
        if elsewhere
        else f"No clean plate is planned, and {why} wants one: in the same set-up, at once, everything"
        f" locked. {SHORT_CLEAN_PLATE}"
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


def cleaned_by(stack: Stack, member: Member) -> Member | None:
    """The plate that a clean plate cleans.

    What it belongs to; else one that needs it and is filmed, nearest in distance; else the hero.

    Parameters
    ----------
    stack : Stack
        The whole shot.
    member : Member
        The clean plate.

    Returns
    -------
    Member or None
        None where nothing of the shot is filmed.

    References
    ----------
    lock_off

    Examples
    --------
    >>> from dataclasses import replace
    >>> from jungoptic.core.example import STACK
    >>> hero = STACK.members[0]
    >>> clean = replace(hero, layer=hero.layer.but(kind="clean_plate"), is_hero=False)
    >>> cleaned_by(replace(STACK, members=(*STACK.members, clean)), clean).layer.name
    'Sea'
    """
    own = [other for other in belongs_to(stack, member) if other.setup is not None]
    if own:
        return next((other for other in own if stack.needs_clean_plate(other)), own[0])
    wanting = [other for other in stack.cleaned if other.setup is not None]
    if wanting:
        return min(wanting, key=lambda other: abs(math.log(other.layer.near_m / member.layer.near_m)))
    return next((other for other in stack.members if other.is_hero), None)


def clean_match(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """A clean plate with another focus, stop, white balance or height does not cover what it should."""
    member = stack.members[position]
    if member.layer.kind != "clean_plate" or member.setup is None:
        return None
    other = cleaned_by(stack, member)
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
        # Distances are counted to each layer's own front edge: what must agree is where the lens stands.
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


def contact(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """A thing that stands on something wants its contact shadow, on wet ground its reflection too."""
    member = stack.members[position]
    layer = member.layer
    if layer.contact == "nothing" or layer.combine in ("base", "in_camera"):
        return None
    shadow = "contact_shadow" in layer.kept or has_pass(stack, member, "shadow_pass")
    wet = layer.contact == "wet_ground"
    mirror = not wet or "reflection" in layer.kept or has_pass(stack, member, "reflection_pass")
    lacking = [name for name, has in ((CHOICES["contact_shadow"], shadow), ("reflection", mirror)) if not has]
    amount = (0.0 if shadow else 2.0) + (0.0 if mirror else 1.0)
    sentence = f"{layer.name} stands on {CHOICES['wet_ground'] if wet else 'something'}; " + (
        f"its {' and '.join(lacking)} {'is' if len(lacking) == 1 else 'are'} neither kept nor planned as a"
        " pass. Cut wide enough to keep it, or film it as a pass."
        if lacking
        else "what touches the world is kept."
    )
    kept = [*layer.kept, *(["contact_shadow"] if not shadow else []), *(["reflection"] if not mirror else [])]
    fixes = (Fix(f"Keep its {' and '.join(lacking)}", "layer", {"kept": kept}),) if lacking else ()
    return Finding("contact", amount, Explanation(", ".join(lacking) or "kept", sentence, tuple, fixes))


def references(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """Ball, chart and tape in the light that the layer is in, once for each set-up."""
    member = stack.members[position]
    if member.setup is None or position not in stack.first_of_set_up or member.layer.kind in PICTURES:
        return None
    lacking = [name for name in REFERENCES if name not in member.setup.references]
    names = ", ".join(_REFERENCE_WORDS[name] for name in lacking)
    sentence = (
        f"In this light no {names} {'is' if len(lacking) == 1 else 'are'} planned: without them light, colour"
        " and place are guessed later."
        if lacking
        else "Ball, chart and tape are planned in this light."
    )
    fixes = (Fix("Film ball, chart and tape", "set_up", {"references": list(REFERENCES)}),) if lacking else ()
    return Finding(
        "references", len(lacking) / len(REFERENCES), Explanation(names or "planned", sentence, tuple, fixes)
    )


def handed(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """Lettering, hands and the side of the light turn round in a mirror."""
    layer = stack.members[position].layer
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


def recurring(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """What recurs in the place must be in every shot of it; said of the hero."""
    if not stack.members[position].is_hero or not stack.plan.recurring:
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
