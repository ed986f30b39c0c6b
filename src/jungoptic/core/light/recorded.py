"""The curve between light and the signal that is recorded."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

MID_GREY = 0.18
"""Light of a grey card, as a share of diffuse white."""
LUMA = np.array([0.2126, 0.7152, 0.0722], np.float32)
"""What red, green and blue weigh in brightness, by ITU-R BT.709."""


def bt709_signal(light: npt.ArrayLike) -> npt.NDArray[np.float32]:
    """The camera's curve of ITU-R BT.709, carried on over 1.

    Parameters
    ----------
    light : ndarray of float, shape (...)
        Linear light, 1 is diffuse white; what is less than 0 is 0.

    Returns
    -------
    ndarray of float32, shape (...)
        Signal, 0 to 1 and more.

    References
    ----------
    bt709_codes

    Examples
    --------
    >>> [round(float(each), 3) for each in bt709_signal([0.01, 0.18, 1.0])]
    [0.045, 0.409, 1.0]
    """
    linear = np.maximum(np.asarray(light, np.float32), np.float32(0.0))
    curved = 1.099 * np.power(linear, 0.45) - 0.099
    return np.where(linear < 0.018, 4.5 * linear, curved).astype(np.float32)


def bt709_light(signal: npt.ArrayLike) -> npt.NDArray[np.float32]:
    """:func:`bt709_signal` undone.

    Parameters
    ----------
    signal : ndarray of float, shape (...)
        0 to 1 and more; what is less than 0 is 0.

    Returns
    -------
    ndarray of float32, shape (...)
        Linear light, 1 is diffuse white.

    References
    ----------
    bt709_codes

    Examples
    --------
    >>> [round(float(each), 3) for each in bt709_light([0.045, 0.409, 1.0])]
    [0.01, 0.18, 1.0]
    """
    curved = np.maximum(np.asarray(signal, np.float32), np.float32(0.0))
    linear = np.power((curved + 0.099) / 1.099, 1 / 0.45)
    return np.where(curved < 0.081, curved / 4.5, linear).astype(np.float32)
