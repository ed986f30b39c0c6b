"""A layer: its place and size in the hero's full-size world, its parts, and what moves in it."""

from __future__ import annotations

from functools import cached_property
from typing import Annotated, Literal

import numpy as np
import numpy.typing as npt
from pydantic import Field

from .. import quantities as q
from ..vocabulary import Combine, Contact, Kept, Kind

HexColour = Annotated[str, Field(title="Colour", pattern=r"^#[0-9a-f]{6}$")]


class Part(q.Record):
    """A flat piece of a layer, in full-size metres: upright at ``behind_m``, or lying at the height of its
    ``base``.

    ``points`` are (x, y) with y above the layer's ground for an upright piece, (x, z) with z behind the near
    end for one that lies on the ground. ``colour`` is the real colour of the thing.
    """

    name: Annotated[str, Field(title="Name", max_length=80)]
    lies: bool = False
    behind_m: Annotated[float, q.quantity("Behind the near end", "m", "Full size.", ge=0, le=1e7)] = 0.0
    raised_m: Annotated[
        float, q.quantity("Above the ground", "m", "Of a piece that lies flat; full size.", ge=-1e4, le=1e4)
    ] = 0.0
    points: Annotated[tuple[tuple[float, float], ...], Field(title="Outline", min_length=3, max_length=400)]
    thickness_m: Annotated[
        float, q.quantity("Thickness", "m", "How deep an upright piece is, full size.", ge=0, le=1e7)
    ] = 0.0
    colour: Annotated[str, Field(title="Colour", pattern=r"^#[0-9a-f]{6}$")] = "#808080"
    colour_low: Annotated[str | None, Field(title="Colour at the foot", pattern=r"^#[0-9a-f]{6}$")] = None

    @cached_property
    def outline(self) -> npt.NDArray[np.float64]:
        """:meth:`corners_m` as an array, n × 3."""
        return np.array(self.corners_m())

    def corners_m(self) -> tuple[tuple[float, float, float], ...]:
        """Every point of the outline in space.

        Returns
        -------
        tuple of tuple of float
            (x, y above the layer's ground, z behind the near end), full-size metres.

        Examples
        --------
        >>> Part(name="Roof", behind_m=2.0, points=((0, 0), (1, 0), (1, 1))).corners_m()[2]
        (1.0, 1.0, 2.0)
        """
        if self.lies:
            return tuple((x, self.raised_m, z) for x, z in self.points)
        return tuple((x, y, self.behind_m) for x, y in self.points)


class Layer(q.Record):
    """A layer's place and size in the hero's full-size world, and what moves in it."""

    name: Annotated[str, Field(title="Name", min_length=1, max_length=80)]
    kind: Kind = "live"
    combine: Combine = "over"
    scale: q.Scale = 1.0
    near_m: Annotated[
        float, q.quantity("Near end", "m", "Full-size metres from the hero's lens.", gt=0, le=1e7)
    ]
    depth_m: Annotated[
        float, q.quantity("Depth", "m", "Full size, from the near end to the far end.", ge=0, le=1e7)
    ] = 0.0
    width_m: Annotated[float, q.quantity("Width", "m", "Full size.", gt=0, le=1e7)] = 1.0
    height_m: Annotated[float, q.quantity("Height", "m", "Full size.", gt=0, le=1e6)] = 1.0
    base_m: Annotated[
        float, q.quantity("Base", "m", "The layer's ground above the hero's, full size.", ge=-1e4, le=1e5)
    ] = 0.0
    offset_m: Annotated[
        float, q.quantity("To the side", "m", "Full size; right is positive.", ge=-1e6, le=1e6)
    ] = 0.0
    driver: q.Driver = "still"
    speed_m_s: Annotated[
        float, q.quantity("Fastest movement", "m/s", "Across the line of sight, full size.", ge=0, le=1e4)
    ] = 0.0
    fills_frame: bool = False
    resize: Annotated[float, q.quantity("Resize in the composite", "×", gt=0, le=20)] = 1.0
    seen_s: Annotated[float | None, q.quantity("On screen for", "s", gt=0, le=36000)] = None
    behind_weather: bool = False
    picture_width_px: Annotated[
        int | None,
        q.quantity(
            "Picture width", "px", "Painted and stock pictures: how wide the picture is.", gt=0, le=100000
        ),
    ] = None
    contact: Annotated[Contact, Field(title="Stands on")] = "nothing"
    kept: Annotated[tuple[Kept, ...], Field(title="Kept with it")] = ()
    paint_out: Annotated[str, Field(title="To be painted out", max_length=120)] = ""
    mirrored: Annotated[bool, Field(title="Mirrored")] = False
    lettering: Annotated[bool, Field(title="Lettering or handedness in it")] = False
    turned_deg: Annotated[
        float, q.quantity("Card turned from the lens", "°", "Of a flat picture or cut-out.", ge=-90, le=90)
    ] = 0.0
    gloss_azimuth_deg: Annotated[
        float | None,
        q.quantity(
            "Glossy side faces",
            "°",
            "0 = the lens, positive to camera right; empty = nothing glossy.",
            ge=-180,
            le=180,
        ),
    ] = None
    brightest_stops: Annotated[
        float | None,
        q.quantity(
            "Brightest that must keep detail", "stops", "Over mid-grey in a normal exposure.", ge=-10, le=30
        ),
    ] = None
    keep_colours: Annotated[tuple[HexColour, ...], Field(title="Colours that must stay", max_length=16)] = ()
    moves_from_m: Annotated[
        float | None,
        q.quantity(
            "Moves from", "m", "Left end of all that it does, full size; right is positive.", ge=-1e5, le=1e5
        ),
    ] = None
    moves_to_m: Annotated[float | None, q.quantity("Moves to", "m", "Right end.", ge=-1e5, le=1e5)] = None
    split_side: Annotated[Literal["", "left", "right"], Field(title="Side of the split")] = ""
    matte_line_px: Annotated[
        float | None,
        q.quantity(
            "Must stay below the line at",
            "px",
            "Matte line, from the top of the delivered frame.",
            ge=-10000,
            le=20000,
        ),
    ] = None
    travel_across_m: Annotated[
        float,
        q.quantity("Travels across", "m", "In the shot, full size; right is positive.", ge=-1e5, le=1e5),
    ] = 0.0
    travel_up_m: Annotated[float, q.quantity("Travels up", "m", ge=-1e5, le=1e5)] = 0.0
    travel_away_m: Annotated[float, q.quantity("Travels away", "m", ge=-1e6, le=1e6)] = 0.0
    parts: tuple[Part, ...] = ()

    @property
    def sweep_m(self) -> tuple[float, float]:
        """Left and right end of all that the layer does, full-size metres from the hero's axis; its own
        width when nothing is said.
        """
        half = self.width_m / 2.0
        left = (
            self.offset_m - half + min(0.0, self.travel_across_m)
            if self.moves_from_m is None
            else self.moves_from_m
        )
        right = (
            self.offset_m + half + max(0.0, self.travel_across_m)
            if self.moves_to_m is None
            else self.moves_to_m
        )
        return min(left, right), max(left, right)

    @cached_property
    def corners_m(self) -> tuple[tuple[float, float, float], ...]:
        """Corners of every part, or of the layer's box when it has none: (x, y, z) in the hero's world,
        full-size metres.

        x right of the lens, y above the hero's ground, z from the hero's lens.
        """
        if not self.parts:
            half = self.width_m / 2.0
            return tuple(
                (self.offset_m + side * half, self.base_m + up, self.near_m)
                for side in (-1.0, 1.0)
                for up in (0.0, self.height_m)
            )
        return tuple(
            (x + self.offset_m, y + self.base_m, z + self.near_m)
            for part in self.parts
            for x, y, z in part.corners_m()
        )

    def spread(self, lens_height_m: float) -> tuple[float, float]:
        """How far the layer reaches from the optical axis of a level lens.

        Parameters
        ----------
        lens_height_m : float
            Lens over the hero's ground, full-size metres.

        Returns
        -------
        across : float
            The largest |x|/z of its corners.
        up : float
            The largest |y − height|/z of them.

        References
        ----------
        pinhole

        Examples
        --------
        >>> [round(ratio, 3) for ratio in Layer(name="Mill", near_m=12, width_m=6, height_m=2.5).spread(1.6)]
        [0.25, 0.133]
        """
        if lens_height_m not in self._spreads:
            corners = self.corners_m
            self._spreads[lens_height_m] = (
                max(abs(x) / z for x, _, z in corners),
                max(abs(y - lens_height_m) / z for _, y, z in corners),
            )
        return self._spreads[lens_height_m]

    @cached_property
    def _spreads(self) -> dict[float, tuple[float, float]]:
        """Spreads already worked out, by lens height: the solver asks thousands of times for the same
        hero.
        """
        return {}
