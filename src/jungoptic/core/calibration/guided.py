"""One's own kit measured step by step: what each measurement needs, and what comes of it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from importlib.resources import files
from typing import Annotated, Literal

from .. import quantities as q
from ..data_file import record, tables

Of = Literal["lens", "mode", "lamp"]
_FILE = "guided.toml"
_USUAL_FOCUS_M, _USUAL_FAR = 1.0, 5.0
ENGRAVED_OFF = 0.02
"""How far a focal length is off what is engraved, as a share. Source: engraved_focal."""


class Guide(q.Record):
    """A measurement as it is guided: what it is written into, how many pictures of how many frames it needs,
    what has to be said for it, and its steps.
    """

    title: str
    tells: str
    of: Of
    minutes: int
    frames: int
    fewest: int
    asks: tuple[str, ...]
    chart: str
    steps: tuple[str, ...]


class Asked(q.Record):
    """What is said for a measurement; each needs some of it."""

    focus_distance_m: Annotated[float, q.quantity("Focused at", "m", "As the ring says.", gt=0, le=1000)] = (
        1.0
    )
    f_number: q.FNumber = 2.8
    near_m: Annotated[float, q.quantity("Near mark", "m", "From the axis of the head.", gt=0, le=100)] = 0.6
    far_m: Annotated[float, q.quantity("Far mark", "m", "From the axis of the head.", gt=0, le=1000)] = 3.0
    iso: q.Iso = 400
    mains_hz: Annotated[float, q.quantity("Mains", "Hz", "50 or 60.", ge=40, le=70)] = 50.0
    capture_fps: q.FramesPerS = 24.0
    exposure_s: Annotated[float, q.quantity("Shutter", "s", "1/1000 s is 0.001.", gt=0, le=1)] = 0.001
    shutter_angle_deg: q.ShutterAngleDeg = 180.0


@dataclass(frozen=True, slots=True)
class Instrument:
    """What is known before of what is measured: of the lens, of the recording. ``focal_off`` is what the
    focal length may be off, as a share of it: as engraved, or as it was measured.
    """

    focal_length_mm: float = 50.0
    focusing: str = "unit"
    widest_f_number: float = 2.0
    distortion_pct: float = 0.0
    distortion_gate_mm: float | None = None
    gate_width_mm: float = 23.5
    gate_height_mm: float = 13.2
    recorded_height_px: int = 1080
    readout_ms: float = 0.0
    focal_off: float = ENGRAVED_OFF
    zoom: bool = False
    vignetting_stops: float = 0.0


def usual(closest_focus_m: float, widest_f_number: float) -> dict[str, float]:
    """What is said for a measurement, as it usually is with a lens.

    Parameters
    ----------
    closest_focus_m : float
        Its closest focus, m.
    widest_f_number : float
        Its widest stop.

    Returns
    -------
    dict of str to float
        By the fields of :class:`Asked`: focused at twice the closest, a metre at least, the near mark there.

    Examples
    --------
    >>> usual(0.85, 2.0)["focus_distance_m"]
    1.7
    """
    near = round(max(_USUAL_FOCUS_M, 2.0 * closest_focus_m), 1)
    return {
        "focus_distance_m": near,
        "f_number": widest_f_number,
        "near_m": near,
        "far_m": _USUAL_FAR * near,
    }


@dataclass(frozen=True, slots=True)
class MeasuredValue:
    """One thing that was measured: ``field`` is where the kit keeps it, "" where it only is told; ``off`` two
    deviations, in its unit.
    """

    field: str
    title: str
    value: float
    off: float
    unit: str


@dataclass(frozen=True, slots=True)
class Outcome:
    """What a measurement came to; ``kit`` are the fields of the kit that it is kept in, with what else has to
    be said anew beside them.
    """

    values: tuple[MeasuredValue, ...]
    says: str
    kit: dict[str, float]


@lru_cache(maxsize=1)
def guides() -> dict[str, Guide]:
    """Every measurement that is guided, by its key, in the order in which one makes them.

    Returns
    -------
    dict of str to Guide
        As ``guided.toml`` says.

    Examples
    --------
    >>> guides()["lens"].fewest
    12
    """
    text = files(__package__).joinpath(_FILE).read_text(encoding="utf-8")
    return {key: record(Guide, fields, text, _FILE, key) for key, fields in tables(text, _FILE).items()}
