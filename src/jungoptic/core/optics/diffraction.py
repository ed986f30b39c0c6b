"""Diffraction and close-up exposure. Plain formulas, nothing checked."""

from __future__ import annotations

GREEN_LIGHT_UM = 0.55


def airy_diameter_um(
    f_number: float, magnification: float = 0.0, wavelength_um: float = GREEN_LIGHT_UM
) -> float:
    """Diameter of the Airy disc on the sensor: ``2.44·λ·N·(1 + m)``.

    Parameters
    ----------
    f_number : float
        Stop of the lens.
    magnification : float, default 0
        Image size over object size; 0 is focus at infinity.
    wavelength_um : float, default 0.55
        Wavelength of the light, µm.

    Returns
    -------
    float
        Diameter to the first dark ring, µm.

    References
    ----------
    airy

    Examples
    --------
    >>> round(airy_diameter_um(22.63), 1)
    30.4
    """
    return 2.44 * wavelength_um * f_number * (1.0 + magnification)


def closeup_factor(magnification: float, pupil_ratio: float = 1.0) -> float:
    """How many times more light close focus needs: ``(1 + m/p)²``.

    Parameters
    ----------
    magnification : float
        Image size over object size.
    pupil_ratio : float, default 1
        Exit pupil over entrance pupil.

    Returns
    -------
    float
        Factor on the light; 1 at infinity.

    References
    ----------
    closeup

    Examples
    --------
    >>> closeup_factor(1.0)
    4.0
    """
    return (1.0 + magnification / pupil_ratio) ** 2
