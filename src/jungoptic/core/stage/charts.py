"""Charts for the simulated camera, and how a picture of one is measured."""

from __future__ import annotations

from typing import Any

import numpy as np

from ..match.layer import Layer, Part
from ..match.measure import Match
from ..match.records import Delivery, SetUp
from .camera import Camera
from .effects import Effects
from .picture import Image

WIDTH = 1920


def dot(x: float, y: float, behind: float = 0.0, side: float = 0.025) -> Part:
    half = side / 2.0
    corners = ((x - half, y - half), (x - half, y + half), (x + half, y + half), (x + half, y - half))
    return Part(name=f"Dot {x:g} {y:g} {behind:g}", points=corners, behind_m=behind, colour="#ffffff")


def chart(*parts: Part, **fields: Any) -> Layer:
    deepest = max(part.behind_m for part in parts)
    values = {"kind": "model", "scale": 12.0, "near_m": 12.0, "width_m": 6.0, "height_m": 3.0}
    return Layer.read({"name": "Chart", "depth_m": deepest, **values, "parts": parts, **fields})


def moments(plane: Image, box: tuple[int, int, int, int]) -> tuple[float, float, float, float]:
    """Middle and variance of the light in a box, across and down, px."""
    left, top, right, bottom = box
    light = plane[top:bottom, left:right].astype(np.float64)
    total = light.sum()
    x, y = np.arange(left, right) + 0.5, np.arange(top, bottom) + 0.5
    columns, rows = light.sum(axis=0) / total, light.sum(axis=1) / total
    middle_x, middle_y = float((columns * x).sum()), float((rows * y).sum())
    return (
        middle_x,
        middle_y,
        float((columns * (x - middle_x) ** 2).sum()),
        float((rows * (y - middle_y) ** 2).sum()),
    )


def film(match: Match, effects: Effects, frame: float = 0.0) -> tuple[Image, Camera]:
    camera = Camera(match, frame, WIDTH, effects)
    return camera.film(), camera


def spots(match: Match, effects: Effects, frame: float = 0.0, reach: int = 60) -> list[tuple[float, ...]]:
    """Middle and variance of every dot of a chart, where it is seen."""
    planes, camera = film(match, effects, frame)
    come = camera.come
    spots: list[tuple[float, ...]] = []
    for part in match.layer.parts:
        x, y = camera.view.project([part.outline + come], *camera.size)[0].mean(axis=0).tolist()
        box = (
            max(round(x) - reach, 0),
            max(round(y) - reach, 0),
            min(round(x) + reach, WIDTH),
            min(round(y) + reach, planes.shape[1]),
        )
        spots.append(moments(planes[3], box))
    return spots


def as_wanted(hero: SetUp, layer: Layer, delivery: Delivery) -> Match:
    """The same things filmed full size by the hero's camera."""
    here = hero.model_copy(update={"distance_m": layer.near_m, "focus_distance_m": hero.focus_distance_m})
    return Match(hero, layer.but(scale=1.0), here, delivery)
