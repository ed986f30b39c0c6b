"""Colour: sRGB to CIELAB (D65), and the CIEDE2000 difference. Plain formulas, nothing checked."""

from __future__ import annotations

import math

Lab = tuple[float, float, float]
_WHITE_D65 = (0.95047, 1.0, 1.08883)
_TO_XYZ = (
    (0.4124564, 0.3575761, 0.1804375),
    (0.2126729, 0.7151522, 0.0721750),
    (0.0193339, 0.1191920, 0.9503041),
)


def lab_of_srgb(hex_colour: str) -> Lab:
    """CIELAB of an sRGB colour under D65.

    Parameters
    ----------
    hex_colour : str
        ``#rrggbb``, as a display is driven.

    Returns
    -------
    tuple of float
        Lightness 0 to 100, and the two chroma axes a and b.

    References
    ----------
    srgb, cielab

    Examples
    --------
    >>> [round(part, 1) for part in lab_of_srgb("#209840")]
    [55.2, -51.0, 36.8]
    """
    codes = (int(hex_colour[n : n + 2], 16) / 255.0 for n in (1, 3, 5))
    linear = [c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in codes]
    xyz = (sum(m * c for m, c in zip(row, linear, strict=True)) for row in _TO_XYZ)
    fx, fy, fz = (_f(v / w) for v, w in zip(xyz, _WHITE_D65, strict=True))
    return 116.0 * fy - 16.0, 500.0 * (fx - fy), 200.0 * (fy - fz)


def _f(t: float) -> float:
    return t ** (1 / 3) if t > (6 / 29) ** 3 else t / (3 * (6 / 29) ** 2) + 4 / 29


def _hue_deg(b: float, a: float) -> float:
    return 0.0 if a == b == 0 else math.degrees(math.atan2(b, a)) % 360.0


def ciede2000(first: Lab, second: Lab) -> float:
    """CIEDE2000 difference of two colours.

    Parameters
    ----------
    first, second : tuple of float
        CIELAB (L, a, b) of each.

    Returns
    -------
    float
        ΔE; about 1 is just seen side by side.

    References
    ----------
    ciede2000

    Examples
    --------
    >>> round(ciede2000((50.0, 2.6772, -79.7751), (50.0, 0.0, -82.7485)), 4)
    2.0425
    """
    (l1, a1, b1), (l2, a2, b2) = first, second
    mean7 = ((math.hypot(a1, b1) + math.hypot(a2, b2)) / 2) ** 7
    g = 0.5 * (1 - math.sqrt(mean7 / (mean7 + 25.0**7)))
    a1, a2 = a1 * (1 + g), a2 * (1 + g)
    c1, c2 = math.hypot(a1, b1), math.hypot(a2, b2)
    h1, h2 = _hue_deg(b1, a1), _hue_deg(b2, a2)
    dh = 0.0 if c1 * c2 == 0 else (h2 - h1 + 180.0) % 360.0 - 180.0
    if c1 * c2 and dh == -180.0:
        dh = 180.0 if h2 > h1 else -180.0
    d_l, d_c, d_h = l2 - l1, c2 - c1, 2 * math.sqrt(c1 * c2) * math.sin(math.radians(dh) / 2)
    mean_l, mean_c = (l1 + l2) / 2, (c1 + c2) / 2
    if c1 * c2 == 0:
        mean_h = h1 + h2
    elif abs(h1 - h2) <= 180:
        mean_h = (h1 + h2) / 2
    else:
        mean_h = (h1 + h2 + 360) / 2 if h1 + h2 < 360 else (h1 + h2 - 360) / 2

    def cos(degrees: float) -> float:
        return math.cos(math.radians(degrees))

    t = (
        1
        - 0.17 * cos(mean_h - 30)
        + 0.24 * cos(2 * mean_h)
        + 0.32 * cos(3 * mean_h + 6)
        - 0.20 * cos(4 * mean_h - 63)
    )
    s_l = 1 + 0.015 * (mean_l - 50) ** 2 / math.sqrt(20 + (mean_l - 50) ** 2)
    s_c, s_h = 1 + 0.045 * mean_c, 1 + 0.015 * mean_c * t
    r_c = 2 * math.sqrt(mean_c**7 / (mean_c**7 + 25.0**7))
    r_t = -math.sin(math.radians(60 * math.exp(-(((mean_h - 275) / 25) ** 2)))) * r_c
    return math.sqrt((d_l / s_l) ** 2 + (d_c / s_c) ** 2 + (d_h / s_h) ** 2 + r_t * (d_c / s_c) * (d_h / s_h))


def chroma_difference(first: Lab, second: Lab) -> float:
    """CIEDE2000 of two colours brought to the same lightness: how far apart their chromas are.

    Parameters
    ----------
    first, second : tuple of float
        CIELAB (L, a, b) of each.

    Returns
    -------
    float
        ΔE at lightness 50.

    References
    ----------
    ciede2000

    Examples
    --------
    >>> chroma_difference((20.0, 5.0, 5.0), (80.0, 5.0, 5.0))
    0.0
    """
    return ciede2000((50.0, *first[1:]), (50.0, *second[1:]))


_NEUTRAL_CHROMA = 12.0


def keying_separation(backing: str, kept: str) -> float:
    """Distance that a keyer has to work with: between chromas, or in lightness on a neutral backing.

    Parameters
    ----------
    backing, kept : str
        Colours of the sheet and of what must stay, ``#rrggbb``.

    Returns
    -------
    float
        ΔE; a backing whose chroma is under 12 counts as neutral.

    References
    ----------
    ciede2000

    Examples
    --------
    >>> round(keying_separation("#209840", "#c89678"))
    40
    """
    here, there = lab_of_srgb(backing), lab_of_srgb(kept)
    if math.hypot(here[1], here[2]) < _NEUTRAL_CHROMA:
        return abs(here[0] - there[0])
    return chroma_difference(here, there)
