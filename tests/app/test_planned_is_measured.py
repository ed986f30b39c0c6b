"""The demo photographed by the simulated camera as it is planned measures what the Bench says of it."""

from __future__ import annotations

import math
from dataclasses import replace

import pytest

from jungoptic.app.shots.models import Shot
from jungoptic.app.takes.table import BenchTable, shot_to_look_at
from jungoptic.core.rushes import as_planned

ITEMS = {"evenness", "split_line", "brightness", "colour", "grain", "focus_near", "direction"}


def test_every_layer_of_the_demo_measures_what_is_planned_of_it(production):
    seen: set[str] = set()
    apart = []
    for shot in Shot.objects.filter(production=production, removed=False):
        table = BenchTable(shot_to_look_at(shot.pk), school="measured", units="metric", basis="planned")
        if table.hero is None:
            continue
        for place, member in enumerate(table.stack.members):
            for row in as_planned(table.stack, place):
                seen.add(row.item)
                if not row.agrees:
                    apart.append((shot.code, member.layer.name, row))
    assert apart == []
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
