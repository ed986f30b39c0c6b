"""The shelf of outlines: what layers look like, by name and at their true sizes, a data file for each group.

An outline that was drawn elsewhere is an :class:`Outline` too.
"""

from __future__ import annotations

from importlib.resources import files
from typing import Annotated

from pydantic import Field

from ... import data_file
from ... import quantities as q
from ...match.layer import MOST_BESIDE, MOST_PARTS, HexColour, Layer, Part

__all__ = ["OUTLINES", "Outline", "Piece", "fitted_parts", "outline_parts"]

_Share = Annotated[float, Field(ge=0, le=1)]


class Piece(q.Record):
    """A flat piece of an outline: its points are shares of the width, from the left, and of the height, from
    the foot; ``behind`` is its share of the depth.
    """

    name: Annotated[str, Field(min_length=1, max_length=80)]
    colour: HexColour
    colour_low: HexColour | None = None
    behind: _Share = 0.0
    points: Annotated[tuple[tuple[_Share, _Share], ...], Field(min_length=3, max_length=400)]


class Outline(q.Record):
    """Flat pieces in a box, and how large the thing is in truth; what ``repeats`` stands side by side as
    often as it fits. ``group`` is where it lies on the shelf.
    """

    group: Annotated[str, Field(max_length=40)] = ""
    width_m: Annotated[float, q.quantity("Width", "m", "True size.", gt=0, le=1e7)]
    height_m: Annotated[float, q.quantity("Height", "m", "True size.", gt=0, le=1e6)]
    depth_m: Annotated[float, q.quantity("Depth", "m", "True size.", ge=0, le=1e7)] = 0.0
    repeats: q.YesNo = False
    parts: Annotated[tuple[Piece, ...], Field(min_length=1, max_length=MOST_PARTS)]


def _shipped() -> dict[str, Outline]:
    shelf: dict[str, Outline] = {}
    for file in sorted(files(__package__).iterdir(), key=lambda file: file.name):
        if not file.name.endswith(".toml"):
            continue
        text = file.read_text("utf-8")
        for name, row in data_file.tables(text, file.name).items():
            group = file.name.removesuffix(".toml").partition("_")[2].replace("_", " ")
            shelf[name] = data_file.record(Outline, row | {"group": group}, text, file.name, within=name)
    return shelf


OUTLINES = _shipped()


def fitted_parts(outline: Outline, layer: Layer) -> tuple[Part, ...]:
    """The pieces of an outline, as wide, high and deep as a layer.

    Parameters
    ----------
    outline : Outline
        From the shelf, or drawn elsewhere.
    layer : Layer
        What it must fit.

    Returns
    -------
    tuple of Part
        Full-size metres; a layer without depth has them all at its front edge.

    References
    ----------
    true_sizes

    Examples
    --------
    >>> row = Layer(name="Row", near_m=8, width_m=2.55, height_m=1.75)
    >>> len(fitted_parts(OUTLINES["person"], row))
    6
    """
    fits = layer.width_m / (layer.height_m * outline.width_m / outline.height_m)
    count = max(1, round(fits)) if outline.repeats else 1
    wide = layer.width_m / count
    return tuple(
        Part(
            name=piece.name if count == 1 else f"{piece.name} {place + 1}",
            behind_m=round(piece.behind * layer.depth_m, 4),
            points=tuple(
                (round((x + place) * wide - layer.width_m / 2.0, 4), round(y * layer.height_m, 4))
                for x, y in piece.points
            ),
            colour=piece.colour,
            colour_low=piece.colour_low,
        )
        for place in range(min(count, MOST_BESIDE))
        for piece in outline.parts
    )


def outline_parts(name: str, layer: Layer) -> tuple[Part, ...]:
    """:func:`fitted_parts` of an outline of the shelf.

    Parameters
    ----------
    name : str
        One of :data:`OUTLINES`, or "" for none.
    layer : Layer
        What it must fit.

    Returns
    -------
    tuple of Part
        Full-size metres.

    Examples
    --------
    >>> house = outline_parts("house", Layer(name="Mill", near_m=12, width_m=8, height_m=4, depth_m=3))
    >>> [part.name for part in house][:3], house[0].behind_m
    (['Back wall', 'Front', 'Roof'], 3.0)
    """
    return fitted_parts(OUTLINES[name], layer) if name else ()
