"""What is put before or behind a lens: another lens comes of it."""

from __future__ import annotations

import math
from typing import Any

from ..errors import InputError
from .lens import Lens
from .steps import exact_stop


def with_close_up(lens: Lens, dioptres: float) -> Lens:
    """A lens with a close-up lens before it: ``f' = f/(1 + f·D)``, focus at ``1/(D + 1/d)``.

    Parameters
    ----------
    lens : Lens
        Focusing from its closest distance to infinity.
    dioptres : float
        Power of the close-up lens, 1/m.

    Returns
    -------
    Lens
        With a farthest focus, ``1/D``.

    References
    ----------
    close_up_lens

    Examples
    --------
    >>> prime = Lens(
    ...     name="50 mm", focal_length_mm=50, widest_f_number=2, smallest_f_number=22, closest_focus_m=0.4
    ... )
    >>> near = with_close_up(prime, 2)
    >>> round(near.focal_length_mm, 2), round(near.closest_focus_m, 4), near.farthest_focus_m
    (45.45, 0.2222, 0.5)
    """

    def shorter(focal_mm: float) -> float:
        return focal_mm / (1.0 + focal_mm * dioptres / 1000.0)

    def nearer(distance_m: float) -> float:
        return 1.0 / (dioptres + 1.0 / distance_m)

    return _changed(
        lens,
        name=f"{lens.name} + {dioptres:g} dioptres",
        focal_length_mm=shorter(lens.focal_length_mm),
        longest_mm=shorter(lens.longest_mm) if lens.longest_mm else None,
        closest_focus_m=nearer(lens.closest_focus_m),
        closest_long_m=nearer(lens.closest_long_m) if lens.closest_long_m else None,
        farthest_focus_m=nearer(lens.farthest_focus_m or math.inf),
    )


def with_tube(lens: Lens, tube_mm: float) -> Lens:
    """A prime with an extension tube behind it: the magnification rises by ``e/f``, and infinity is lost.

    The image distance grows by e: ``v = f·d/(d − f) + e``, and the focus falls at ``f·v/(v − f)``. The light
    that is lost is the close-up factor at that distance.

    Parameters
    ----------
    lens : Lens
        A prime that focuses as a unit.
    tube_mm : float
        Length of the tube, mm.

    Returns
    -------
    Lens
        With a closest and a farthest focus.

    Raises
    ------
    InputError
        For a zoom: its focus with a tube is nowhere near what its ring says.

    References
    ----------
    thin_lens, extension_tube

    Examples
    --------
    >>> prime = Lens(
    ...     name="50 mm", focal_length_mm=50, widest_f_number=2, smallest_f_number=22, closest_focus_m=0.45
    ... )
    >>> near = with_tube(prime, 12.5)
    >>> round(near.closest_focus_m, 4), round(near.farthest_focus_m, 4)
    (0.1833, 0.25)
    """
    if lens.longest_mm is not None:
        raise InputError.at("tube_mm", "A tube goes behind a prime: with a zoom its focus cannot be told.")
    f = lens.focal_length_mm

    def focus_m(distance_m: float) -> float:
        image = f + tube_mm if math.isinf(distance_m) else f / (1.0 - f / (1000.0 * distance_m)) + tube_mm
        return f * image / (image - f) / 1000.0

    return _changed(
        lens,
        name=f"{lens.name} + {tube_mm:g} mm tube",
        closest_focus_m=focus_m(lens.closest_focus_m),
        farthest_focus_m=focus_m(lens.farthest_focus_m or math.inf),
    )


def with_converter(lens: Lens, factor: float) -> Lens:
    """A lens with a converter: focal length and f-number are both multiplied.

    Parameters
    ----------
    lens : Lens
        Any.
    factor : float
        1.4 and 2 of a tele converter; less than 1 of one that makes it wider.

    Returns
    -------
    Lens
        It focuses as near as it did.

    References
    ----------
    converter

    Examples
    --------
    >>> prime = Lens(
    ...     name="85 mm", focal_length_mm=85, widest_f_number=2, smallest_f_number=22, closest_focus_m=0.85
    ... )
    >>> longer = with_converter(prime, 2)
    >>> longer.focal_length_mm, longer.widest_f_number
    (170.0, 4.0)
    """
    return _changed(
        lens,
        name=f"{lens.name} × {factor:g}",
        focal_length_mm=lens.focal_length_mm * factor,
        longest_mm=lens.longest_mm * factor if lens.longest_mm else None,
        widest_f_number=exact_stop(lens.widest_f_number) * factor,
        widest_long_f_number=(
            exact_stop(lens.widest_long_f_number) * factor if lens.widest_long_f_number else None
        ),
        smallest_f_number=exact_stop(lens.smallest_f_number) * factor,
    )


def _changed(lens: Lens, **values: Any) -> Lens:
    return Lens.read({**lens.model_dump(), **values})
