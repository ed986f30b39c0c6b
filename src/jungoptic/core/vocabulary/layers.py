"""Kinds of layers, ways of combining them, and the other choices that they have, with their names.

Layers are told apart by hatching, as in building drawings, so that they stay distinct without colour.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Kind = Literal[
    "live",
    "live_element",
    "model",
    "frame_by_frame",
    "rig",
    "clean_plate",
    "split",
    "shadow_pass",
    "light_pass",
    "reflection_pass",
    "focus_pass",
    "black_element",
    "stock",
    "painted",
    "three_d",
    "haze",
]
Combine = Literal[
    "base",
    "key",
    "hand_matte",
    "difference",
    "split",
    "over",
    "behind",
    "add",
    "screen",
    "multiply",
    "shadow_alpha",
    "in_camera",
]
Contact = Literal["nothing", "ground", "wet_ground"]
Kept = Literal["contact_shadow", "reflection"]
Driver = Literal["gravity", "set_speed", "fire", "still"]
MadeFrom = Literal["film", "neighbours", "paint"]
Focusing = Literal["unit", "constant_view"]
Reference = Literal["ball", "chart", "tape"]
ShownAs = Literal["outline", "picture"]
CutBy = Literal["nothing", "alpha", "sheet", "black", "white"]


@dataclass(frozen=True, slots=True)
class Hatch:
    """A hatch: what is drawn in one square of 6 by 6, repeated.

    Parameters
    ----------
    lines : str
        Strokes, in SVG path syntax; "" for none.
    dot : tuple of float
        Centre x, centre y and radius of a dot; empty for none.
    ground : {"open", "middle", "dark"}
        What is under the strokes: paper, a middle grey, or nearly black.
    fade : {"", "down", "up"}
        A tone that grows downwards or upwards over the whole shape in place of strokes.
    """

    lines: str = ""
    dot: tuple[float, ...] = ()
    ground: Literal["open", "middle", "dark"] = "open"
    fade: Literal["", "down", "up"] = ""


@dataclass(frozen=True, slots=True)
class KindWords:
    """A kind of layer: its name, its hatch; whether it is a pass of another, or a picture not filmed here."""

    name: str
    hatch: Hatch
    is_pass: bool = False
    is_picture: bool = False


_SOLID = Hatch(ground="middle")
_DOWN, _UP = Hatch(fade="down"), Hatch(fade="up")
KINDS: dict[str, KindWords] = {
    "live": KindWords("live plate", _SOLID),
    "live_element": KindWords("live element", _SOLID),
    "model": KindWords("model", Hatch("M0 6 L6 0 M-1 1 L1 -1 M5 7 L7 5")),
    "frame_by_frame": KindWords("frame by frame", Hatch(dot=(2.0, 2.0, 0.9))),
    "rig": KindWords("rig shot", Hatch("M3 0 V6")),
    "clean_plate": KindWords("clean plate", Hatch(), is_pass=True),
    "split": KindWords("split half", Hatch("M0 0 L6 6")),
    "shadow_pass": KindWords("shadow pass", _DOWN, is_pass=True),
    "light_pass": KindWords("light pass", _UP, is_pass=True),
    "reflection_pass": KindWords("reflection pass", _DOWN, is_pass=True),
    "focus_pass": KindWords("focus pass", _DOWN, is_pass=True),
    "black_element": KindWords("element on black", Hatch(ground="dark")),
    "stock": KindWords("stock", Hatch("M0 2 H6 M0 5 H6"), is_picture=True),
    "painted": KindWords("painted", Hatch("M0 6 L6 0 M0 0 L6 6"), is_picture=True),
    "three_d": KindWords("3-D", Hatch("M0 3 H6 M3 0 V6"), is_picture=True),
    "haze": KindWords("haze", _DOWN, is_picture=True),
}
PASSES: frozenset[str] = frozenset(kind for kind, words in KINDS.items() if words.is_pass)
ACTED: frozenset[str] = frozenset({"live", "live_element", "split"})
"""Kinds in which somebody is seen, as a rule."""
PICTURES: frozenset[str] = frozenset(kind for kind, words in KINDS.items() if words.is_picture)


@dataclass(frozen=True, slots=True)
class CombineWords:
    """A way of combining: its name, and whether somebody cuts it by hand."""

    name: str
    by_hand: bool = False


COMBINES: dict[str, CombineWords] = {
    "base": CombineWords("base"),
    "key": CombineWords("key"),
    "hand_matte": CombineWords("hand matte", by_hand=True),
    "difference": CombineWords("difference", by_hand=True),
    "split": CombineWords("split", by_hand=True),
    "over": CombineWords("over"),
    "behind": CombineWords("behind"),
    "add": CombineWords("add"),
    "screen": CombineWords("screen"),
    "multiply": CombineWords("multiply"),
    "shadow_alpha": CombineWords("shadow matte"),
    "in_camera": CombineWords("in camera"),
}

# Choices of other fields that are not said as they are spelled.
CHOICES: dict[str, str] = {
    "wet_ground": "wet ground",
    "contact_shadow": "contact shadow",
    "set_speed": "a speed that we set",
    "film": "filmed for it",
    "neighbours": "neighbouring frames",
    "unit": "breathes",
    "constant_view": "does not breathe",
    "alpha": "its own transparency",
    "sheet": "the colour of the sheet",
}
