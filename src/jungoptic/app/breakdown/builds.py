"""Sets and models in plan, built only as far as their shots see them: what is seen, its area and price, and the cutting list."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from django.db import transaction
from shapely.geometry.base import BaseGeometry

from jungoptic.app.breakdown.costing import figures_of
from jungoptic.app.breakdown.models import Build, BuildPiece, BuildView
from jungoptic.app.productions.models import Place
from jungoptic.app.shots.bench import BenchTable, shot_to_look_at
from jungoptic.app.shots.edit import ConflictError
from jungoptic.app.shots.models import Shot
from jungoptic.core.breakdown.costs import building_hours
from jungoptic.core.errors import FieldProblem, InputError
from jungoptic.core.handbook.cards import record_fields
from jungoptic.core.match.measure import focal_px
from jungoptic.core.plan.seen import Piece, Stand, View, only_establishing, seen_parts, used_twice
from jungoptic.core.plan.sheets import Sheet, lay_out, panels
from jungoptic.core.wording import Units, Words

MOST_PIECES = 80
MOST_VIEWS = 60
MOST_NAME = 80
BUILD_FIELDS = ("name", "scale", "spare_pct", "width_mm", "height_mm", "kerf_mm", "price", "place_id")
VIEW_FIELDS = ("shot_id", *Stand.model_fields)


def new(production_id: int, name: str) -> Build:
    name = name.strip()
    if not 1 <= len(name) <= MOST_NAME:
        raise InputError.at("name", f"A set needs a name of up to {MOST_NAME} characters.")
    if Build.objects.filter(production=production_id, name=name, removed=False).exists():
        raise InputError.at("name", f"There is a set called “{name}” already.")
    return Build.objects.create(production_id=production_id, name=name)


def _checked(pieces: Sequence[Mapping[str, Any]]) -> list[Piece]:
    problems: list[FieldProblem] = []
    found = []
    for at, values in enumerate(pieces):
        try:
            found.append(Piece.read(values))
        except InputError as error:
            problems += [FieldProblem(f"pieces.{at}.{one.field}", f"Piece {at + 1}: {one.message}") for one in error.problems]
    names = [piece.name for piece in found]
    problems += [FieldProblem(f"pieces.{at}.name", f"Two pieces are called “{name}”.") for at, name in enumerate(names) if name in names[:at]]
    if len(pieces) > MOST_PIECES:
        problems.append(FieldProblem("pieces", f"A set may have {MOST_PIECES} pieces; {len(pieces)} were given."))
    if problems:
        raise InputError(*problems)
    return found


def save(
    build_id: int, version: int, fields: Mapping[str, Any], pieces: Sequence[Mapping[str, Any]] | None, views: Sequence[Mapping[str, Any]] | None
) -> None:
    """Save a set with its pieces and views, or nothing. Raises InputError at each field, ConflictError over what was not seen."""
    with transaction.atomic():
        build = Build.objects.select_for_update().get(pk=build_id)
        if build.version != version:
            raise ConflictError("build", build.name, "Somebody", [])
        problems = _field_problems(build, fields)
        if problems:
            raise InputError(*problems)
        Sheet.read({**build.sheet().model_dump(), **{name: value for name, value in fields.items() if name in Sheet.model_fields}})
        for name, value in fields.items():
            setattr(build, name, value)
        if pieces is not None:
            checked = _checked(pieces)
            build.pieces.all().delete()
            BuildPiece.objects.bulk_create(BuildPiece(build=build, **piece.model_dump()) for piece in checked)
        if views is not None:
            _save_views(build, views)
        build.version += 1
        build.save()


def _field_problems(build: Build, fields: Mapping[str, Any]) -> list[FieldProblem]:
    problems = [FieldProblem(name, f"A set has no field called “{name}”.") for name in fields if name not in BUILD_FIELDS]
    for name, least, most in (("scale", 0.01, 1000), ("spare_pct", 0, 200)):
        value = fields.get(name, least)
        if isinstance(value, bool) or not isinstance(value, int | float) or not least <= value <= most:
            problems.append(FieldProblem(name, f"It must be a number between {least:g} and {most:g}; {value!r} was given."))
    others = Build.objects.filter(production=build.production_id, removed=False).exclude(pk=build.pk)
    if "name" in fields:
        name = fields["name"]
        if not isinstance(name, str) or not 1 <= len(name.strip()) <= MOST_NAME:
            problems.append(FieldProblem("name", f"A set needs a name of up to {MOST_NAME} characters."))
        elif others.filter(name=name).exists():
            problems.append(FieldProblem("name", f"There is a set called “{name}” already."))
    place = fields.get("place_id", build.place_id)
    standing = Place.objects.filter(production=build.production_id, removed=False)
    # A place that was removed while the set stood in it is no fault of what is changed now.
    if place not in (None, build.place_id) and not (isinstance(place, int) and standing.filter(pk=place).exists()):
        problems.append(FieldProblem("place_id", "The production has no such place."))
    return problems


def _save_views(build: Build, views: Sequence[Mapping[str, Any]]) -> None:
    own = set(Shot.in_cut.filter(production=build.production_id).values_list("pk", flat=True))
    problems: list[FieldProblem] = []
    for at, one in enumerate(views):
        if one.get("shot_id") not in own:
            problems.append(FieldProblem(f"views.{at}.shot_id", "Choose a shot of this production."))
        try:
            Stand.read({name: value for name, value in one.items() if name != "shot_id"})
        except InputError as error:
            problems += [FieldProblem(f"views.{at}.{bad.field}", bad.message) for bad in error.problems]
    if len(views) > MOST_VIEWS:
        problems.append(FieldProblem("views", f"A set may have {MOST_VIEWS} views; {len(views)} were given."))
    if problems:
        raise InputError(*problems)
    build.views.filter(shot__removed=False).delete()
    BuildView.objects.bulk_create(BuildView(build=build, **one) for one in views)


def views_of(build: Build) -> tuple[list[View], list[str]]:
    """The cameras in the plan by their shots' heroes, at the beginning and the end of the shot's move; and what is missing for others."""
    found: list[View] = []
    lacking: list[str] = []
    for row in build.views.filter(shot__removed=False).select_related("shot"):
        table = BenchTable(shot_to_look_at(row.shot_id), school="measured", units="metric")
        hero = table.hero
        if hero is None:
            lacking.append(f"{row.shot.code} has no hero plate yet, so nobody knows what it sees.")
            continue
        width, height = table.delivery.needed_px
        base = View(
            name=row.shot.code, x_m=row.x_m, z_m=row.z_m, height_m=hero.lens_height_m - hero.ground_height_m, heading_deg=row.heading_deg, tilt_deg=hero.tilt_deg,
            f_px=focal_px(hero, table.delivery), width_px=width, height_px=height, establishing=row.establishing,
        )  # fmt: skip
        found.append(base)
        move = table.move
        for share in (0.25, 0.5, 0.75, 1.0) if not move.still else ():
            found.append(base.after(move.kind, move.amount * share))
    return found, lacking


def _rings(region: BaseGeometry) -> list[list[list[float]]]:
    shapes = region.geoms if hasattr(region, "geoms") else [region]
    return [[[round(x, 4), round(y, 4)] for x, y in shape.exterior.coords] for shape in shapes if shape.geom_type == "Polygon"]


def worked_out(build: Build, units: Units) -> dict[str, Any]:
    """Everything that the plan of a set shows: pieces with what is seen of them, views, money, sheets and cuts."""
    words = Words(units)
    pieces = [row.record() for row in build.pieces.all()]
    views, lacking = views_of(build)
    parts = seen_parts(pieces, views)
    twice = used_twice(parts)
    spared = {one.second for one in twice}
    figures = figures_of(build.production)
    sheet = build.sheet()
    rows, wanted = [], []
    for part in parts:
        box = part.made_box_m(build.spare_pct)
        made_m2 = (box[2] - box[0]) * (box[3] - box[1]) if box else 0.0
        is_built = part.piece.made == "built" and part.piece.name not in spared
        if box and is_built:
            wanted += panels(part.piece.name, box[2] - box[0], box[3] - box[1], build.scale, sheet)
        rows.append(
            {
                **part.piece.model_dump(), "corners": [[round(float(v), 4) for v in corner] for corner in part.piece.corners_m()], "seen": _rings(part.region), "seen_m2": part.area_m2, "whole_m2": part.whole_m2,
                "made_box": list(box) if box else None, "made_m2": made_m2, "by": sorted(set(part.by)), "finest_text": f"{1000 * part.finest_m / build.scale:.2g} mm" if part.by else "",
                "built": is_built and box is not None,
                "size_text": f"{words.length((box[2] - box[0]) / build.scale)} × {words.length((box[3] - box[1]) / build.scale)}" if box else "not seen",
            }
        )  # fmt: skip
    cutting = lay_out(wanted, sheet)
    built_m2 = sum(row["made_m2"] for row in rows if row["built"])
    whole_m2 = sum(row["whole_m2"] for row in rows if row["made"] == "built")
    wide = only_establishing(parts, views)
    return {
        "id": build.pk, "version": build.version, **{name: getattr(build, name) for name in BUILD_FIELDS}, "pieces": rows, "lacking": lacking,
        "views": [{"id": row.pk, **{name: getattr(row, name) for name in VIEW_FIELDS}, "code": row.shot.code} for row in build.views.filter(shot__removed=False).select_related("shot")],
        "cones": [_cone(view) for view in views], "twice": [{"first": one.first, "second": one.second, "saves_m2": one.saves_m2} for one in twice],
        "only_establishing": list(wide), "built_m2": built_m2, "whole_m2": whole_m2, "hours": building_hours(built_m2, build.scale, figures), "hours_whole": building_hours(whole_m2, build.scale, figures),
        "sheets": cutting.sheets, "used": cutting.used, "price_all": cutting.price,
        "cuts": [
            {
                "name": cut.name, "sheet": cut.sheet + 1, "x_mm": round(cut.x_mm, 1), "y_mm": round(cut.y_mm, 1), "width_mm": round(cut.width_mm, 1), "height_mm": round(cut.height_mm, 1), "turned": cut.turned,
                "text": f"{cut.width_mm:.0f} × {cut.height_mm:.0f} mm · {cut.inches[0]:.2f} × {cut.inches[1]:.2f} in",
            }
            for cut in cutting.cuts
        ],
        "piece_fields": record_fields(Piece), "sheet_fields": record_fields(Sheet),
    }  # fmt: skip


def _cone(view: View) -> dict[str, Any]:
    import math

    return {
        "name": view.name, "x_m": view.x_m, "z_m": view.z_m, "heading_deg": view.heading_deg, "half_deg": math.degrees(math.atan(view.width_px / 2.0 / view.f_px)), "establishing": view.establishing,
    }  # fmt: skip
