"""What is drawn on a picture to read its camera and its light: what each is called and what it says."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

MarkKind = Literal["away", "across", "upright", "horizon", "height", "shadow", "foot", "stands"]
MOST_MARKS = 60
LIKELY_HEIGHT_M = 1.75  # of a grown person who stands. Source: likely_height


@dataclass(frozen=True, slots=True)
class MarkWords:
    """One kind of mark.

    Parameters
    ----------
    name : str
        As it is said.
    help : str
        Where it is drawn and what it tells, in one sentence.
    points : tuple of str
        What each of its points is, in the order in which they are drawn.
    start : tuple of (float, float)
        Where it stands when it is added by keyboard, in shares of the picture from the top left.
    dash : str
        Lengths of dashes and gaps, in px of the screen; "" for an unbroken line.
    height_m : float, optional
        How high the thing is likely to be; None where its height tells nothing.
    """

    name: str
    help: str
    points: tuple[str, ...]
    start: tuple[tuple[float, float], ...]
    dash: str = ""
    height_m: float | None = None


_ENDS = ("one end", "other end")
MARKS: dict[str, MarkWords] = {
    "away": MarkWords(
        "Line away",
        "Along edges that run level into the distance, at least two: planks, kerbs, eaves.",
        _ENDS,
        ((0.3, 0.8), (0.45, 0.6)),
    ),
    "across": MarkWords(
        "Line across",
        "Along level edges at right angles to the lines away, at least two: with those they tell the lens.",
        _ENDS,
        ((0.55, 0.62), (0.8, 0.7)),
        dash="9 4",
    ),
    "upright": MarkWords(
        "Upright",
        "Along corners, posts, door frames, at least two: they tell tilt and roll, with lines the lens.",
        _ENDS,
        ((0.5, 0.3), (0.5, 0.7)),
        dash="3 3",
    ),
    "horizon": MarkWords(
        "Horizon",
        "Where the sea or a wide plain meets the sky: tilt and roll.",
        _ENDS,
        ((0.1, 0.5), (0.9, 0.5)),
        dash="14 4 3 4",
    ),
    "height": MarkWords(
        "Known height",
        "From the foot to the top of something upright whose height is known: the height of the lens.",
        ("foot", "top"),
        ((0.4, 0.75), (0.4, 0.5)),
        height_m=LIKELY_HEIGHT_M,
    ),
    "shadow": MarkWords(
        "Shadow",
        "The foot of something upright, its top, and the tip of its shadow on level ground: the key.",
        ("foot", "top", "tip of the shadow"),
        ((0.6, 0.75), (0.6, 0.5), (0.7, 0.8)),
        dash="6 3 2 3",
    ),
    "foot": MarkWords(
        "Distance",
        "The foot of anything on the ground: how far ahead and how far aside it stands.",
        ("foot",),
        ((0.5, 0.8),),
    ),
    "stands": MarkWords(
        "How high",
        "From the foot to the top of something upright: where it stands and how high it is.",
        ("foot", "top"),
        ((0.7, 0.75), (0.7, 0.5)),
        dash="2 3",
    ),
}
