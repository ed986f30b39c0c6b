"""What was brought in is read by core once, as every page will read it: what it refuses comes in nowhere."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from jungoptic.app.builds.models import Build
from jungoptic.app.costs.models import Figures
from jungoptic.app.frames import reading as frames
from jungoptic.app.frames.models import ExposureSheet
from jungoptic.app.kit.models import Camera, Lamp, Lens
from jungoptic.app.productions.film import as_it_is, checked
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import Shot
from jungoptic.app.shots.plan import PlanTable, planned, with_its_set_ups
from jungoptic.app.takes.models import Take
from jungoptic.core.errors import InputError
from jungoptic.core.match import Facts, SetUp

_AT_ONCE = 40  # shots that are held at the same time


def check(production: Production) -> None:
    """Read all that core reads. Raises InputError at ``file``."""
    with _of("the production"):
        checked(as_it_is(production))
    for row in Figures.objects.filter(production=production):
        with _of("rates"):
            row.record()
    for model in (Camera, Lens, Lamp):
        for owned in model.objects.filter(production=production):
            with _of(owned.name):
                owned.record()
    for build in Build.objects.filter(production=production).prefetch_related("pieces"):
        with _of(build.name):
            build.sheet()
            for piece in build.pieces.all():
                piece.record()
    ids = list(Shot.objects.filter(production=production).values_list("pk", flat=True))
    for start in range(0, len(ids), _AT_ONCE):
        for shot in planned(removed_too=True).filter(pk__in=ids[start : start + _AT_ONCE]):
            with _of(shot.code):
                _check_shot(PlanTable(with_its_set_ups(shot)))
    for sheet in ExposureSheet.objects.filter(layer__shot__production=production):
        with _of(sheet.name):
            frames.check(sheet)
    for take in Take.objects.filter(layer__shot__production=production).select_related("layer"):
        with _of(take.name):
            for kept in (take.filmed, take.planned):
                if kept is not None:
                    SetUp.read(kept)
            if take.facts is not None:
                Facts.from_json(take.facts)


def _check_shot(table: PlanTable) -> None:
    for layer in table.layers:
        table.layer_record(layer)
        if layer.set_up_id is not None:
            table.set_up_record(layer)


@contextmanager
def _of(name: str) -> Iterator[None]:
    try:
        yield
    except InputError as error:
        raise InputError.at("file", f"{name} cannot be as the file says it: {error}") from None
    except (AssertionError, AttributeError, KeyError, TypeError, ValueError):
        raise InputError.at("file", f"{name} cannot be as the file says it.") from None
