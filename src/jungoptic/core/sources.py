"""Every published source, practice and judgement that a formula or a limit leans on, by key."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

__all__ = [
    "SOURCES",
    "Source",
    "source",
]

Kind = Literal["published", "practice", "judgement", "derived"]


@dataclass(frozen=True, slots=True)
class Source:
    """Where a rule comes from. ``from_memory`` marks a published value that was not looked up."""

    key: str
    kind: Kind
    title: str
    note: str = ""
    from_memory: bool = False

    @property
    def trust(self) -> str:
        words = {
            "published": "Published",
            "practice": "Common practice",
            "judgement": "Our judgement; change it if your eye says otherwise",
            "derived": "Follows from geometry",
        }[self.kind]
        return words + (" (quoted from memory)" if self.from_memory else "")


SOURCES: dict[str, Source] = {
    source.key: source
    for source in (
        Source(
            "pinhole",
            "derived",
            "Central projection",
            "Image size = focal length in pixels × size ÷ distance.",
        ),
        Source(
            "thin_lens",
            "published",
            "Hecht, Optics, ch. 5: Gaussian thin-lens equation, 1/f = 1/s + 1/s′",
            "Distances are counted from the entrance pupil, taken to stand at the lens.",
            True,
        ),
        Source(
            "airy",
            "published",
            "Born & Wolf, Principles of Optics, §8.5; Hecht, Optics, §10.2: Airy disc, diameter 2.44·λ·N",
            "λ = 0.55 µm.",
        ),
        Source("closeup", "published", "Camera assistants' handbooks: exposure factor (1 + m/p)²", "", True),
        Source(
            "depth_tables", "published", "Cinematographers' handbook depth tables: H = f²/(N·c) + f", "", True
        ),
        Source(
            "exposure_meter",
            "published",
            "ISO 2720: incident-light meter equation N²/t = E·S/C, C = 250",
            "240 to 400 for flat receptors.",
            True,
        ),
        Source("footcandle", "published", "NIST SP 811, appendix B: 1 footcandle = 10.76391 lx", "", True),
        Source(
            "froude",
            "published",
            "Froude similarity, any fluid-mechanics text (e.g. White, Fluid Mechanics, ch. 5)",
            "Time under gravity scales with the root of length.",
            True,
        ),
        Source(
            "fire_rate",
            "practice",
            "Fire, smoke and dust: between √s and s, test and choose",
            "Flame and drop sizes do not scale.",
        ),
        Source(
            "mired",
            "published",
            "CIE S 017 (International Lighting Vocabulary): reciprocal megakelvin, 10⁶/T",
            "",
            True,
        ),
        Source("shutter", "derived", "Exposure time = shutter angle ÷ 360 ÷ frame rate", ""),
        Source(
            "photon_noise",
            "derived",
            "Photon noise: noise ÷ signal goes as 1/√photons",
            "Fewer photons to a delivered pixel from a smaller gate or a higher ISO.",
        ),
        Source(
            "inverse_square",
            "published",
            "IES Lighting Handbook: E = I/d², to 1 % beyond five source widths",
            "",
            True,
        ),
        Source(
            "scheimpflug",
            "published",
            "Scheimpflug rule; Merklinger, Focusing the View Camera: tilt = asin(f / J)",
            "",
            True,
        ),
        Source(
            "mains_ripple",
            "derived",
            "Mean of a ripple at twice the mains frequency over the exposure: |sin x / x|, x = π·2f·t",
        ),
        Source("mains_angles", "practice", "24 frames/s: 172.8° under 50 Hz, 144° under 60 Hz"),
        Source(
            "judder", "practice", "A pan slower than one frame width in 7 s at 24 frames/s and 180° is clean"
        ),
        Source(
            "penumbra",
            "derived",
            "Penumbra = occluder distance × angular diameter of the source",
            "The sun is 0.53° across.",
        ),
        Source(
            "spa",
            "published",
            "Reda & Andreas, NREL/TP-560-34302: solar position; refraction by its equation 42",
            "Position from the astral library.",
            True,
        ),
        Source(
            "turn_to_sun",
            "derived",
            "Camera heading = sun's azimuth − 180° + the wanted azimuth from behind the camera, positive to"
            " camera right",
        ),
        Source(
            "koschmieder",
            "published",
            "Koschmieder: transmission exp(−3.912·d/V), V the visibility at 2 % contrast",
            "",
            True,
        ),
        Source(
            "howell",
            "published",
            "Howell, Catalog of Radiation Heat Transfer Configuration Factors, C-11 and C-12; integrated for"
            " other facings",
            "",
            True,
        ),
        Source(
            "backing_practice",
            "practice",
            "Backing even to ⅓ stop across what the frame sees; subject two to three metres off it",
        ),
        Source(
            "directions",
            "derived",
            "Angle between two directions: atan2(|a × b|, a · b)",
        ),
        Source(
            "srgb",
            "published",
            "IEC 61966-2-1: sRGB transfer curve and primaries",
            "",
            True,
        ),
        Source("cielab", "published", "CIE 15: CIELAB from XYZ under D65", "", True),
        Source(
            "engraved_stops",
            "practice",
            "Stops are engraved with round names; the exact f-numbers are 2^(k/6)",
        ),
        Source(
            "ciede2000",
            "published",
            "Sharma, Wu & Dalal 2005: the CIEDE2000 colour difference",
            "Taken between chromas, at equal lightness.",
        ),
        Source(
            "backing_choice",
            "practice",
            "Green for most, blue for green subjects, hair and dusk, black for what glows, white or sky for"
            " dark subjects",
        ),
        Source(
            "chroma_sampling",
            "published",
            "ITU-R BT.709 and BT.2020: 4:4:4, 4:2:2 and 4:2:0 sampling",
            "",
            True,
        ),
        Source(
            "hours",
            "practice",
            "Hours of hand mattes and of stop motion as the trade reckons them",
            "All figures can be changed.",
        ),
        Source("ease", "practice", "Whole turns a frame, 1, 2, … n … 2, 1, that add up exactly"),
        Source(
            "hyperlapse",
            "practice",
            "Photographs = seconds × rate; larger than delivery, since stabilising crops",
        ),
        Source("retime", "derived", "Source seconds = ∫ speed dt; the slowest part must not repeat a frame"),
        Source(
            "ballistics",
            "published",
            "Free fall, any physics text: t = √(2h/g), g = 9.81 m/s²",
            "Without air.",
        ),
        Source("debevec", "published", "Debevec 1998: directions of light from a mirrored ball", "", True),
        Source(
            "caprile_torre", "published", "Caprile & Torre 1990: focal length from vanishing points", "", True
        ),
        Source("averaging", "derived", "Noise of an average of n frames falls by √n"),
        Source("tol_px", "judgement", "Position, perspective, focus: 1 px holds, 3 px shows"),
        Source(
            "tol_motion_blur",
            "judgement",
            "Motion blur: a quarter of the hero's holds, more than half shows; never less than 1 and 2 px",
        ),
        Source("tol_stops", "judgement", "Brightness: a sixth of a stop holds, more than a third shows"),
        Source("tol_mired", "judgement", "Colour of light: 5 mired holds, more than 15 shows"),
        Source("tol_direction", "judgement", "Direction of light: 7° holds, more than 20° shows"),
        Source("tol_enlarge", "judgement", "Enlargement: 110 % holds, more than 150 % shows"),
        Source("tol_noise", "judgement", "Grain: 1.25 × holds, more than 2 × shows"),
        Source("tol_time", "judgement", "Time: 10 % holds, more than 25 % shows"),
        Source("tol_edge", "judgement", "Edge of the frame left empty: 1 px holds, 3 px shows"),
        Source(
            "meter_dome",
            "practice",
            "An incident meter's dome, turned to the lens, takes light from the angle θ by (1 + cos θ)/2",
        ),
        Source(
            "distortion_scale",
            "derived",
            "1 % of distortion is 1 % of the half diagonal in the corner",
            "About 11 px of 1920 × 1080.",
        ),
        Source(
            "vignetting_guess",
            "judgement",
            "Vignetting falls as the lens is stopped down, V·N_widest/N",
            "A calibration is better.",
        ),
        Source(
            "rolling_rows",
            "derived",
            "Rows are read one after the other: what moves leans by its speed times the readout",
        ),
        Source(
            "headroom",
            "derived",
            "A highlight clips when it stands further over mid-grey than the camera's headroom",
        ),
        Source(
            "bt709_codes",
            "published",
            "ITU-R BT.709: transfer curve, 219 of 256 codes (876 of 1024) from black to white",
            "",
            True,
        ),
        Source("mirror_law", "derived", "Angle out = angle in"),
        Source(
            "flat_card", "practice", "A flat card turned more than some 20 to 30° from the lens looks flat"
        ),
        Source(
            "lock_off",
            "practice",
            "Clean plate in the same set-up, at once: focus, stop, white balance, ISO, light locked",
        ),
        Source("contact_kept", "practice", "Keep what touches the world: shadow, reflection, contact"),
        Source("references_film", "practice", "Film ball, chart and tape in every light"),
        Source(
            "flop_rules",
            "practice",
            "A mirrored half turns round lettering, handedness and the side of the light",
        ),
        Source("recurring", "practice", "What recurs in a place must recur in every shot of it"),
        Source(
            "across_cut",
            "practice",
            "Compare neighbouring shots across the cut: direction of light, camera height, colour, screen"
            " direction",
        ),
        Source(
            "scale_limits",
            "practice",
            "Water looks wrong below about 1:4 to 1:6, fire below about 1:3 to 1:4, whatever the rate",
        ),
        Source("eased", "derived", "Speed that rises and falls in a straight line"),
        Source(
            "tol_hardness",
            "judgement",
            "Hardness: a source 1.5 times as large holds, more than 3 times shows",
        ),
        Source("tol_key_fill", "judgement", "Key over fill: a third of a stop holds, more than one shows"),
        Source("tol_distortion", "judgement", "Distortion: 1 px in the corner holds, 3 px shows"),
        Source(
            "tol_flicker", "judgement", "Flicker: 0.02 stop from frame to frame holds, more than 0.05 shows"
        ),
        Source(
            "tol_chroma",
            "judgement",
            "Chroma samples of a keyed layer: every delivered px holds, wider than 2 px shows",
        ),
        Source("tol_codes", "judgement", "50 codes in a stop of the backing hold, fewer than 25 show"),
        Source("tol_even", "judgement", "Backing: a third of a stop holds, more than two thirds shows"),
        Source(
            "tol_spill",
            "judgement",
            "Spill: a sixteenth of the light on the subject holds, more than an eighth shows",
        ),
        Source(
            "tol_separation", "judgement", "Backing 40 ΔE from what must stay holds, nearer than 25 shows"
        ),
        Source(
            "tol_gloss", "judgement", "A thing within 10° of the mirrored ray is seen; from 6° on it shows"
        ),
        Source("tol_haze", "judgement", "Haze: 5 % of veil left out holds, more than 15 % shows"),
        Source("tol_count", "judgement", "One small thing left out is tight; a plate left out shows"),
        Source(
            "tol_cut",
            "judgement",
            "Across a cut: light 20° and 45°, camera height a fifth and a half, colour 15 and 40 mired",
        ),
        Source(
            "finish",
            "judgement",
            "The finish covers what it is larger than: softness the px items, grain the grain, black and"
            " white the colour",
        ),
        Source(
            "covered",
            "judgement",
            "School “Covered”: what is hidden does not count",
            "Pixel tolerances grow to the largest single thing that covers them: half the motion blur, the"
            " blur that the hero wants there, or twice the tolerance for a layer seen under half a second or"
            " behind moving weather.",
        ),
    )
}


def source(key: str) -> Source:
    """The source called ``key``; a KeyError here is a fault in the formula that cites it."""
    return SOURCES[key]
