"""More of the simulated camera held against the comparison: how wide a recording's own pixels are, of luma
and of colour, by a slanted edge (ISO 12233); and where the light comes from, by the faces of a block.
"""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np

from ..light import LUMA, bt709_signal
from ..light.colour import angle_between_deg
from ..match.in_set import judge_in_set
from ..match.layer import Part
from ..match.measure import Match
from ..match.pose import Array
from ..match.records import Delivery, SetUp
from .charts import WIDTH, chart, film
from .effects import Effects
from .picture import Image

_SLANT = 0.1  # of its height
_REACH_PX = 50.0
_BINS_A_PX = 2
_ROWS = 120
_SMALL = Delivery(width_px=384, height_px=216)  # five pixels of the picture are one: its own do not count


def _edge(left: str, right: str) -> tuple[Part, Part]:
    """Two patches that meet in a slanted edge in the middle of the frame."""
    low, high, wide, off = 0.6, 2.0, 2.0, _SLANT / 2.0
    return (
        Part(name="Left", colour=left, points=((-wide, low), (-wide, high), (off, high), (-off, low))),
        Part(name="Right", colour=right, points=((-off, low), (off, high), (wide, high), (wide, low))),
    )


def _width_px(plane: Image, foot: Array, top: Array) -> float:
    """Standard deviation of the spread of an edge between two places of a picture, px."""
    middle = (foot[1] + top[1]) / 2.0
    rows = np.arange(round(middle) - _ROWS, round(middle) + _ROWS)
    places = foot[0] + (rows + 0.5 - foot[1]) / (top[1] - foot[1]) * (top[0] - foot[0])
    left = round(foot[0]) - 80
    columns = np.arange(left, left + 160)
    away = (columns + 0.5)[None] - places[:, None]
    inside = np.abs(away) < _REACH_PX
    bins = np.floor((away[inside] + _REACH_PX) * _BINS_A_PX).astype(int)
    values = plane[rows[0] : rows[-1] + 1, columns[0] : columns[-1] + 1][inside]
    profile = np.bincount(bins, values) / np.maximum(np.bincount(bins), 1)
    rises = np.diff(profile)
    x = np.arange(len(rises)) / _BINS_A_PX
    at_edge = float((rises * x).sum() / rises.sum())
    return math.sqrt(float((rises * (x - at_edge) ** 2).sum() / rises.sum()))


def _spread_px(match: Match, effect: str) -> float:
    """What an effect adds to the width of an edge, as the side of a pixel that makes it, delivered px: a
    pixel of side p, drawn by straight lines between its middles, adds p²/12 + p²/6.
    """
    foot_m, top_m = match.layer.parts[1].outline[:2]
    each = WIDTH / match.delivery.width_px
    widths = []
    for effects in (Effects.only(), Effects.only(effect)):
        planes, camera = film(match, effects)
        foot, top = camera.view.seen(np.array([foot_m, top_m]), *camera.size) * camera.k
        signal = bt709_signal(np.maximum(planes[:3], 0.0))
        seen = signal[0] - np.tensordot(LUMA, signal, 1) if effect == "chroma" else planes[1]
        widths.append(_width_px(seen, foot, top))
    return 2.0 * math.sqrt(max(widths[1] ** 2 - widths[0] ** 2, 0.0)) / each


def recorded_pixels(hero: SetUp, model: SetUp) -> Iterator[tuple[str, str, float, float, str]]:
    """Item, what is wrong, predicted, measured and unit: enlargement and colour sampling."""
    grey, coloured = chart(*_edge("#ffffff", "#404040")), chart(*_edge("#b03030", "#308030"))
    for width_px in (256, 192):
        small = model.but(recorded_width_px=width_px, recorded_height_px=width_px * 9 // 16)
        match = Match(hero, grey, small, _SMALL)
        predicted = 1.0 + match.amounts["sharpness"] / 100.0
        yield (
            "sharpness",
            f"{width_px} px for {_SMALL.width_px}",
            predicted,
            _spread_px(match, "enlargement"),
            "px",
        )
    for sampling, width_px in (("4:2:2", 384), ("4:2:0", 256)):
        small = model.but(
            sampling=sampling, recorded_width_px=width_px, recorded_height_px=width_px * 9 // 16
        )
        match = Match(hero, coloured.but(combine="key"), small, _SMALL)
        predicted = match.amounts["chroma"]
        yield (
            "chroma",
            f"{sampling} of {width_px} px for {_SMALL.width_px}",
            predicted,
            _spread_px(match, "chroma"),
            "px",
        )


def key_direction(hero: SetUp, model: SetUp) -> Iterator[tuple[str, str, float, float, str]]:
    """As above: how far the key stands from the hero's, read off three faces of a block."""
    front = ((-1.6, 0.2), (-1.6, 1.2), (-0.6, 1.2), (-0.6, 0.2))
    lid = Part(name="Lid", lies=True, raised_m=1.2, points=((-1.6, 0), (-0.6, 0), (-0.6, 3), (-1.6, 3)))
    block = Part(name="Block", points=front, thickness_m=3.0)
    wants = hero.but(key_azimuth_deg=20.0, key_elevation_deg=30.0, key_to_fill_stops=2.0)
    has = model.but(key_azimuth_deg=60.0, key_elevation_deg=20.0, key_to_fill_stops=2.0)
    layer = chart(block, lid, depth_m=3.0)
    match = Match(wants, layer, has, Delivery())
    planes, camera = film(match, Effects.only("shading"))
    tones = []
    for place in ((-1.1, 0.7, 0.0), (-0.6, 0.7, 1.0), (-1.1, 1.2, 0.4)):
        x, y = camera.view.seen(np.array([place]), *camera.size)[0]
        tones.append(float(planes[1, int(y), int(x)]))
    fill = 2.0**-2.0

    def towards(scale: float) -> Array:
        ahead, aside, above = ((tone * scale - fill) / (1.0 - fill) for tone in tones)
        return np.array([aside, above, -ahead])

    low, high = 0.0, 100.0  # the light's direction has length 1
    for _ in range(60):
        middle = (low + high) / 2.0
        low, high = (middle, high) if float(np.linalg.norm(towards(middle))) < 1.0 else (low, middle)
    light = towards(high)
    azimuth = math.degrees(math.atan2(light[0], -light[2]))
    elevation = math.degrees(math.asin(float(np.clip(light[1], -1.0, 1.0))))
    predicted = next(
        judged.amount for judged in judge_in_set(wants, layer, has, Delivery()) if judged.item == "direction"
    )
    yield (
        "direction",
        "from 20°, 30° up to 60°, 20° up",
        predicted,
        angle_between_deg(azimuth, elevation, 20.0, 30.0),
        "°",
    )
