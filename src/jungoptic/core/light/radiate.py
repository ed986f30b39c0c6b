"""Light exchanged between surfaces. Plain formulas, arrays where a caller has many."""

from __future__ import annotations

import math

import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.float64]
_NODES, _WEIGHTS = np.polynomial.legendre.leggauss(40)
_TUBE_NODES, _TUBE_WEIGHTS = np.polynomial.legendre.leggauss(12)


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


def rectangle_factor(width_m: float, height_m: float, distance_m: float, facing_deg: float) -> float:
    """Configuration factor of a rectangle seen from an element in front of its centre.

    Exact when the element faces the rectangle (four corners); else the integral of cosθ₁·cosθ₂/(π·r²) over
    the part in front of it.

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
    howell

    Examples
    --------
    >>> round(rectangle_factor(2.0, 2.0, 1.0, 0.0), 4)
    0.5541
    """
    if facing_deg == 0:
        return 4 * corner_factor(width_m / 2 / distance_m, height_m / 2 / distance_m)
    turn = math.radians(abs(facing_deg))
    low = -width_m / 2
    if turn < math.pi:
        low = max(low, -distance_m / math.tan(turn)) if math.sin(turn) > 1e-12 else low
    if low >= width_m / 2 or (math.cos(turn) <= 0 and math.sin(turn) <= 1e-12):
        return 0.0
    x = low + (width_m / 2 - low) * (_NODES + 1) / 2
    y = height_m / 2 * _NODES
    xs, ys = np.meshgrid(x, y)
    r2 = xs**2 + ys**2 + distance_m**2
    ahead = np.clip(distance_m * math.cos(turn) + xs * math.sin(turn), 0.0, None)
    weights = np.outer(_WEIGHTS, _WEIGHTS) * (width_m / 2 - low) / 2 * height_m / 2
    return float(np.sum(weights * ahead * distance_m / (math.pi * r2**2)))


def lamp_on_plane(
    points: Array,
    place: tuple[float, float, float],
    intensity_cd: float,
    aim: tuple[float, float],
    beam_deg: float,
    length_m: float,
) -> Array:
    """Illuminance on points of the plane z = 0 from a lamp: ``Σ I·cosⁿ·cosθ/d²``.

    Parameters
    ----------
    points : ndarray, shape (n, 2)
        Points of the plane, metres.
    place : tuple of float
        Where the lamp stands (x, y, z), metres.
    intensity_cd : float
        Intensity on the axis, candela; of a tube, all along it.
    aim : tuple of float
        Point (x, y) of the plane that it is aimed at, metres.
    beam_deg : float
        Full angle at which the intensity has fallen to one half, degrees.
    length_m : float
        Length of a tube along x, metres; 0 for a point.

    Returns
    -------
    ndarray, shape (n,)
        Illuminance, lux.

    References
    ----------
    inverse_square

    Examples
    --------
    >>> lamp_on_plane(np.array([[0.0, 0.0]]), (0.0, 0.0, 2.0), 900.0, (0.0, 0.0), 110.0, 0.0).tolist()
    [225.0]
    """
    spots = (
        [(0.0, 1.0)]
        if length_m == 0
        else [
            (node / 2 * length_m, weight / 2) for node, weight in zip(_TUBE_NODES, _TUBE_WEIGHTS, strict=True)
        ]
    )
    power = math.log(0.5) / math.log(math.cos(math.radians(min(beam_deg, 178.0) / 2)))
    total = np.zeros(len(points))
    for shift, share in spots:
        origin = np.array([place[0] + shift, place[1], place[2]])
        axis = np.array([aim[0] + (shift if length_m else 0.0), aim[1], 0.0]) - origin
        axis /= np.linalg.norm(axis)
        rays = np.column_stack((points, np.zeros(len(points)))) - origin
        distance = np.linalg.norm(rays, axis=1)
        along = np.clip(rays @ axis / distance, 0.0, 1.0)
        total += share * intensity_cd * along**power * (origin[2] / distance) / distance**2
    return total
