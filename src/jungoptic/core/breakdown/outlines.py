"""What the layers of a fresh recipe look like to begin with: outlines to be redrawn, not grey boxes."""

from __future__ import annotations

from importlib.resources import files
from typing import Annotated

from pydantic import Field

from .. import data_file
from ..match.layer import HexColour, Layer, Part
from ..quantities import Record

_FILE = "outlines.toml"
_Share = Annotated[float, Field(ge=0, le=1)]


class _Piece(Record):
    name: Annotated[str, Field(min_length=1, max_length=80)]
    colour: HexColour
    colour_low: HexColour | None = None
    behind: _Share = 0.0
    points: Annotated[tuple[tuple[_Share, _Share], ...], Field(min_length=3)]


class Outline(Record):
    """Flat pieces in a box one wide, one high and one deep; what ``repeats`` stands side by side as often as
    its ``aspect``, width over height, fits.
    """

    parts: Annotated[tuple[_Piece, ...], Field(min_length=1)]
    aspect: Annotated[float, Field(gt=0)] = 1.0
    repeats: bool = False


def _read(text: str) -> dict[str, Outline]:
    return {
        name: data_file.record(Outline, row, text, _FILE, within=name)
        for name, row in data_file.tables(text, _FILE).items()
    }


OUTLINES = _read(files(__package__).joinpath(_FILE).read_text("utf-8"))


def outline_parts(name: str, layer: Layer) -> tuple[Part, ...]:
    """The pieces of an outline, as wide, high and deep as a layer.

    Parameters
    ----------
    name : str
        One of :data:`OUTLINES`, or "" for none.
    layer : Layer
        What it must fit.

    Returns
    -------
    tuple of Part
        Full-size metres; a layer without depth has them all at its front edge.

    Examples
    --------
    >>> house = outline_parts("house", Layer(name="Mill", near_m=12, width_m=8, height_m=4, depth_m=3))
    >>> [part.name for part in house][:3], house[0].behind_m
    (['Back wall', 'Front', 'Roof'], 3.0)
    >>> len(outline_parts("person", Layer(name="Row", near_m=8, width_m=2.55, height_m=1.75)))
    6
    """
    if not name:
        return ()
    outline = OUTLINES[name]
    fits = layer.width_m / (layer.height_m * outline.aspect)
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
        for place in range(min(count, 40))
        for piece in outline.parts
    )
