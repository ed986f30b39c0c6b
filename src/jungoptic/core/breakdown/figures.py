"""What the cost of a shot depends on and comes to: the production's figures, a shot's job, hours, ways.

Kind: common practice or judgement, said at each figure.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from .. import quantities as q
from ..plan.framing import KEY_EVERY, MINUTES_PER_KEY
from ..vocabulary import LINES, Hold

Craft = Literal["set", "build", "paint", "animate", "matte", "composite", "search"]
CRAFTS: tuple[Craft, ...] = ("set", "build", "paint", "animate", "matte", "composite", "search")
ON_SET: tuple[Craft, ...] = ("set", "animate")  # where the camera stands; the others at a desk or a bench
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
    three_d_h: Annotated[float, q.quantity("A 3-D thing", "h", "Built, surfaced and lit.", ge=0, le=2000)] = (
        24.0
    )
    three_d_s_h: Annotated[float, q.quantity("Moving it, a second of film", "h", ge=0, le=500)] = 2.0
    render_h: Annotated[float, q.quantity("Lighting and rendering it again", "h", ge=0, le=500)] = 3.0
    neighbours_h: Annotated[
        float, q.quantity("A clean plate from neighbouring frames", "h", ge=0, le=200)
    ] = 2.0
    clean_paint_h: Annotated[float, q.quantity("A painted clean plate", "h", ge=0, le=200)] = 3.0
    dim_h: Annotated[
        float, q.quantity("A light pass at another level", "h", "In the composite.", ge=0, le=100)
    ] = 0.5
    grade_h: Annotated[
        float, q.quantity("Grading a layer to the hero", "h", "Light, white, spill.", ge=0, le=100)
    ] = 0.5
    steady_h: Annotated[
        float, q.quantity("Tracking a layer and laying it back", "h", "What moved, or wobbles.", ge=0, le=100)
    ] = 0.75
    clean_h: Annotated[
        float, q.quantity("Taking out noise or flicker", "h", "Set, looked at, rendered.", ge=0, le=100)
    ] = 0.5
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
    tracked: Annotated[q.YesNo, Field(title="Tracking holds")] = False
    framing_first: Annotated[q.YesNo, Field(title="Final crop and move first")] = True
    needed_share: Annotated[float, q.quantity("Of the cut that is delivered", "", ge=0, le=1)] = 1.0
    defects: Annotated[
        int, q.quantity("Defects of the backing", "", "Uneven, low chroma, too near.", ge=0, le=10)
    ] = 0
    crossings: Annotated[int, q.quantity("Things that cross the line", "", ge=0, le=50)] = 0
    moving_camera: Annotated[q.YesNo, Field(title="Camera moves")] = False
    area_m2: Annotated[float, q.quantity("To be built, full size", "m²", ge=0, le=1e6)] = 10.0
    scale: q.Scale = 12.0
    paintings: Annotated[int, q.quantity("Painted pictures", "", ge=0, le=50)] = 1
    elements: Annotated[int, q.quantity("Stock elements", "", ge=0, le=50)] = 1
    animated_s: Annotated[float, q.quantity("Animated", "s", ge=0, le=3600)] = 0.0
    delivery_fps: q.FramesPerS = 24.0
    hold: Annotated[Hold, Field(title="On")] = "twos"
    things: Annotated[int, q.quantity("3-D things", "", ge=0, le=50)] = 0
    plates_joined: Annotated[int, q.quantity("Clean plates from neighbouring frames", "", ge=0, le=50)] = 0
    plates_painted: Annotated[int, q.quantity("Painted clean plates", "", ge=0, le=50)] = 0
    light_passes: Annotated[
        int, q.quantity("Light passes", "", "Light that is added and not made in camera.", ge=0, le=50)
    ] = 0
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
    """One way to make the shot, priced; ``mended`` is what it takes to have other light on the effect once
    all is filmed.
    """

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
    mended: Hours

    @property
    def hours(self) -> float:
        """All of it, h."""
        return sum(craft.hours for craft in self.crafts)
