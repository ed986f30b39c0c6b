"""The codes that a picture shows: what a slate said to the camera."""

from __future__ import annotations

import cv2
import numpy as np
import numpy.typing as npt

_ENLARGED = (1, 2)
"""As it is, then twice as large: a reader misses modules of three pixels that lie badly on them."""
_MOST_ENLARGED_PX = 2048
_READERS = (cv2.QRCodeDetector, cv2.QRCodeDetectorAruco)
"""Each misses some codes that the other reads, even where nothing is wrong with them."""


def read_codes(picture: npt.ArrayLike) -> list[str]:
    """What the codes in a picture say.

    Parameters
    ----------
    picture : ndarray of uint8, shape (h, w) or (h, w, 3)
        Codes of 8 bits, as recorded.

    Returns
    -------
    list of str
        One a code that was read, each once.

    References
    ----------
    qr_code

    Examples
    --------
    >>> read_codes(np.full((120, 160), 128, np.uint8))
    []
    """
    frame = np.ascontiguousarray(picture, np.uint8)
    height, width = frame.shape[:2]
    for enlarged in _ENLARGED:
        if enlarged > 1 and width > _MOST_ENLARGED_PX:
            break
        size = (width * enlarged, height * enlarged)
        look = frame if enlarged == 1 else cv2.resize(frame, size, interpolation=cv2.INTER_CUBIC)
        for reader in _READERS:
            _, texts, _, _ = reader().detectAndDecodeMulti(look)
            if read := [text for text in dict.fromkeys(texts) if text]:
                return read
    return []
