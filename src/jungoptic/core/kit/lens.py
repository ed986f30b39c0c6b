"""Lenses: primes and zooms, and which of several serves."""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Annotated, Self

from pydantic import model_validator

from .. import quantities as q
from ..errors import refuse
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

    def has_stop(self, f_number: float) -> bool:
        """Whether a prime has a stop.

        Parameters
        ----------
        f_number : float
            Stop.

        Returns
        -------
        bool
            Its ends included, to what can be read off a ring.

        References
        ----------
        engraved_stops

        Examples
        --------
        >>> Lens(
        ...     name="35 mm", focal_length_mm=35, widest_f_number=2, smallest_f_number=22,
        ...     closest_focus_m=0.3,
        ... ).has_stop(1.4)
        False
        """
        wide, small = exact_stop(self.widest_f_number), exact_stop(self.smallest_f_number)
        return wide * 0.998 <= f_number <= small * 1.002

    def focuses_at(self, distance_m: float) -> bool:
        """Whether a prime focuses at a distance.

        Parameters
        ----------
        distance_m : float
            Metres from the entrance pupil.

        Returns
        -------
        bool
            Its ends included.

        References
        ----------
        thin_lens

        Examples
        --------
        >>> Lens(
        ...     name="35 mm", focal_length_mm=35, widest_f_number=2, smallest_f_number=22,
        ...     closest_focus_m=0.3,
        ... ).focuses_at(0.25)
        False
        """
        farthest = self.farthest_focus_m or math.inf
        return self.closest_focus_m * (1 - 1e-9) <= distance_m <= farthest * (1 + 1e-9)

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
            Both.

        References
        ----------
        engraved_stops, thin_lens

        Examples
        --------
        >>> Lens(
        ...     name="35 mm", focal_length_mm=35, widest_f_number=2, smallest_f_number=22,
        ...     closest_focus_m=0.3,
        ... ).can(8, 0.25)
        False
        """
        return (f_number is None or self.has_stop(f_number)) and (
            focus_distance_m is None or self.focuses_at(focus_distance_m)
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


def fitting_lens(
    lenses: Sequence[Lens],
    focal_length_mm: float,
    f_number: float | None = None,
    focus_distance_m: float | None = None,
) -> int | None:
    """Which of several lenses serves: a prime before a zoom, and of those the first that can do the rest.

    Parameters
    ----------
    lenses : sequence of Lens
        Those that are at hand.
    focal_length_mm : float
        Focal length, mm.
    f_number : float, optional
        Stop that it should have.
    focus_distance_m : float, optional
        Where it should focus, metres from the entrance pupil.

    Returns
    -------
    int or None
        Its place among them; the first of this focal length where none can do the rest, None where none
        reaches it.

    References
    ----------
    zoom_between

    Examples
    --------
    >>> prime = Lens(
    ...     name="50 mm", focal_length_mm=50, widest_f_number=2, smallest_f_number=22, closest_focus_m=0.45
    ... )
    >>> close = prime.model_copy(update={"name": "50 mm close-up", "closest_focus_m": 0.15})
    >>> fitting_lens([prime, close], 50, 8, 0.2)
    1
    """
    reaching = sorted(
        (place for place, lens in enumerate(lenses) if lens.reaches(focal_length_mm)),
        key=lambda place: lenses[place].longest_mm is not None,
    )
    able = (
        place
        for place in reaching
        if lenses[place].turned_to(focal_length_mm).can(f_number, focus_distance_m)
    )
    return next(able, reaching[0] if reaching else None)
