"""Lines of the board that mean something: records in pixels of the delivered frame, and their geometry."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated

from pydantic import Field, model_validator
from shapely import Polygon, box
from shapely.geometry.base import BaseGeometry

from .. import quantities as q
from ..errors import refuse
from ..vocabulary import LINES, MOST_POINTS, LineKind

Coordinate = Annotated[float, Field(ge=-100000, le=100000, allow_inf_nan=False)]


class BoardLine(q.Record):
    """One line, zone or mark over the picture, with its note. Points are (x, y) from the top left, delivered
    px.

    ``layer`` names the layer that it speaks of: the one that passes behind a matte line, the one that must
    be painted out. A framing is two opposite corners; marks are one point. Without frames it holds for the
    whole shot.
    """

    kind: LineKind
    points: Annotated[
        tuple[tuple[Coordinate, Coordinate], ...], Field(title="Points", max_length=MOST_POINTS)
    ]
    note: Annotated[str, Field(title="Note", max_length=300)] = ""
    layer: Annotated[str, Field(title="Layer", max_length=80)] = ""
    thing: Annotated[str, Field(title="What", max_length=80)] = ""
    first_frame: Annotated[int | None, q.quantity("From frame", "", ge=0, le=1_000_000)] = None
    last_frame: Annotated[int | None, q.quantity("To frame", "", ge=0, le=1_000_000)] = None
    feather_px: Annotated[float, q.quantity("Feather", "px", ge=0, le=10000)] = 0.0

    @model_validator(mode="after")
    def _enough_points(self) -> BoardLine:
        least, most = LINES[self.kind].least, LINES[self.kind].most
        if not least <= len(self.points) <= most:
            wanted = f"{least}" if least == most else f"at least {least}"
            raise refuse(
                "points",
                f"{LINES[self.kind].name} wants {wanted} point{'s' if least > 1 else ''}; {len(self.points)}"
                " were drawn.",
            )
        if self.kind == "framing" and (
            self.points[0][0] == self.points[1][0] or self.points[0][1] == self.points[1][1]
        ):
            raise refuse("points", "The final framing has no size: draw it from corner to corner.")
        if (
            self.first_frame is not None
            and self.last_frame is not None
            and self.last_frame < self.first_frame
        ):
            raise refuse(
                "last_frame", f"To frame must be at least {self.first_frame}; {self.last_frame} was given."
            )
        return self

    @property
    def rectangle(self) -> tuple[float, float, float, float]:
        """Left, top, right and bottom of its points, px."""
        xs, ys = [x for x, _ in self.points], [y for _, y in self.points]
        return min(xs), min(ys), max(xs), max(ys)

    def y_at(self, x: float) -> float | None:
        """Height of the line where it passes a place across.

        Parameters
        ----------
        x : float
            From the left, delivered px.

        Returns
        -------
        float or None
            From the top, delivered px: the highest if it passes more than once, None beside it.

        Examples
        --------
        >>> BoardLine(kind="matte", points=((0, 600), (100, 500))).y_at(25)
        575.0
        """
        return _crossing(self.points, x, 0)

    def x_at(self, y: float, *, rightmost: bool) -> float | None:
        """Where the line passes a height.

        Parameters
        ----------
        y : float
            From the top, delivered px.
        rightmost : bool
            The rightmost place if it passes more than once, or the leftmost.

        Returns
        -------
        float or None
            From the left, delivered px; None above and below it.

        Examples
        --------
        >>> BoardLine(kind="split", points=((900, 0), (960, 1080))).x_at(540, rightmost=True)
        930.0
        """
        places = _crossings(self.points, y, 1)
        return (max(places) if rightmost else min(places)) if places else None

    @property
    def zone(self) -> BaseGeometry:
        """The area that it closes, made simple where it crosses itself."""
        return Polygon(self.points).buffer(0) if len(self.points) >= 3 else box(*self.rectangle)

    def share_pct(self, width_px: int, height_px: int) -> float:
        """Its share of the delivered frame.

        Parameters
        ----------
        width_px, height_px : int
            The delivered frame, px.

        Returns
        -------
        float
            Per cent.

        References
        ----------
        framing

        Examples
        --------
        >>> BoardLine(kind="framing", points=((0, 0), (960, 1080))).share_pct(1920, 1080)
        50.0
        """
        inside = self.zone.intersection(box(0, 0, width_px, height_px))
        return float(100.0 * inside.area / (width_px * height_px))

    def frames(self, length_frames: int) -> int:
        """For how many frames of the shot it holds.

        Parameters
        ----------
        length_frames : int
            Of the shot.

        Returns
        -------
        int
            All of them where it names none.

        Examples
        --------
        >>> BoardLine(kind="keep_clear", points=((0, 0), (9, 0), (9, 9)), first_frame=90).frames(96)
        6
        """
        first = self.first_frame or 0
        last = length_frames - 1 if self.last_frame is None else min(self.last_frame, length_frames - 1)
        return max(0, last - first + 1)


def _crossings(points: tuple[tuple[float, float], ...], place: float, along: int) -> list[float]:
    other = 1 - along
    places = []
    for here, there in pairwise(points):
        low, high = sorted((here[along], there[along]))
        if not low <= place <= high:
            continue
        if high == low:
            places += [here[other], there[other]]
        else:
            share = (place - here[along]) / (there[along] - here[along])
            places.append(here[other] + share * (there[other] - here[other]))
    return places


def _crossing(points: tuple[tuple[float, float], ...], place: float, along: int) -> float | None:
    places = _crossings(points, place, along)
    return min(places) if places else None
