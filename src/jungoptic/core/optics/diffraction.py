"""Diffraction and close-up exposure. Plain formulas, nothing checked."""

from __future__ import annotations

GREEN_LIGHT_UM = 0.55


def airy_diameter_um(
    f_number: float, magnification: float = 0.0, wavelength_um: float = GREEN_LIGHT_UM
) -> float:
    """Diameter of the Airy disc on the sensor, µm: ``2.44·λ·N·(1 + m)``. Source: airy."""
    return 2.44 * wavelength_um * f_number * (1.0 + magnification)


def closeup_factor(magnification: float, pupil_ratio: float = 1.0) -> float:
    """How many times more light close focus needs: ``(1 + m/p)²``. Source: closeup."""
    return (1.0 + magnification / pupil_ratio) ** 2
