"""The lens view with what layers look like: their pictures, cut out, in place of their outlines."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

from jungoptic.app.base.desk import PICTURES
from jungoptic.app.base.turns import Asker
from jungoptic.app.shots.drawing import CUT, Codes, Standing, drawn, drawn_jpeg
from jungoptic.app.shots.models import LayerPicture
from jungoptic.app.shots.plan import PlanTable
from jungoptic.core.match import Stack

_MOST_READ = 24  # files kept at hand, up to a few MB each


@lru_cache(maxsize=_MOST_READ)
def _file(picture_id: int) -> bytes:
    """A picture never changes: a layer that gets another one has another number."""
    return LayerPicture.objects.select_related("file").get(pk=picture_id).file.read()


def standing_pictures(table: PlanTable) -> dict[str, Standing]:
    """Pictures of the layers that are shown as one, by the layers' names."""
    found = {}
    for layer in table.layers:
        record = table.layer_record(layer)
        picture_id = table.draft.layers.get(layer.pk, {}).get("picture_id", layer.picture_id)
        if record.shown_as == "picture" and picture_id is not None:
            found[record.name] = Standing(_file(picture_id), tuple(getattr(record, name) for name in CUT))
    return found


def lens_view(table: PlanTable, stack: Stack, width_px: int, **how: Any) -> Codes:
    """A stack of a shot through the lens, here and now; ``how`` as core's
    :func:`~jungoptic.core.stage.render` has it.
    """
    return drawn(stack, width_px, standing_pictures(table), **how)


def lens_jpeg(asker: Asker, table: PlanTable, stack: Stack, width_px: int, **how: Any) -> bytes:
    """The same as a JPEG, drawn beside. Raises what a :class:`~jungoptic.app.base.desk.Lane` does."""
    return PICTURES.run(asker, drawn_jpeg, stack, width_px, standing_pictures(table), **how)
