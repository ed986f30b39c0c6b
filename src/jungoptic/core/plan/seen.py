"""Build only what is seen: of every piece of a set, the part that is in some frame and not hidden, over all
views.

Exact for flat pieces. Each piece is projected into each view and clipped by the frame; what a nearer piece
hides is cut away. On two planes, which one is nearer changes along a straight line in the picture, since one
over the distance of a plane is linear there; so a piece hides another only on one side of that line, and
crossing pieces come out right too. What remains is put back on the piece. Source: pinhole.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated

import numpy as np
import numpy.typing as npt
from pydantic import Field
from shapely import MultiPolygon, Polygon, box, union_all
from shapely.geometry.base import BaseGeometry

from .. import quantities as q
from ..optics.frame import angle_of_view_deg
from ..stage.project import clip_near, rotation
from ..vocabulary import Made

Array = npt.NDArray[np.float64]
SMALLEST_PX2 = 1.0  # a sliver of less than one delivered pixel is not seen


class Piece(q.Record):
    """An upright flat piece of the set, in plan: full-size metres, x right, z away, turned about its middle;
    or lying on the floor.
    """

    name: Annotated[str, Field(title="Name", min_length=1, max_length=80)]
    x_m: Annotated[
        float, q.quantity("Across", "m", "Its middle, to the right of the plan's origin.", ge=-1e4, le=1e4)
    ] = 0.0
    z_m: Annotated[
        float, q.quantity("Away", "m", "Its middle; the near edge for a piece that lies.", ge=-1e4, le=1e4)
    ] = 0.0
    turn_deg: Annotated[
        float,
        q.quantity("Turned", "°", "In plan: 0 = across the view, positive to the left.", ge=-360, le=360),
    ] = 0.0
    width_m: Annotated[float, q.quantity("Width", "m", gt=0, le=1e4)] = 1.0
    height_m: Annotated[float, q.quantity("Height", "m", "Depth for a piece that lies.", gt=0, le=1e4)] = 2.4
    base_m: Annotated[float, q.quantity("Base", "m", "Above the floor.", ge=-1000, le=1000)] = 0.0
    lies: Annotated[bool, Field(title="Lies", description="Flat on the floor.")] = False
    made: Annotated[Made, Field(title="Made")] = "built"
    wheels: Annotated[bool, Field(title="Wheels", description="Can be wheeled round and used twice.")] = False

    def corners_m(self) -> Array:
        """Four corners (x, y, z), counted round from the lower left as seen from −z at no turn; the near
        left when it lies.
        """
        half, turn = self.width_m / 2.0, math.radians(self.turn_deg)
        along, away = (
            np.array([math.cos(turn), 0.0, math.sin(turn)]),
            np.array([-math.sin(turn), 0.0, math.cos(turn)]),
        )
        middle = np.array([self.x_m, self.base_m, self.z_m])
        up = away * self.height_m if self.lies else np.array([0.0, self.height_m, 0.0])
        return np.array(
            [
                middle - half * along,
                middle - half * along + up,
                middle + half * along + up,
                middle + half * along,
            ]
        )


class Stand(q.Record):
    """Where a camera stands in the plan of the set: full-size metres, ``heading_deg`` 0 along +z, positive
    to the right.
    """

    x_m: Annotated[float, q.quantity("Across", "m", ge=-1e4, le=1e4)] = 0.0
    z_m: Annotated[float, q.quantity("Away", "m", ge=-1e4, le=1e4)] = 0.0
    heading_deg: Annotated[
        float, q.quantity("Heading", "°", "0 straight away, positive to the right.", ge=-360, le=360)
    ] = 0.0
    establishing: bool = False


class View(Stand):
    """A camera with the lens, height and tilt of its shot's hero."""

    name: str
    height_m: q.HeightM
    tilt_deg: Annotated[float, q.quantity("Tilt", "°", ge=-89, le=89)] = 0.0
    f_px: q.FocalLengthPx
    width_px: Annotated[float, q.quantity("Width needed", "px", gt=0, le=1e5)]
    height_px: Annotated[float, q.quantity("Height needed", "px", gt=0, le=1e5)]

    @property
    def half_deg(self) -> float:
        """Half of the angle that it sees across, degrees."""
        return angle_of_view_deg(self.width_px, self.f_px) / 2.0

    def after(self, kind: str, done: float) -> View:
        """The camera after so much of a move: degrees of a pan (right) or tilt (up), metres of a slide
        (right) or push (forward).
        """
        turn = math.radians(self.heading_deg)
        if kind == "pan":
            return self.but(heading_deg=math.remainder(self.heading_deg + done, 360.0))
        if kind == "tilt":
            return self.but(tilt_deg=min(max(self.tilt_deg + done, -89.0), 89.0))
        along = turn + math.pi / 2.0 if kind == "slide" else turn
        return self.but(x_m=self.x_m + done * math.sin(along), z_m=self.z_m + done * math.cos(along))

    def to_camera(self, points: Array) -> Array:
        """Points (n × 3) of the set in the camera's frame: x right, y up, z forward."""
        turn = math.radians(self.heading_deg)
        c, s = math.cos(turn), math.sin(turn)
        off = points - np.array([self.x_m, self.height_m, self.z_m])
        level = np.column_stack((c * off[:, 0] - s * off[:, 2], off[:, 1], s * off[:, 0] + c * off[:, 2]))
        return np.asarray(level @ rotation(self.tilt_deg, 0.0).T, dtype=np.float64)


@dataclass(frozen=True, slots=True)
class SeenPart:
    """What of one piece some view sees: (u, v) metres on the piece from its first corner, u along the width,
    v along the height.
    """

    piece: Piece
    region: BaseGeometry
    by: tuple[str, ...]
    finest_m: float

    @property
    def area_m2(self) -> float:
        return float(self.region.area)

    @property
    def whole_m2(self) -> float:
        return self.piece.width_m * self.piece.height_m

    @property
    def box_m(self) -> tuple[float, float, float, float] | None:
        """Left, low, right and high end of what must be made, metres on the piece; None when nothing is."""
        return None if self.region.is_empty else self.region.bounds

    def made_box_m(self, spare_pct: float = 0.0) -> tuple[float, float, float, float] | None:
        """What is made of the piece: the box round what is seen with ``spare_pct`` of its size shared round
        it, inside the piece.

        An upright piece that is seen from its lower part on is made from the floor up: it has to stand
        (judgement). None when nothing is.
        """
        if self.box_m is None:
            return None
        left, low, right, high = self.box_m
        dx, dy = ((right - left) * spare_pct / 200.0, (high - low) * spare_pct / 200.0)
        stands = not self.piece.lies and low < STANDS * self.piece.height_m
        made_low = 0.0 if stands else max(0.0, low - dy)
        return (
            max(0.0, left - dx),
            made_low,
            min(self.piece.width_m, right + dx),
            min(self.piece.height_m, high + dy),
        )


def _plane(corners: Array) -> tuple[Array, float]:
    """n·P = d of the plane through the piece, in the camera's frame."""
    normal = np.cross(corners[1] - corners[0], corners[3] - corners[0])
    normal /= np.linalg.norm(normal)
    return normal, float(normal @ corners[0])


def _inverse_depth(corners: Array, f_px: float) -> Array | None:
    """(a, b, c) with 1/z = a·x + b·y + c at an image point (x right, y up, px from the middle); None for a
    plane through the lens.
    """
    normal, d = _plane(corners)
    if abs(d) < 1e-9:
        return None
    return np.array([normal[0] / f_px, normal[1] / f_px, normal[2]]) / d


def _half_plane(line: Array, reach: float) -> Polygon | None:
    """The part of the picture where a·x + b·y + c > 0, as a polygon; None when it is nowhere."""
    a, b, c = (float(one) for one in line)
    size = math.hypot(a, b)
    if size * reach < 1e-12 or size < 1e-15:
        return box(-reach, -reach, reach, reach) if c > 1e-12 else None
    nx, ny = a / size, b / size
    foot = np.array([nx, ny]) * (-c / size)
    along, inward = np.array([-ny, nx]), np.array([nx, ny])
    far = 8.0 * reach + float(np.linalg.norm(foot))
    return Polygon(
        [
            foot - far * along,
            foot + far * along,
            foot + far * along + far * inward,
            foot - far * along + far * inward,
        ]
    )


def _image(corners: Array, f_px: float) -> Polygon | None:
    kept = clip_near(corners)
    if len(kept) < 3:
        return None
    shape = Polygon(f_px * kept[:, :2] / kept[:, 2:])
    return shape if shape.is_valid and shape.area > 1e-9 else shape.buffer(0)


def _visible(
    view: View, in_view: Sequence[Array], at: int, images: Sequence[BaseGeometry | None]
) -> BaseGeometry | None:
    """The part of the picture in which piece ``at`` is seen; None when nowhere."""
    own, own_depth = images[at], _inverse_depth(in_view[at], view.f_px)
    if own is None or own_depth is None:
        return None
    frame = box(-view.width_px / 2.0, -view.height_px / 2.0, view.width_px / 2.0, view.height_px / 2.0)
    left = own.intersection(frame)
    reach = max(view.width_px, view.height_px)
    for other, image in enumerate(images):
        if other == at or image is None or left.is_empty or not image.intersects(left):
            continue
        depth = _inverse_depth(in_view[other], view.f_px)
        nearer = _half_plane((depth - own_depth) * 1.0, reach) if depth is not None else None
        if nearer is not None:
            left = left.difference(image.intersection(nearer))
    return None if left.is_empty or left.area < SMALLEST_PX2 else left


def _on_piece(piece: Piece, corners: Array, seen: BaseGeometry, f_px: float) -> BaseGeometry:
    """The seen part of the picture as (u, v) metres on the piece."""
    depth = _inverse_depth(corners, f_px)
    assert depth is not None
    along, up = (corners[3] - corners[0]) / piece.width_m, (corners[1] - corners[0]) / piece.height_m

    def back(points: Array) -> Array:
        z = 1.0 / (points @ depth[:2] + depth[2])
        there = (
            np.column_stack((points[:, 0] / f_px, points[:, 1] / f_px, np.ones(len(points)))) * z[:, None]
            - corners[0]
        )
        return np.column_stack((there @ along, there @ up))

    found = []
    for part in seen.geoms if hasattr(seen, "geoms") else (seen,):
        if part.geom_type != "Polygon":
            continue
        shell, holes = (
            back(np.array(part.exterior.coords)),
            [back(np.array(hole.coords)) for hole in part.interiors],
        )
        found.append(Polygon(shell, holes).buffer(0))
    return (
        union_all(found).intersection(box(0.0, 0.0, piece.width_m, piece.height_m))
        if found
        else MultiPolygon()
    )


def seen_parts(pieces: Sequence[Piece], views: Sequence[View]) -> tuple[SeenPart, ...]:
    """For every piece, the union of what all the views see of it, which views those are, and the finest
    detail that can show.

    ``finest_m`` is one delivered pixel at the nearest distance from which it is seen, full-size metres;
    infinite when it is not seen.
    """
    regions: list[list[BaseGeometry]] = [[] for _ in pieces]
    by: list[list[str]] = [[] for _ in pieces]
    finest = [math.inf for _ in pieces]
    for view in views:
        in_view = [view.to_camera(piece.corners_m()) for piece in pieces]
        images = [_image(corners, view.f_px) for corners in in_view]
        for at, piece in enumerate(pieces):
            seen = _visible(view, in_view, at, images)
            if seen is None:
                continue
            regions[at].append(_on_piece(piece, in_view[at], seen, view.f_px))
            by[at].append(view.name)
            depth = _inverse_depth(in_view[at], view.f_px)
            assert depth is not None
            hull = np.array(seen.convex_hull.exterior.coords)
            nearest = 1.0 / float((hull @ depth[:2] + depth[2]).max())
            finest[at] = min(finest[at], nearest / view.f_px)
    return tuple(
        SeenPart(piece, union_all(regions[at]) if regions[at] else MultiPolygon(), tuple(by[at]), finest[at])
        for at, piece in enumerate(pieces)
    )


@dataclass(frozen=True, slots=True)
class Twice:
    """Two pieces that no view sees together and that are alike: one can be wheeled round and serve as
    both.
    """

    first: str
    second: str
    saves_m2: float


ALIKE = 0.15
STANDS = 0.3  # seen from below this share of its height, a piece is made from the floor up


def used_twice(parts: Sequence[SeenPart]) -> tuple[Twice, ...]:
    """Pieces on wheels that are never in one frame and whose parts to be made differ by at most 15 % in
    width and height (judgement).
    """
    found, taken = [], set[str]()
    rows = [
        (part, made)
        for part in parts
        if part.piece.wheels and part.piece.made == "built" and (made := part.made_box_m())
    ]
    for at, (one, own) in enumerate(rows):
        for other, its in rows[at + 1 :]:
            if one.piece.name in taken or other.piece.name in taken or set(one.by) & set(other.by):
                continue
            (wide, tall), (its_wide, its_tall) = (
                (box_m[2] - box_m[0], box_m[3] - box_m[1]) for box_m in (own, its)
            )
            if max(wide / its_wide, its_wide / wide, tall / its_tall, its_tall / tall) <= 1.0 + ALIKE:
                found.append(Twice(one.piece.name, other.piece.name, min(wide * tall, its_wide * its_tall)))
                taken |= {one.piece.name, other.piece.name}
    return tuple(found)


def only_establishing(parts: Sequence[SeenPart], views: Sequence[View]) -> tuple[str, ...]:
    """Pieces that nothing but establishing views see: paint or extend them rather than build."""
    wide = {view.name for view in views if view.establishing}
    return tuple(part.piece.name for part in parts if part.by and set(part.by) <= wide)
