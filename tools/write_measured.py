"""Writes docs/measured.md: every layer of the demo photographed as it is planned by the simulated camera, and
measured as its rushes are, beside what the Bench said of it.
"""

from __future__ import annotations

import os
import sys
from collections.abc import Iterator
from pathlib import Path

import django

os.environ["DJANGO_SETTINGS_MODULE"] = "tests.settings"
sys.path.insert(0, os.getcwd())
django.setup()

from tests.demo_database import clone  # noqa: E402

from jungoptic.app.shots.models import Shot  # noqa: E402
from jungoptic.app.takes.table import BenchTable, shot_to_look_at  # noqa: E402
from jungoptic.core.match import ITEMS  # noqa: E402
from jungoptic.core.rushes import AsPlanned, as_planned, not_shown  # noqa: E402
from jungoptic.core.wording import amount_text  # noqa: E402

PAGE = Path(__file__).resolve().parents[1] / "docs" / "measured.md"
HEAD = """# The demo as planned, measured

Every filmed layer of the demo is photographed by the simulated camera as it is planned: a grey card, a
slanted edge and a ball where it stands, through its own camera and through the hero's, its sheet without
anybody before it, two takes one after the other. What comes of that is measured as rushes are. It agrees
with what the Bench says within 5 %, or the error that the measurement states; an error of none is blank.
What the Bench names and these pictures do not show stands below, by layer. Written by `./run docs measured`.

| shot | layer | item | planned | measured | error | unit | |
|---|---|---|---|---|---|---|---|
"""
TAIL = """
Not in the table, because no picture of what stands there shows it by itself: how far a layer is off its
place (the charts of [renderer.md](renderer.md) show it), what time does to it, and how much of a sheet's
light is seen on the rim of what stands before it: the simulated camera has no spill. How hard a key is
shows on a mirrored ball, and that is not held up here; what a light or a shadow pass throws is judged
where it falls.

Named by the Bench and not shown here:

"""


def layers() -> Iterator[tuple[str, str, tuple[AsPlanned, ...], tuple[str, ...]]]:
    """Shot and layer with what its frames show and what they do not, in the order of the shots."""
    for shot in Shot.objects.filter(removed=False).order_by("code"):
        table = BenchTable(shot_to_look_at(shot.pk), school="measured", units="metric", basis="planned")
        if table.hero is None:
            continue
        for place, member in enumerate(table.stack.members):
            rows = as_planned(table.stack, place)
            yield shot.code, member.layer.name, rows, not_shown(table.stack, place, rows)


def main() -> None:
    lines, lacks = [], []
    with clone():
        for code, layer, rows, missing in layers():
            lines += [
                f"| {code} | {layer} | {row.label} | {amount_text(row.foretold)} |"
                f" {amount_text(row.measured)} | {'' if row.off is None else amount_text(row.off)} |"
                f" {row.unit} | {'' if row.agrees else 'apart'} |"
                for row in rows
            ]
            if missing:
                lacks.append(f"- {code}, {layer}: {', '.join(ITEMS[item].label.lower() for item in missing)}")
    PAGE.write_text(HEAD + "\n".join(lines) + "\n" + TAIL + "\n".join(lacks) + "\n", "utf-8")


if __name__ == "__main__":
    main()
