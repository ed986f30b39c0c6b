"""Sheets and a cutting list: what must be made, at its scale, laid on boards of the size that the shop
has.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated

from .. import quantities as q
from ..vocabulary import MM_PER_INCH

_EPS = 1e-9


class Sheet(q.Record):
    """A board as the shop sells it."""

    width_mm: Annotated[float, q.quantity("Sheet width", "mm", gt=0, le=100000)] = 1220.0
    height_mm: Annotated[float, q.quantity("Sheet height", "mm", gt=0, le=100000)] = 2440.0
    kerf_mm: Annotated[float, q.quantity("Lost at each cut", "mm", ge=0, le=100)] = 3.0
    price: Annotated[
        float, q.quantity("Price of a sheet", "", "In the production's own money.", ge=0, le=1e6)
    ] = 20.0


@dataclass(frozen=True, slots=True)
class Cut:
    """One rectangle to cut. ``sheet``, ``x_mm`` and ``y_mm`` say where it lies; turned by a quarter when
    ``turned``.
    """

    name: str
    width_mm: float
    height_mm: float
    sheet: int
    x_mm: float
    y_mm: float
    turned: bool

    @property
    def inches(self) -> tuple[float, float]:
        """Width and height, inches."""
        return self.width_mm / MM_PER_INCH, self.height_mm / MM_PER_INCH


@dataclass(frozen=True, slots=True)
class CuttingList:
    """All cuts, how many sheets they take, and what is used of them (0 to 1)."""

    cuts: tuple[Cut, ...]
    sheets: int
    used: float
    price: float


def panels(
    name: str, width_m: float, height_m: float, scale: float, sheet: Sheet
) -> list[tuple[str, float, float]]:
    """A rectangle of the full-size set at its scale, in equal panels where it is larger than a sheet.

    Parameters
    ----------
    name : str
        What it is.
    width_m, height_m : float
        Full-size metres.
    scale : float
        It is made 1:scale.
    sheet : Sheet
        As the shop sells it; either way round.

    Returns
    -------
    list of tuple
        Name, width and height of each, mm.

    References
    ----------
    sheets

    Examples
    --------
    >>> cut = panels("Wall", 36.0, 20.0, 12.0, Sheet())
    >>> len(cut), cut[0][0], [round(side) for side in cut[0][1:]]
    (3, 'Wall 1/3', [1000, 1667])
    """
    width, height = 1000.0 * width_m / scale, 1000.0 * height_m / scale
    best: tuple[int, int] = (1, 1)
    fewest = math.inf
    for long, short in ((sheet.width_mm, sheet.height_mm), (sheet.height_mm, sheet.width_mm)):
        across, up = math.ceil(width / long - _EPS), math.ceil(height / short - _EPS)
        if across * up < fewest:
            best, fewest = (max(across, 1), max(up, 1)), across * up
    across, up = best
    count = across * up
    return [
        (name if count == 1 else f"{name} {n + 1}/{count}", width / across, height / up) for n in range(count)
    ]


def lay_out(wanted: Sequence[tuple[str, float, float]], sheet: Sheet) -> CuttingList:
    """Rectangles on sheets, in rows of like heights, highest first; each may be turned.

    Rows across a sheet are what a saw can cut. The count is never less than area ÷ sheet and is not proven
    least.

    Parameters
    ----------
    wanted : sequence of tuple
        Name, width and height of each, mm.
    sheet : Sheet
        As the shop sells it.

    Returns
    -------
    CuttingList
        Where each lies, mm, and how many sheets they take.

    References
    ----------
    sheets

    Examples
    --------
    >>> plan = lay_out([("Wall", 1000.0, 1200.0), ("Gable", 1000.0, 600.0)], Sheet())
    >>> plan.sheets, round(plan.used, 2)
    (1, 0.6)
    """
    sized = []
    for name, width, height in wanted:
        stands = width <= sheet.width_mm + _EPS and height <= sheet.height_mm + _EPS
        lies = height <= sheet.width_mm + _EPS and width <= sheet.height_mm + _EPS
        # Laid with its longer side across where that fits: rows stay low.
        turned = (not stands) or (lies and height > width and height <= sheet.width_mm)
        sized.append((name, height, width, True) if turned else (name, width, height, False))
    sized.sort(key=lambda size: (-size[2], -size[1], size[0]))
    rows: list[list[float]] = []  # sheet, top, height, used width
    tops: list[float] = []
    cuts = []
    for name, width, height, turned in sized:
        row = next((r for r in rows if r[2] >= height - _EPS and r[3] + width <= sheet.width_mm + _EPS), None)
        if row is None:
            sheet_index = next(
                (n for n, top in enumerate(tops) if top + height <= sheet.height_mm + _EPS), None
            )
            if sheet_index is None:
                tops.append(0.0)
                sheet_index = len(tops) - 1
            row = [sheet_index, tops[sheet_index], height, 0.0]
            tops[sheet_index] += height + sheet.kerf_mm
            rows.append(row)
        real = (height, width) if turned else (width, height)
        cuts.append(Cut(name, real[0], real[1], int(row[0]), row[3], row[1], turned))
        row[3] += width + sheet.kerf_mm
    area = sum(cut.width_mm * cut.height_mm for cut in cuts)
    whole = len(tops) * sheet.width_mm * sheet.height_mm
    return CuttingList(tuple(cuts), len(tops), area / whole if whole else 0.0, len(tops) * sheet.price)
