"""The lines, zones and marks of a board: what each is called, what it asks for, how it is drawn."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

LineKind = Literal["matte", "split", "paint_out", "keep_clear", "framing", "tracking", "recurring", "actor"]
Shape = Literal["line", "zone", "rectangle", "mark"]
Asks = Literal["thing", "frames", "feather"]
MOST_POINTS = 200


@dataclass(frozen=True, slots=True)
class LineWords:
    """One kind of line.

    Parameters
    ----------
    name : str
        As it is said.
    shape : {"line", "zone", "rectangle", "mark"}
        How the points are joined: a rectangle is two opposite corners, a mark one point.
    least, most : int
        How many points it needs and may have.
    help : str
        What it means, in one sentence.
    item : str
        Key of the item on the ladder that checks it; "" for a paint-out, which has hours instead, and for an
        actor's mark.
    asks_layer : str
        What the layer is to it; "" where it speaks of none.
    no_layer : str
        Whom it means while no layer is given.
    asks : tuple of {"thing", "frames", "feather"}
        What else can be said of it: of what, in which frames, how soft its edge is.
    dash : str
        Lengths of dashes and gaps, in px of the screen; "" for an unbroken line.
    fill : {"", "light", "dark"}
        A veil over a zone, so that it is seen over any picture.
    start : tuple of (float, float)
        Where it stands when it is added by keyboard, in shares of the frame from the top left.
    stands : bool
        Whether it is a place on the ground, so that it can be told where that is in the set.
    """

    name: str
    shape: Shape
    least: int
    most: int
    help: str
    item: str
    start: tuple[tuple[float, float], ...]
    asks_layer: str = ""
    no_layer: str = "everything"
    asks: tuple[Asks, ...] = ()
    dash: str = ""
    fill: Literal["", "light", "dark"] = ""
    stands: bool = False


_MIDDLE = ((0.5, 0.5),)
_BOX = ((0.4, 0.4), (0.6, 0.4), (0.6, 0.6), (0.4, 0.6))
LINES: dict[str, LineWords] = {
    "matte": LineWords(
        "Matte line",
        "line",
        2,
        MOST_POINTS,
        "A layer passes behind it; nothing in front may rise above it.",
        "matte_line",
        ((0.25, 0.5), (0.75, 0.5)),
        asks_layer="Passes behind it",
        no_layer="say which",
    ),
    "split": LineWords(
        "Split line",
        "line",
        2,
        MOST_POINTS,
        "Between two halves: each stays on its side.",
        "split_line",
        ((0.5, 0.0), (0.5, 1.0)),
        asks=("feather",),
        dash="14 6",
    ),
    "paint_out": LineWords(
        "Paint-out",
        "zone",
        3,
        MOST_POINTS,
        "Must go: what, in which frames, why. Its hours are counted.",
        "",
        _BOX,
        asks_layer="It is in",
        no_layer="the hero plate",
        asks=("thing", "frames"),
        dash="9 4 2 4",
        fill="light",
    ),
    "keep_clear": LineWords(
        "Keep clear",
        "zone",
        3,
        MOST_POINTS,
        "Nothing may come into it.",
        "keep_clear",
        _BOX,
        asks_layer="Only for",
        asks=("frames",),
        dash="3 4",
        fill="dark",
    ),
    "framing": LineWords(
        "Final framing",
        "rectangle",
        2,
        2,
        "The last crop, from corner to corner: only what is in it is cut.",
        "final_framing",
        ((0.1, 0.1), (0.9, 0.9)),
    ),
    "tracking": LineWords(
        "Tracking mark",
        "mark",
        1,
        1,
        "Must stay in the frame, uncovered.",
        "tracking_mark",
        _MIDDLE,
        asks=("thing",),
    ),
    "recurring": LineWords(
        "Continuity",
        "mark",
        1,
        1,
        "A thing of the place that every shot of it must have.",
        "recurring",
        _MIDDLE,
        asks=("thing",),
    ),
    "actor": LineWords(
        "Actor's mark",
        "mark",
        1,
        1,
        "Where somebody stands: the place of their feet on the ground.",
        "",
        ((0.5, 0.85),),
        asks_layer="In the set of",
        no_layer="the hero plate",
        asks=("thing", "frames"),
        stands=True,
    ),
}
