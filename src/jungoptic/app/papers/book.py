"""The break-down book: the wall, then a page a shot with board, notes, plates in filming order, what was
chosen, cautions.
"""

from __future__ import annotations

from base64 import b64encode
from collections.abc import Callable
from dataclasses import replace
from html import escape
from typing import Any

from django.template.loader import render_to_string

from jungoptic.app.bench.answers import place_of
from jungoptic.app.boards.models import Board
from jungoptic.app.breakdown.plan import broken_down
from jungoptic.app.breakdown.schemas import WallOut
from jungoptic.app.breakdown.wall import wall
from jungoptic.app.papers.pdf import fonts
from jungoptic.app.productions import access
from jungoptic.app.productions.models import Production
from jungoptic.app.shots.pictures import lens_view
from jungoptic.app.takes.table import BenchTable, shot_with_everything
from jungoptic.core.cautions import DEFERENCE
from jungoptic.core.match import BoardLine
from jungoptic.core.stage import jpeg
from jungoptic.core.vocabulary import LINES, VERDICT_WORDS, School, Units
from jungoptic.core.wording import aspect

_STEP_PX = 480
_PICTURE_PX = 1280
_MOST_STEPS = 6


def _data(picture: bytes) -> str:
    return f"data:image/jpeg;base64,{b64encode(picture).decode()}"


def steps(table: BenchTable) -> list[dict[str, Any]]:
    """The layers building up one after the other, far ones first, so that everybody understands the
    effect.
    """
    if table.hero is None:
        return []
    stack = table.stack
    shown = [
        at
        for at in range(len(stack.members) - 1, -1, -1)
        if stack.members[at].layer.kind not in ("clean_plate",)
    ]
    found = []
    for count in range(1, len(shown) + 1):
        kept = sorted(shown[:count])
        part = replace(stack, members=tuple(stack.members[at] for at in kept))
        found.append(
            {
                "name": stack.members[shown[count - 1]].layer.name,
                "picture": _data(jpeg(lens_view(table, part, _STEP_PX))),
            }
        )
    return found if len(found) <= _MOST_STEPS else [*found[: _MOST_STEPS - 1], found[-1]]


def _shape(line: BoardLine, number: int) -> str:
    points = " ".join(f"{x:.0f},{y:.0f}" for x, y in line.points)
    stroke = 'fill="none" stroke="#fff" stroke-width="9"', 'fill="none" stroke="#000" stroke-width="4"'
    dashes = {"split": "40 16", "framing": "", "keep_clear": "12 12", "paint_out": "24 10 4 10"}.get(
        line.kind, ""
    )
    dash = f' stroke-dasharray="{dashes}"' if dashes else ""
    left, top, right, bottom = line.rectangle
    if line.kind == "framing":
        body = "".join(
            f'<rect x="{left:.0f}" y="{top:.0f}" width="{right - left:.0f}" height="{bottom - top:.0f}"'
            f" {one}/>"
            for one in stroke
        )
    elif len(line.points) == 1:
        x, y = line.points[0]
        body = "".join(
            f'<path d="M{x - 24:.0f} {y:.0f} h48 M{x:.0f} {y - 24:.0f} v48" {one}/>' for one in stroke
        )
    else:
        tag = "polygon" if line.kind in ("paint_out", "keep_clear") else "polyline"
        body = f'<{tag} points="{points}" {stroke[0]}/><{tag} points="{points}" {stroke[1]}{dash}/>'
    x, y = line.points[0]
    label = (
        f'<circle cx="{x:.0f}" cy="{y:.0f}" r="24" fill="#fff" stroke="#000" stroke-width="3"/><text'
        f' x="{x:.0f}" y="{y + 11:.0f}" font-size="32" text-anchor="middle">{number}</text>'
    )
    return body + label


def board_svg(table: BenchTable) -> str:
    """The board, or the view through the lens where there is none, with its lines numbered as in the
    margin.
    """
    width, height = table.delivery.width_px, table.delivery.height_px
    board = Board.objects.filter(shot=table.shot, current=True).select_related("file").first()
    if board:
        picture = _data(board.file.read())
    elif table.hero is not None:
        picture = _data(jpeg(lens_view(table, table.stack, _PICTURE_PX)))
    else:
        return ""
    lines = "".join(_shape(line, at) for at, line in enumerate(table.plan.lines, 1))
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width} {height}"><rect width="{width}"'
        f' height="{height}" fill="#ddd"/><image href="{picture}" width="{width}" height="{height}"'
        f' preserveAspectRatio="xMidYMid meet"/>{lines}<rect x="2" y="2" width="{width - 4}"'
        f' height="{height - 4}" fill="none" stroke="#000" stroke-width="4"/></svg>'
    )


def _notes(table: BenchTable) -> list[dict[str, str]]:
    found = []
    for at, line in enumerate(table.plan.lines, 1):
        said = [one for one in (line.thing, line.note, f"layer: {line.layer}" if line.layer else "") if one]
        if line.first_frame is not None or line.last_frame is not None:
            said.append(
                f"frames {line.first_frame or 0} to"
                f" {table.plan.length_frames - 1 if line.last_frame is None else line.last_frame}"
            )
        if line.feather_px:
            said.append(f"feather {line.feather_px:g} px")
        said += filter(None, [place_of(table, line)])
        found.append({"number": str(at), "kind": LINES[line.kind].name, "text": "; ".join(said)})
    return found


def _page(shot_id: int, units: Units, school: School) -> dict[str, Any]:
    shot = shot_with_everything(shot_id)
    table = BenchTable(shot, school=school, units=units)
    plan = broken_down(table, access.Role.GUEST)
    options = plan.costing.options
    chosen = next((one for one in options if one.chosen), options[0] if options else None)
    worst = [
        {
            "layer": one.layer.name,
            "label": item.label,
            "where": item.where,
            "verdict": VERDICT_WORDS[item.verdict].title,
            "sentence": item.sentence,
        }
        for one in table.judged
        for item in one.items
        if item.verdict == "shows" and not item.informs and item.item not in one.accepted
    ]
    return {
        "shot": shot,
        "svg": board_svg(table),
        "notes": _notes(table),
        "plates": plan.plates,
        "recipes": plan.recipes,
        "options": options,
        "chosen": chosen,
        "said": bool(plan.costing.chosen),
        "hazards": plan.hazards,
        "open": sum(one.signed is None for one in plan.hazards),
        "ready": plan.ready,
        "steps": steps(table),
        "worst": worst[:8],
        "more_worst": max(0, len(worst) - 8),
        "seconds": f"{shot.length_frames / shot.production.frame_rate_fps:.1f}",
    }


def book_html(
    production_id: int,
    shot_id: int | None,
    *,
    paper: str,
    units: Units,
    school: School,
    advance: Callable[[float], None],
) -> str:
    """The whole book, or one shot's page of it, as one HTML page for the PDF maker."""
    production = Production.objects.get(pk=production_id)
    found: WallOut | None = None
    if shot_id is None:
        while (found := wall(production_id, school)).pending:
            advance(0.0)
        wanted = [one.id for one in found.shots]
    else:
        wanted = [shot_id]
    pages = []
    for at, one in enumerate(wanted):
        pages.append(_page(one, units, school))
        advance((at + 1) / len(wanted))
    return render_to_string(
        "book.html",
        {
            "production": production,
            "aspect": aspect(production.delivery_width_px, production.delivery_height_px),
            "paper": "A4" if paper == "a4" else "letter",
            "lines": found.shots if found else [],
            "totals": found.totals if found else None,
            "crafts": list(found.totals.by_craft.items()) if found else [],
            "pages": pages,
            "whole": shot_id is None,
            "deference": escape(DEFERENCE),
            "fonts": fonts(),
            "school": school.capitalize(),
        },
    )
