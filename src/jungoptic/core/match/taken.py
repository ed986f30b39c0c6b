"""Pictures that somebody else took, painted or computed: what is known of their camera and their light is
held against the hero, what is not known is said.
"""

from __future__ import annotations

from ..kit.records import Kit
from ..light import colour
from ..vocabulary import PICTURES
from ..wording import Words, number
from .apart import apart
from .layer import Layer
from .measure import Match
from .pose import hero_pose, picture_pose, taken_from_m
from .samples import sampled
from .saying import Explanation, Value, Values
from .stack import Finding, Look, Stack

_TO_THE_HORIZON = 200.0  # a ground that goes on so many times as far shows its horizon
_ADDED = frozenset({"black_element"})  # light alone: it has no ground, no horizon, no key


def unknown_of(layer: Layer) -> list[str]:
    """What nobody has said of a picture's camera and light, in words; empty for what is filmed.

    Parameters
    ----------
    layer : Layer
        Any layer.

    Returns
    -------
    list of str
        In the order in which one would measure it.

    Examples
    --------
    >>> unknown_of(Layer(name="Hills", kind="painted", near_m=60, taken_view_deg=40, taken_height_m=1.6))
    ['tilt', 'roll', 'key', 'grain', 'black level']
    """
    if layer.kind not in PICTURES | _ADDED:
        return []
    known = {
        "lens": layer.taken_view_deg,
        "camera height": layer.taken_height_m,
        "tilt": layer.taken_tilt_deg,
        "roll": layer.taken_roll_deg,
        "key": layer.taken_key_azimuth_deg,
        "grain": layer.taken_grain,
        "black level": layer.black_pct,
    }
    if layer.kind in _ADDED:
        known = {name: known[name] for name in ("grain", "black level")}
    return [name for name, value in known.items() if value is None]


def unknown_words(layer: Layer) -> str:
    """A sentence on what nobody has said of a picture, with a space before it; "" where all is said."""
    unknown = unknown_of(layer)
    if not unknown:
        return ""
    what = " and ".join([", ".join(unknown[:-1]), unknown[-1]]) if len(unknown) > 1 else unknown[0]
    return f" Its {what} {'is' if len(unknown) == 1 else 'are'} unknown and not judged: measure the picture."


def _amount(match: Match, layer: Layer, item: str) -> float:
    """How far the greatest point of a picture lies off when one thing of its camera differs, delivered px."""
    wants = hero_pose(match.hero, layer, match.delivery)
    has = picture_pose(wants, layer, (item,))
    samples = sampled(wants, layer, match.delivery, match.hero.distance_m)
    return float(apart(samples, has.rows(), pinned=True).amounts_px[item][0])


def _picture(stack: Stack, position: int) -> Layer | None:
    member = stack.members[position]
    return member.layer if member.setup is None and member.layer.kind in PICTURES - _ADDED else None


def seen_from(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """A picture taken from nearer or further than the hero looks at it."""
    layer = _picture(stack, position)
    far = taken_from_m(layer) if layer else None
    if layer is None or far is None or layer.depth_m <= 0:
        return None
    sentence = (
        f"It was taken from {words.length(far)}, where what spans it is {layer.taken_view_deg:g}° wide; the"
        f" hero looks at it from {words.length(layer.near_m)}. What lies behind its front edge is too"
        f" {'small' if far < layer.near_m else 'large'} for that."
    )

    def values() -> Values:
        return (
            Value("D", "taken from", words.length(far)),
            Value("D₀", "wanted", words.length(layer.near_m)),
            Value("δ", "depth behind the front edge", words.length(layer.depth_m)),
        )

    where = f"taken from {words.length(far)}, wants {words.length(layer.near_m)}"
    return Finding("perspective", _amount(match, layer, "perspective"), Explanation(where, sentence, values))


def horizon(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """A picture taken from higher or lower than the hero: its ground and its horizon do not lie on his."""
    layer = _picture(stack, position)
    if layer is None or layer.taken_height_m is None:
        return None
    wants = float(hero_pose(match.hero, layer, match.delivery).height_m)
    off = layer.taken_height_m - wants
    ground = layer.model_copy(
        update={
            "depth_m": max(layer.depth_m, _TO_THE_HORIZON * layer.near_m),
            "parts": (),
            "fills_frame": False,
        }
    )
    for name in ("wire", "body_wire", "worked_out"):  # what was worked out for the layer as it is
        ground.__dict__.pop(name, None)
    sentence = (
        f"It was taken {words.length(abs(off))} too {'high' if off > 0 else 'low'}:"
        f" {words.length(layer.taken_height_m)} above its ground, where the hero's lens is"
        f" {words.length(wants)} above it. Its horizon lies {'over' if off > 0 else 'under'} the hero's."
        if off
        else f"It was taken from the hero's height, {words.length(wants)} above its ground."
    )

    def values() -> Values:
        return (
            Value("h", "taken from", words.length(layer.taken_height_m or 0.0)),
            Value("Δh", "too high", words.length(off)),
        )

    where = f"taken from {words.length(layer.taken_height_m)}, wants {words.length(wants)}"
    return Finding("height", _amount(match, ground, "height"), Explanation(where, sentence, values))


def _leaning(item: str) -> Look:
    """Tilt or roll of the camera that took it."""

    def look(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
        layer = _picture(stack, position)
        has = getattr(layer, f"taken_{item}_deg") if layer else None
        if layer is None or has is None:
            return None
        wants = getattr(match.hero, f"{item}_deg")
        sentence = f"It was taken at {number(has)}° of {item}; the hero has {number(wants)}°."

        def values() -> Values:
            return (Value("θ", "taken at", f"{number(has)}°"), Value("θ₀", "the hero's", f"{number(wants)}°"))

        where = f"{number(has)}°, wants {number(wants)}°"
        return Finding(item, _amount(match, layer, item), Explanation(where, sentence, values))

    return look


def light_of_it(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """The direction of the light in a picture, against the hero's key."""
    layer, hero = _picture(stack, position), match.hero
    if layer is None or layer.taken_key_azimuth_deg is None or hero.key_azimuth_deg is None:
        return None
    azimuth = -layer.taken_key_azimuth_deg if layer.mirrored else layer.taken_key_azimuth_deg
    elevation = layer.taken_key_elevation_deg or 0.0
    off = colour.angle_between_deg(azimuth, elevation, hero.key_azimuth_deg, hero.key_elevation_deg or 0.0)
    flop = colour.angle_between_deg(-azimuth, elevation, hero.key_azimuth_deg, hero.key_elevation_deg or 0.0)
    sentence = (
        f"Its light comes from {number(azimuth)}° to the side and {number(elevation)}° up, {off:.0f}° from"
        " the hero's key." + (f" Flopped it would be {flop:.0f}° off." if flop < off - 1 else "")
    )

    def values() -> Values:
        return (
            Value("key", "in the picture", f"{number(azimuth)}°, {number(elevation)}° up"),
            Value("hero", "the hero's", f"{number(hero.key_azimuth_deg or 0.0)}°"),
        )

    return Finding("direction", off, Explanation(f"{off:.0f}° off", sentence, values))


def grain_of_it(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """The grain of a picture beside the hero's, as it is laid in."""
    member = stack.members[position]
    ratio = member.layer.taken_grain
    if member.setup is not None or member.layer.kind not in PICTURES | _ADDED or ratio is None:
        return None
    sentence = (
        f"It is {number(max(ratio, 1.0 / ratio), 3)} times {'noisier' if ratio > 1 else 'cleaner'} than the"
        f" hero. {'Take its noise away before it is laid in.' if ratio > 1 else 'Grain can be put back.'}"
    )

    def values() -> Values:
        return (Value("r", "its grain over the hero's", number(ratio, 3)),)

    amount = max(ratio, 1.0 / ratio) - 1.0
    return Finding("grain", amount, Explanation(f"{number(ratio, 3)} × the hero's", sentence, values))


def black_of_it(stack: Stack, position: int, match: Match, words: Words, kit: Kit | None) -> Finding | None:
    """The darkest of a picture beside the darkest of the hero's plate, air between them left out."""
    layer = stack.members[position].layer
    hero = next((member.layer for member in stack.members if member.is_hero), None)
    if stack.members[position].is_hero or layer.black_pct is None or hero is None or hero.black_pct is None:
        return None
    off = layer.black_pct - hero.black_pct
    sentence = (
        f"Its darkest is {number(layer.black_pct)} % of white, the hero's {number(hero.black_pct)} %:"
        f" {'lifted' if off > 0 else 'crushed'} by {number(abs(off))} %."
        if off
        else "Its darkest is as dark as the hero's."
    )

    def values() -> Values:
        return (
            Value("b", "its darkest", f"{number(layer.black_pct or 0.0)} %"),
            Value("b₀", "the hero's", f"{number(hero.black_pct or 0.0)} %"),
        )

    return Finding("black", abs(off), Explanation(f"{number(abs(off))} % off", sentence, values))


TAKEN: tuple[Look, ...] = (
    seen_from,
    horizon,
    _leaning("tilt"),
    _leaning("roll"),
    light_of_it,
    grain_of_it,
    black_of_it,
)
