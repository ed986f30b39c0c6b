"""What is measured over the frames of a clip, or over stills that follow each other."""

from __future__ import annotations

from collections import deque
from dataclasses import replace
from itertools import islice
from pathlib import Path

import cv2
import numpy as np
import numpy.typing as npt

from jungoptic.app.rushes.asked import WORKING_PX, Asked, Image, Opened, cut
from jungoptic.app.rushes.of_picture import Came
from jungoptic.core.errors import InputError
from jungoptic.core.measure import (
    BlackWatch,
    Changes,
    ClipWatch,
    Codes,
    CopyWatch,
    Crossing,
    Grain,
    MovementWatch,
    PointWatch,
    ShakeWatch,
    Watched,
    best_patch,
    best_seam,
    differs,
    flicker_of_frames,
    grain_of_frames,
    grain_of_still,
    light_over_time,
    matte_keys,
    wobble_of_path,
)
from jungoptic.core.rushes import GrainBeside, LineWatched, Patches, SeamFound

_GRID = (9, 16)
_SMALL = (240, 135)
_GRAIN_FRAMES = 24
_NEIGHBOURS = 8
_POINT_SHARE = 8  # the reference point, where nobody marked one: so much of the width, in the middle


def flicker(asked: Asked) -> Came:
    opened = Opened.of(asked)
    sized = opened.sized(WORKING_PX)
    box = opened.box(sized)
    tiles, copies, shake = [], CopyWatch(), ShakeWatch()
    for light in opened.luma_light():
        copies.add(light)
        shake.add(_codes(cv2.resize(light, _SMALL, interpolation=cv2.INTER_AREA)))
        tiles.append(cv2.resize(cut(light, box), _GRID[::-1], interpolation=cv2.INTER_AREA).ravel())
    result = flicker_of_frames(
        np.array(tiles),
        _GRID,
        opened.footage.rate_fps,
        asked.mains_hz,
        copied=copies.share(),
        held=shake.held(),
    )
    return result, sized, opened


def _codes(light: npt.ArrayLike) -> Codes:
    return np.clip(255.0 * np.sqrt(np.maximum(light, 0.0)), 0, 255).astype(np.uint8)


def light(asked: Asked) -> Came:
    opened = Opened.of(asked)
    sized = opened.sized(WORKING_PX)
    inside = opened.inside(sized)
    means = [float((seen if inside is None else seen[inside]).mean()) for seen in opened.luma_light()]
    return light_over_time(means, opened.footage.rate_fps), sized, opened


def clip_watch(opened: Opened, bits: int) -> ClipWatch:
    """What looks at every frame of a file at once; ``bits`` are those of its codes of luma."""
    footage = opened.footage
    return ClipWatch(footage.rate_fps, opened.curve, bits, footage.colour.legal, opened.asked.mains_hz)


def clip(asked: Asked) -> Came:
    opened = Opened.of(asked)
    watch = None
    for picture in opened.pictures():
        codes, bits = picture.codes
        watch = watch or clip_watch(opened, bits)
        watch.add(codes)
    assert watch is not None
    return watch.measured(), opened.sized(WORKING_PX), opened


def black(asked: Asked) -> Came:
    opened = Opened.of(asked)
    sized = opened.sized(WORKING_PX)
    watch = BlackWatch()
    for picture in opened.pictures():
        watch.add(opened.light(picture, WORKING_PX).max(axis=2))
    return watch.told(), sized, opened


def _grain(asked: Asked, path: Path) -> tuple[Grain, Opened]:
    opened = Opened.of(asked, path)
    delivery = opened.asked.delivery
    widest = delivery[0] if delivery else opened.footage.width_px
    box = opened.box(opened.sized(widest))
    frames: list[Image] = []
    for picture in islice(opened.pictures(), _GRAIN_FRAMES):
        seen = opened.light(picture, widest)[..., 1]
        frames.append(cut(seen, box))
    if len(frames) == 1 or opened.footage.kind == "still":
        return grain_of_still(frames[0]), opened
    return grain_of_frames(frames), opened


def grain(asked: Asked) -> Came:
    own, opened = _grain(asked, asked.file)
    opened.assumes.append(
        "Its green channel, at the delivered size." if asked.delivery else "Its green channel."
    )
    sized = opened.sized(WORKING_PX)
    if asked.against is None:
        return own, sized, opened
    if asked.delivery is None:
        raise InputError.at("delivery", "Grain is compared at the delivered size: give --delivery.")
    return GrainBeside(own, _grain(asked, asked.against)[0]), sized, opened


def movement(asked: Asked) -> Came:
    opened = Opened.of(asked)
    sized = opened.sized(WORKING_PX)
    if asked.places:
        watched = Watched(opened.shares(), (sized.height, sized.width), asked.kind == "zone")
        count = 0
        for seen in opened.luma_light():
            watched.add(seen)
            count += 1
        return LineWatched(opened.shares(), watched.crossings(), count), sized, opened
    box = opened.box(sized)
    watch = MovementWatch()
    for seen in opened.luma_light():
        watch.add(_codes(cut(seen, box)))
    motion = watch.motion()
    if box is not None:  # told in shares of the frame, not of its part
        x, y, w, h = box
        across, down = motion.where
        place = (x + across * w) / sized.width, (y + down * h) / sized.height
        motion = replace(motion, where=place)
    return motion, sized, opened


def _half(opened: Opened, changes: Changes, places: tuple[tuple[float, float], ...]) -> tuple[Crossing, ...]:
    """What happens in one half, gathered; what crosses the line, once there is one."""
    sized = opened.sized(WORKING_PX)
    watched = Watched(places, (sized.height, sized.width)) if places else None
    for seen in opened.luma_light():
        if watched is None:
            changes.add(seen)
        else:
            watched.add(seen)
    return watched.crossings() if watched else ()


def seam(asked: Asked) -> Came:
    if asked.against is None:
        raise InputError.at("against", "Name the other half.")
    opened, other = Opened.of(asked), Opened.of(asked, asked.against)
    sized = opened.sized(WORKING_PX)
    halves = [Changes(), Changes()]
    for each, changes in zip((opened, other), halves, strict=True):
        _half(each, changes, ())
    stops = [changes.stops() for changes in halves]
    if stops[0].shape != stops[1].shape:
        raise InputError.at("against", "Both halves must be of one size.")
    box = opened.box(sized)
    within = (0.0, 1.0) if box is None else (box[0] / sized.width, (box[0] + box[2]) / sized.width)
    found = best_seam(np.maximum(*stops), within)
    crossed = [_half(each, Changes(), found.line) for each in (opened, other)]
    return SeamFound(found, crossed[0], crossed[1]), sized, opened


def patch(asked: Asked) -> Came:
    opened = Opened.of(asked)
    sized = opened.sized(WORKING_PX)
    box = opened.box(sized)
    if box is None:
        raise InputError.at("region", "Mark what is to be covered: --region left,top,width,height.")
    middle = (opened.begins + (opened.ends or 0) + 1) // 2
    wanted = max(opened.begins, asked.frame if asked.frame is not None else middle)
    around: deque[tuple[int, Image]] = deque(maxlen=2 * _NEIGHBOURS + 1)
    for index, seen in enumerate(opened.luma_light(), opened.begins):
        around.append((index, seen))
        if index >= wanted + _NEIGHBOURS:
            break
    frames = dict(around)
    wanted = min(wanted, max(frames))
    near = sorted(frames, key=lambda index: abs(index - wanted))
    others = {index: frames[index] for index in near if 0 < abs(index - wanted) <= _NEIGHBOURS}
    x, y, w, h = box
    places = tuple((a / sized.width, b / sized.height) for a in (x, x + w) for b in (y, y + h))
    corners = (places[0], places[2], places[3], places[1])
    return Patches(wanted, corners, best_patch(frames[wanted], box, others)), sized, opened


def matte_hours(asked: Asked) -> Came:
    if asked.against is None:
        raise InputError.at("against", "Name the clean plate.")
    opened, clean = Opened.of(asked), Opened.of(asked, asked.against)
    sized = opened.sized(WORKING_PX)
    plate = clean.light(clean.look(), WORKING_PX)
    masks = [differs(opened.light(picture, WORKING_PX), plate) for picture in opened.pictures()]
    return matte_keys(masks, 1.0 / sized.delivered), sized, opened


def wobble(asked: Asked) -> Came:
    opened = Opened.of(asked)
    sized = opened.sized(2 * WORKING_PX)
    box = opened.box(sized)
    if box is None:
        side = sized.width // _POINT_SHARE
        box = ((sized.width - side) // 2, (sized.height - side) // 2, side, side)
        opened.assumes.append("The reference point is in the middle of the first photograph.")
    watch = PointWatch(box, max(24, sized.width // 16))
    for seen in opened.luma_light(2 * WORKING_PX):
        watch.add(seen)
    return wobble_of_path(watch.path(), (sized.width, sized.height)), sized, opened
