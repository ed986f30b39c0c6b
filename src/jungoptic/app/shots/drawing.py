"""The lens view drawn from what is handed in: no table is asked, so that any process can draw it."""

from __future__ import annotations

import io
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

import numpy as np
import numpy.typing as npt
from PIL import Image

from jungoptic.core.match import Layer, Stack
from jungoptic.core.stage import cropped, cut_out, jpeg, render

CUT = ("cut_by", "cut_colour", "cut_keeps", "cut_clears", "cut_outline", "picture_width_px", "fills_frame")
_MOST_CUT = 24  # pictures kept as they stand, up to 60 MB each
Codes = npt.NDArray[np.uint8]


@dataclass(frozen=True)
class Standing:
    """The picture that a layer is seen as: its file, and how it is cut out, in the order of ``CUT``."""

    data: bytes
    cut: tuple[Any, ...]


@lru_cache(maxsize=_MOST_CUT)
def _codes(data: bytes) -> Codes:
    image = Image.open(io.BytesIO(data), formats=("JPEG", "PNG"))
    return np.asarray(image.convert("RGBA" if "A" in image.getbands() else "RGB"))


@lru_cache(maxsize=_MOST_CUT)
def _cut(standing: Standing) -> npt.NDArray[np.float32]:
    values = dict(zip(CUT, standing.cut, strict=True))
    layer = Layer(name="Picture", near_m=1.0, **values)
    cut = cut_out(_codes(standing.data), layer)
    if not layer.fills_frame:
        cut = np.ascontiguousarray(cropped(cut))
    cut.flags.writeable = False
    return cut


def drawn(stack: Stack, width_px: int, standing: Mapping[str, Standing], **how: Any) -> Codes:
    """A stack through the lens, with the pictures of its layers by their names; ``how`` as core's
    :func:`~jungoptic.core.stage.render` has it.
    """
    pictures = {name: _cut(one) for name, one in standing.items()}
    return render(stack, width_px, pictures=pictures, **how)


def drawn_jpeg(stack: Stack, width_px: int, standing: Mapping[str, Standing], **how: Any) -> bytes:
    """The same as a JPEG."""
    return jpeg(drawn(stack, width_px, standing, **how))
