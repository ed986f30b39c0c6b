"""What a shot costs by each way of making it: hours by craft with their formula, kit wanted, days. All
figures can be changed.

Kind: common practice or judgement, said at each figure; the same hours as domain tables of hand mattes and of
stop motion.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from .. import quantities as q
from ..handbook.frames import hand_matte_hours, stop_motion_hours
from ..plan.framing import KEY_EVERY, MINUTES_PER_KEY, Box, share_inside
from ..vocabulary import LINES, Hold
from ..wording import number

Craft = Literal["set", "build", "paint", "animate", "matte", "composite", "search"]
CRAFTS: tuple[Craft, ...] = ("set", "build", "paint", "animate", "matte", "composite", "search")
Backing = Literal["good", "uneven", "none"]


class Figures(q.Record):
    """What the production reckons with. Every one can be changed."""

    composite_least_h: Annotated[
        float,
        q.quantity(
            "Composite, two layers",
            "h",
            "Common practice: 8 to 16 h for a finished layered shot.",
            ge=0,
            le=500,
        ),
    ] = 8.0
    composite_most_h: Annotated[float, q.quantity("Composite, eight layers", "h", ge=0, le=500)] = 16.0
    minutes_per_key: Annotated[
        float, q.quantity("Minutes for each key", "min", "Of one hand-drawn shape.", gt=0, le=600)
    ] = MINUTES_PER_KEY
    key_every: Annotated[int, q.quantity("A key every", "frames", "By hand.", ge=1, le=1000)] = KEY_EVERY
    tracked_key_every: Annotated[int, q.quantity("A key every, tracked", "frames", ge=1, le=1000)] = 12
    key_h: Annotated[float, q.quantity("Pulling a key", "h", "On a good backing.", ge=0, le=200)] = 2.0
    defect_h: Annotated[
        float,
        q.quantity(
            "Cleaning each defect of a key", "h", "Uneven light, low chroma, subject too near.", ge=0, le=200
        ),
    ] = 1.5
    difference_h: Annotated[float, q.quantity("Difference matte and its cleaning", "h", ge=0, le=200)] = 4.0
    split_h: Annotated[float, q.quantity(LINES["split"].name, "h", ge=0, le=200)] = 1.0
    crossing_h: Annotated[float, q.quantity("Each thing that crosses the line", "h", ge=0, le=200)] = 2.0
    patch_h: Annotated[
        float, q.quantity("One still patch", "h", "Painted out behind a locked-off camera.", ge=0, le=200)
    ] = 0.5
    patch_share: Annotated[
        float, q.quantity("A patch of this share of the frame takes once the time", "%", ge=0.01, le=100)
    ] = 2.0
    build_h_m2: Annotated[
        float,
        q.quantity(
            "Building a square metre",
            "h/m²",
            "Of the model as it stands, both sides of the brush.",
            ge=0,
            le=1000,
        ),
    ] = 20.0
    build_m2: Annotated[
        float, q.quantity("Building a set, a square metre", "h/m²", "Full size.", ge=0, le=1000)
    ] = 1.5
    paint_h: Annotated[float, q.quantity("A painted picture", "h", ge=0, le=500)] = 8.0
    search_h: Annotated[float, q.quantity("Finding a stock element", "h", ge=0, le=100)] = 1.5
    seconds_per_hour: Annotated[
        float, q.quantity("Film an animator makes in an hour", "s", "Two to three is usual.", gt=0, le=3600)
    ] = 2.5
    set_up_h: Annotated[
        float, q.quantity("One set-up", "h", "Rigging, lighting and takes.", ge=0, le=100)
    ] = 2.0
    crew: Annotated[int, q.quantity("People on set", "", ge=1, le=200)] = 3
    day_h: Annotated[float, q.quantity("A day", "h", gt=0, le=24)] = 8.0
    rate_mbit_s: Annotated[
        float, q.quantity("Recording", "Mbit/s", "What the camera writes.", gt=0, le=100000)
    ] = 200.0
    takes: Annotated[int, q.quantity("Takes of each plate", "", ge=1, le=1000)] = 6
    handles_s: Annotated[float, q.quantity("Rolling before and after", "s", "Together.", ge=0, le=600)] = 10.0


class Job(q.Record):
    """What of a shot the hours depend on. Pixels and shares of the delivered frame; areas full size."""

    frames: q.FrameCount = 96
    layers: Annotated[int, q.quantity("Layers", "", ge=1, le=200)] = 3
    set_ups: Annotated[int, q.quantity("Set-ups", "", ge=0, le=100)] = 2
    shapes: Annotated[int, q.quantity("Shapes to cut by hand", "", ge=0, le=200)] = 3
    tracked: Annotated[bool, Field(title="Tracking holds")] = False
    framing_first: Annotated[bool, Field(title="Framed before cutting")] = True
    needed_share: Annotated[float, q.quantity("Of the cut that is delivered", "", ge=0, le=1)] = 1.0
    defects: Annotated[
        int, q.quantity("Defects of the backing", "", "Uneven, low chroma, too near.", ge=0, le=10)
    ] = 0
    crossings: Annotated[int, q.quantity("Things that cross the line", "", ge=0, le=50)] = 0
    moving_camera: Annotated[bool, Field(title="Camera moves")] = False
    area_m2: Annotated[float, q.quantity("To be built, full size", "m²", ge=0, le=1e6)] = 10.0
    scale: q.Scale = 12.0
    paintings: Annotated[int, q.quantity("Painted pictures", "", ge=0, le=50)] = 1
    elements: Annotated[int, q.quantity("Stock elements", "", ge=0, le=50)] = 1
    animated_s: Annotated[float, q.quantity("Animated", "s", ge=0, le=3600)] = 0.0
    delivery_fps: q.FramesPerS = 24.0
    hold: Annotated[Hold, Field(title="On")] = "twos"
    paint_out_h: Annotated[
        float, q.quantity("Painted out along the lines of the board", "h", ge=0, le=10000)
    ] = 0.0


@dataclass(frozen=True, slots=True)
class Owned:
    """What the production has that a way may want."""

    backings: int = 0
    lamps: int = 0
    highest_fps: float = 24.0
    stock_elements: int = 0
    delivery_fps: float = 24.0


@dataclass(frozen=True, slots=True)
class Hours:
    """Hours of one craft with the formula and the values put in."""

    craft: Craft
    hours: float
    formula: str


@dataclass(frozen=True, slots=True)
class Wanted:
    """A piece of kit that a way wants, and whether the production has it."""

    what: str
    has: bool


@dataclass(frozen=True, slots=True)
class Saving:
    """What one decision saves against not taking it; ``taken`` when the shot stands so already."""

    what: str
    hours: float
    taken: bool


@dataclass(frozen=True, slots=True)
class Option:
    """One way to make the shot, priced."""

    key: str
    name: str
    school: str
    layers: tuple[str, ...]
    crafts: tuple[Hours, ...]
    wanted: tuple[Wanted, ...]
    cautions: tuple[str, ...]
    shows: tuple[str, ...]
    savings: tuple[Saving, ...]
    days: float

    @property
    def hours(self) -> float:
        return sum(one.hours for one in self.crafts)


def _g(value: float) -> str:
    return number(value, 3)


def _n(count: int, one: str) -> str:
    return f"{count} {one}{'' if count == 1 else 's'}"


def composite(job: Job, figures: Figures, layers: int | None = None) -> Hours:
    """From the least at two layers to the most at eight and beyond, in a straight line."""
    count = job.layers if layers is None else layers
    share = min(max((count - 2) / 6.0, 0.0), 1.0)
    hours = figures.composite_least_h + share * (figures.composite_most_h - figures.composite_least_h)
    return Hours(
        "composite",
        hours,
        f"{_g(figures.composite_least_h)} + ({count} − 2)/6 ·"
        f" {_g(figures.composite_most_h - figures.composite_least_h)} h",
    )


def set_hours(set_ups: int, figures: Figures) -> Hours:
    return Hours(
        "set",
        set_ups * figures.set_up_h * figures.crew,
        f"{_n(set_ups, 'set-up')} · {_g(figures.set_up_h)} h · {figures.crew} people",
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
        f"⌈{job.frames}/{every}⌉ = {whole.keys} keys · {_g(figures.minutes_per_key)} min ·"
        f" {_n(count, 'shape')}"
    )
    return Hours(
        "matte",
        whole.hours * share,
        text + (f" · {100 * share:.0f} % that is delivered" if share < 1 else ""),
    )


def paint_out_hours(frames: int, share_pct: float, locked: bool, tracked: bool, figures: Figures) -> Hours:
    """A paint-out by its size and frames: one patch behind a locked-off camera, else a patch at every key,
    times its size.

    ``share_pct`` is its share of the delivered frame. Kind: judgement on common practice.
    """
    size = max(1.0, share_pct / figures.patch_share)
    if locked:
        return Hours("matte", figures.patch_h * size, f"one patch {_g(figures.patch_h)} h · size {_g(size)}")
    every = figures.tracked_key_every if tracked else figures.key_every
    keys = math.ceil(frames / every)
    hours = figures.patch_h * size + keys * figures.minutes_per_key * size / 60.0
    return Hours(
        "matte",
        hours,
        f"{_g(figures.patch_h)} h + ⌈{frames}/{every}⌉ = {keys} keys · {_g(figures.minutes_per_key)} min,"
        f" size {_g(size)}",
    )


def building_hours(area_m2: float, scale: float, figures: Figures) -> float:
    """Area of the model, full-size area ÷ s², times its hours; a set at full size has a figure of its own.

    Kind: judgement.
    """
    return area_m2 * figures.build_m2 if scale <= 1.0 else area_m2 / scale**2 * figures.build_h_m2


def build(job: Job, figures: Figures) -> Hours:
    hours = building_hours(job.area_m2, job.scale, figures)
    if job.scale <= 1.0:
        return Hours("build", hours, f"{_g(job.area_m2)} m² · {_g(figures.build_m2)} h")
    return Hours(
        "build",
        hours,
        f"{_g(job.area_m2)} m²/{_g(job.scale)}² = {_g(job.area_m2 / job.scale**2)} m² ·"
        f" {_g(figures.build_h_m2)} h",
    )


def _paint(count: int, figures: Figures) -> Hours:
    return Hours("paint", count * figures.paint_h, f"{_n(count, 'picture')} · {_g(figures.paint_h)} h")


def _search(count: int, figures: Figures) -> Hours:
    return Hours("search", count * figures.search_h, f"{_n(count, 'element')} · {_g(figures.search_h)} h")


def _animate(job: Job, figures: Figures) -> Hours:
    if not job.animated_s:
        return Hours("animate", 0.0, "nothing animated")
    made = stop_motion_hours(
        length_s=job.animated_s,
        delivery_fps=job.delivery_fps,
        hold=job.hold,
        seconds_per_hour=figures.seconds_per_hour,
    )
    return Hours(
        "animate",
        made.hours,
        f"{_g(job.animated_s)} s ÷ {_g(figures.seconds_per_hour)} s an hour, {made.exposures} exposures",
    )


def total(crafts: Iterable[Hours]) -> float:
    return sum(one.hours for one in crafts)


def storage_gb(plates: int, frames: int, delivery_fps: float, figures: Figures) -> float:
    """Rate × time of all takes of all filmed plates: Mbit/s ÷ 8 · (length + handles) · takes · plates ÷ 1000,
    GB.
    """
    return (
        figures.rate_mbit_s
        / 8.0
        * (frames / delivery_fps + figures.handles_s)
        * figures.takes
        * plates
        / 1000.0
    )


def layer_matte_hours(
    outlines: Iterable[Sequence[float]], needed: Box, frames: int
) -> tuple[float, float] | None:
    """Hours of one hand matte round a whole layer, and of the part of it that is delivered; None where there
    is nothing to cut.

    ``outlines`` are the points of its outlines and ``needed`` the box that is delivered, in pixels of the
    delivered frame.
    """
    points = list(outlines)
    if not points:
        return None
    xs, ys = zip(*points, strict=True)
    hours = hand_matte_hours(
        frames=frames, key_every=KEY_EVERY, minutes_per_key=MINUTES_PER_KEY, shapes=1
    ).hours
    return hours, hours * share_inside((min(xs), min(ys), max(xs), max(ys)), needed)
