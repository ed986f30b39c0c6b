"""The demo photographed by the simulated camera as it is planned measures what the Bench says of it."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest

from jungoptic.app.shots.models import Shot
from jungoptic.app.takes.table import BenchTable, shot_to_look_at
from jungoptic.core.rushes import as_planned, not_shown

NO_PICTURE = {"hardness", "spill"}
"""A mirrored ball is not held up, and the simulated camera has no spill."""
OF_PASSES = {"direction", "key_fill"}
"""What a light or a shadow pass throws is judged where it falls."""
ITEMS = {"evenness", "split_line", "brightness", "colour", "grain", "focus_near", "direction"}


def test_every_layer_of_the_demo_measures_what_is_planned_of_it(production):
    seen: set[str] = set()
    apart, missing = [], []
    for shot in Shot.objects.filter(production=production, removed=False):
        table = BenchTable(shot_to_look_at(shot.pk), school="measured", units="metric", basis="planned")
        if table.hero is None:
            continue
        for place, member in enumerate(table.stack.members):
            rows = as_planned(table.stack, place)
            seen |= {row.item for row in rows}
            apart += [(shot.code, member.layer.name, row) for row in rows if not row.agrees]
            thrown = member.layer.kind in ("light_pass", "shadow_pass")
            allowed = NO_PICTURE | OF_PASSES if thrown else NO_PICTURE
            lacks = set(not_shown(table.stack, place, rows)) - allowed
            missing += [(shot.code, member.layer.name, item) for item in lacks]
    assert apart == [] and missing == []
    assert seen >= ITEMS


def test_what_is_set_otherwise_is_not_measured_as_planned(production):
    """A lamp that gives less, a stop more open: the frames say so."""
    shot = Shot.objects.get(code="TM010", production=production)
    table = BenchTable(shot_to_look_at(shot.pk), school="measured", units="metric", basis="planned")
    place = next(nth for nth, each in enumerate(table.layers) if each.name == "Mill 1:12")
    planned = {row.item: row for row in as_planned(table.stack, place)}
    member = table.stack.members[place]
    opened_up = replace(member, setup=member.setup.but(f_number=member.setup.f_number / 1.5))
    members = tuple(opened_up if each is member else each for each in table.stack.members)
    wider = replace(table.stack, members=members)
    measured = {row.item: row for row in as_planned(wider, place)}
    opened = abs(measured["brightness"].measured - planned["brightness"].measured)
    assert opened == pytest.approx(2 * math.log2(1.5), abs=0.05)
    assert measured["brightness"].agrees
