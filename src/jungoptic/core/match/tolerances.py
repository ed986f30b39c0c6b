"""The items that are judged, their units and default tolerances, and the two schools."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from ..vocabulary import LINES, VERDICTS, Verdict

_EDGE = 1e-9  # a value that lands on a limit by arithmetic still holds


@dataclass(frozen=True, slots=True)
class Tolerance:
    """``holds`` is the most that nobody will see, ``tight`` the most before it shows; both in the item's
    unit.
    """

    holds: float
    tight: float


@dataclass(frozen=True, slots=True)
class Item:
    """One thing in which a layer can differ from the hero."""

    key: str
    label: str
    unit: str
    tolerance: Tolerance
    formula: str
    sources: tuple[str, ...]
    alone: bool = False  # judged of the hero too: it needs nothing to be held against
    needs_models_true: bool = False  # only informs where the production shows its models openly
    needs_colour: bool = False  # only informs in black and white

    @property
    def in_pixels(self) -> bool:
        """Whether blur can cover it: stops, mireds and degrees are not covered."""
        return self.unit == "px"


_PX = Tolerance(1.0, 3.0)
_COUNT = Tolerance(0.5, 1.5)
ITEMS: dict[str, Item] = {
    item.key: item
    for item in (
        Item(
            "lens",
            "Lens and size",
            "px",
            _PX,
            "(W/2)·|1 − r·f_px·D₀/(f_px,hero·D)|",
            ("pinhole", "thin_lens", "tol_px"),
        ),
        Item(
            "edges",
            "Frame edge",
            "px",
            _PX,
            "what the hero shows of it − r·(W/2)·gate/G",
            ("pinhole", "tol_edge"),
        ),
        Item("perspective", "Perspective", "px", _PX, "X·|D(D₀+δ)/(D₀(D+δ)) − 1|", ("pinhole", "tol_px")),
        Item("height", "Camera height", "px", _PX, "f_px·Δh·|1/d_near − 1/d_far|", ("pinhole", "tol_px")),
        Item("tilt", "Tilt", "px", _PX, "(W/2)(H/2)/f_px·Δtilt", ("pinhole", "tol_px")),
        Item("roll", "Roll", "px", _PX, "(W/2)·Δroll", ("pinhole", "tol_px")),
        Item(
            "focus_near",
            "Focus blur, near end",
            "px",
            _PX,
            "(f/N)·f/(d_f−f)·|d−d_f|/d·W/G",
            ("thin_lens", "tol_px"),
            needs_models_true=True,
        ),
        Item(
            "focus_far",
            "Focus blur, far end",
            "px",
            _PX,
            "(f/N)·f/(d_f−f)·|d−d_f|/d·W/G",
            ("thin_lens", "tol_px"),
            needs_models_true=True,
        ),
        Item(
            "diffraction",
            "Diffraction",
            "px",
            _PX,
            "2.44·λ·N·(1+m)·W/G, less the hero's",
            ("airy", "tol_px"),
            needs_models_true=True,
        ),
        Item(
            "time",
            "Time",
            "%",
            Tolerance(10.0, 25.0),
            "√s·rate_hero/rate",
            ("froude", "tol_time"),
            needs_models_true=True,
        ),
        Item(
            "motion_blur",
            "Motion blur",
            "px",
            _PX,
            "f_px·(v/rate)/d·angle/360",
            ("pinhole", "shutter", "tol_motion_blur"),
            needs_models_true=True,
        ),
        Item(
            "brightness",
            "Brightness",
            "stop",
            Tolerance(1 / 6, 1 / 3),
            "log₂(E·S·t/(250·N²·2^nd·(1+m)²))",
            ("exposure_meter", "closeup", "tol_stops"),
        ),
        Item(
            "colour",
            "Colour of light",
            "mired",
            Tolerance(5.0, 15.0),
            "10⁶/T_light − 10⁶/T_balance, less the hero's",
            ("mired", "tol_mired"),
            needs_colour=True,
        ),
        Item(
            "direction",
            "Direction of light",
            "°",
            Tolerance(7.0, 20.0),
            "angle between the two keys",
            ("tol_direction",),
        ),
        Item(
            "hardness",
            "Hardness of light",
            "×",
            Tolerance(0.5, 2.0),
            "key's angular size against the hero's, less 1",
            ("penumbra", "tol_hardness"),
        ),
        Item(
            "key_fill",
            "Key over fill",
            "stop",
            Tolerance(1 / 3, 1.0),
            "log₂((key + fill)/fill), less the hero's",
            ("tol_key_fill",),
        ),
        Item(
            "sharpness",
            "Enlargement",
            "%",
            Tolerance(10.0, 50.0),
            "r·W/recorded px, over 100 %",
            ("tol_enlarge",),
            needs_models_true=True,
        ),
        Item(
            "grain",
            "Grain",
            "×",
            Tolerance(0.25, 1.0),
            "√(S/S_hero)·G_hero/G·r",
            ("photon_noise", "tol_noise"),
        ),
        # camera and lens
        Item(
            "distortion",
            "Distortion",
            "px",
            _PX,
            "|k·r − k_hero|·half diagonal/100",
            ("distortion_scale", "tol_distortion"),
        ),
        Item(
            "vignetting",
            "Vignetting",
            "stop",
            Tolerance(1 / 6, 1 / 3),
            "V·N_widest/N, less the hero's",
            ("vignetting_guess", "tol_stops"),
        ),
        Item(
            "skew",
            "Rolling-shutter skew",
            "px",
            _PX,
            "image speed · readout, less the hero's",
            ("rolling_rows", "tol_px"),
        ),
        Item(
            "clipping",
            "Clipping",
            "stop",
            Tolerance(1 / 6, 1 / 3),
            "brightest + exposure − headroom",
            ("headroom", "tol_stops"),
            alone=True,
        ),
        Item(
            "flicker",
            "Mains flicker",
            "stop",
            Tolerance(0.02, 0.05),
            "log₂((1+a)/(1−a)), a = depth·|sin x/x|, x = π·2f·t",
            ("mains_ripple", "mains_angles", "tol_flicker"),
            alone=True,
        ),
        Item(
            "chroma",
            "Chroma pitch",
            "px",
            Tolerance(1.0, 2.0),
            "pitch · delivered/recorded · r",
            ("chroma_sampling", "tol_chroma"),
            alone=True,
        ),
        Item(
            "codes",
            "Codec for the key",
            "×",
            Tolerance(1.0, 2.0),
            "50 / codes in a stop of the backing, doubled by long groups",
            ("bt709_codes", "tol_codes"),
            alone=True,
        ),
        # the shot's move
        Item(
            "move", "Move and parallax", "px", _PX, "f_px·Δtravel·|1/d_near − 1/d_far|", ("pinhole", "tol_px")
        ),
        Item(
            "judder",
            "Judder",
            "×",
            Tolerance(1.0, 2.0),
            "7 s·(24/rate) / time for one frame width",
            ("judder",),
            alone=True,
        ),
        Item(
            "pupil",
            "Entrance pupil off the axis",
            "px",
            _PX,
            "f_px·e·sin(pan)·(1/d_near − 1/d_far)",
            ("pinhole", "tol_px"),
            alone=True,
        ),
        # backing, lamps, set
        Item(
            "light_reach",
            "Light that is there",
            "stop",
            Tolerance(1 / 6, 1 / 3),
            "log₂(light planned / light from the lamps)",
            ("inverse_square", "meter_dome", "tol_stops"),
            alone=True,
        ),
        Item(
            "evenness",
            "Evenness of the backing",
            "stop",
            Tolerance(1 / 3, 2 / 3),
            "log₂(E_max/E_min) over what is crossed",
            ("inverse_square", "backing_practice", "tol_even"),
            alone=True,
        ),
        Item(
            "spill",
            "Spill of the backing",
            "×",
            Tolerance(1 / 16, 1 / 8),
            "ρ·E_backing·F/E_subject at a rim that faces sideways",
            ("howell", "tol_spill"),
            alone=True,
        ),
        Item(
            "backing_shadow",
            "Shadow on the backing",
            "stop",
            Tolerance(1 / 3, 2 / 3),
            "log₂(E/(E − E_lamp)) where it is seen beside the subject",
            ("pinhole", "inverse_square", "tol_even"),
            alone=True,
        ),
        Item(
            "backing_edge",
            "Edge of the backing",
            "px",
            _PX,
            "f_px·(reach of the movement − reach of the sheet)/d",
            ("pinhole", "tol_px"),
            alone=True,
        ),
        Item(
            "backing_colour",
            "Colour of the backing",
            "ΔE",
            Tolerance(10.0, 25.0),
            "50 − separation from the nearest colour that must stay",
            ("ciede2000", "backing_choice", "tol_separation"),
            alone=True,
        ),
        Item(
            "set_edge",
            "Edge of the set",
            "px",
            _PX,
            "half of the frame needed − f_px·reach of the set/d",
            ("pinhole", "tol_edge"),
            alone=True,
        ),
        Item(
            "seen_in_gloss",
            "Seen in the gloss",
            "°",
            Tolerance(0.5, 4.0),
            "10° − angle from the mirrored ray to what is there",
            ("mirror_law", "tol_gloss"),
            alone=True,
        ),
        Item(
            "card_turn",
            "Flat card turned",
            "°",
            Tolerance(20.0, 30.0),
            "angle between the card and the lens",
            ("flat_card",),
            alone=True,
        ),
        Item(
            "haze",
            "Haze",
            "%",
            Tolerance(5.0, 15.0),
            "1 − exp(−3.912·d/V), where nothing stands for it",
            ("koschmieder", "tol_haze"),
        ),
        # lines
        Item(
            "split_line",
            "Over the split line",
            "px",
            _PX,
            "reach over the line − half of the feather",
            ("pinhole", "tol_px"),
            alone=True,
        ),
        Item(
            "matte_line",
            "Above the matte line",
            "px",
            _PX,
            "f_px·(top − lens height)/d over the line",
            ("pinhole", "tol_px"),
            alone=True,
        ),
        Item(
            "keep_clear",
            "Zone kept clear",
            "px",
            _PX,
            "narrowest side of what overlaps the zone",
            ("pinhole", "tol_px"),
            alone=True,
        ),
        Item(
            "final_framing",
            LINES["framing"].name,
            "%",
            Tolerance(10.0, 50.0),
            "delivered/crop · delivered/recorded px, over 100 %",
            ("tol_enlarge",),
            alone=True,
        ),
        Item(
            "tracking_mark",
            LINES["tracking"].name,
            "px",
            _PX,
            "how far it leaves the frame or is covered",
            ("pinhole", "tol_px"),
            alone=True,
        ),
        # completeness: 1 thing left out is tight, a whole plate (2) shows
        Item(
            "clean_plate",
            "Clean plate",
            "missing",
            _COUNT,
            "2 for a plate that nobody plans",
            ("lock_off", "tol_count"),
            alone=True,
        ),
        Item(
            "clean_match",
            "Clean plate's settings",
            "differ",
            _COUNT,
            "settings that are not those of the plate it cleans",
            ("lock_off", "tol_count"),
            alone=True,
        ),
        Item(
            "contact",
            "Contact",
            "missing",
            _COUNT,
            "2 for a contact shadow, 1 for a reflection that is not kept",
            ("contact_kept", "tol_count"),
            alone=True,
        ),
        Item(
            "references",
            "References",
            "missing",
            _COUNT,
            "⅓ for each of ball, chart and tape, in every light",
            ("references_film", "tol_count"),
            alone=True,
        ),
        Item(
            "handed",
            "Mirrored",
            "wrong",
            _COUNT,
            "2 for lettering or handedness in a mirrored picture",
            ("flop_rules", "tol_count"),
            alone=True,
        ),
        Item(
            "recurring",
            "What recurs here",
            "missing",
            _COUNT,
            "2 for each thing of the place that no layer carries",
            ("recurring", "tol_count"),
            alone=True,
        ),
    )
}

MOTION_BLUR_SHARE = Tolerance(0.25, 0.5)
MOTION_BLUR_FLOOR = Tolerance(1.0, 2.0)


def widened(tolerance: Tolerance, cover_px: float) -> Tolerance:
    """The tolerance under something that covers ``cover_px``: both limits grow by the same factor, never
    shrink.
    """
    factor = max(1.0, cover_px / tolerance.holds)
    return Tolerance(tolerance.holds * factor, tolerance.tight * factor)


def verdict(amount: float, tolerance: Tolerance) -> Verdict:
    """Holds up to and including ``holds``, tight up to and including ``tight``, shows beyond."""
    if amount <= tolerance.holds * (1 + _EDGE):
        return "holds"
    return "tight" if amount <= tolerance.tight * (1 + _EDGE) else "shows"


def worst(counts: Mapping[str, int]) -> Verdict:
    """The verdict of a whole from how many of its items have each: the worst that any has; nothing at all
    holds.
    """
    return next((word for word in VERDICTS if counts.get(word)), "holds")


def ladder(amount: float, tolerance: Tolerance) -> float:
    """Place on the common axis: 0 … 1 holds, 1 … 2 tight, from 2 shows (one more for each doubling).

    Monotone.
    """
    if amount <= tolerance.holds:
        return amount / tolerance.holds
    if amount <= tolerance.tight:
        return 1.0 + (amount - tolerance.holds) / (tolerance.tight - tolerance.holds)
    return 2.0 + math.log2(amount / tolerance.tight)
