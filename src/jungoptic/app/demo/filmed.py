"""What the demo filmed before its first Saturday: two evenings at the boathouse and a dawn at the pond."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime
from zoneinfo import ZoneInfo

from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.models import SetUp
from jungoptic.app.shots.writing import in_shot
from jungoptic.app.takes.log import Said, record_take
from jungoptic.app.takes.models import Take

BEFORE = {
    "Table, locked off": ("2027-10-08", ("18:40", "18:55")),
    "Belfry": ("2027-10-08", ("20:10", "20:20")),
    "Belfry, after lunch": ("2027-10-08", ("21:05",)),
    "Orla on green": ("2027-10-09", ("18:30", "18:42")),
    "Water tank 1:6": ("2027-10-09", ("20:05", "20:30")),
    "Room with the lamp": ("2027-10-09", ("21:40",)),
    "Telephone on the barrow": ("2027-10-10", ("06:50",)),
}
"""Set-ups with the day and the hours of their takes; the last is circled."""


PLATES = {"Quay, low": ("2027-10-23", ("17:20",))}
"""What is filmed before something is animated into it."""


def film_before(
    production: Production, camera: Person, what: Mapping[str, tuple[str, tuple[str, ...]]] | None = None
) -> None:
    """The takes of those evenings (or what else is said), logged as they were planned; what was filmed or
    taken away meanwhile is left.
    """
    zone = ZoneInfo(production.time_zone)
    for name, (day, hours) in (BEFORE if what is None else what).items():
        set_up = SetUp.objects.filter(shot__production=production, shot__removed=False, name=name).first()
        if set_up is None or Take.objects.filter(layer__set_up=set_up).exists():
            continue
        for number, clock in enumerate(hours, 1):
            at = datetime.fromisoformat(f"{day}T{clock}:00").replace(tzinfo=zone)
            for layer in set_up.layers.filter(removed=False):
                with in_shot(camera, set_up.shot_id) as write:
                    record_take(write, layer.pk, Said(recorded_at=at, circled=number == len(hours)))
