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

import numpy as np
from shapely import MultiPolygon, Polygon, box, union_all
from shapely.geometry.base import BaseGeometry

from ..optics.projection import clip_near
from .views import Array, Piece, View

SMALLEST_PX2 = 1.0  # a sliver of less than one delivered pixel is not seen


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
        """What of it is seen, m²."""
        return float(self.region.area)

    @property
    def whole_m2(self) -> float:
        """The whole piece, m²."""
        return self.piece.width_m * self.piece.height_m

    @property
    def box_m(self) -> tuple[float, float, float, float] | None:
        """Left, low, right and high end of what must be made, metres on the piece; None when nothing is."""
        return None if self.region.is_empty else self.region.bounds

    def made_box_m(self, spare_pct: float = 0.0) -> tuple[float, float, float, float] | None:
        """What is made of a piece: the box round what is seen, with some to spare, inside the piece.

        An upright piece that is seen from its lower part on is made from the floor up: it has to stand.

        Parameters
        ----------
        spare_pct : float, default 0
            Of the size of what is seen, shared round it, %.

        Returns
        -------
        tuple of float or None
            Left, low, right and high end, metres on the piece; None when nothing is.

        References
        ----------
        made_to_stand

        Examples
        --------
        >>> wall = Piece(name="Wall", z_m=6, width_m=4, height_m=3)
        >>> camera = View(name="A", height_m=1.6, f_px=2860, width_px=1920, height_px=1080)
        >>> [round(side, 2) for side in seen_parts([wall], [camera])[0].made_box_m(10)]
        [0.0, 0.0, 4.0, 2.85]
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
    a, b, c = (float(value) for value in line)
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
    view: View, in_view: Sequence[Array], index: int, images: Sequence[BaseGeometry | None]
) -> BaseGeometry | None:
    """The part of the picture in which piece ``index`` is seen; None when nowhere."""
    own, own_depth = images[index], _inverse_depth(in_view[index], view.f_px)
    if own is None or own_depth is None:
        return None
    frame = box(-view.width_px / 2.0, -view.height_px / 2.0, view.width_px / 2.0, view.height_px / 2.0)
    left = own.intersection(frame)
    reach = max(view.width_px, view.height_px)
    for other, image in enumerate(images):
        if other == index or image is None or left.is_empty or not image.intersects(left):
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

    shapes = []
    for part in seen.geoms if hasattr(seen, "geoms") else (seen,):
        if part.geom_type != "Polygon":
            continue
        shell, holes = (
            back(np.array(part.exterior.coords)),
            [back(np.array(hole.coords)) for hole in part.interiors],
        )
        shapes.append(Polygon(shell, holes).buffer(0))
    return (
        union_all(shapes).intersection(box(0.0, 0.0, piece.width_m, piece.height_m))
        if shapes
        else MultiPolygon()
    )


def seen_parts(pieces: Sequence[Piece], views: Sequence[View]) -> tuple[SeenPart, ...]:
    """What of every piece is in some frame and not hidden, over all views.

    Parameters
    ----------
    pieces : sequence of Piece
        Of the set.
    views : sequence of View
        Cameras, each at every place that it looks from.

    Returns
    -------
    tuple of SeenPart
        One for each piece; its finest detail is one delivered pixel at the nearest distance from which it is
        seen, full-size metres, infinite where it is not.

    References
    ----------
    pinhole

    Examples
    --------
    >>> wall = Piece(name="Wall", z_m=6, width_m=8, height_m=3)
    >>> camera = View(name="A", height_m=1.6, f_px=2860, width_px=1920, height_px=1080)
    >>> part = seen_parts([wall], [camera])[0]
    >>> round(part.area_m2, 1), part.whole_m2
    (9.1, 24.0)
    """
    regions: list[list[BaseGeometry]] = [[] for _ in pieces]
    by: list[list[str]] = [[] for _ in pieces]
    finest = [math.inf for _ in pieces]
    for view in views:
        in_view = [view.to_camera(piece.corners_m()) for piece in pieces]
        images = [_image(corners, view.f_px) for corners in in_view]
        for index, piece in enumerate(pieces):
            seen = _visible(view, in_view, index, images)
            if seen is None:
                continue
            regions[index].append(_on_piece(piece, in_view[index], seen, view.f_px))
            by[index].append(view.name)
            depth = _inverse_depth(in_view[index], view.f_px)
            assert depth is not None
            hull = np.array(seen.convex_hull.exterior.coords)
            nearest = 1.0 / float((hull @ depth[:2] + depth[2]).max())
            finest[index] = min(finest[index], nearest / view.f_px)
    return tuple(
        SeenPart(
            piece,
            union_all(regions[index]) if regions[index] else MultiPolygon(),
            tuple(by[index]),
            finest[index],
        )
        for index, piece in enumerate(pieces)
    )


STANDS = 0.3  # seen from below this share of its height, a piece is made from the floor up


def only_establishing(parts: Sequence[SeenPart], views: Sequence[View]) -> tuple[str, ...]:
    """Pieces that nothing but establishing views see: paint or extend them rather than build.

    Parameters
    ----------
    parts : sequence of SeenPart
        As :func:`seen_parts` gave them.
    views : sequence of View
        The same as for them.

    Returns
    -------
    tuple of str
        Names of the pieces.

    Examples
    --------
    >>> wall = Piece(name="Wall", z_m=6, width_m=8, height_m=3)
    >>> wide = View(name="A", height_m=1.6, f_px=2860, width_px=1920, height_px=1080, establishing=True)
    >>> only_establishing(seen_parts([wall], [wide]), [wide])
    ('Wall',)
    """
    wide = {view.name for view in views if view.establishing}
    return tuple(part.piece.name for part in parts if part.by and set(part.by) <= wide)
