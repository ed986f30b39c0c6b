"""The colour of a glowing body, as a camera's three channels see it."""

from __future__ import annotations

import math

import numpy as np
import numpy.typing as npt

_RED_NM, _GREEN_NM, _BLUE_NM = 610.0, 550.0, 465.0
_SECOND_RADIATION_NM_K = 1.4388e7


def planck_gain(light_k: float, white_k: float) -> npt.NDArray[np.float32]:
    """What a light of one colour temperature is beside a white balance of another.

    Parameters
    ----------
    light_k : float
        Of the light, kelvin.
    white_k : float
        Of the white balance, kelvin.

    Returns
    -------
    ndarray of float32, shape (3,)
        Gain of red, green and blue, green 1: Planck's spectrum at three narrow bands.

    References
    ----------
    planck

    Examples
    --------
    >>> [round(float(each), 1) for each in planck_gain(3200, 5600)]
    [1.4, 1.0, 0.5]
    """

    def band(nm: float, kelvin: float) -> float:
        return 1.0 / (math.exp(_SECOND_RADIATION_NM_K / (nm * kelvin)) - 1.0)

    ratios = [band(nm, light_k) / band(nm, white_k) for nm in (_RED_NM, _GREEN_NM, _BLUE_NM)]
    return np.array([ratio / ratios[1] for ratio in ratios], np.float32)


def mired_of_gain(red: float, blue: float) -> float:
    """The shift in mired that a gain of red over blue stands for, by Wien's law.

    Parameters
    ----------
    red : float
        Gain of red.
    blue : float
        Gain of blue.

    Returns
    -------
    float
        Warmer is positive.

    References
    ----------
    planck

    Examples
    --------
    >>> round(mired_of_gain(1.1, 1.0), 1)
    13.0
    """
    nm = 1.0 / _BLUE_NM - 1.0 / _RED_NM
    return 1e6 * math.log(red / blue) / (_SECOND_RADIATION_NM_K * nm)
