"""Outlines of the invented production, full-size metres, and the rows that they become."""

from __future__ import annotations

from math import cos, pi, sin
from typing import Any

from jungoptic.app.shots.models import Layer, Part, Shot

Points = list[list[float]]


def polygon(*points: tuple[float, float]) -> list[list[float]]:
    return [list(point) for point in points]


def house(left: float, right: float, eaves: float, ridge: float) -> list[list[float]]:
    middle = (left + right) / 2
    return polygon((left, 0), (left, eaves), (middle, ridge), (right, eaves), (right, 0))


def wheel(x: float, y: float, radius: float, paddles: int) -> list[list[float]]:
    """A paddle wheel's outline: each paddle stands a little out of the rim."""
    points = []
    for k in range(paddles):
        for turn, reach in ((0.0, 0.9), (0.35, 0.9), (0.38, 1.0), (0.62, 1.0), (0.65, 0.9)):
            a = 2 * pi * (k + turn) / paddles
            points.append([round(x + radius * reach * cos(a), 4), round(y + radius * reach * sin(a), 4)])
    return points


def spokes(x: float, y: float, radius: float, count: int) -> list[dict[str, Any]]:
    """The openings between a wheel's spokes, as parts in the colour of what is behind."""

    def at(turn: float, reach: float) -> list[float]:
        return [
            round(x + radius * reach * cos(2 * pi * turn), 4),
            round(y + radius * reach * sin(2 * pi * turn), 4),
        ]

    return [
        {
            "name": f"Opening {k + 1}",
            "behind_m": 1.39,
            "points": [
                at((k + 0.12) / count, 0.22),
                at((k + 0.1) / count, 0.78),
                at((k + 0.5) / count, 0.78),
                at((k + 0.9) / count, 0.78),
                at((k + 0.88) / count, 0.22),
            ],
            "colour": "#4c5560",
            "colour_low": "#3f4a56",
        }
        for k in range(count)
    ]


def person(x: float, tall: float = 1.7, coat: str = "#5a4a3c", behind: float = 0.0) -> list[dict[str, Any]]:
    """Somebody who stands: skirt and coat, head, arms a little off the body."""
    k = tall / 1.7

    def at(points: tuple[tuple[float, float], ...]) -> Points:
        return [[round(x + a * k, 3), round(b * k, 3)] for a, b in points]

    body = (
        (-0.2, 0),
        (-0.24, 0.75),
        (-0.3, 0.8),
        (-0.27, 1.35),
        (-0.1, 1.46),
        (0.1, 1.46),
        (0.27, 1.35),
        (0.3, 0.8),
        (0.24, 0.75),
        (0.2, 0),
    )
    head = tuple(
        (round(0.11 * cos(pi * n / 6), 3), round(1.58 + 0.13 * sin(pi * n / 6), 3)) for n in range(12)
    )
    return [
        {"name": "Figure", "behind_m": behind, "points": at(body), "colour": coat, "colour_low": "#2d2722"},
        {"name": "Head", "behind_m": behind, "points": at(head), "colour": "#c49a7c"},
    ]


def room(
    width: float, height: float, depth: float, wall: str = "#4a4640", floor: str = "#2e2b28"
) -> list[dict[str, Any]]:
    """Back wall and floor of a room, counted from its front edge."""
    half = width / 2
    return [
        {
            "name": "Wall",
            "behind_m": depth,
            "points": polygon((-half, 0), (-half, height), (half, height), (half, 0)),
            "colour": wall,
            "colour_low": "#38342f",
        },
        {
            "name": "Floor",
            "lies": True,
            "points": polygon((-half, 0), (half, 0), (half, depth), (-half, depth)),
            "colour": floor,
            "colour_low": floor,
        },
    ]


def card(
    left: float,
    right: float,
    low: float,
    high: float,
    colour: str,
    low_colour: str | None = None,
    *,
    name: str = "Picture",
    behind: float = 0.0,
) -> dict[str, Any]:
    """A flat upright piece."""
    return {
        "name": name,
        "behind_m": behind,
        "points": polygon((left, low), (left, high), (right, high), (right, low)),
        "colour": colour,
        "colour_low": low_colour,
    }


def add_layer(shot: Shot, place: int, name: str, parts: list[dict[str, Any]], **values: Any) -> Layer:
    """A layer with its parts in the database."""
    layer = Layer.objects.create(shot=shot, place=place, name=name, **values)
    Part.objects.bulk_create(Part(layer=layer, **part) for part in parts)
    return layer
