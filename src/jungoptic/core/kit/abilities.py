"""What a camera can do with a lens: how wide and how near it sees, how slow and how small it can go."""

from __future__ import annotations

from dataclasses import dataclass
from operator import itemgetter

from ..light import exposure_time_s, illuminance_lx
from ..optics import angle_of_view_deg, closeup_factor, extension, image_distance_mm, seen_m
from ..scale import gravity_rate_fps
from .lens import Lens
from .records import RecordingMode

MB_A_GB = 1000.0
HALF_TURN_DEG = 180.0
_AS_GOOD_AS_ALL = 0.99  # common practice


@dataclass(frozen=True, slots=True)
class FilmedFrame:
    """What is delivered: pixels and frames/s."""

    width_px: int
    height_px: int
    frame_rate_fps: float


@dataclass(frozen=True, slots=True)
class RecordingAbility:
    """One recording of a camera.

    ``smallest_scale`` is the s of the smallest model, 1:s, that falls and splashes in real time at its
    highest rate; ``extracted_mm`` and ``across_px`` are the part of the gate that the delivered frame takes,
    and the pixels across it.
    """

    smallest_scale: float
    extracted_mm: float
    across_px: float


@dataclass(frozen=True, slots=True)
class ModelWants:
    """What a 1:s model wants to look full size: frames/s for what falls, and the stop of equal blur."""

    rate_fps: float
    stop: float


@dataclass(frozen=True, slots=True)
class LensAbility:
    """One lens before one recording.

    ``view_deg`` is the angle across the delivered frame at infinity, at the short and at the long end.
    ``narrowest_m`` is the least width that fills the frame in focus, at ``at_mm``; ``finest_mm`` what one
    pixel is there. ``stops_down`` says whether it has the stop that the model wants, ``scale_at_smallest`` is
    the s whose stop its smallest is; ``light_lx`` is what that stop, or the smallest, wants at ``rate_fps``:
    the rate that the model wants, or the highest.
    """

    view_deg: tuple[float, float]
    narrowest_m: float
    at_mm: float
    finest_mm: float
    stops_down: bool
    scale_at_smallest: float
    rate_fps: float
    light_lx: float


def recording_ability(mode: RecordingMode, frame: FilmedFrame) -> RecordingAbility:
    """What a recording can do for a delivered frame.

    The gravity rate of a 1:s model is the delivery's times √s, so the highest rate gives
    ``s = (highest/delivery)²``. The delivered frame takes all of the gate that has its shape.

    Parameters
    ----------
    mode : RecordingMode
        The recording.
    frame : FilmedFrame
        What is delivered.

    Returns
    -------
    RecordingAbility
        See there.

    References
    ----------
    froude

    Examples
    --------
    >>> hd = RecordingMode(
    ...     name="HD", recorded_width_px=1920, recorded_height_px=1080, gate_width_mm=23.5,
    ...     gate_height_mm=13.2, highest_fps=120,
    ... )
    >>> recording_ability(hd, FilmedFrame(1920, 1080, 24)).smallest_scale
    25.0
    """
    shape = frame.width_px / frame.height_px
    extracted = min(mode.gate_width_mm, mode.gate_height_mm * shape)
    return RecordingAbility(
        smallest_scale=(mode.highest_fps / frame.frame_rate_fps) ** 2,
        extracted_mm=extracted,
        across_px=mode.recorded_width_px * extracted / mode.gate_width_mm,
    )


def cropped_mm(mode: RecordingMode, frame: FilmedFrame) -> float | None:
    """What the delivered frame takes of a gate's width, where the gate is not high enough for all of it.

    Parameters
    ----------
    mode : RecordingMode
        The recording.
    frame : FilmedFrame
        What is delivered.

    Returns
    -------
    float or None
        Millimetres; None where it is all of the width, as nearly as makers round their gates (within a
        hundredth).

    References
    ----------
    gates

    Examples
    --------
    >>> lying = RecordingMode(
    ...     name="UHD", recorded_width_px=3840, recorded_height_px=2160, gate_width_mm=23.5,
    ...     gate_height_mm=13.2, highest_fps=30,
    ... )
    >>> cropped_mm(lying, FilmedFrame(1920, 1080, 24)), cropped_mm(lying, FilmedFrame(1080, 1920, 24))
    (None, 7.425)
    """
    part = recording_ability(mode, frame).extracted_mm
    return None if part > _AS_GOOD_AS_ALL * mode.gate_width_mm else round(part, 3)


def model_wants(frame: FilmedFrame, scale: float, hero_stop: float) -> ModelWants:
    """What a 1:s model wants: the gravity rate, and ``N·s`` for equal blur.

    Filmed from 1/s of the distance it is s times blurrier at the same stop.

    Parameters
    ----------
    frame : FilmedFrame
        What is delivered.
    scale : float
        The s of the model, 1:s.
    hero_stop : float
        The stop of the full-size thing's camera.

    Returns
    -------
    ModelWants
        Whether a kit has it or not.

    References
    ----------
    froude, thin_lens

    Examples
    --------
    >>> model_wants(FilmedFrame(1920, 1080, 24), 16, 4)
    ModelWants(rate_fps=96.0, stop=64)
    """
    return ModelWants(gravity_rate_fps(scale, frame.frame_rate_fps), hero_stop * scale)


def lens_ability(
    lens: Lens, mode: RecordingMode, frame: FilmedFrame, scale: float, hero_stop: float, iso: float
) -> LensAbility:
    """What a lens can do before a recording, and what a 1:s model wants of it.

    The light is ``C·N²/(S·t)`` for 180°, times what close focus costs at the lens's closest.

    Parameters
    ----------
    lens : Lens
        A prime, or a zoom: both of its ends are looked at.
    mode : RecordingMode
        The recording.
    frame : FilmedFrame
        What is delivered.
    scale : float
        The s of the model, 1:s.
    hero_stop : float
        The stop of the full-size thing's camera.
    iso : float
        Exposure index that the model is filmed at.

    Returns
    -------
    LensAbility
        See there.

    References
    ----------
    pinhole, thin_lens, froude, exposure_meter, closeup

    Examples
    --------
    >>> hd = RecordingMode(
    ...     name="HD", recorded_width_px=1920, recorded_height_px=1080, gate_width_mm=23.5,
    ...     gate_height_mm=13.2, highest_fps=120,
    ... )
    >>> fifty = Lens(
    ...     name="50 mm", focal_length_mm=50, widest_f_number=2, smallest_f_number=22, closest_focus_m=0.45
    ... )
    >>> able = lens_ability(fifty, hd, FilmedFrame(1920, 1080, 24), 4, 4, 800)
    >>> round(able.narrowest_m, 3), able.stops_down, able.rate_fps
    (0.188, True, 48.0)
    """
    part = recording_ability(mode, frame)
    ends = [
        lens.turned_to(focal) for focal in dict.fromkeys((lens.focal_length_mm, lens.longest_mm)) if focal
    ]
    views = [angle_of_view_deg(part.extracted_mm, end.focal_length_mm) for end in ends]
    narrowest, nearest = min(((_narrowest_m(end, part.extracted_mm), end) for end in ends), key=itemgetter(0))
    stop = model_wants(frame, scale, hero_stop).stop
    used = min(max(stop, nearest.widest_f_number), nearest.smallest_f_number)
    rate = min(model_wants(frame, scale, hero_stop).rate_fps, mode.highest_fps)
    close = closeup_factor(extension(nearest.focal_length_mm, nearest.closest_focus_m, nearest.focusing))
    return LensAbility(
        view_deg=(views[0], views[-1]),
        narrowest_m=narrowest,
        at_mm=nearest.focal_length_mm,
        finest_mm=1000.0 * narrowest / min(part.across_px, frame.width_px),
        stops_down=stop <= nearest.smallest_f_number * (1 + 1e-9),
        scale_at_smallest=nearest.smallest_f_number / hero_stop,
        rate_fps=rate,
        light_lx=illuminance_lx(used, iso, exposure_time_s(HALF_TURN_DEG, rate), closeup_factor=close),
    )


def _narrowest_m(end: Lens, extracted_mm: float) -> float:
    """The width that fills the frame where the lens focuses nearest."""
    image = image_distance_mm(end.focal_length_mm, end.closest_focus_m, end.focusing)
    return seen_m(extracted_mm, image, end.closest_focus_m)


def card_hours(card_gb: float, data_rate_mb_s: float) -> float:
    """How long a card lasts: ``GB · 1000 / (MB/s)``.

    Parameters
    ----------
    card_gb : float
        What the card holds, GB of 10⁹ bytes, as it is sold.
    data_rate_mb_s : float
        What the recording writes, MB of 10⁶ bytes a second.

    Returns
    -------
    float
        Hours.

    References
    ----------
    card_bytes

    Examples
    --------
    >>> round(card_hours(128, 12.5), 2)
    2.84
    """
    seconds = card_gb * MB_A_GB / data_rate_mb_s
    return seconds / 3600.0
