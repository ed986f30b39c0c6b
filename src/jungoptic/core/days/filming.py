"""What is known of a shot when its set-ups become jobs, and what the production reckons with for them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Annotated, Literal

from .. import quantities as q
from ..match import Stack
from .records import Changes

Duty = Literal["every", "camera", "model", "animator", "plays", "none"]
DUTIES: dict[Duty, str] = {
    "every": "is needed for every job",
    "camera": "is needed wherever a camera rolls",
    "model": "is needed wherever a model stands",
    "animator": "is needed frame by frame",
    "plays": "plays somebody",
    "none": "is named job by job",
}


class DayFigures(q.Record):
    """What the production reckons with for its days. Every one can be changed."""

    rig_min: Annotated[float, q.quantity("Rigging a set-up", "min", ge=0, le=1440)] = 30.0
    light_min: Annotated[float, q.quantity("Lighting it", "min", ge=0, le=1440)] = 30.0
    takes: Annotated[int, q.quantity("Takes of a plate", "", ge=1, le=100)] = 6
    pass_takes: Annotated[int, q.quantity("Takes of a pass or clean plate", "", ge=1, le=100)] = 2
    destroyed_takes: Annotated[int, q.quantity("Takes of what is destroyed", "", ge=1, le=100)] = 3
    roll_min: Annotated[float, q.quantity("A take rolls", "min", ge=0, le=600)] = 1.0
    reset_min: Annotated[float, q.quantity("Reset between takes", "min", ge=0, le=600)] = 3.0
    destroyed_reset_min: Annotated[float, q.quantity("Reset of what was destroyed", "min", ge=0, le=1440)] = (
        60.0
    )
    strike_min: Annotated[float, q.quantity("Striking a set-up", "min", ge=0, le=1440)] = 10.0
    block_min: Annotated[
        float,
        q.quantity("A block frame by frame, at most", "min", "Longer work is parted.", ge=10, le=1440),
    ] = 240.0
    place_min: Annotated[float, q.quantity("Changing the place", "min", ge=0, le=1440)] = 90.0
    model_min: Annotated[float, q.quantity("Changing the model on the table", "min", ge=0, le=1440)] = 40.0
    light_change_min: Annotated[
        float, q.quantity("Changing the light", "min", "Its direction or colour.", ge=0, le=1440)
    ] = 30.0
    backing_min: Annotated[float, q.quantity("Changing the backing", "min", ge=0, le=1440)] = 25.0
    costume_min: Annotated[float, q.quantity("Changing costume", "min", ge=0, le=1440)] = 20.0
    position_min: Annotated[float, q.quantity("Moving the camera", "min", ge=0, le=1440)] = 15.0
    lens_min: Annotated[float, q.quantity("Changing the lens", "min", ge=0, le=1440)] = 5.0
    rest_share: Annotated[
        float,
        q.quantity("Of what else differs", "", "Counted beside the largest change.", ge=0, le=1),
    ] = 1.0 / 3.0
    off_set_h: Annotated[
        float,
        q.quantity("Off the set, one person a week", "h", "Builds, mattes, composites.", gt=0, le=168),
    ] = 20.0

    @property
    def changes(self) -> Changes:
        """What it costs to change what stands, whole minutes."""
        return Changes(
            place_min=round(self.place_min),
            model_min=round(self.model_min),
            light_min=round(self.light_change_min),
            backing_min=round(self.backing_min),
            position_min=round(self.position_min),
            lens_min=round(self.lens_min),
            costume_min=round(self.costume_min),
            rest_share=self.rest_share,
        )


@dataclass(frozen=True, slots=True)
class Filming:
    """How one layer is filmed: ``rank`` orders the plates of a shot, ``why`` says why then (its recipe's
    words), ``destroys`` that nothing is left of the model, ``done`` that a take of it is circled.
    """

    rank: int
    why: str = ""
    destroys: bool = False
    done: bool = False


@dataclass(frozen=True, slots=True)
class StandingSetUp:
    """What a set-up is called, and which camera and lens it has."""

    name: str
    camera: str = ""
    lens: str = ""


@dataclass(frozen=True, slots=True)
class ShotToFilm:
    """A shot whose set-ups become jobs: its stack, for each member how it is filmed (None for pictures), and
    its set-ups by the keys of the stack's members. ``place`` is where the scene plays, "" where nobody said.
    """

    code: str
    stack: Stack
    filming: tuple[Filming | None, ...]
    set_ups: Mapping[int, StandingSetUp]
    place: str = ""
    seconds_per_hour: float = 2.5


@dataclass(frozen=True, slots=True)
class Hand:
    """Somebody as far as jobs need them: what they do, and whom they play (words in the names of layers)."""

    key: str
    duty: Duty
    plays: tuple[str, ...] = field(default=())
