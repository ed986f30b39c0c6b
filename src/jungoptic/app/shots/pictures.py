"""The lens view with what layers look like: their pictures, cut out, in place of their outlines."""

from __future__ import annotations

import io
from functools import lru_cache
from typing import Any

import numpy as np
import numpy.typing as npt
from PIL import Image

from jungoptic.app.shots.models import LayerPicture
from jungoptic.app.shots.plan import PlanTable
from jungoptic.core.match import Layer, Stack
from jungoptic.core.stage import cropped, cut_out, render

_MOST_CUT = 24  # pictures kept as they stand, up to 60 MB each
_CUT = ("cut_by", "cut_colour", "cut_keeps", "cut_clears", "cut_outline", "picture_width_px", "fills_frame")
Codes = npt.NDArray[np.uint8]


@lru_cache(maxsize=_MOST_CUT)
def _codes(picture_id: int) -> Codes:
    """A picture never changes: a layer that gets another one has another number."""
    data = LayerPicture.objects.select_related("file").get(pk=picture_id).file.read()
    image = Image.open(io.BytesIO(data), formats=("JPEG", "PNG"))
    return np.asarray(image.convert("RGBA" if "A" in image.getbands() else "RGB"))


@lru_cache(maxsize=_MOST_CUT)
def _cut(picture_id: int, settings: tuple[Any, ...]) -> npt.NDArray[np.float32]:
    values = dict(zip(_CUT, settings, strict=True))
    layer = Layer(name="Picture", near_m=1.0, **values)
    cut = cut_out(_codes(picture_id), layer)
    if not layer.fills_frame:
        cut = np.ascontiguousarray(cropped(cut))
    cut.flags.writeable = False
    return cut


def standing_pictures(table: PlanTable) -> dict[str, npt.NDArray[np.float32]]:
    """Pictures of the layers that are shown as one, cut out as they say, by the layers' names."""
    found = {}
    for layer in table.layers:
        record = table.layer_record(layer)
        picture_id = table.draft.layers.get(layer.pk, {}).get("picture_id", layer.picture_id)
        if record.shown_as == "picture" and picture_id is not None:
            found[record.name] = _cut(picture_id, tuple(getattr(record, name) for name in _CUT))
    return found


def lens_view(table: PlanTable, stack: Stack, width_px: int, **how: Any) -> Codes:
    """A stack of a shot through the lens; ``how`` as core's :func:`~jungoptic.core.stage.render` has it."""
    return render(stack, width_px, pictures=standing_pictures(table), **how)
