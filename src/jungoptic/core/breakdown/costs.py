"""What a shot costs by each way of making it: hours by craft with their formula, kit wanted, days. All
figures can be changed.

Kind: common practice or judgement, said at each figure; the same hours as domain tables of hand mattes and of
stop motion.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence

from ..handbook.frames import hand_matte_hours, stop_motion_hours
from ..limits import LEAST
from ..match.compare import Judgement
from ..plan.framing import KEY_EVERY, MINUTES_PER_KEY, Box, share_inside
from ..wording import number
from .figures import Figures, Hours, Job


def figure(value: float) -> str:
    return number(value, 3)


def counted(count: int, thing: str) -> str:
    return f"{count} {thing}{'' if count == 1 else 's'}"


def composite(job: Job, figures: Figures, layers: int | None = None) -> Hours:
    """From the least at two layers to the most at eight and beyond, in a straight line."""
    count = job.layers if layers is None else layers
    share = min(max((count - 2) / 6.0, 0.0), 1.0)
    hours = figures.composite_least_h + share * (figures.composite_most_h - figures.composite_least_h)
    return Hours(
        "composite",
        hours,
        f"{figure(figures.composite_least_h)} + ({count} − 2)/6 ·"
        f" {figure(figures.composite_most_h - figures.composite_least_h)} h",
    )


def set_hours(set_ups: int, figures: Figures) -> Hours:
    return Hours(
        "set",
        set_ups * figures.set_up_h * figures.crew,
        f"{counted(set_ups, 'set-up')} · {figure(figures.set_up_h)} h · {figures.crew} people",
    )


def matte(job: Job, figures: Figures, shapes: int | None = None) -> Hours:
    """⌈frames ÷ key spacing⌉ · minutes · shapes ÷ 60; only what is delivered is cut when the shot is framed
    first. Source: hours.
    """
    count = job.shapes if shapes is None else shapes
    every = figures.tracked_key_every if job.tracked else figures.key_every
    share = job.needed_share if job.framing_first else 1.0
    if not count:
        return Hours("matte", 0.0, "nothing to cut")
    whole = hand_matte_hours(
        frames=job.frames, key_every=every, minutes_per_key=figures.minutes_per_key, shapes=count
    )
    text = (
        f"⌈{job.frames}/{every}⌉ = {whole.keys} keys · {figure(figures.minutes_per_key)} min ·"
        f" {counted(count, 'shape')}"
    )
    return Hours(
        "matte",
        whole.hours * share,
        text + (f" · {100 * share:.0f} % that is delivered" if share < 1 else ""),
    )


def paint_out_hours(frames: int, share_pct: float, locked: bool, tracked: bool, figures: Figures) -> Hours:
    """Hours of a paint-out by its size and frames.

    One patch behind a locked-off camera, else a patch at every key, times its size.

    Parameters
    ----------
    frames : int
        In which it is seen.
    share_pct : float
        Its share of the delivered frame, %.
    locked : bool
        Whether the camera stands still.
    tracked : bool
        Whether tracking holds.
    figures : Figures
        What the production reckons with.

    Returns
    -------
    Hours
        With the formula and the values put in.

    References
    ----------
    hours

    Examples
    --------
    >>> paint_out_hours(96, 4.0, True, False, Figures())
    Hours(craft='matte', hours=1.0, formula='one patch 0.5 h · size 2')
    """
    size = max(1.0, share_pct / figures.patch_share)
    if locked:
        return Hours(
            "matte", figures.patch_h * size, f"one patch {figure(figures.patch_h)} h · size {figure(size)}"
        )
    every = figures.tracked_key_every if tracked else figures.key_every
    keys = math.ceil(frames / every)
    hours = figures.patch_h * size + keys * figures.minutes_per_key * size / 60.0
    return Hours(
        "matte",
        hours,
        f"{figure(figures.patch_h)} h + ⌈{frames}/{every}⌉ = {keys} keys ·"
        f" {figure(figures.minutes_per_key)} min, size {figure(size)}",
    )


def building_hours(area_m2: float, scale: float, figures: Figures) -> float:
    """Hours that a model takes to build: its own area, full-size area ÷ s², times its hours.

    A set at full size has a figure of its own.

    Parameters
    ----------
    area_m2 : float
        To be built, full-size m².
    scale : float
        It is built 1:scale.
    figures : Figures
        What the production reckons with.

    Returns
    -------
    float
        Hours.

    References
    ----------
    hours

    Examples
    --------
    >>> building_hours(144.0, 12.0, Figures())
    20.0
    """
    return area_m2 * figures.build_m2 if scale <= 1.0 else area_m2 / scale**2 * figures.build_h_m2


def build(job: Job, figures: Figures) -> Hours:
    hours = building_hours(job.area_m2, job.scale, figures)
    if job.scale <= 1.0:
        return Hours("build", hours, f"{figure(job.area_m2)} m² · {figure(figures.build_m2)} h")
    return Hours(
        "build",
        hours,
        f"{figure(job.area_m2)} m²/{figure(job.scale)}² = {figure(job.area_m2 / job.scale**2)} m² ·"
        f" {figure(figures.build_h_m2)} h",
    )


def paint(count: int, figures: Figures) -> Hours:
    return Hours(
        "paint", count * figures.paint_h, f"{counted(count, 'picture')} · {figure(figures.paint_h)} h"
    )


def search(count: int, figures: Figures) -> Hours:
    return Hours(
        "search", count * figures.search_h, f"{counted(count, 'element')} · {figure(figures.search_h)} h"
    )


def animate(job: Job, figures: Figures, at_least_s: float = 0.0) -> Hours:
    seconds = max(job.animated_s, at_least_s)
    if seconds < LEAST["s"]:
        return Hours("animate", 0.0, "nothing animated")
    made = stop_motion_hours(
        length_s=seconds,
        delivery_fps=job.delivery_fps,
        hold=job.hold,
        seconds_per_hour=figures.seconds_per_hour,
    )
    return Hours(
        "animate",
        made.hours,
        f"{made.exposures} exposures ÷ ({figure(figures.seconds_per_hour)} s on twos ·"
        f" {figure(job.delivery_fps / 2.0)}) an hour",
    )


def joined_plates(job: Job, figures: Figures) -> list[Hours]:
    """Clean plates that nobody filmed."""
    made = []
    if job.plates_joined:
        text = f"{counted(job.plates_joined, 'plate')} · {figure(figures.neighbours_h)} h"
        made.append(Hours("matte", job.plates_joined * figures.neighbours_h, text))
    if job.plates_painted:
        text = f"{counted(job.plates_painted, 'plate')} · {figure(figures.clean_paint_h)} h"
        made.append(Hours("paint", job.plates_painted * figures.clean_paint_h, text))
    return made


def three_d(job: Job, figures: Figures) -> list[Hours]:
    """Things made in the machine: built once, moved for as long as they are animated."""
    count = max(job.things, 1)
    seconds = job.animated_s
    made = [
        Hours(
            "build", count * figures.three_d_h, f"{counted(count, 'thing')} · {figure(figures.three_d_h)} h"
        )
    ]
    if seconds:
        text = f"{figure(seconds)} s · {figure(figures.three_d_s_h)} h"
        made.append(Hours("animate", seconds * figures.three_d_s_h, text))
    return made


def total(crafts: Iterable[Hours]) -> float:
    return sum(craft.hours for craft in crafts)


def storage_gb(plates: int, frames: int, delivery_fps: float, figures: Figures) -> float:
    """What the takes of all plates take up: Mbit/s ÷ 8 · (length + handles) · takes · plates ÷ 1000.

    Parameters
    ----------
    plates : int
        That are filmed.
    frames : int
        Of the shot.
    delivery_fps : float
        Rate of the delivery, frames/s.
    figures : Figures
        What the production reckons with.

    Returns
    -------
    float
        GB.

    References
    ----------
    data_rate

    Examples
    --------
    >>> round(storage_gb(3, 96, 24.0, Figures()), 2)
    6.3
    """
    return (
        figures.rate_mbit_s
        / 8.0
        * (frames / delivery_fps + figures.handles_s)
        * figures.takes
        * plates
        / 1000.0
    )


def crossings(judged: Iterable[Iterable[Judgement]]) -> int:
    """Layers that reach over their split line, as the comparison finds them.

    Parameters
    ----------
    judged : iterable of iterable of Judgement
        The judgements of each layer of a shot.

    Returns
    -------
    int
        How many have an amount beyond what holds.

    Examples
    --------
    >>> from jungoptic.core.example import STACK
    >>> from jungoptic.core.match import judge_member
    >>> crossings(judge_member(STACK, position)[1] for position in (1, 2))
    0
    """
    return sum(any(item.item == "split_line" and item.amount > item.holds for item in own) for own in judged)


def layer_matte_hours(
    outlines: Iterable[Sequence[float]], needed: Box, frames: int
) -> tuple[float, float] | None:
    """Hours of one hand matte round a whole layer, and of the part of it that is delivered.

    Parameters
    ----------
    outlines : iterable of sequence of float
        Points of its outlines, delivered px.
    needed : tuple of float
        Left, top, right and bottom of what is delivered, px.
    frames : int
        Of the shot.

    Returns
    -------
    whole_h : float
        Hours for all of it; None in place of both where there is nothing to cut.
    needed_h : float
        Hours for what is delivered.

    References
    ----------
    hours, framing

    Examples
    --------
    >>> layer_matte_hours([(0, 0), (1920, 1080)], (480, 0, 1440, 1080), 96)
    (2.0, 1.0)
    """
    points = list(outlines)
    if not points:
        return None
    xs, ys = zip(*points, strict=True)
    hours = hand_matte_hours(
        frames=frames, key_every=KEY_EVERY, minutes_per_key=MINUTES_PER_KEY, shapes=1
    ).hours
    return hours, hours * share_inside((min(xs), min(ys), max(xs), max(ys)), needed)
