"""A recorded picture brought back to the light that made it."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

import cv2
import numpy as np
import numpy.typing as npt

from ..errors import InputError
from ..light import bt709_light
from .pixels import Image

CurveName = Literal["bt709", "srgb", "linear", "log", "table"]
CURVES: dict[CurveName, str] = {
    "bt709": "the curve of ITU-R BT.709",
    "srgb": "the curve of sRGB",
    "linear": "linear light",
    "log": "a log curve of five numbers",
    "table": "a table",
}
_LOG_NUMBERS, _FEWEST_ROWS = 5, 2
_WHITE_8, _WHITE_16 = 255, 65535
_LEGAL_LUMA, _LEGAL_LOW, _LEGAL_CHROMA, _GREY = 219, 16, 224, 128
"""Codes of 8 bits; more bits have them times 2 for each."""
MATRICES = {"bt709": (0.2126, 0.0722), "bt601": (0.299, 0.114), "bt2020": (0.2627, 0.0593)}
"""What red and blue weigh in luma."""


@dataclass(frozen=True, slots=True)
class Curve:
    """How light became signal. ``log`` holds a, b, c, d and cut: signal = c·log₁₀(a·light + b) + d from
    light ``cut`` up, and its tangent below; ``table`` rows of signal and light, both rising.

    Raises
    ------
    InputError
        Where the numbers make no rising curve.
    """

    name: CurveName = "bt709"
    log: tuple[float, ...] = ()
    table: tuple[tuple[float, float], ...] = field(default=())

    def __post_init__(self) -> None:
        if self.name not in CURVES:
            raise InputError.at("curve", f"A curve is one of {', '.join(CURVES)}; “{self.name}” is none.")
        if self.name == "log":
            self._refuse_log()
        if self.name == "table":
            rows = np.array(self.table, np.float64).reshape(-1, 2)
            if len(rows) < _FEWEST_ROWS or not (np.diff(rows, axis=0) > 0).all():
                raise InputError.at("table", "A table has two rows or more, signal and light, both rising.")

    def _refuse_log(self) -> None:
        if len(self.log) != _LOG_NUMBERS:
            raise InputError.at("log", "A log curve has five numbers: a, b, c, d and cut.")
        a, b, c, _, cut = self.log
        if a <= 0 or c <= 0 or a * cut + b <= 0:
            raise InputError.at("log", "a and c are more than 0, and so is a·cut + b.")

    @property
    def text(self) -> str:
        """What was taken for the curve, in words."""
        return CURVES[self.name]

    def light(self, signal: npt.ArrayLike) -> Image:
        """The light behind a signal.

        Parameters
        ----------
        signal : ndarray of float, shape (...)
            0 to 1, and more.

        Returns
        -------
        ndarray of float32, shape (...)
            Linear light, 1 is diffuse white.

        References
        ----------
        bt709_codes, srgb, log_curve

        Examples
        --------
        >>> Curve("srgb").light([0.5]).round(3).tolist()
        [0.21400000154972076]
        >>> log = Curve("log", log=(5.0, 0.05, 0.25, 0.4, 0.01))
        >>> round(float(log.light(0.25 * np.log10(5.0 * 0.18 + 0.05) + 0.4)), 3)
        0.18
        """
        value = np.asarray(signal, np.float32)
        if self.name == "srgb":
            low = value <= 0.04045
            curved = ((np.maximum(value, 0.04045) + 0.055) / 1.055) ** 2.4
            return np.asarray(np.where(low, value / 12.92, curved), np.float32)
        if self.name == "log":
            a, b, c, d, cut = self.log
            inside = a * cut + b
            high = (np.power(10.0, (value - d) / c) - b) / a
            knee, slope = c * np.log10(inside) + d, c * a / (np.log(10.0) * inside)
            return np.asarray(np.where(value < knee, cut + (value - knee) / slope, high), np.float32)
        if self.name == "table":
            signals, lights = np.array(self.table, np.float64).T
            return np.asarray(np.interp(value, signals, lights), np.float32)
        return value if self.name == "linear" else bt709_light(value)


def linear(picture: npt.ArrayLike, curve: Curve = Curve()) -> Image:
    """A picture in linear light.

    Parameters
    ----------
    picture : ndarray of uint8, uint16 or float, shape (h, w) or (h, w, 3)
        As recorded, full range: white is 255, 65535 or 1.
    curve : Curve, optional
        That of ITU-R BT.709 when left out.

    Returns
    -------
    ndarray of float32, shape (h, w) or (h, w, 3)
        1 is diffuse white.

    Raises
    ------
    InputError
        Where it is no picture.

    References
    ----------
    bt709_codes

    Examples
    --------
    >>> linear(np.full((1, 1), 104, np.uint8)).round(2).tolist()
    [[0.18000000715255737]]
    """
    seen = np.asarray(picture)
    if seen.ndim not in (2, 3) or not seen.size or (seen.ndim == 3 and seen.shape[2] != 3):
        raise InputError.at("picture", f"A picture is (h, w) or (h, w, 3); {seen.shape} was given.")
    for kind, white in ((np.uint8, _WHITE_8), (np.uint16, _WHITE_16)):
        if seen.dtype == kind:
            return curve.light(np.linspace(0.0, 1.0, white + 1)).take(seen)
    return curve.light(seen)


def signal_of_luma(luma: npt.ArrayLike, bits: int = 8, legal: bool = True) -> Image:
    """The signal of codes of luma.

    Parameters
    ----------
    luma : ndarray of uint8, uint16 or float, shape (h, w)
        Codes, or means of some.
    bits : int, default 8
        Of a code.
    legal : bool, default True
        Black is 16 and white 235 of 8 bits; else all codes are used.

    Returns
    -------
    ndarray of float32, shape (h, w)
        1 is white.

    References
    ----------
    bt709_codes

    Examples
    --------
    >>> signal_of_luma(np.full((1, 1), 940), bits=10).round(3).tolist()
    [[1.0]]
    """
    low, span = _range(bits, legal)
    return (np.asarray(luma, np.float32) - np.float32(low)) * np.float32(1.0 / span)


def _range(bits: int, legal: bool) -> tuple[float, float]:
    """The code of black, and how many codes are between it and white."""
    more = 2.0 ** (bits - 8)
    return (_LEGAL_LOW * more, _LEGAL_LUMA * more) if legal else (0.0, 2.0**bits - 1.0)


def signal_of_planes(
    luma: npt.ArrayLike,
    blue: npt.ArrayLike,
    red: npt.ArrayLike,
    bits: int = 8,
    legal: bool = True,
    matrix: str = "bt709",
) -> Image:
    """Red, green and blue of a picture that is recorded as luma and two planes of chroma.

    Parameters
    ----------
    luma : ndarray of uint8 or uint16, shape (h, w)
        Codes.
    blue, red : ndarray of uint8 or uint16, shape (h′, w′)
        Codes of the differences, as many or fewer.
    bits : int, default 8
        Of a code.
    legal : bool, default True
        Black is 16 and white 235 of 8 bits; else all codes are used.
    matrix : str, default "bt709"
        One of :data:`MATRICES`.

    Returns
    -------
    ndarray of float32, shape (h, w, 3)
        Signal, 1 is white; less than 0 and more than 1 where the recording has it.

    Raises
    ------
    InputError
        Where the matrix is none of them.

    References
    ----------
    bt709_codes

    Examples
    --------
    >>> white = np.full((2, 2), 235, np.uint8)
    >>> signal_of_planes(white, [[128]], [[128]]).round(3)[0, 0].tolist()
    [1.0, 1.0, 1.0]
    """
    if matrix not in MATRICES:
        raise InputError.at("matrix", f"A matrix is one of {', '.join(MATRICES)}; “{matrix}” is none.")
    weight_red, weight_blue = MATRICES[matrix]
    more = 2.0 ** (bits - 8)
    chroma = _LEGAL_CHROMA * more if legal else 2.0**bits - 1.0
    y = signal_of_luma(luma, bits, legal)
    size = y.shape[::-1]
    differences = []
    for plane in (blue, red):
        part = (np.asarray(plane, np.float32) - np.float32(_GREY * more)) * np.float32(1.0 / chroma)
        whole = part if part.shape == y.shape else cv2.resize(part, size, interpolation=cv2.INTER_LINEAR)
        differences.append(np.asarray(whole, np.float32))
    b = y + np.float32(2.0 * (1.0 - weight_blue)) * differences[0]
    r = y + np.float32(2.0 * (1.0 - weight_red)) * differences[1]
    g = (y - np.float32(weight_red) * r - np.float32(weight_blue) * b) * np.float32(
        1.0 / (1.0 - weight_red - weight_blue)
    )
    return np.asarray(cv2.merge([r, g, b]), np.float32)
