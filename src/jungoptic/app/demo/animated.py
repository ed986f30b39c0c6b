"""The Heron's first steps: an exposure sheet on twos, two blocks of it photographed by the simulated camera,
with a nudge, a bounce of light and a hand that was left, each at a frame that is known.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta
from typing import Any

from jungoptic.app.frames import beside, keeping
from jungoptic.app.frames.desks import desk_of, match_of
from jungoptic.app.frames.models import Exposure, ExposureSheet, Pose
from jungoptic.app.frames.rigs import move_of
from jungoptic.app.frames.watching import animated, figure_of
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import Layer, Shot
from jungoptic.app.shots.writing import in_shot
from jungoptic.core.frames import Box, WatchedFor, delivered_of, first_frames
from jungoptic.core.stage import DeskCamera, DeskFaults, jpeg

CODE, LAYER, ON = "TM050", "Heron 1:4", 2
PHOTOGRAPHED = 60
REBUILT_AT = 31
"""The second block begins with this pose, counted from 1: the set was struck overnight and built up again."""
NUDGED, BOUNCED, HAND = 24, 13, 8
FAULTS = DeskFaults(
    nudge_px=(0.55, 0.2),
    nudge_at=ON * (NUDGED - 1) + 1,
    bounce_stops=0.07,
    bounce_at=ON * (BOUNCED - 1) + 1,
    hand_at=ON * (HAND - 1) + 1,
    lighter_stops=-0.02,
    rebuilt_stops=0.02,
    rebuilt_at=ON * (REBUILT_AT - 1) + 1,
)
"""The second block stands as the desk's camera does, so that the next frame can be taken there."""
_CLEAN = replace(FAULTS, hand_at=0)
_WIDTH_PX = 1920
_BEGAN = datetime(2027, 10, 24, 17, 5, tzinfo=UTC)
_NEXT_DAY = timedelta(hours=14, minutes=40)
_FRAME_S, _ODD_S = 98.0, (0.0, 14.0, -9.0, 31.0, 6.0, -15.0, 22.0)
_LOOKS_BACK = 3
_ACROSS, _DOWN = 0.45, 0.7
"""Of the box around the Heron, where its wing is."""
LINES: dict[int, dict[str, Any]] = {
    1: {"key": True, "figure": "stands, head up", "camera": "locked", "light": "dusk, panel at ⅔"},
    9: {"figure": "weight to the left leg"},
    17: {"key": True, "figure": "right leg lifts"},
    27: {"key": True, "figure": "contact, right", "note": "toe 4 mm before the seam of the boards"},
    31: {"begins_block": True, "note": "rebuilt from the picture of frame 30"},
    37: {"figure": "passes"},
    45: {"key": True, "figure": "contact, left", "mouth": "beak opens"},
    49: {"mouth": "shut"},
    55: {"figure": "weight to the right leg"},
    65: {"key": True, "figure": "contact, right"},
    73: {"light": "lamp passes behind, 12 frames"},
    80: {"figure": "settles", "key": True},
}
STEPS_FROM, STEP_FRAMES, STEP_MM = (17, 65, 113), 24, 75.0
TRACK: dict[str, Any] = {
    "name": "Track under the Heron",
    "lead_mm": 2.0,
    "gears": [[12, 60]],
    "marks": 10,
    "take_up": 5,
    "legs": [
        {
            "mm": STEP_MM,
            "start_frame": begins,
            "end_frame": begins + STEP_FRAMES,
            "ease_in_frames": 8,
            "ease_out_frames": 8,
        }
        for begins in STEPS_FROM
    ],
}
CHEATS: tuple[dict[str, Any], ...] = (
    {
        **{"kind": "wall", "name": "dark card behind the quay", "first_frame": ON * (REBUILT_AT - 1) + 1},
        **{"back_mm": 350.0, "note": "for the left arm, out of the frame"},
    },
    {
        **{"kind": "lamp", "name": "soft panel 1", "first_frame": ON * (PHOTOGRAPHED + 6) + 1},
        **{"right_mm": -220.0, "back_mm": -60.0, "note": "the track's crank comes under it"},
    },
)
"""The lamp goes some poses after the last that is photographed: the next frames are taken in its light."""


def begin_sheet(production: Production, person: Person) -> None:
    """The sheet of the Heron, written out as the animator would."""
    layer = Layer.objects.select_related("shot").get(shot__production=production, shot__code=CODE, name=LAYER)
    with in_shot(person, layer.shot_id) as write:
        sheet = keeping.begin(write, layer, ON)
        keeping.add(write, keeping.RIG, sheet, sheet.version, TRACK)
        lines = keeping.lines_of(sheet.pk)
        for number, fields in LINES.items():
            keeping.change(write, keeping.POSE, lines[number - 1], lines[number - 1].version, fields)
        for cheat in CHEATS:
            keeping.add(write, keeping.CHEAT, sheet, sheet.version, cheat)


@dataclass(frozen=True)
class _Photograph:
    pose: int
    data: bytes
    taken: beside.Taken
    at: datetime


def animate(production: Production, person: Person, at: Callable[[float], None]) -> None:
    """Photograph the first two blocks, and keep what was said of each; nothing where somebody took frames
    already. ``at`` is told how much of it is done.
    """
    sheet = ExposureSheet.objects.filter(
        layer__shot__production=production, layer__shot__code=CODE, removed=False
    ).first()
    if sheet is None or Exposure.objects.filter(pose__sheet=sheet).exists():
        return
    poses = keeping.lines_of(sheet.pk)[:PHOTOGRAPHED]
    desk = _desk(sheet)
    # there already where this was broken off
    point = sheet.figure_points.filter(removed=False).first()
    if point is None:
        with in_shot(person, sheet.layer.shot_id) as write:
            values = {"name": "Wing", "keys": _path(desk)}
            point = keeping.add(write, keeping.POINT, sheet, sheet.version, values)
    photographs = list(_photographed(desk, poses, point.pk, at))
    with in_shot(person, sheet.layer.shot_id) as write:
        write.title, write.stays = f"{PHOTOGRAPHED} frames of {LAYER}", True
        for number, each in enumerate(photographs, 1):
            name = f"{CODE} {number:04d}.jpg"
            row = keeping.keep(write, poses[each.pose], name, each.data, each.taken, each.at)
            if number == 1:
                keeping.mark(write, point, point.version, row, _wing(desk, 1))
        for rig in sheet.rigs.all():
            frames = first_frames([pose.hold for pose in poses])
            keeping.change(
                write, keeping.RIG, rig, rig.version, {"stands": move_of(rig, frames).positions[-1]}
            )


def _desk(sheet: ExposureSheet) -> beside.Desk:
    shot_id = sheet.layer.shot_id
    versions = Shot.objects.values_list("revision", "production__revision").get(pk=shot_id)
    desk = desk_of(shot_id, sheet.layer_id, versions)
    assert desk is not None
    return desk


def _wing(desk: beside.Desk, frame: int) -> tuple[float, float]:
    """Where the middle of the body is planned to be, shares of the photograph."""
    left, top, right, bottom = figure_of(desk, frame, 0)[0]
    return left + _ACROSS * (right - left), top + _DOWN * (bottom - top)


def _path(desk: beside.Desk) -> list[dict[str, Any]]:
    """The wing's way through the shot: from where it begins to where it settles."""
    ends = ON * (max(LINES) - 1) + 1
    places = {frame: _wing(desk, frame) for frame in (1, ends)}
    return [
        {"frame": frame, "x": x, "y": y, "eases_in": 0, "eases_out": 0} for frame, (x, y) in places.items()
    ]


def _photographed(
    desk: beside.Desk, poses: list[Pose], point: int, at: Callable[[float], None]
) -> Iterator[_Photograph]:
    camera = DeskCamera(desk.stack, desk.position, _WIDTH_PX, FAULTS)
    delivered = delivered_of(match_of(desk), beside.WATCHED_PX)
    last: beside.Held | None = None
    first: beside.Held | None = None
    moved: list[list[Box]] = []
    when, wing = _BEGAN, _wing(desk, 1)
    for place, pose in enumerate(poses):
        at(place / len(poses))
        if pose.begins_block:
            first, when = None, when + _NEXT_DAY
        frame = ON * place + 1
        figure = tuple(figure_of(desk, frame, pose.hold)) + tuple(box for boxes in moved for box in boxes)
        # the hand was seen at once, and the frame shot again
        for number, camera.faults in enumerate((FAULTS, _CLEAN) if place + 1 == HAND else (FAULTS,)):
            data = jpeg(camera.photograph(frame, number), beside.QUALITY)
            planned = [_wing(desk, each) for each in (frame - pose.hold, frame)]
            step = planned[1][0] - planned[0][0], planned[1][1] - planned[0][1]
            sought = [beside.Sought(point, last, wing, step)] if last else []
            taken = beside.taken(data, last, first, WatchedFor(delivered, figure), sought)
            when += timedelta(seconds=_FRAME_S + _ODD_S[place % len(_ODD_S)])
            yield _Photograph(place, data, taken, when)
        held = beside.Held.of(data)
        last, first = held, first or held
        for _, *there in taken.points:
            wing = there[0], there[1]
        moved = [*moved[1 - _LOOKS_BACK :], animated(taken.watched)]
