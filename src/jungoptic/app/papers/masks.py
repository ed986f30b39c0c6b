"""A mask for the monitor of a camera: what is drawn over a shot, as large as the picture stands there."""

from __future__ import annotations

import math
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from html import escape
from itertools import pairwise

import numpy as np
from django.template.loader import render_to_string

from jungoptic.app.line_up.standing import MASK_MM, layer_of, table_of
from jungoptic.app.papers.pdf import fonts
from jungoptic.app.productions.access import Versions
from jungoptic.core.errors import InputError
from jungoptic.core.match import BoardLine, Match
from jungoptic.core.plan import gate_in_frame, horizon_in_frame, in_recorded
from jungoptic.core.stage import outlines
from jungoptic.core.vocabulary import LINES

RULER_MM = 100
_ACROSS_MM, _DOWN_MM = 281.0, 176.0  # what a sheet of A4 has for it, its margins and its ruler left out
_SHARED_MM = 10.0  # of two sheets that are glued together
_PIECES = 64  # a line that the lens bends is drawn in so many pieces across the frame
_DASH_MM = 0.3  # for each px of a dash on the screen


@dataclass(frozen=True, slots=True)
class Drawn:
    """Something on a mask: its places in the delivered frame, px; its stroke, mm; dashes, mm; its name."""

    points: list[list[float]]
    closed: bool
    stroke_mm: float
    dashes: str = ""
    name: str = ""


def mask_html(shot_id: int, layer_id: int, versions: Versions, width_mm: float) -> str:
    """The mask of a layer's camera, A4, on as many sheets as the picture needs. Raises InputError.

    ``width_mm`` is how wide the whole recorded picture stands on the monitor, mm.
    """
    least, most = MASK_MM
    if not least <= width_mm <= most:
        raise InputError.at(
            "width_mm",
            f"A picture on a monitor is {least:.0f} to {most:.0f} mm wide: measure the picture, not the"
            " frame of the monitor.",
        )
    table = table_of(shot_id, versions, "measured", "metric")
    layer = layer_of(table, layer_id)
    match = table.match(layer)
    _, _, wide, high = gate_in_frame(match)
    tall_mm = width_mm * high / wide
    others = [table.match(one) for one in table.layers if one is not layer]
    drawn = "".join(
        _svg(match, thing, width_mm, tall_mm) for thing in _things(match, others, table.plan.lines)
    )
    sheets = [
        {"left": left, "top": top, "wide": across, "high": down, "number": number}
        for number, (left, top, across, down) in enumerate(_sheets(width_mm, tall_mm), 1)
    ]
    return render_to_string(
        "mask.html",
        {
            "title": f"{table.shot.code} {layer.name}",
            "width_mm": f"{width_mm:g}",
            "height_mm": f"{tall_mm:.1f}",
            "edge": {"wide": f"{width_mm:.3f}", "high": f"{tall_mm:.3f}"},
            "drawn": drawn,
            "sheets": sheets,
            "shared": f"{_SHARED_MM:g}",
            "ruler": RULER_MM,
            "fonts": fonts(),
        },
    )


def _sheets(wide: float, high: float) -> Iterator[tuple[float, float, float, float]]:
    """Which part of the picture each sheet shows, mm: left, top, width, height; neighbours share a strip."""
    columns, rows = (
        max(1, math.ceil((long - _SHARED_MM) / (room - _SHARED_MM)))
        for long, room in ((wide, _ACROSS_MM), (high, _DOWN_MM))
    )
    for row in range(rows):
        for column in range(columns):
            left, top = column * (_ACROSS_MM - _SHARED_MM), row * (_DOWN_MM - _SHARED_MM)
            yield left, top, min(_ACROSS_MM, wide - left), min(_DOWN_MM, high - top)


def _things(match: Match, others: Iterable[Match], lines: Iterable[BoardLine]) -> Iterator[Drawn]:
    """All that is drawn on a mask, what matters most last."""
    width, height = float(match.delivery.width_px), float(match.delivery.height_px)
    frame = [[0.0, 0.0], [width, 0.0], [width, height], [0.0, height]]
    yield Drawn(frame, closed=True, stroke_mm=0.35, name="delivered frame")
    yield Drawn(
        [list(end) for end in horizon_in_frame(match)],
        closed=False,
        stroke_mm=0.25,
        dashes="3 1.2",
        name="horizon",
    )
    for other in others:
        for part in outlines(other):
            yield Drawn(part.wanted, closed=True, stroke_mm=0.2, dashes="0.6 1.2")
    for line in lines:
        how = LINES[line.kind]
        places = [list(each) for each in line.points]
        if how.shape == "rectangle":
            left, top, right, bottom = line.rectangle
            places = [[left, top], [right, top], [right, bottom], [left, bottom]]
        dashes = " ".join(f"{float(length) * _DASH_MM:.2f}" for length in how.dash.split())
        closed = how.shape in ("zone", "rectangle")
        yield Drawn(places, closed=closed, stroke_mm=0.3, dashes=dashes, name=how.name.lower())
    for part in outlines(match):
        yield Drawn(part.wanted, closed=True, stroke_mm=0.5)


def _svg(match: Match, thing: Drawn, wide_mm: float, high_mm: float) -> str:
    """One thing as the lens bends it, in mm of the picture on the monitor."""
    corners = np.array(thing.points)
    if len(corners) == 1:
        x, y = (in_recorded(match, corners) * (wide_mm, high_mm))[0]
        body = f"M{x - 3:.2f} {y:.2f}h6M{x:.2f} {y - 3:.2f}v6"
    else:
        ends = np.concatenate([corners, corners[:1]]) if thing.closed else corners
        step = match.delivery.width_px / _PIECES
        pieces = [
            np.linspace(a, b, max(1, round(float(np.hypot(*(b - a))) / step)), endpoint=False)
            for a, b in pairwise(ends)
        ]
        bent = in_recorded(match, np.concatenate([*pieces, ends[-1:]])) * (wide_mm, high_mm)
        body = "M" + "L".join(f"{x:.2f} {y:.2f}" for x, y in bent) + ("Z" if thing.closed else "")
    dash = f' stroke-dasharray="{thing.dashes}"' if thing.dashes else ""
    path = f'<path d="{body}" fill="none" stroke="#000" stroke-width="{thing.stroke_mm}"{dash}/>'
    if not thing.name:
        return path
    x, y = (in_recorded(match, corners[:1]) * (wide_mm, high_mm))[0]
    x, y = min(max(x + 1.5, 1.5), wide_mm - 30.0), min(max(y - 1.0, 4.0), high_mm - 1.5)
    return (
        path + f'<text x="{x:.2f}" y="{y:.2f}" font-family="Card" font-size="2.6">{escape(thing.name)}</text>'
    )
