"""An outline out of an SVG drawing: every filled shape a flat piece; nothing is fetched, nothing carried
out.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import radians
from typing import Any
from xml.etree.ElementTree import Element, ParseError

from defusedxml import ElementTree
from defusedxml.common import DefusedXmlException
from fontTools.misc.transform import Identity, Transform
from fontTools.pens.recordingPen import RecordingPen
from fontTools.svgLib.path import parse_path
from fontTools.svgLib.path.shapes import PathBuilder
from PIL import ImageColor
from shapely import Polygon, box, make_valid
from shapely.geometry.base import BaseGeometry

from jungoptic.core.breakdown import Outline, Piece
from jungoptic.core.errors import InputError
from jungoptic.core.match import MOST_PARTS

MOST_BYTES = 2_000_000
_MOST_ELEMENTS = 4000
_MOST_DEPTH = 60
_MOST_POINTS = 400
_MOST_CORNERS = 20_000  # of one shape, before it is made plainer
_CURVE_STEPS = 12
_LEAST_SHARE = 2e-5  # of the drawing's area; what is smaller is dust
_GREY = "#808080"
_UNSEEN = frozenset(
    {"defs", "clipPath", "mask", "symbol", "pattern", "marker", "metadata", "title", "desc", "style"}
)
_CARRIES = {
    "script": "a script",
    "foreignObject": "a page in it",
    "image": "a picture in it",
    "use": "references",
}
_OUTSIDE = re.compile(r"url\(\s*['\"]?(?!#)|^\s*(?:https?|ftp|file|javascript|data):|^//", re.IGNORECASE)
_TURN = re.compile(r"(matrix|translate|scale|rotate|skewX|skewY)\s*\(([^)]*)\)")
_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?")

Loop = list[tuple[float, float]]


@dataclass(frozen=True)
class _Shape:
    name: str
    colour: str
    loops: list[Loop]
    even_odd: bool


def _flat(path: str, turn: Transform) -> list[Loop]:
    """A path as loops of straight lines. Raises ValueError for one of too many corners."""
    pen = RecordingPen()
    parse_path(path, pen)
    loops: list[Loop] = []
    here = (0.0, 0.0)
    corners = 0
    for how, points in pen.value:
        if how == "moveTo":
            loops.append([])
        elif how not in ("lineTo", "curveTo", "qCurveTo"):
            continue
        steps = 1 if how in ("moveTo", "lineTo") else _CURVE_STEPS
        corners += steps
        if corners > _MOST_CORNERS:
            raise ValueError("too many corners")
        around = (here, *points) if steps > 1 else points
        for step in range(1, steps + 1):
            loops[-1].append(turn.transformPoint(_between(around, step / steps)))
        here = points[-1]
    return loops


def _between(points: Sequence[tuple[float, float]], share: float) -> tuple[float, float]:
    """So far along a curve of any degree (de Casteljau)."""
    while len(points) > 1:
        points = [
            ((1 - share) * x0 + share * x1, (1 - share) * y0 + share * y1)
            for (x0, y0), (x1, y1) in pairwise(points)
        ]
    return points[0]


def _tag(element: Element) -> str:
    return element.tag.rpartition("}")[2] if isinstance(element.tag, str) else ""


def _style(element: Element) -> dict[str, str]:
    pairs = (one.partition(":") for one in element.get("style", "").split(";"))
    written = {key.strip(): value.strip() for key, _, value in pairs if value}
    plain = {key: element.get(key, "") for key in ("fill", "stroke", "fill-rule", "display", "visibility")}
    return {key: value for key, value in (plain | written).items() if value}


def _turned(text: str) -> Transform:
    turn = Identity
    for how, numbers in _TURN.findall(text):
        values = [float(one) for one in _NUMBER.findall(numbers)]
        if how == "matrix" and len(values) == 6:
            turn = turn.transform(values)
        elif how == "translate":
            turn = turn.translate(*[*values, 0.0, 0.0][:2])
        elif how == "scale" and values:
            turn = turn.scale(values[0], values[1] if len(values) > 1 else values[0])
        elif how == "rotate" and values:
            x, y = [*values[1:], 0.0, 0.0][:2]
            turn = turn.translate(x, y).rotate(radians(values[0])).translate(-x, -y)
        elif values:
            lean = radians(values[0])
            turn = turn.skew(lean, 0.0) if how == "skewX" else turn.skew(0.0, lean)
    return turn


def _hex(words: str) -> str | None:
    """A colour as it is written; None for none, grey for what cannot be read (a gradient)."""
    if words in ("none", "transparent"):
        return None
    try:
        return "#{:02x}{:02x}{:02x}".format(*ImageColor.getrgb(words)[:3])
    except ValueError:
        return _GREY


def _refuse(name: str, why: str) -> InputError:
    return InputError.at("file", f"“{name}” {why}")


def _checked(element: Element, name: str) -> None:
    """Nothing that a drawing could carry out or fetch."""
    tag = _tag(element)
    if tag in _CARRIES:
        raise _refuse(name, f"carries {_CARRIES[tag]}: save it as plain paths, without anything else.")
    for key, value in element.attrib.items():
        plain = key.rpartition("}")[2].lower()
        if plain.startswith("on"):
            raise _refuse(name, "carries a script: save it as plain paths.")
        if _OUTSIDE.search(value) and not key.startswith("xmlns"):
            raise _refuse(name, "refers to something outside itself: save it as plain paths.")


def _shapes(
    element: Element, turn: Transform, handed: dict[str, str], name: str, depth: int
) -> Iterator[_Shape]:
    if depth > _MOST_DEPTH:
        raise _refuse(name, f"has groups within groups, more than {_MOST_DEPTH} deep: ungroup it.")
    if _tag(element) in _UNSEEN:
        return
    style = handed | _style(element)
    if style.get("display") == "none" or style.get("visibility") == "hidden":
        return
    turn = turn.transform(_turned(element.get("transform", "")))
    plain = Element(element.tag, {key: value for key, value in element.attrib.items() if key != "transform"})
    builder = PathBuilder()
    builder.add_path_from_element(plain)
    for path in builder.paths:
        colour = _hex(style.get("fill", "#000000")) or _hex(style.get("stroke", "none"))
        label = element.get("id") or element.get("{http://www.inkscape.org/namespaces/inkscape}label") or ""
        if colour:
            yield _Shape(label, colour, _flat(path, turn), style.get("fill-rule") == "evenodd")
    for child in element:
        yield from _shapes(child, turn, style, name, depth + 1)


def _area(shape: _Shape) -> BaseGeometry:
    """What a shape covers: a loop inside another is a hole where the rule says so."""
    loops = sorted((Polygon(loop) for loop in shape.loops if len(loop) > 2), key=lambda loop: -abs(loop.area))
    covered: BaseGeometry = Polygon()
    outer: list[Polygon] = []
    for loop in loops:
        whole = make_valid(loop)
        around = next((one for one in outer if one.buffer(0).contains(loop.representative_point())), None)
        if around is not None and (shape.even_odd or around.exterior.is_ccw != loop.exterior.is_ccw):
            covered = covered.difference(whole)
        else:
            outer.append(loop)
            covered = covered.union(whole)
    return covered


def _simple(area: BaseGeometry) -> Iterator[Polygon]:
    """Polygons without holes that cover the same: cut in two through a hole."""
    for one in getattr(area, "geoms", [area]):
        if not isinstance(one, Polygon):
            if hasattr(one, "geoms"):
                yield from _simple(one)
            continue
        if not one.interiors:
            yield one
            continue
        left, low, right, high = one.bounds
        middle = one.interiors[0].centroid.x
        for half in (box(left, low, middle, high), box(middle, low, right, high)):
            yield from _simple(one.intersection(half))


def _plainer(polygon: Polygon, size: float) -> Loop:
    away = size / 4000.0
    kept = polygon.simplify(away)
    while len(kept.exterior.coords) > _MOST_POINTS:
        away *= 1.6
        kept = polygon.simplify(away)
    return list(kept.exterior.coords)[:-1]


def svg_outline(name: str, data: bytes, height_m: float = 1.0) -> Outline:
    """The filled shapes of an SVG as an outline so high; hidden ones, definitions and lines are left out.

    Raises InputError at ``file``: what is too large, is no SVG, carries a script, a picture or references.
    """
    if len(data) > MOST_BYTES:
        raise _refuse(
            name,
            f"has {len(data) / 1e6:.1f} MB; up to {MOST_BYTES / 1e6:.0f} MB are read: save it plainer.",
        )
    try:
        root = ElementTree.fromstring(data, forbid_dtd=False)
    except DefusedXmlException:
        raise _refuse(name, "declares entities of its own: save it as plain SVG.") from None
    except (ParseError, ValueError, LookupError):
        raise _refuse(name, "could not be read as an SVG: it may be damaged or of another kind.") from None
    if _tag(root) != "svg":
        raise _refuse(name, "is XML, but no SVG.")
    elements = list(root.iter())
    if len(elements) > _MOST_ELEMENTS:
        raise _refuse(
            name, f"has {len(elements)} elements; up to {_MOST_ELEMENTS} are read: save it plainer."
        )
    for element in elements:
        _checked(element, name)
    try:
        drawn = [(one, _area(one)) for one in _shapes(root, Identity, {}, name, 0)]
    except InputError:
        raise
    except Exception:  # whatever a damaged path makes of the libraries that read it
        raise _refuse(name, "has a path that could not be read: save it as plain paths.") from None
    return _outline(name, [(one, area) for one, area in drawn if area.area > 0], height_m)


def _outline(name: str, drawn: list[tuple[_Shape, Any]], height_m: float) -> Outline:
    if not drawn:
        raise _refuse(name, "has no filled shape: convert lines and text to paths.")
    bounds = [area.bounds for _, area in drawn]
    left, high = min(one[0] for one in bounds), min(one[1] for one in bounds)
    wide, tall = max(one[2] for one in bounds) - left, max(one[3] for one in bounds) - high
    if not (0 < wide < 1e9 and 0 < tall < 1e9) or not 1e-3 < wide / tall < 1e3:
        raise _refuse(name, "is drawn too flat or too large to stand anywhere.")
    pieces: list[Piece] = []
    for shape, area in drawn:
        simple = [one for one in _simple(area) if one.area > _LEAST_SHARE * wide * tall]
        for place, polygon in enumerate(simple):
            points = tuple(
                (round(min(max((x - left) / wide, 0), 1), 4), round(min(max(1 - (y - high) / tall, 0), 1), 4))
                for x, y in _plainer(polygon, max(wide, tall))
            )
            if len(points) < 3:
                continue
            label = (shape.name or f"Shape {len(pieces) + 1}")[:70]
            pieces.append(
                Piece(
                    name=label if len(simple) == 1 else f"{label} {place + 1}",
                    colour=shape.colour,
                    points=points,
                )
            )
    if len(pieces) > MOST_PARTS:
        raise _refuse(
            name, f"has {len(pieces)} shapes; up to {MOST_PARTS} are read: join those of one colour."
        )
    if not pieces:
        raise _refuse(name, "has no shape that is large enough to be seen.")
    return Outline(width_m=round(height_m * wide / tall, 4), height_m=height_m, parts=tuple(pieces))
