"""What is compared beside the layer: the delivery, how a production judges, the set-up that films."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field, model_validator

from .. import quantities as q
from ..errors import refuse
from ..light.daylight import Sky
from ..light.placed import Backing, PlacedLamp
from ..motion.move import Move
from ..vocabulary import Reference

REFERENCES: tuple[Reference, ...] = ("ball", "chart", "tape")


SoftenPx = Annotated[
    float, q.quantity("Softened at the end", "px", "Diameter of the blur that the finish adds.", ge=0, le=100)
]
GrainAdded = Annotated[
    float, q.quantity("Grain added", "×", "Grain of the finish, in grains of the hero.", ge=0, le=100)
]


class Judging(q.Record):
    """What a production is judged by, beside its tolerances: its finish, and how far its tape and its level
    may be off.
    """

    black_and_white: q.YesNo = False
    soften_px: SoftenPx = 0.0
    grain_added: GrainAdded = 0.0
    shows_models: q.YesNo = False
    tape_error_m: Annotated[float, q.quantity("Error of the tape", "m", ge=0, le=1)] = 0.0
    level_error_deg: Annotated[float, q.quantity("Error of the level", "°", ge=0, le=10)] = 0.0


class Delivery(q.Record):
    """The finished frame, the hero's move in it, what of it is needed, and what is done to it at the end.

    ``needed_*`` are the frame with its stabiliser margin, or the narrower cut-down when only that is
    delivered: what lies outside need not be filmed. The finish is judged through; ``shows_models`` lets
    scale, time and detail only inform.
    """

    width_px: q.WidthPx = 1920
    height_px: q.HeightPx = 1080
    frame_rate_fps: q.FramesPerS = 24.0
    needed_width_px: Annotated[
        float | None, q.quantity("Width needed", "px", "Empty = the whole delivery.", gt=0, le=65536)
    ] = None
    needed_height_px: Annotated[float | None, q.quantity("Height needed", "px", gt=0, le=65536)] = None
    black_and_white: q.YesNo = False
    soften_px: SoftenPx = 0.0
    grain_added: GrainAdded = 0.0
    shows_models: q.YesNo = False
    move: Move = Move()
    length_frames: Annotated[
        int | None,
        q.quantity("Length", "frames", "Of the shot; empty = as long as its move.", ge=1, le=1_000_000),
    ] = None

    @property
    def needed_px(self) -> tuple[float, float]:
        """Width and height that some frame of the delivery uses."""
        return self.needed_width_px or float(self.width_px), self.needed_height_px or float(self.height_px)

    def before_finish(self) -> Delivery:
        """The same frame before anything is done to it at the end.

        Returns
        -------
        Delivery
            Neither softened nor grained, and in colour.

        Examples
        --------
        >>> Delivery(soften_px=2.0).before_finish().soften_px
        0.0
        """
        return self.model_copy(update={"black_and_white": False, "soften_px": 0.0, "grain_added": 0.0})


class SetUp(q.Record):
    """Camera, lens, settings, place and light, as they stand.

    Metres of the set, not of the full-size world.
    """

    focal_length_mm: q.FocalLengthMm
    focusing: q.Focusing = "unit"
    f_number: q.FNumber
    focus_distance_m: q.FocusDistanceM
    gate_width_mm: q.GateWidthMm
    gate_height_mm: q.GateHeightMm
    extraction_width_mm: Annotated[
        float | None,
        q.quantity(
            "Extraction width",
            "mm",
            "Width of gate that ends in the delivery; empty = all of it.",
            ge=0.1,
            le=100,
        ),
    ] = None
    recorded_width_px: q.WidthPx
    recorded_height_px: q.HeightPx
    distance_m: Annotated[
        float,
        q.quantity(
            "Lens to layer", "m", "From the entrance pupil to the front edge of the layer.", gt=0, le=1e6
        ),
    ]
    lens_height_m: Annotated[float, q.quantity("Lens height", "m", "Above the floor.", ge=-100, le=10000)]
    ground_height_m: Annotated[
        float,
        q.quantity(
            "Table height", "m", "The layer's ground above the floor: table, trestles.", ge=-100, le=1000
        ),
    ] = 0.0
    tilt_deg: Annotated[float, q.quantity("Tilt", "°", "Up is positive.", ge=-89, le=89)] = 0.0
    roll_deg: Annotated[float, q.quantity("Roll", "°", ge=-180, le=180)] = 0.0
    capture_fps: q.FramesPerS
    shutter_angle_deg: q.ShutterAngleDeg = 180.0
    iso: q.Iso
    nd_stops: q.NdStops = 0.0
    illuminance_lx: Annotated[float, q.quantity("Light on the subject", "lx", gt=0, le=200000)]
    light_k: q.ColourK = 5600.0
    white_balance_k: Annotated[float, q.quantity("White balance", "K", ge=1000, le=40000)] = 5600.0
    key_azimuth_deg: Annotated[
        float | None,
        q.quantity("Key, side angle", "°", "0 behind the camera, positive to camera right.", ge=-180, le=180),
    ] = None
    key_elevation_deg: Annotated[float | None, q.quantity("Key, height angle", "°", ge=-90, le=90)] = None
    key_size_deg: Annotated[
        float | None,
        q.quantity(
            "Apparent source size",
            "°",
            "Angular diameter as the subject sees it; the sun is 0.53.",
            gt=0,
            le=180,
        ),
    ] = None
    key_to_fill_stops: Annotated[
        float | None,
        q.quantity("Key-to-fill ratio", "stops", "Key and fill together over fill alone.", ge=0, le=20),
    ] = None
    key_measured: Annotated[
        bool,
        Field(
            title="Key as stated",
            description="Read there with a ball: counts in place of what lamps and sun would give.",
        ),
    ] = False
    ripple_depth: Annotated[
        float,
        q.quantity(
            "Lamp flicker depth", "", "(max − min)/(max + min) at twice the mains; 0 = steady.", ge=0, lt=1
        ),
    ] = 0.0
    mains_hz: Annotated[float, q.quantity("Mains", "Hz", gt=0, le=1000)] = 50.0
    sun_at: Annotated[
        datetime | None,
        Field(title="Lit by the sun at", description="With its offset from UTC; empty = not by the sun."),
    ] = None
    sky: Annotated[Sky, Field(title="Sky", description="Where the sun's time is given.")] = "clear"
    diffusion_stops: Annotated[
        float,
        q.quantity(
            "Diffusion over the set",
            "stops",
            "What a frame of cloth takes of the sun; 0 = none.",
            ge=0,
            le=10,
        ),
    ] = 0.0
    heading_deg: Annotated[float, q.quantity("Camera looks", "°", "From north, clockwise.", ge=0, le=360)] = (
        0.0
    )
    latitude_deg: Annotated[float | None, q.quantity("Latitude", "°", ge=-90, le=90)] = None
    longitude_deg: Annotated[float | None, q.quantity("Longitude", "°", ge=-180, le=180)] = None
    model_speed_m_s: Annotated[float | None, q.quantity("Speed set on the model", "m/s", ge=0, le=1000)] = (
        None
    )
    follows_move: Annotated[q.YesNo, Field(title="Makes the shot's move")] = True
    travel_m: Annotated[
        float | None,
        q.quantity("Travel of the rig", "m", "Empty = the hero's travel ÷ s.", ge=-1000, le=1000),
    ] = None
    pupil_off_mm: Annotated[float, q.quantity("Nodal offset", "mm", ge=-1000, le=1000)] = 0.0
    references: Annotated[tuple[Reference, ...], Field(title="References filmed")] = ()
    bit_depth: Annotated[int, q.quantity("Bit depth", "bit", ge=1, le=32)] = 10
    sampling: q.Sampling = "4:4:4"
    long_groups: Annotated[q.YesNo, Field(title="Long-GOP recording")] = False
    readout_ms: Annotated[
        float, q.quantity("Readout of the whole frame", "ms", "0 = all rows at once.", ge=0, le=1000)
    ] = 0.0
    headroom_stops: Annotated[float, q.quantity("Highlight latitude over mid-grey", "stops", ge=0, le=20)] = (
        6.0
    )
    noise_pct: q.NoisePct = None
    noise_iso: q.NoiseIso = None
    widest_f_number: q.FNumber = 2.0
    distortion_pct: Annotated[
        float, q.quantity("Distortion at the corner", "%", "Barrel is negative.", ge=-50, le=50)
    ] = 0.0
    vignetting_stops: Annotated[
        float, q.quantity("Vignetting wide open", "stops", "At the corner.", ge=0, le=10)
    ] = 0.0
    measured_gate_mm: Annotated[
        float | None,
        q.quantity(
            "Lens measured on", "mm", "Gate in whose corner; empty = the one recorded with.", gt=0, le=100
        ),
    ] = None
    lamps: Annotated[tuple[PlacedLamp, ...], Field(title="Lamps", max_length=64)] = ()
    backing: Annotated[Backing | None, Field(title="Backing")] = None

    @model_validator(mode="after")
    def _focus_outside_lens(self) -> SetUp:
        if 1000.0 * self.focus_distance_m <= self.focal_length_mm:
            raise refuse(
                "focus_distance_m",
                f"Focus distance must be more than the focal length, {self.focal_length_mm:g} mm;"
                f" {1000 * self.focus_distance_m:g} mm was given.",
            )
        if self.extraction_width_mm is not None and self.extraction_width_mm > self.gate_width_mm:
            raise refuse(
                "extraction_width_mm",
                f"Extraction width must be at most the gate's, {self.gate_width_mm:g} mm;"
                f" {self.extraction_width_mm:g} mm was given.",
            )
        return self

    @model_validator(mode="after")
    def _time_has_zone(self) -> SetUp:
        if self.sun_at is not None and self.sun_at.tzinfo is None:
            raise refuse(
                "sun_at",
                "The time of the sun must say its offset from UTC, like 2027-10-23T16:30+01:00;"
                f" {self.sun_at.isoformat()} was given.",
            )
        if self.sun_at is not None and not q.in_our_time(self.sun_at):
            raise refuse(
                "sun_at", f"The time of the sun must be {q.OUR_TIME}; {self.sun_at.isoformat()} was given."
            )
        return self

    @property
    def extracted_mm(self) -> float:
        """Width of gate that ends in the delivery, mm."""
        return self.extraction_width_mm or self.gate_width_mm

    @property
    def measured_on_mm(self) -> float:
        """Width of the gate in whose corner the lens's faults were measured, mm."""
        return self.gate_width_mm if self.measured_gate_mm is None else self.measured_gate_mm
