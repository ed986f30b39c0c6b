"""What a new frame is held against, and what is known of its set before: what stands, what is animated, where
its camera goes by itself.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from jungoptic.app.base.answers import Json
from jungoptic.app.frames.beside import WATCHED_PX, Desk, Held
from jungoptic.app.frames.desks import aspect_of, match_of
from jungoptic.app.frames.models import Exposure, Piece, Pose, Rig
from jungoptic.app.frames.rigs import camera_went_mm
from jungoptic.core.frames import (
    STANDS,
    Box,
    Goes,
    MarkedPiece,
    WatchedFor,
    Went,
    as_seen,
    blocks_of,
    delivered_of,
    picture_goes,
    planned_figure,
)

_LOOKS_BACK, _LEARNS_FROM = 4, 8
"""So many frames back tell where the figure is, and how far the picture goes where the camera does."""


@dataclass(frozen=True)
class Before:
    """What a new exposure is held against: the frame before it, the first of its block, and the last few
    frames, the newest first.
    """

    last: Exposure | None
    first: Exposure | None
    earlier: Sequence[Exposure]

    @property
    def held(self) -> tuple[Held | None, Held | None]:
        """The files of the last and the first."""
        last, first = (Held.of(row.file.read()) if row else None for row in (self.last, self.first))
        return last, first


def before(poses: Sequence[Pose], pose: Pose, light_pass: int) -> Before:
    """What a new exposure of a pose is held against, in its own pass."""
    begins = poses[blocks_of([each.begins_block for each in poses])[pose.place]]
    shown = Exposure.objects.filter(
        pose__sheet=pose.sheet_id,
        pose__removed=False,
        light_pass=light_pass,
        chosen=True,
        removed=False,
    ).select_related("file", "pose")
    earlier = list(shown.filter(pose__rank__lt=pose.rank).order_by("-pose__rank")[:_LEARNS_FROM])
    of_block = shown.filter(pose__rank__gte=begins.rank, pose__rank__lt=pose.rank)
    first = of_block.order_by("pose__rank").first()
    return Before(earlier[0] if earlier else None, first, earlier)


def watched_for(
    desk: Desk | None, poses: Sequence[Pose], pose: Pose, frames: Sequence[int], there: Before
) -> WatchedFor:
    """What is animated, by the plan and by where the last frames changed; what has to stand; and where the
    camera goes by its own rig. ``frames`` are the first of each pose.
    """
    seen = [box for row in there.earlier[:_LOOKS_BACK] for box in animated(row.watched)]
    planned = figure_of(desk, frames[pose.place], pose.hold) if desk else []
    since_last, since_first = (
        _goes(desk, poses, frames, row, pose, there.earlier) for row in (there.last, there.first)
    )
    return replace(
        stands_for(desk, pose.sheet_id),
        figure=(*planned, *seen),
        since_last=since_last,
        since_first=since_first,
    )


def _goes(
    desk: Desk | None,
    poses: Sequence[Pose],
    frames: Sequence[int],
    since: Exposure | None,
    pose: Pose,
    earlier: Sequence[Exposure],
) -> Goes:
    """Where the camera's rigs take the picture since a frame, by what was seen of it before."""
    if desk is None or since is None:
        return STANDS
    rigs = Rig.objects.filter(sheet=pose.sheet_id, removed=False).exclude(carries="figure")
    place = next((each.place for each in poses if each.pk == since.pose_id), pose.place)
    went = camera_went_mm(rigs, frames, place, pose.place)
    if not any(went.values()):
        return STANDS
    match = match_of(desk)
    try:
        goes = picture_goes(match, went)
    except ValueError:  # planned through what it films: the frame is kept, whatever is said of it
        return STANDS
    known = (((row.watched or {}).get("last") or {}).get("went") for row in earlier)
    delivered = delivered_of(match, WATCHED_PX)
    size = WATCHED_PX, round(WATCHED_PX / aspect_of(desk, pose.sheet.layer.shot.production))
    before: list[Went | None] = [(*each,) if each else None for each in known]
    return as_seen(goes, before, size, delivered)


def stands_for(desk: Desk | None, sheet_id: int) -> WatchedFor:
    """What has to stand, on the whole set."""
    marked = Piece.objects.filter(sheet=sheet_id, removed=False)
    pieces = tuple(MarkedPiece(piece.name, (*piece.box,)) for piece in marked)
    return WatchedFor(delivered_of(match_of(desk), WATCHED_PX) if desk else 1.0, (), pieces)


def animated(watched: Json | None) -> list[Box]:
    """Where something was animated in a frame: what differs from the one before, and was not left there."""
    told = watched or {}
    left = [each["box"] for each in told.get("warnings", ()) if each["what"] == "left"]
    boxes = (told.get("last") or {}).get("differs", ())
    return [(box[0], box[1], box[2], box[3]) for box in boxes if box not in left]


def figure_of(desk: Desk, frame: int, hold: int) -> list[Box]:
    """Where the figure is planned to be at a frame of the shot, and at the pose before it."""
    length = desk.stack.plan.length_frames
    return [planned_figure(match_of(desk), at, length) for at in (frame - hold, frame)]
