"""What passes and plates belong to, and what a light pass is held against: the thing whose light it is."""

from __future__ import annotations

import numpy as np

from ..kit.records import Kit
from ..light import colour
from ..light.placed import Array
from ..vocabulary import PASSES
from ..wording import Words, number
from . import lighting
from .layer import Layer
from .measure import Match
from .records import SetUp
from .saying import Explanation, Fix, Value, Values
from .stack import Finding, Look, Member, Stack
from .tolerances import ITEMS


def belongs_to(stack: Stack, plate: Member) -> tuple[Member, ...]:
    """The layers that a pass or a clean plate serves: the one that it names; else those that its own set-up
    films; one that was not filmed, the only one that wants it.
    """
    if plate.layer.pass_of:
        wanted = plate.layer.pass_of.casefold()
        return tuple(
            other for other in stack.members if other is not plate and other.layer.name.casefold() == wanted
        )
    if plate.set_up_key is not None:
        return tuple(
            other
            for other in stack.members
            if other.set_up_key == plate.set_up_key and other.layer.kind not in PASSES
        )
    return stack.cleaned if len(stack.cleaned) == 1 else ()


def serves(stack: Stack, plate: Member, member: Member) -> bool:
    """Whether a pass or a clean plate serves a layer."""
    return any(other is member for other in belongs_to(stack, plate))


def has_pass(stack: Stack, member: Member, kind: str) -> bool:
    """Whether a pass or plate of that kind serves a layer."""
    return any(
        other.layer.kind == kind and serves(stack, other, member)
        for other in stack.members
        if other is not member
    )


def _middle_m(layer: Layer) -> Array:
    """Where the middle of a layer's outlines is: right of the hero's axis, over its ground, from its lens,
    full-size metres.
    """
    points = layer.wire.starts
    middle: Array = (points.min(axis=0) + points.max(axis=0)) / 2.0 + (0.0, layer.base_m, layer.near_m)
    return middle


def _lit_m(layer: Layer, setup: SetUp) -> Array:
    """Where light on a layer is taken, in the same axes."""
    x, y, z = lighting.subject_point(layer, setup)
    s = layer.scale
    return np.array([x * s, (y - setup.ground_height_m) * s + layer.base_m, z * s + layer.near_m])


def thrown_light(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """Whether the light of a light pass comes from where the added thing is."""
    member = stack.members[position]
    if member.layer.kind != "light_pass" or member.setup is None or not member.layer.pass_of:
        return None
    source = next(iter(belongs_to(stack, member)), None)
    key = lighting.key_of(member.setup, member.layer)
    if source is None or key.azimuth_deg is None or key.elevation_deg is None:
        return None
    away = _middle_m(source.layer) - _lit_m(member.layer, member.setup)
    if float(np.linalg.norm(away)) < 1e-6:
        return None
    azimuth, elevation = lighting.angles_of(*away.tolist())
    if member.layer.mirrored:
        azimuth = -azimuth
    off = colour.angle_between_deg(key.azimuth_deg, key.elevation_deg, azimuth, elevation)
    name = source.layer.name
    here = f"{number(key.azimuth_deg, 3)}° to the side and {number(key.elevation_deg, 3)}° above"
    there = f"{number(azimuth, 3)}° and {number(elevation, 3)}°"
    sentence = (
        f"The light on {member.layer.name} comes from {here}; {name}, whose light it is, stands at {there} as"
        " seen from there."
    )
    change = {"key_azimuth_deg": round(azimuth, 2), "key_elevation_deg": round(elevation, 2)}
    fixes = (
        (Fix(f"Light from where {name} is", "set_up", change),)
        if key.lamp is None and not key.by_sun and off > 1
        else ()
    )

    def values() -> Values:
        return (Value("key", "of the pass", here), Value("thing", f"from there to {name}", there))

    where = f"light against the place of {name}"
    return Finding("direction", off, Explanation(where, sentence, values, fixes))


def cue(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """Whether a pass starts and ends with the thing that it belongs to."""
    member = stack.members[position]
    layer = member.layer
    if layer.kind not in PASSES or not layer.pass_of:
        return None
    source = next(iter(belongs_to(stack, member)), None)
    if source is None or (source.layer.cue_frame is None and layer.cue_frame is None):
        return None
    wanted = source.layer
    if wanted.cue_frame is None or layer.cue_frame is None:
        silent, other = (layer, wanted) if layer.cue_frame is None else (wanted, layer)
        sentence = (
            f"{other.name} has its cue at frame {other.cue_frame}, {silent.name} has none: its light would"
            " not come and go with it."
        )
        change = {"cue_frame": wanted.cue_frame, "cue_frames": wanted.cue_frames}
        fixes = (Fix(f"Cue as {wanted.name}", "layer", change),) if silent is layer else ()
        return Finding("cue", ITEMS["cue"].tight + 1.0, Explanation("no cue", sentence, tuple, fixes))
    off = abs(layer.cue_frame - wanted.cue_frame)
    if layer.cue_frames is not None and wanted.cue_frames is not None:
        outlasts = layer.cue_frame + layer.cue_frames - wanted.cue_frame - wanted.cue_frames
        off = max(off, outlasts)  # light may go before its thing does, and not stay after it

    def span(of: Layer) -> str:
        return f"frame {of.cue_frame}" + (f" for {of.cue_frames}" if of.cue_frames else "")

    sentence = f"It starts at {span(layer)}, {wanted.name} at {span(wanted)}."
    change = {"cue_frame": wanted.cue_frame, "cue_frames": wanted.cue_frames}
    fixes = (Fix(f"Cue as {wanted.name}", "layer", change),) if off else ()

    def values() -> Values:
        return (
            Value("cue", "of the pass", span(layer)),
            Value("thing", f"of {wanted.name}", span(wanted)),
        )

    where = f"{off} frame{'' if off == 1 else 's'} from {wanted.name}"
    return Finding("cue", float(off), Explanation(where, sentence, values, fixes))


PASS_LOOKS: tuple[Look, ...] = (thrown_light, cue)
