"""What the pictures of a measurement come to: values with their errors, and what of them the kit keeps."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

import numpy as np

from ..errors import InputError
from ..light import MID_GREY
from ..optics import image_distance_mm
from .bands import frame_rate, ripple_depth, row_time
from .curve import curve_of_series
from .evenness import vignetting_of_flats
from .guided import Asked, Instrument, MeasuredValue, Outcome, guides
from .lens import BoardSeen, LensMeasured, lens_of_boards
from .noise import Level, noise_of_levels
from .pupil import MarksSeen, pupil_of_marks
from .turning import ShutterMeasured

Told = Mapping[str, Any]
_SAME_SHARE = 0.002
_SAME_MM = 1.0
_SAME_DEG = 2.0
_SAME_STOPS = 0.1


def outcome(kind: str, told: Sequence[Told], asked: Asked, instrument: Instrument) -> Outcome:
    """What a measurement comes to.

    Parameters
    ----------
    kind : str
        One of :func:`guides`.
    told : sequence of mapping
        What :func:`watch` said of each picture; of the curve's each with ``stops`` too.
    asked : Asked
        What was said for it.
    instrument : Instrument
        What is measured.

    Returns
    -------
    Outcome
        Values, errors as two deviations.

    Raises
    ------
    InputError
        What is missing, and what to do.

    Examples
    --------
    >>> flats = [{"stops": 0.80}, {"stops": 0.84}]
    >>> outcome("vignetting", flats, Asked(f_number=2.0), Instrument()).kit["vignetting_stops"]
    0.82
    """
    guide = guides()[kind]
    if len(told) < guide.fewest:
        more = guide.fewest - len(told)
        raise InputError.at("pictures", f"{more} more picture{'' if more == 1 else 's'}, at least.")
    try:
        return _OUTCOMES[kind](told, asked, instrument)
    except ValueError as error:
        if isinstance(error, InputError):
            raise
        text = str(error)
        raise InputError.at("pictures", f"{text[:1].upper()}{text[1:]}.") from None


def _value(field: str, title: str, value: float, off: float, unit: str, digits: int) -> MeasuredValue:
    least = 0.5 * 10.0**-digits if off else 0.0  # what is said is rounded
    return MeasuredValue(
        field, title, round(float(value), digits), round(max(float(off), least), digits + 1), unit
    )


def _boards(told: Sequence[Told]) -> LensMeasured:
    return lens_of_boards(
        [
            BoardSeen(
                np.array(each["px"], np.float32),
                np.array(each["metres"], np.float32),
                (int(each["size"][0]), int(each["size"][1])),
            )
            for each in told
        ]
    )


def focal_of_px(f_px: float, width_px: float, asked: Asked, instrument: Instrument) -> float:
    """The focal length that a measured one in pixels stands for: the lens was focused, ``1/f = 1/v + 1/d``.

    Parameters
    ----------
    f_px : float
        Recorded px.
    width_px : float
        Of the pictures.
    asked : Asked
        Where it was focused.
    instrument : Instrument
        Its gate, and how the lens focuses.

    Returns
    -------
    float
        mm.

    References
    ----------
    thin_lens, pinhole

    Examples
    --------
    >>> round(focal_of_px(1853.3, 1200, Asked(focus_distance_m=1.0), Instrument()), 2)
    35.02
    """
    v_mm = f_px * instrument.gate_width_mm / width_px
    if instrument.focusing != "unit":
        return v_mm
    return 1.0 / (1.0 / v_mm + 1.0 / (1000.0 * asked.focus_distance_m))


def _lens(told: Sequence[Told], asked: Asked, instrument: Instrument) -> Outcome:
    measured = _boards(told)
    width, height = told[0]["size"]
    focal = focal_of_px(measured.f_px, width, asked, instrument)
    off = focal * measured.f_off_px / measured.f_px
    corner = float(np.hypot(width, height)) / 2.0
    bend, bend_off = (100.0 * each / corner for each in (measured.corner_px, measured.corner_off_px))
    middle = (measured.centre_px[0] - width / 2.0, measured.centre_px[1] - height / 2.0)
    values = (
        _value("" if instrument.zoom else "focal_length_mm", "Focal length", focal, off, "mm", 2),
        _value("distortion_pct", "Distortion at the corner", bend, bend_off, "%", 2),
        _value("", "Corner moved by", measured.corner_px, measured.corner_off_px, "px", 1),
        _value("", "Middle, to the right", middle[0], measured.rms_px, "px", 1),
        _value("", "Middle, down", middle[1], measured.rms_px, "px", 1),
        _value("", "Left at the corners of the board", measured.rms_px, 0.0, "px", 2),
    )
    apart = focal / instrument.focal_length_mm - 1.0
    if instrument.zoom:
        says = f"Turned there, the zoom has {focal:.1f} mm."
    elif abs(apart) < _SAME_SHARE:
        says = "It is what it says."
    else:
        says = (
            f"{focal:.2f} mm, not {instrument.focal_length_mm:g}: what it films is {100 * abs(apart):.1f} %"
            f" {'larger' if apart > 0 else 'smaller'} in the frame than planned."
        )
    return Outcome(values, says, _faults(values, instrument))


def _faults(values: Sequence[MeasuredValue], instrument: Instrument) -> dict[str, float]:
    """What the kit keeps of a lens: all its faults are of one gate, so the other one is said anew."""
    kept = {each.field: each.value for each in values if each.field}
    before = instrument.distortion_gate_mm
    if before and before != instrument.gate_width_mm:
        grows = (instrument.gate_width_mm / before) ** 2
        for name in ("distortion_pct", "vignetting_stops"):
            kept.setdefault(name, round(getattr(instrument, name) * grows, 3))
    return kept | {"measured_gate_mm": instrument.gate_width_mm}


def _vignetting(told: Sequence[Told], asked: Asked, instrument: Instrument) -> Outcome:
    stops, off = vignetting_of_flats([each["stops"] for each in told])
    opened = max(1.0, asked.f_number / instrument.widest_f_number)
    values = (
        _value(
            "vignetting_stops", "Vignetting wide open", max(0.0, stops) * opened, off * opened, "stops", 2
        ),
    )
    says = (
        "The corners get as much light as the middle."
        if stops < _SAME_STOPS
        else (f"The corners get {values[0].value:.1f} stops less than the middle.")
    )
    return Outcome(values, says, _faults(values, instrument))


def _pupil(told: Sequence[Told], asked: Asked, instrument: Instrument) -> Outcome:
    before, after = (
        MarksSeen(tuple(each["near"]), tuple(each["far"]), tuple(each["size"]))
        for each in (told[0], told[-1])
    )
    if 1000.0 * asked.focus_distance_m <= instrument.focal_length_mm:
        raise InputError.at("focus_distance_m", "A lens focuses no nearer than its focal length.")
    v_mm = image_distance_mm(instrument.focal_length_mm, asked.focus_distance_m, instrument.focusing)
    f_px = v_mm * before.size_px[0] / instrument.gate_width_mm
    measured = pupil_of_marks(
        before,
        after,
        f_px,
        asked.near_m,
        asked.far_m,
        f_off=instrument.focal_off,
        bend_pct=instrument.distortion_pct,
    )
    values = (
        _value("", "Entrance pupil before the axis", measured.offset_mm, measured.off_mm, "mm", 1),
        _value("", "The head was turned", measured.pan_deg, 0.1, "°", 1),
    )
    way = "back" if measured.offset_mm > 0 else "forward"
    says = (
        "The head turns about the pupil: pan as you like."
        if abs(measured.offset_mm) < _SAME_MM
        else f"Slide the camera {way} by {abs(measured.offset_mm):.0f} mm: then it pans without parallax."
    )
    return Outcome(values, says, {})


def _noise(told: Sequence[Told], asked: Asked, _: Instrument) -> Outcome:
    levels = [Level(each["light"], each["variance"], int(each["count"])) for each in told]
    measured = noise_of_levels(levels)
    grey = 100.0 * measured.sigma(MID_GREY)
    values = (
        _value("noise_pct", f"At mid grey, of white, ISO {asked.iso:g}", grey, grey * measured.off, "%", 3),
        _value("", "In the dark, of white", 100.0 * measured.read, 0.0, "%", 3),
    )
    ratio = MID_GREY / max(measured.sigma(MID_GREY), 1e-9)
    says = f"Mid grey stands {ratio:.0f} times over its noise at ISO {asked.iso:g}."
    return Outcome(values, says, {"noise_pct": values[0].value, "noise_iso": asked.iso})


def _rows(told: Sequence[Told], asked: Asked, instrument: Instrument) -> Outcome:
    rows = np.array(told[0]["rows"], np.float64)
    measured = row_time(rows, asked.mains_hz)
    rate, rate_off = frame_rate(rows, measured.readout_ms, asked.mains_hz, asked.capture_fps)
    values = (
        _value(
            "readout_ms",
            "Readout of the frame",
            measured.readout_ms,
            measured.readout_ms * measured.off,
            "ms",
            2,
        ),
        _value("", "A row", 1000.0 * measured.readout_ms / instrument.recorded_height_px, 0.0, "µs", 2),
        _value("", "Frames a second", rate, rate_off, "", 3),
    )
    says = f"Its rows take {measured.readout_ms:.1f} ms: what is fast leans by what it does in that time."
    if abs(rate - asked.capture_fps) > rate_off:
        says += f" It runs at {rate:.2f}, not at {asked.capture_fps:g}."
    return Outcome(values, says, {"readout_ms": values[0].value})


def _ripple(told: Sequence[Told], asked: Asked, instrument: Instrument) -> Outcome:
    rows = np.array(told[0]["rows"], np.float64)
    depth, off = ripple_depth(rows, instrument.readout_ms, asked.exposure_s, asked.mains_hz)
    value = _value("ripple_depth", "Flicker depth", min(depth, 0.99), off, "", 3)
    return Outcome(
        (value,), f"It pulses by {100 * depth:.0f} % to both sides.", {"ripple_depth": value.value}
    )


def _shutter(told: Sequence[Told], asked: Asked, _: Instrument) -> Outcome:
    measured = [ShutterMeasured(each["angle"], each["off"], each["turn"]) for each in told]
    angle = float(np.mean([each.angle_deg for each in measured]))
    off = float(np.mean([each.off_deg for each in measured]))
    wanted = asked.shutter_angle_deg
    if angle < _SAME_DEG:
        raise ValueError(
            "the dot is not smeared: use the shutter that you mean to use, or turn the disc faster"
        )
    says = (
        f"It is open as it says, within {max(off, _SAME_DEG):.0f}°."
        if abs(angle - wanted) <= max(off, _SAME_DEG)
        else f"It says {wanted:.0f}° and is open for {angle:.0f}°: for {wanted:.0f}° set"
        f" {wanted * wanted / angle:.0f}°."
    )
    return Outcome((_value("", "Open for", angle, off, "°", 1),), says, {})


def _curve(told: Sequence[Told], _: Asked, __: Instrument) -> Outcome:
    if any(each.get("stops") is None for each in told):
        raise InputError.at("pictures", "Say of each picture by how many stops it is over the metered one.")
    measured = curve_of_series([(float(each["stops"]), float(each["signal"])) for each in told])
    values = (
        _value(
            "headroom_stops",
            "Highlight latitude over mid-grey",
            measured.headroom_stops,
            measured.off,
            "stops",
            1,
        ),
        _value("", "Off the standard curve", measured.departs_stops, 0.0, "stops", 2),
    )
    says = f"White comes {measured.headroom_stops:.1f} stops over grey."
    if measured.departs_stops > 2 * _SAME_STOPS:
        says += (
            " Its curve is not the standard one: light that is read from its codes by that is off by up to"
            f" {measured.departs_stops:.1f} stops."
        )
    return Outcome(values, says, {"headroom_stops": values[0].value})


_OUTCOMES: dict[str, Callable[[Sequence[Told], Asked, Instrument], Outcome]] = {
    "lens": _lens,
    "vignetting": _vignetting,
    "pupil": _pupil,
    "noise": _noise,
    "rows": _rows,
    "ripple": _ripple,
    "shutter": _shutter,
    "curve": _curve,
}
