"""Lenses: primes, zooms, and what is put before or behind them."""

from __future__ import annotations

import math
from typing import Annotated, Any, Self

from pydantic import model_validator

from .. import quantities as q
from ..errors import InputError, refuse
from .steps import exact_stop, stops_between


class Lens(q.Record):
    """A prime, or a zoom where ``longest_mm`` says how long it gets.

    Stops are engraved names' values; distances are taken from the entrance pupil. Of a zoom all is said of
    its short end, and of the long end what is another there.
    """

    name: str
    focal_length_mm: q.FocalLengthMm
    widest_f_number: Annotated[float, q.quantity("Widest stop", "f/", gt=0, le=1000)]
    smallest_f_number: Annotated[float, q.quantity("Smallest stop", "f/", gt=0, le=1000)]
    closest_focus_m: Annotated[
        float, q.quantity("Closest focus", "m", "From the entrance pupil.", gt=0, le=1000)
    ]
    longest_mm: Annotated[
        float | None, q.quantity("Longest focal length", "mm", "Empty = a prime.", gt=0, le=10_000)
    ] = None
    widest_long_f_number: Annotated[
        float | None,
        q.quantity("Widest stop at the long end", "f/", "Empty = the same all along.", gt=0, le=256),
    ] = None
    closest_long_m: Annotated[
        float | None,
        q.quantity("Closest focus at the long end", "m", "Empty = the same all along.", gt=0, le=1000),
    ] = None
    farthest_focus_m: Annotated[
        float | None,
        q.quantity("Farthest focus", "m", "Of a lens with something put on; empty = infinity.", gt=0, le=1e6),
    ] = None
    focusing: q.Focusing = "unit"
    distortion_pct: Annotated[
        float, q.quantity("Distortion at the corner", "%", "Barrel is negative.", ge=-50, le=50)
    ] = 0.0
    vignetting_stops: Annotated[float, q.quantity("Vignetting wide open", "stops", ge=0, le=10)] = 0.0
    measured_gate_mm: Annotated[
        float | None,
        q.quantity("Measured on a gate of", "mm", "Empty = the one that is recorded.", gt=0, le=100),
    ] = None

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.longest_mm is not None and self.longest_mm <= self.focal_length_mm:
            raise refuse(
                "longest_mm",
                f"The long end must be more than the short one, {self.focal_length_mm:g} mm;"
                f" {self.longest_mm:g} mm was given.",
            )
        widest = max(self.widest_f_number, self.widest_long_f_number or 0.0)
        if self.smallest_f_number < widest:
            raise refuse(
                "smallest_f_number",
                f"The smallest stop must be f/{widest:g} or smaller; f/{self.smallest_f_number:g} was given.",
            )
        if self.farthest_focus_m is not None and self.farthest_focus_m <= self.closest_focus_m:
            raise refuse(
                "farthest_focus_m",
                f"Farthest focus must be more than the closest, {self.closest_focus_m:g} m;"
                f" {self.farthest_focus_m:g} m was given.",
            )
        return self

    def reaches(self, focal_length_mm: float) -> bool:
        """Whether it can be set to a focal length.

        Parameters
        ----------
        focal_length_mm : float
            Focal length, mm.

        Returns
        -------
        bool
            Its ends included.

        References
        ----------
        zoom_between

        Examples
        --------
        >>> zoom = Lens(
        ...     name="zoom", focal_length_mm=18, longest_mm=55, widest_f_number=3.5, widest_long_f_number=5.6,
        ...     smallest_f_number=22, closest_focus_m=0.25,
        ... )
        >>> zoom.reaches(35), zoom.reaches(56)
        (True, False)
        """
        longest = self.longest_mm or self.focal_length_mm
        return self.focal_length_mm * (1 - 1e-6) <= focal_length_mm <= longest * (1 + 1e-6)

    def turned_to(self, focal_length_mm: float) -> Lens:
        """The prime that a zoom is when it is set to one of its focal lengths.

        Widest stop and closest focus are interpolated between the ends, evenly in the logarithm of the focal
        length.

        Parameters
        ----------
        focal_length_mm : float
            Focal length that it reaches, mm.

        Returns
        -------
        Lens
            Itself where it is a prime.

        References
        ----------
        zoom_between

        Examples
        --------
        >>> zoom = Lens(
        ...     name="zoom", focal_length_mm=18, longest_mm=72, widest_f_number=4, widest_long_f_number=5.6,
        ...     smallest_f_number=22, closest_focus_m=0.25,
        ... )
        >>> round(zoom.turned_to(36).widest_f_number, 2)
        4.8
        """
        if self.longest_mm is None:
            return self
        along = math.log(focal_length_mm / self.focal_length_mm) / math.log(
            self.longest_mm / self.focal_length_mm
        )

        def between(short: float, long: float | None) -> float:
            return short if long is None else short + (long - short) * min(max(along, 0.0), 1.0)

        return self.model_copy(
            update={
                "focal_length_mm": float(focal_length_mm),
                "longest_mm": None,
                "widest_f_number": between(self.widest_f_number, self.widest_long_f_number),
                "widest_long_f_number": None,
                "closest_focus_m": between(self.closest_focus_m, self.closest_long_m),
                "closest_long_m": None,
            }
        )

    def can(self, f_number: float | None, focus_distance_m: float | None) -> bool:
        """Whether a prime has a stop and focuses at a distance.

        Parameters
        ----------
        f_number : float or None
            Stop; None = any.
        focus_distance_m : float or None
            Metres from the entrance pupil; None = any.

        Returns
        -------
        bool
            Within what can be read off a ring.

        References
        ----------
        engraved_stops

        Examples
        --------
        >>> Lens(
        ...     name="35 mm", focal_length_mm=35, widest_f_number=2, smallest_f_number=22,
        ...     closest_focus_m=0.3,
        ... ).can(8, 0.25)
        False
        """
        wide, small = exact_stop(self.widest_f_number) * 0.998, exact_stop(self.smallest_f_number) * 1.002
        near, far = self.closest_focus_m * (1 - 1e-9), (self.farthest_focus_m or math.inf) * (1 + 1e-9)
        return (f_number is None or wide <= f_number <= small) and (
            focus_distance_m is None or near <= focus_distance_m <= far
        )

    @property
    def engraved_mm(self) -> str:
        """Its focal length as it is engraved: 35, or 18–55."""
        return f"{self.focal_length_mm:g}" + (f"–{self.longest_mm:g}" if self.longest_mm else "")

    def faults(self) -> dict[str, float | None]:
        """What the lens brings with it into a set-up.

        Returns
        -------
        dict
            Values by the set-up's fields: widest f-number, distortion in %, vignetting in stops, the gate in
            whose corner they were measured in mm.

        Examples
        --------
        >>> Lens(
        ...     name="35 mm", focal_length_mm=35, widest_f_number=2, smallest_f_number=22,
        ...     closest_focus_m=0.3, distortion_pct=-1.2,
        ... ).faults()
        {'widest_f_number': 2.0, 'distortion_pct': -1.2, 'vignetting_stops': 0.0, 'measured_gate_mm': None}
        """
        return {
            "widest_f_number": self.widest_f_number,
            "distortion_pct": self.distortion_pct,
            "vignetting_stops": self.vignetting_stops,
            "measured_gate_mm": self.measured_gate_mm,
        }

    @property
    def stops(self) -> list[tuple[str, float]]:
        """Its engraved stops: (name, exact f-number), widest first."""
        return stops_between(self.widest_f_number, self.smallest_f_number)


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
