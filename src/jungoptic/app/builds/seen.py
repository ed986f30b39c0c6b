"""A set worked out: what its shots see of it, area, price, hours, sheets and cuts."""

from __future__ import annotations

from shapely.geometry.base import BaseGeometry

from jungoptic.app.builds.keeping import BUILD_FIELDS, VIEW_FIELDS
from jungoptic.app.builds.models import Build
from jungoptic.app.builds.schemas import BuildOut, Cone, CutPieceOut, PieceOut, ReusedOut, Standing, ViewOut
from jungoptic.app.costs.costing import figures_of
from jungoptic.app.takes.table import BenchTable, shot_to_look_at
from jungoptic.core.breakdown import building_hours
from jungoptic.core.handbook import record_fields
from jungoptic.core.match import focal_px
from jungoptic.core.plan import (
    Piece,
    Sheet,
    View,
    fewest_pieces,
    lay_out,
    only_establishing,
    panels,
    seen_parts,
)
from jungoptic.core.vocabulary import Units
from jungoptic.core.wording import Words


def views_of(build: Build) -> tuple[list[View], list[str]]:
    """The cameras in the plan by their shots' heroes, at the beginning and the end of the shot's move; and
    what is missing for others.
    """
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
            name=row.shot.code,
            x_m=row.x_m,
            z_m=row.z_m,
            height_m=hero.lens_height_m - hero.ground_height_m,
            heading_deg=row.heading_deg,
            tilt_deg=hero.tilt_deg,
            roll_deg=hero.roll_deg,
            f_px=focal_px(hero, table.delivery),
            width_px=width,
            height_px=height,
            establishing=row.establishing,
        )
        found.append(base)
        move = table.move
        for share in (0.25, 0.5, 0.75, 1.0) if not move.still else ():
            found.append(base.after(move, share, hero.distance_m))
    return found, lacking


def _rings(region: BaseGeometry) -> list[list[list[float]]]:
    shapes = region.geoms if hasattr(region, "geoms") else [region]
    return [
        [[round(x, 4), round(y, 4)] for x, y in shape.exterior.coords]
        for shape in shapes
        if shape.geom_type == "Polygon"
    ]


def worked_out(build: Build, units: Units) -> BuildOut:
    """Everything that the plan of a set shows: pieces with what is seen of them, views, money, sheets and
    cuts.
    """
    words = Words(units)
    pieces = [row.record() for row in build.pieces.all()]
    views, lacking = views_of(build)
    parts = seen_parts(pieces, views)
    reused = fewest_pieces(parts)
    spared = {name for one in reused for name in one.names[1:]}
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
            PieceOut(
                **part.piece.model_dump(),
                corners=[[round(float(v), 4) for v in corner] for corner in part.piece.corners_m()],
                seen=_rings(part.region),
                seen_m2=part.area_m2,
                whole_m2=part.whole_m2,
                made_box=list(box) if box else None,
                made_m2=made_m2,
                by=sorted(set(part.by)),
                finest_text=f"{1000 * part.finest_m / build.scale:.2g} mm" if part.by else "",
                built=is_built and box is not None,
                size_text=(
                    f"{words.length((box[2] - box[0]) / build.scale)} ×"
                    f" {words.length((box[3] - box[1]) / build.scale)}"
                    if box
                    else "not seen"
                ),
            )
        )
    cutting = lay_out(wanted, sheet)
    built_m2 = sum(row.made_m2 for row in rows if row.built)
    whole_m2 = sum(row.whole_m2 for row in rows if row.made == "built")
    wide = only_establishing(parts, views)
    return BuildOut(
        id=build.pk,
        version=build.version,
        **{name: getattr(build, name) for name in BUILD_FIELDS},
        pieces=rows,
        lacking=lacking,
        views=[
            ViewOut(id=row.pk, **{name: getattr(row, name) for name in VIEW_FIELDS}, code=row.shot.code)
            for row in build.views.filter(shot__removed=False).select_related("shot")
        ],
        cones=[_cone(view) for view in views],
        reused=[
            ReusedOut(
                names=list(one.names),
                saves_m2=one.saves_m2,
                stands=[Standing(view=view, piece=piece) for view, piece in one.stands],
            )
            for one in reused
        ],
        only_establishing=list(wide),
        built_m2=built_m2,
        whole_m2=whole_m2,
        hours=building_hours(built_m2, build.scale, figures),
        hours_whole=building_hours(whole_m2, build.scale, figures),
        sheets=cutting.sheets,
        used=cutting.used,
        price_all=cutting.price,
        cuts=[
            CutPieceOut(
                name=cut.name,
                sheet=cut.sheet + 1,
                x_mm=round(cut.x_mm, 1),
                y_mm=round(cut.y_mm, 1),
                width_mm=round(cut.width_mm, 1),
                height_mm=round(cut.height_mm, 1),
                turned=cut.turned,
                text=(
                    f"{cut.width_mm:.0f} × {cut.height_mm:.0f} mm · {cut.inches[0]:.2f} ×"
                    f" {cut.inches[1]:.2f} in"
                ),
            )
            for cut in cutting.cuts
        ],
        piece_fields=record_fields(Piece),
        sheet_fields=record_fields(Sheet),
    )


def _cone(view: View) -> Cone:
    return Cone(
        name=view.name,
        x_m=view.x_m,
        z_m=view.z_m,
        heading_deg=view.heading_deg,
        half_deg=view.half_deg,
        establishing=view.establishing,
    )
