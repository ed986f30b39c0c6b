"""How fast what moves in a layer goes, as the hero would see it: by its driver, its scale and the rate."""

from __future__ import annotations

from typing import Any

import numpy as np

from ..scale import similarity
from .layer import Layer
from .records import SetUp

FIRE_DRIVER = "fire"
MOVING_DRIVERS = frozenset({"gravity", "set_speed", "fire"})


def pace_of(hero: SetUp, layer: Layer, setup: SetUp) -> tuple[float, float, float]:
    """Speed in the finished picture over the right one, the rate that would marry, and the speed on the set.

    Parameters
    ----------
    hero, setup : SetUp
        The plate's camera, and what films the layer; its rate and its speed of the model may be arrays.
    layer : Layer
        What moves.

    Returns
    -------
    ratio : float
        1 is right.
    wanted_fps : float
        Frames/s.
    speed_m_s : float
        Metres of the set for each second; 0 where nothing moves.

    References
    ----------
    froude
    """
    hero_fps, fps = hero.capture_fps, setup.capture_fps
    if layer.driver not in MOVING_DRIVERS:
        return 1.0, hero_fps, 0.0
    if layer.driver == "set_speed":
        wanted = similarity.set_speed_m_s(layer.fastest_m_s, layer.scale, fps, hero_fps)
        speed = wanted if setup.model_speed_m_s is None else setup.model_speed_m_s
        return (speed / wanted if np.all(wanted > 0) else 1.0), fps, speed
    wanted_fps = similarity.gravity_rate_fps(layer.scale, hero_fps)
    if layer.driver == FIRE_DRIVER:
        other_fps = hero_fps * layer.scale
        fits: Any = np.clip(fps, np.minimum(wanted_fps, other_fps), np.maximum(wanted_fps, other_fps))
        wanted_fps = float(fits) if np.ndim(fits) == 0 else fits
    return wanted_fps / fps, wanted_fps, similarity.gravity_speed_m_s(layer.fastest_m_s, layer.scale)


def off_pace_pct(ratio: Any) -> Any:
    """How far a speed is off, whichever way, %: twice as fast and half as fast are both 100. An array for an
    array.
    """
    if isinstance(ratio, float):
        return 100.0 * (max(ratio, 1.0 / ratio) - 1.0 if ratio > 0 else 1.0)
    ratios = np.asarray(ratio, dtype=float)
    with np.errstate(divide="ignore"):
        return 100.0 * np.where(ratios > 0, np.maximum(ratios, 1.0 / ratios) - 1.0, 1.0)
