"""From where a camera reads a printed or shown code: large enough in its picture, and sharp enough."""

from __future__ import annotations

MODULES = 29
"""Modules across a code of version 3, the slate's."""
MODULE_PX = 3.0
"""Recorded pixels that a module must cover to be read."""
MODULE_BLUR = 0.7
"""How wide a module's disc of blur may be, in modules."""


def focused_reach_m(focal_length_px: float, width_m: float, modules: int = MODULES) -> float:
    """Up to where a code is read that the lens is focused on: ``d = f_px·(w/n)/3``.

    Parameters
    ----------
    focal_length_px : float
        In pixels of the recording.
    width_m : float
        Of the code (w), m.
    modules : int, default 29
        Across the code (n).

    Returns
    -------
    float
        Metres.

    References
    ----------
    qr_code, pinhole

    Examples
    --------
    >>> round(focused_reach_m(5719, 0.06), 2)
    3.94
    """
    return focal_length_px * width_m / modules / MODULE_PX


def code_reach_m(
    focal_length_px: float,
    aperture_mm: float,
    focus_distance_m: float,
    width_m: float,
    modules: int = MODULES,
) -> tuple[float, float]:
    """From where to where a code is read: ``d ≤ f_px·m/3`` and ``s·(1 − 0.7·m/A) ≤ d ≤ s·(1 + 0.7·m/A)``.

    A module is m = w/n wide; the second says that its disc of blur is no wider than 0.7 of it:
    ``A·|1/d − 1/s| ≤ 0.7·m/d``.

    Parameters
    ----------
    focal_length_px : float
        In pixels of the recording.
    aperture_mm : float
        Width A of the entrance pupil, mm.
    focus_distance_m : float
        Where the lens is focused (s), m; may be ``math.inf``.
    width_m : float
        Of the code (w), m.
    modules : int, default 29
        Across the code (n): 29 at version 3.

    Returns
    -------
    near : float
        Metres; nearer it is too much out of focus.
    far : float
        Metres; farther it is too small, or too much out of focus. Where ``near`` is beyond it, the code is
        read nowhere at this focus.

    References
    ----------
    qr_code, pinhole, thin_lens

    Examples
    --------
    >>> [round(metres, 2) for metres in code_reach_m(5719, 35 / 8, 2.0, 0.06)]
    [1.34, 2.66]
    """
    module_m = width_m / modules
    share = MODULE_BLUR * module_m / (aperture_mm / 1000.0)
    near = 0.0 if share >= 1 else focus_distance_m * (1.0 - share)
    return near, min(focused_reach_m(focal_length_px, width_m, modules), focus_distance_m * (1.0 + share))
