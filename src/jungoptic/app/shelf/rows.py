"""What can be said of each kind of thing in the kit, as checked records. The screen's fields are theirs."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Any, Literal, Self

from django.db import models
from pydantic import AfterValidator, Field, model_validator

from jungoptic.app.kit.models import Camera, Filter, Gear, Lamp, Lens, RecordingMode, Support
from jungoptic.core import kit as core
from jungoptic.core import quantities as q
from jungoptic.core.errors import refuse

Name = Annotated[str, Field(title="Name", max_length=60)]
Note = Annotated[str, Field(title="Note", max_length=200)]
GearKind = Literal[
    "backing", "screen", "diffusion", "reflector", "ball", "chart", "turntable", "tape", "other"
]
_BY_RATE = AfterValidator(core.exact_rate_fps)


class CameraRow(q.Record):
    """A body."""

    name: Name
    lowest_iso: Annotated[int, q.quantity("Lowest ISO", "", ge=1, le=1_000_000)] = 100
    highest_iso: Annotated[int, q.quantity("Highest ISO", "", ge=1, le=1_000_000)] = 6400
    base_iso: Annotated[int, q.quantity("Base ISO", "", "Where it is cleanest.", ge=1, le=1_000_000)] = 400
    note: Note = ""

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.highest_iso < self.lowest_iso:
            raise refuse("highest_iso", f"The highest ISO must be {self.lowest_iso} or more.")
        if not self.lowest_iso <= self.base_iso <= self.highest_iso:
            raise refuse("base_iso", f"The base ISO lies between {self.lowest_iso} and {self.highest_iso}.")
        return self


class ModeRow(q.Record):
    """A way that a camera records."""

    camera_id: int
    name: Name
    recorded_width_px: q.WidthPx
    recorded_height_px: q.HeightPx
    gate_width_mm: q.GateWidthMm
    gate_height_mm: q.GateHeightMm
    highest_fps: Annotated[float, q.quantity("Up to", "frames/s", gt=0, le=100_000), _BY_RATE] = 30.0
    rates_fps: Annotated[
        tuple[Annotated[float, _BY_RATE, Field(gt=0, le=100_000)], ...],
        Field(
            title="Rates on its menu", description="Empty = the usual ones up to the highest.", max_length=40
        ),
    ] = ()
    bit_depth: Annotated[int, q.quantity("Bit depth", "bit", ge=1, le=32)] = 8
    sampling: q.Sampling = "4:2:0"
    long_groups: Annotated[q.YesNo, Field(title="Long-GOP")] = True
    readout_ms: Annotated[
        float, q.quantity("Readout of the whole frame", "ms", "0 = all rows at once.", ge=0, le=1000)
    ] = 20.0
    headroom_stops: Annotated[float, q.quantity("Highlight latitude over mid-grey", "stops", ge=0, le=20)] = (
        4.0
    )
    noise_pct: q.NoisePct = None
    noise_iso: q.NoiseIso = None
    data_rate_mb_s: Annotated[float | None, q.quantity("Data rate", "MB/s", gt=0, le=100_000)] = None
    note: Note = ""


class LensRow(core.Lens):
    """A lens, or one with something put on."""

    name: Name
    camera_id: int | None = None
    on_id: int | None = None
    dioptres: Annotated[float | None, q.quantity("Close-up lens", "dioptres", gt=0, le=100)] = None
    tube_mm: Annotated[float | None, q.quantity("Extension tube", "mm", gt=0, le=500)] = None
    converter: Annotated[float | None, q.quantity("Converter", "×", gt=0.1, le=10)] = None
    note: Note = ""


class LampRow(q.Record):
    """A lamp, from its maker's figures or from a meter."""

    name: Name
    intensity_cd: q.IntensityCd = 1000.0
    beam_deg: Annotated[float, q.quantity("Beam", "°", gt=0, le=180)] = 90.0
    reading_lx: Annotated[
        float | None,
        q.quantity("Measured", "lx", "On the axis; the intensity follows.", gt=0, le=200_000),
    ] = None
    reading_m: Annotated[
        float | None,
        q.quantity("At", "m", "Beyond five times its largest side.", gt=0, le=100),
    ] = None
    half_off_m: Annotated[
        float | None,
        q.quantity("Half the light", "m", "So far off the axis, there; the beam follows.", gt=0, le=100),
    ] = None
    area_m2: Annotated[float, q.quantity("Face", "m²", "0 for a point.", ge=0, le=100)] = 0.0
    length_m: Annotated[float, q.quantity("Length of a tube", "m", "0 for any other lamp.", ge=0, le=20)] = (
        0.0
    )
    warmest_k: Annotated[int, q.quantity("Warmest colour", "K", ge=1000, le=40_000)] = 5600
    coolest_k: Annotated[int, q.quantity("Coolest colour", "K", ge=1000, le=40_000)] = 5600
    ripple_depth: Annotated[
        float, q.quantity("Flicker depth", "", "(max − min)/(max + min) at twice the mains.", ge=0, lt=1)
    ] = 0.0
    gel: Annotated[str, Field(title="Gel", max_length=40)] = ""
    gel_mired: Annotated[
        float | None, q.quantity("Gel shifts by", "mired", "Orange is positive.", ge=-400, le=400)
    ] = None
    gel_stops: Annotated[float | None, q.quantity("Gel takes", "stops", ge=0, le=10)] = None
    note: Note = ""

    @model_validator(mode="after")
    def _whole(self) -> Self:
        if self.coolest_k < self.warmest_k:
            raise refuse("coolest_k", f"The coolest colour must be {self.warmest_k} K or more.")
        if (self.reading_lx is None) != (self.reading_m is None):
            lacks = "reading_m" if self.reading_m is None else "reading_lx"
            raise refuse(lacks, "A reading is both: so many lux at so many metres.")
        if self.half_off_m is not None and self.reading_m is None:
            raise refuse("half_off_m", "Where it reads half is told beside a reading on the axis.")
        side = max(math.sqrt(self.area_m2), self.length_m)
        if self.reading_m is not None and self.reading_m < 5 * side * (1 - 1e-9):
            raise refuse(
                "reading_m",
                f"Read it from {5 * side:.2g} m or farther, five times its largest side: nearer, it is no"
                " point.",
            )
        return self


class SupportRow(q.Record):
    """What holds or moves the camera."""

    name: Name
    lowest_lens_m: Annotated[float, q.quantity("Lowest lens height", "m", ge=0, le=10)] = 0.4
    highest_lens_m: Annotated[float, q.quantity("Highest lens height", "m", ge=0, le=100)] = 1.6
    travel_m: Annotated[
        float | None, q.quantity("Travel", "m", "Of a slider, a crane, a track.", gt=0, le=1000)
    ] = None
    mm_a_turn: Annotated[
        float | None, q.quantity("A turn moves", "mm", "Of a geared one.", gt=0, le=1000)
    ] = None
    note: Note = ""

    @model_validator(mode="after")
    def _in_order(self) -> Self:
        if self.highest_lens_m < self.lowest_lens_m:
            raise refuse("highest_lens_m", f"The highest must be {self.lowest_lens_m:g} m or more.")
        return self


class FilterRow(q.Record):
    """A grey filter."""

    name: Name
    stops: Annotated[float, q.quantity("Takes", "stops", "A density of 0.3 is one stop.", gt=0, le=30)] = 1.0
    note: Note = ""


class GearRow(q.Record):
    """Anything else on the shelf."""

    name: Name
    kind: Annotated[GearKind, Field(title="What it is")] = "backing"
    width_m: Annotated[float | None, q.quantity("Width", "m", gt=0, le=100)] = None
    height_m: Annotated[float | None, q.quantity("Height", "m", gt=0, le=100)] = None
    colour: Annotated[str, Field(title="Colour", pattern=r"^(#[0-9a-fA-F]{6})?$")] = ""
    reflectance: Annotated[
        float | None, q.quantity("Reflectance", "", "A grey card has 0.18.", gt=0, le=1)
    ] = None
    stops: Annotated[float | None, q.quantity("Takes", "stops", "A frame of diffusion.", ge=0, le=10)] = None
    note: Note = ""


@dataclass(frozen=True)
class Kind:
    """``to_production``: the way from a row to its production."""

    model: type[models.Model]
    record: type[q.Record]
    word: str
    to_production: str = "production"

    @property
    def columns(self) -> tuple[str, ...]:
        return tuple(self.record.model_fields)

    def values(self, row: models.Model) -> dict[str, Any]:
        return {name: getattr(row, name) for name in self.columns}


KINDS: Mapping[str, Kind] = {
    "camera": Kind(Camera, CameraRow, "camera"),
    "mode": Kind(RecordingMode, ModeRow, "recording mode", "camera__production"),
    "lens": Kind(Lens, LensRow, "lens"),
    "lamp": Kind(Lamp, LampRow, "lamp"),
    "support": Kind(Support, SupportRow, "support"),
    "filter": Kind(Filter, FilterRow, "filter"),
    "gear": Kind(Gear, GearRow, "piece of gear"),
}
