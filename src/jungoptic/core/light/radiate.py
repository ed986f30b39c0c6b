"""Light exchanged between surfaces. Plain formulas, arrays where a caller has many."""

from __future__ import annotations

import math

import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]
Point = tuple[float, float, float]


def corner_factor(a: float, b: float) -> float:
    """Configuration factor of an element that faces a rectangle's corner.

    Parameters
    ----------
    a, b : float
        Sides of the rectangle in units of its distance.

    Returns
    -------
    float
        Share of what the element sees that is the rectangle, 0 to ¼.

    References
    ----------
    howell

    Examples
    --------
    >>> round(corner_factor(1.0, 1.0), 4)
    0.1385
    """
    x, y = math.sqrt(1 + a * a), math.sqrt(1 + b * b)
    return (a / x * math.atan(b / x) + b / y * math.atan(a / y)) / (2 * math.pi)


def polygon_factor(corners: Array, place: Point, normal: Point) -> float:
    """Configuration factor of a flat polygon seen from an element: ``Σ θ·(n·γ) / 2π`` round its edges.

    θ is the angle that an edge spans, γ the unit normal of the plane through it and the element. What lies
    behind the element is cut away first.

    Parameters
    ----------
    corners : ndarray, shape (n, 3)
        Of a convex polygon, in order, metres.
    place : tuple of float
        Where the element is, metres.
    normal : tuple of float
        Which way it faces, unit length.

    Returns
    -------
    float
        Share of what the element sees that is the polygon, 0 to 1.

    References
    ----------
    howell, lambert

    Examples
    --------
    >>> square = np.array([(-1.0, -1.0, 1.0), (1.0, -1.0, 1.0), (1.0, 1.0, 1.0), (-1.0, 1.0, 1.0)])
    >>> round(polygon_factor(square, (0.0, 0.0, 0.0), (0.0, 0.0, 1.0)), 4)
    0.5541
    """
    facing = np.array(normal)
    rays = corners - np.array(place)
    above = rays @ facing
    before: list[Array] = []
    for ray, height, following, next_height in zip(
        rays, above, np.roll(rays, -1, axis=0), np.roll(above, -1), strict=True
    ):
        if height > 0:
            before.append(ray)
        if (height > 0) != (next_height > 0):
            before.append(ray + (following - ray) * height / (height - next_height))
    if len(before) < 3:
        return 0.0
    units = np.array(before)
    units = units / np.maximum(np.linalg.norm(units, axis=1), 1e-300)[:, None]
    crossed = np.cross(units, np.roll(units, -1, axis=0))
    long = np.linalg.norm(crossed, axis=1)
    spans = np.arctan2(long, (units * np.roll(units, -1, axis=0)).sum(axis=1))
    around = spans * (crossed @ facing) / np.maximum(long, 1e-300)
    return float(abs(around.sum()) / (2.0 * math.pi))


def rectangle_factor(width_m: float, height_m: float, distance_m: float, facing_deg: float) -> float:
    """Configuration factor of a rectangle seen from an element in front of its centre.

    Parameters
    ----------
    width_m, height_m : float
        Sides of the rectangle, metres.
    distance_m : float
        Distance of the element, metres.
    facing_deg : float
        How far the element is turned sideways from the rectangle, degrees.

    Returns
    -------
    float
        Share of what the element sees that is the rectangle, 0 to 1.

    References
    ----------
    howell, lambert

    Examples
    --------
    >>> round(rectangle_factor(2.0, 2.0, 1.0, 0.0), 4)
    0.5541
    """
    x, y = width_m / 2.0, height_m / 2.0
    corners = np.array([(-x, -y, distance_m), (x, -y, distance_m), (x, y, distance_m), (-x, y, distance_m)])
    turn = math.radians(facing_deg)
    return polygon_factor(corners, (0.0, 0.0, 0.0), (math.sin(turn), 0.0, math.cos(turn)))
