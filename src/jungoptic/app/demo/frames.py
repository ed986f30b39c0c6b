"""What was seen through the taking camera on the day that is behind the demo: frames to line up with."""

from __future__ import annotations

from jungoptic.app.boards.reading import Picture
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.stills import keeping
from jungoptic.app.takes.models import Take
from jungoptic.app.takes.table import BenchTable, shot_with_everything
from jungoptic.core.match import Off
from jungoptic.core.stage import LiveCamera, jpeg

_WIDTH_PX = 960
_QUALITY = 90


def hold_frames(production: Production, camera: Person) -> None:
    """One frame of every circled take, as its camera saw it."""
    circled = Take.objects.filter(layer__shot__production=production, circled=True).select_related("layer")
    for take in circled.order_by("pk"):
        table = BenchTable(shot_with_everything(take.layer.shot_id), school="measured", units="metric")
        layer = next(one for one in table.layers if one.pk == take.layer_id)
        seen = LiveCamera(table.match(layer, take), _WIDTH_PX).picture(Off(), take.pk)
        height, width = seen.shape[:2]
        picture = Picture(f"{layer.name}.jpg", jpeg(seen, _QUALITY), width, height, (width, height))
        with in_shot(camera, take.layer.shot_id) as write:
            keeping.keep(write, layer, picture, "frame", take=take, at=take.recorded_at)
