"""The vocabulary over the wire."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel as Schema

from jungoptic.core.vocabulary import Asks, Combine, KeyColour, Kind, LineKind, MarkKind, Shape, Verdict


class HatchOut(Schema):
    """What is drawn in a square of 6 by 6, repeated: strokes (an SVG path), a dot (x, y, radius), the ground,
    or a tone that fades.
    """

    lines: str
    dot: list[float]
    ground: Literal["open", "middle", "dark"]
    fade: Literal["", "down", "up"]


class KindWordsOut(Schema):
    key: Kind
    name: str
    hatch: HatchOut
    is_pass: bool
    is_picture: bool


class CombineWordsOut(Schema):
    key: Combine
    name: str
    by_hand: bool


class LineWordsOut(Schema):
    """A kind of line of a board; ``start`` in shares of the frame, ``dash`` in px of the screen."""

    key: LineKind
    name: str
    shape: Shape
    least: int
    most: int
    help: str
    asks_layer: str
    no_layer: str
    asks: list[Asks]
    dash: str
    fill: Literal["", "light", "dark"]
    start: list[list[float]]
    stands: bool


class MarkWordsOut(Schema):
    """A kind of mark on a picture; ``start`` in shares of the picture, ``dash`` in px of the screen."""

    key: MarkKind
    name: str
    help: str
    points: list[str]
    start: list[list[float]]
    dash: str
    height_m: float | None


class VerdictWordsOut(Schema):
    """A verdict: of one thing, as a title, of several, of footage that may serve again."""

    key: Verdict
    single: str
    title: str
    several: str
    serves: str


class NamedOut(Schema):
    key: str
    name: str


class SheetColourOut(Schema):
    key: KeyColour
    colour: str


class UnitOut(Schema):
    """A unit in which a quantity is read and typed; ``per_kept`` of it are one of what is kept."""

    quantity: Literal["length", "light"]
    units: Literal["metric", "imperial"]
    sign: str
    per_kept: float


class VocabularyOut(Schema):
    """What the house calls things."""

    kinds: list[KindWordsOut]
    combines: list[CombineWordsOut]
    choices: list[NamedOut]
    lines: list[LineWordsOut]
    marks: list[MarkWordsOut]
    verdicts: list[VerdictWordsOut]
    schools: list[NamedOut]
    sheets: list[SheetColourOut]
    units: list[UnitOut]
