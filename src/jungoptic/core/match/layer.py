"""A layer: its place and size in the hero's full-size world, its parts, and what moves in it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property
from typing import Annotated, Any, Literal

import numpy as np
import numpy.typing as npt
from pydantic import Field

from .. import quantities as q
from ..vocabulary import (
    MOST_MARKS,
    PICTURES,
    Combine,
    Contact,
    CutBy,
    Kept,
    Kind,
    MadeFrom,
    ShownAs,
)
from .marks import KNOWN_LENS_SHARE, NONE, Coordinate, Mark, Reading, reading_of

MOST_PARTS = 200  # of one thing
MOST_BESIDE = 40  # of things that stand side by side
HexColour = Annotated[str, Field(title="Colour", pattern=r"^#[0-9a-f]{6}$")]


class Part(q.Record):
    """A flat piece of a layer, in full-size metres: upright at ``behind_m``, or lying at the height of its
    ``base``.

    ``points`` are (x, y) with y above the layer's ground for an upright piece, (x, z) with z behind the near
    end for one that lies on the ground. ``colour`` is the real colour of the thing.
    """

    name: Annotated[str, Field(title="Name", max_length=80)]
    lies: q.YesNo = False
    behind_m: Annotated[float, q.quantity("Behind the front edge", "m", "Full size.", ge=0, le=1e7)] = 0.0
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
            (x, y above the layer's ground, z behind the front edge), full-size metres.

        Examples
        --------
        >>> Part(name="Roof", behind_m=2.0, points=((0, 0), (1, 0), (1, 1))).corners_m()[2]
        (1.0, 1.0, 2.0)
        """
        if self.lies:
            return tuple((x, self.raised_m, z) for x, z in self.points)
        return tuple((x, y, self.behind_m) for x, y in self.points)


BODY_M = 0.3  # Source: body_depth


@dataclass(frozen=True, slots=True)
class Wire:
    """The lines of flat pieces, one piece after the other: ``starts`` and ``ends`` (e, 3), full-size metres
    as the layer's points are; of each piece its first line, how many, and the axis that it stands across (1
    lies, 2 upright) at which ``place``.
    """

    starts: npt.NDArray[np.float64]
    ends: npt.NDArray[np.float64]
    first: npt.NDArray[np.int64]
    count: npt.NDArray[np.int64]
    axis: npt.NDArray[np.int64]
    place: npt.NDArray[np.float64]


class Layer(q.Record):
    """A layer's place and size in the hero's full-size world, and what moves in it."""

    name: Annotated[str, Field(title="Name", min_length=1, max_length=80)]
    kind: Kind = "live"
    combine: Combine = "over"
    scale: q.Scale = 1.0
    near_m: Annotated[
        float, q.quantity("Front edge", "m", "Full-size metres from the hero's lens.", gt=0, le=1e7)
    ]
    depth_m: Annotated[
        float, q.quantity("Depth", "m", "Full size, from the front edge to the back edge.", ge=0, le=1e7)
    ] = 0.0
    width_m: Annotated[float, q.quantity("Width", "m", "Full size.", gt=0, le=1e7)] = 1.0
    height_m: Annotated[float, q.quantity("Height", "m", "Full size.", gt=0, le=1e6)] = 1.0
    base_m: Annotated[
        float,
        q.quantity("Ground level", "m", "The layer's ground above the hero's, full size.", ge=-1e4, le=1e5),
    ] = 0.0
    offset_m: Annotated[
        float, q.quantity("Left or right", "m", "Full size; right is positive.", ge=-1e6, le=1e6)
    ] = 0.0
    driver: q.Driver = "still"
    speed_m_s: Annotated[
        float,
        q.quantity("Moves across", "m/s", "At its fastest, full size; right is positive.", ge=-1e4, le=1e4),
    ] = 0.0
    speed_up_m_s: Annotated[
        float, q.quantity("Moves up", "m/s", "At its fastest, full size.", ge=-1e4, le=1e4)
    ] = 0.0
    speed_away_m_s: Annotated[
        float, q.quantity("Moves away", "m/s", "At its fastest, full size.", ge=-1e4, le=1e4)
    ] = 0.0
    fills_frame: q.YesNo = False
    resize: Annotated[float, q.quantity("Resize in the composite", "×", gt=0, le=20)] = 1.0
    seen_s: Annotated[float | None, q.quantity("On screen for", "s", gt=0, le=36000)] = None
    behind_weather: q.YesNo = False
    pass_of: Annotated[
        str,
        Field(
            title="Pass of",
            description="The layer whose light, shadow or reflection it is; empty = what its set-up films.",
            max_length=80,
        ),
    ] = ""
    made_from: Annotated[MadeFrom, Field(title="Plate made from")] = "film"
    cue_frame: Annotated[
        int | None,
        q.quantity("Cue at frame", "", "Where it flashes, bursts or comes on.", ge=0, le=1_000_000),
    ] = None
    cue_frames: Annotated[int | None, q.quantity("Lasts", "frames", "From its cue.", ge=1, le=1_000_000)] = (
        None
    )
    picture_width_px: Annotated[
        int | None,
        q.quantity(
            "Picture width", "px", "Painted and stock pictures: how wide the picture is.", ge=1, le=100000
        ),
    ] = None
    picture_height_px: Annotated[
        int | None,
        q.quantity("Picture height", "px", "Painted and stock pictures: how high it is.", ge=1, le=100000),
    ] = None
    marks: Annotated[tuple[Mark, ...], Field(title="Drawn on the picture", max_length=MOST_MARKS)] = ()
    taken_view_deg: Annotated[
        float | None,
        q.quantity("Angle of view", "°", "Across the whole picture; empty = unknown.", ge=0.5, le=170),
    ] = None
    taken_height_m: Annotated[
        float | None,
        q.quantity("Taken from", "m", "Lens above its ground, full size; empty = unknown.", ge=-1e4, le=1e5),
    ] = None
    taken_tilt_deg: Annotated[
        float | None, q.quantity("Taken at a tilt of", "°", "Up is positive; empty = unknown.", ge=-90, le=90)
    ] = None
    taken_roll_deg: Annotated[
        float | None, q.quantity("Taken at a roll of", "°", "Empty = unknown.", ge=-180, le=180)
    ] = None
    taken_key_azimuth_deg: Annotated[
        float | None,
        q.quantity(
            "Key in it, side angle", "°", "0 = behind the camera, positive to camera right.", ge=-180, le=180
        ),
    ] = None
    taken_key_elevation_deg: Annotated[
        float | None, q.quantity("Key in it, height angle", "°", ge=-90, le=90)
    ] = None
    taken_grain: Annotated[
        float | None,
        q.quantity("Grain beside the hero's", "×", "As laid in; 1 = alike, empty = unknown.", gt=0, le=100),
    ] = None
    black_pct: Annotated[
        float | None,
        q.quantity("Darkest in it", "%", "Of diffuse white, in linear light; empty = unknown.", ge=0, le=100),
    ] = None
    contact: Annotated[Contact, Field(title="Stands on")] = "nothing"
    kept: Annotated[tuple[Kept, ...], Field(title="Kept with it")] = ()
    paint_out: Annotated[str, Field(title="To be painted out", max_length=120)] = ""
    mirrored: Annotated[q.YesNo, Field(title="Mirrored")] = False
    lettering: Annotated[q.YesNo, Field(title="Lettering or handedness in it")] = False
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
    shown_as: Annotated[ShownAs, Field(title="Shown as")] = "outline"
    cut_by: Annotated[
        CutBy, Field(title="Cut out by", description="What of its picture is not the thing itself.")
    ] = "nothing"
    cut_colour: Annotated[HexColour | None, Field(title="Colour that goes")] = None
    cut_keeps: Annotated[
        float | None,
        q.quantity("Stays up to", "", "Share of the colour that goes; empty = as usual.", ge=0, le=1),
    ] = None
    cut_clears: Annotated[
        float | None,
        q.quantity("Gone from", "", "Share of the colour that goes; empty = as usual.", ge=0, le=1),
    ] = None
    cut_outline: Annotated[
        tuple[tuple[Coordinate, Coordinate], ...], Field(title="Loose outline", max_length=400)
    ] = ()
    parts: Annotated[tuple[Part, ...], Field(title="Parts", max_length=MOST_PARTS * MOST_BESIDE)] = ()

    def __getstate__(self) -> dict[Any, Any]:
        """What goes to another process leaves behind what can be worked out there again."""
        state = super().__getstate__()
        return state | {"__dict__": {name: state["__dict__"][name] for name in type(self).model_fields}}

    def reading(self, view_deg: float | None = None) -> Reading:
        """What is drawn on its picture tells of the camera and the light that took it.

        Parameters
        ----------
        view_deg : float, optional
            Angle of view across of the lens that films it, degrees, where nobody said the picture's own.

        Returns
        -------
        Reading
            Nothing without the picture's size.

        References
        ----------
        caprile_torre, known_lens

        Examples
        --------
        >>> Layer(name="Quay", near_m=5).reading().read
        {}
        """
        if self.picture_width_px is None or self.picture_height_px is None:
            return NONE
        known = view_deg if self.taken_view_deg is None else self.taken_view_deg
        return reading_of(self.marks, self.picture_width_px, self.picture_height_px, known, KNOWN_LENS_SHARE)

    @property
    def travel_m(self) -> npt.NDArray[np.float64]:
        """How far it travels in the shot: across, up, away, full-size metres."""
        return np.array([self.travel_across_m, self.travel_up_m, self.travel_away_m])

    @property
    def travels(self) -> bool:
        """Whether it travels in the shot."""
        return bool(self.travel_across_m or self.travel_up_m or self.travel_away_m)

    @cached_property
    def fastest_m_s(self) -> float:
        """Its speed at its fastest, whichever way, full-size m/s."""
        return math.hypot(self.speed_m_s, self.speed_up_m_s, self.speed_away_m_s)

    @property
    def body_m(self) -> float:
        """How deep it is, full-size metres. What nobody gave a depth is as deep as a body of its width, not
        flat; a picture or an element on black is.
        """
        flat = self.kind in PICTURES or self.kind == "black_element"
        return self.depth_m or (0.0 if flat else min(self.width_m / 2.0, BODY_M))

    @cached_property
    def wire(self) -> Wire:
        """Its outlines, or the near and far face of its box, as lines."""
        return self._wire(self.depth_m)

    @cached_property
    def body_wire(self) -> Wire:
        """:attr:`wire` with the depth of a body where nobody gave one: the comparison looks at these."""
        return self._wire(self.body_m)

    def _wire(self, depth_m: float) -> Wire:
        pieces = []
        for part in self.parts:
            axis = 1 if part.lies else 2
            pieces.append((axis, part.outline))
            if part.thickness_m and not part.lies:
                pieces.append((2, part.outline + np.array([0.0, 0.0, part.thickness_m])))
        if pieces and depth_m > (deep := max(float(points[:, 2].max()) for _, points in pieces)):
            # outlines that are flat stand for things that are not
            pieces += [
                (2, points + np.array([0.0, 0.0, depth_m - deep])) for axis, points in pieces if axis == 2
            ]
        if not pieces:
            half = self.width_m / 2.0
            corners = ((-half, 0.0), (-half, self.height_m), (half, self.height_m), (half, 0.0))
            depths = (0.0, depth_m) if depth_m else (0.0,)
            pieces = [(2, np.array([(x, y, z) for x, y in corners])) for z in depths]
        counts = np.array([len(points) for _, points in pieces])
        aside = np.array([self.offset_m, 0.0, 0.0])
        return Wire(
            np.concatenate([points for _, points in pieces]) + aside,
            np.concatenate([np.roll(points, -1, axis=0) for _, points in pieces]) + aside,
            np.concatenate([[0], np.cumsum(counts)[:-1]]),
            counts,
            np.array([axis for axis, _ in pieces]),
            np.array([points[0, axis] for axis, points in pieces]),
        )

    @cached_property
    def worked_out(self) -> dict[Any, Any]:
        """What was worked out of it already: a drag asks again and again for the same hero.

        Samples do not hang on scale and resize, so a copy that changes those keeps it; what does says so
        itself.
        """
        return {}

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
