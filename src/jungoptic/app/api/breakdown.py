"""The break-down over HTTP: the wall, a shot's plan, files in and out, sets in plan, places. Thin: read, call, answer."""

from __future__ import annotations

from typing import Any

from django.db.models import Count
from django.http import HttpRequest, HttpResponse
from ninja import File, Router, Status, UploadedFile
from ninja.errors import HttpError

from jungoptic.app.api import access, present
from jungoptic.app.api import breakdown_schemas as b
from jungoptic.app.api import schemas as s
from jungoptic.app.breakdown import boards, builds, connected, costing, plan, recipes, removing, safety
from jungoptic.app.breakdown.models import Board, Build, StockItem
from jungoptic.app.breakdown.wall import change_line, wall
from jungoptic.app.cards.tasks import ask_for_book, ask_for_page
from jungoptic.app.exchange.edit_list import write_otio
from jungoptic.app.exchange.tables import write_csv
from jungoptic.app.exchange.take_in import preview, take_in
from jungoptic.app.productions.models import Production
from jungoptic.app.replies.once import once
from jungoptic.app.shots.bench import BenchTable, shot_to_look_at, shot_with_everything
from jungoptic.app.shots.models import Shot
from jungoptic.core.breakdown.costs import Figures as FigureRecord
from jungoptic.core.breakdown.guide import NEEDS, SEES, guide
from jungoptic.core.breakdown.recipes import RECIPES
from jungoptic.core.cautions import CAUTIONS
from jungoptic.core.errors import InputError
from jungoptic.core.handbook.cards import record_fields
from jungoptic.core.stage.render import jpeg, render

router = Router()
SHOWN_ROWS = 300
SHOWN_FAULTS = 100
SMALL_PX = 400
KEPT_FOR_EVER = {"Cache-Control": "private, max-age=31536000, immutable"}  # the address says which version
EMPTY: list[UploadedFile] = []


def _table(shot_id: int) -> BenchTable:
    """The shot as it stands in the database, not as a process may have kept it: what follows a write is read here."""
    return BenchTable(shot_with_everything(shot_id), school="measured", units="metric")


def _plan(shot_id: int, role: str) -> dict[str, Any]:
    found: dict[str, Any] = present.jsonable(plan.broken_down(_table(shot_id), role))
    return found


# --- the wall ------------------------------------------------------------------------------------------------------


@router.get("/productions/{production_id}/wall", response=b.WallOut)
def read_wall(request: HttpRequest, production_id: int, school: s.School = "measured") -> Any:
    """Every shot of the production in the order of the cut, with totals. Anybody in the production."""
    access.role_in(request, production_id)
    return wall(production_id, school)


@router.patch("/shots/{shot_id}/line", response={200: b.TakenIn, 409: s.Problems, 422: s.Problems})
def edit_line(request: HttpRequest, shot_id: int, payload: b.LineIn) -> Any:
    """Edit a shot where it stands on the wall, call it ready, or take it out of the cut. The supervisor."""
    access.of_shot(request, shot_id, access.WRITES)
    changes = payload.changes.model_dump(exclude_unset=True)
    empty = [name for name in changes if changes[name] is None and name not in ("place_id", "shoot_on")]
    if empty:
        raise InputError.at(empty[0], "This cannot be empty.")

    def work() -> tuple[int, Any]:
        change_line(shot_id, access.person(request), changes, payload.seen)
        return 200, {"new": 0, "changed": 1}

    return Status(*once(request, work))


# --- files in and out ----------------------------------------------------------------------------------------------


@router.post("/productions/{production_id}/preview", response={200: b.PreviewOut, 422: s.Problems})
def look_into_file(request: HttpRequest, production_id: int, payload: b.FileIn) -> Any:
    """What taking a file in would do; nothing is written. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    seen = preview(Production.objects.get(pk=production_id), payload.name, payload.text, payload.kind)
    counts = {state: sum(row.state == state for row in seen.rows) for state in ("new", "changed", "same")}
    rows = [
        {
            "line": row.candidate.line, "code": row.candidate.code or "", "title": row.candidate.title or "", "description": row.candidate.description or "",
            "length_frames": row.candidate.length_frames, "place": row.candidate.place or "", "state": row.state, "changes": list(row.changes),
        }
        for row in seen.rows[:SHOWN_ROWS]
    ]  # fmt: skip
    return {
        "kind": seen.read.kind, "rows": rows, "more": max(0, len(seen.rows) - SHOWN_ROWS), **counts, "notes": list(seen.read.notes),
        "faults": [{"line": one.line, "column": one.column, "message": one.message} for one in seen.faults[:SHOWN_FAULTS]], "more_faults": max(0, len(seen.faults) - SHOWN_FAULTS),
    }  # fmt: skip


@router.post("/productions/{production_id}/take-in", response={200: b.TakenIn, 422: s.Problems})
def take_file_in(request: HttpRequest, production_id: int, payload: b.FileIn) -> Any:
    """Write all of a file's shots, or none of them. The supervisor."""
    access.role_in(request, production_id, access.WRITES)

    def work() -> tuple[int, Any]:
        new, changed = take_in(production_id, access.person(request), payload.name, payload.text, payload.kind)
        return 200, {"new": new, "changed": changed}

    return Status(*once(request, work))


def _whole_wall(production_id: int) -> list[dict[str, Any]]:
    while (found := wall(production_id, "measured"))["pending"]:
        pass
    lines: list[dict[str, Any]] = found["shots"]
    return lines


@router.get("/productions/{production_id}/shots.{ending}", include_in_schema=False)
def take_out(request: HttpRequest, production_id: int, ending: str) -> HttpResponse:
    """The wall as CSV or as an OpenTimelineIO timeline. Anybody in the production."""
    access.role_in(request, production_id)
    production = Production.objects.get(pk=production_id)
    if ending not in ("csv", "otio"):
        raise HttpError(404, "Shots come out as csv or otio.")
    lines = _whole_wall(production_id)
    body = write_csv(lines) if ending == "csv" else write_otio(production.title, production.frame_rate_fps, lines)
    kind = "text/csv; charset=utf-8" if ending == "csv" else "application/json"
    return HttpResponse(body, content_type=kind, headers={"Content-Disposition": f'attachment; filename="{production.slug}.{ending}"'})


# --- boards --------------------------------------------------------------------------------------------------------


@router.post("/productions/{production_id}/boards", response={200: list[b.MatchedBoard], 422: s.Problems})
def upload_boards(request: HttpRequest, production_id: int, files: File[list[UploadedFile]] = EMPTY) -> Any:
    """Many boards at once: to the shots that their names say, else in order. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    if not files:
        raise InputError.at("files", "Choose at least one picture.")
    named = [(one.name or "board", one.read(boards.MOST_BYTES + 1)) for one in files[: boards.MOST_PAGES]]
    return [{"picture": picture, "code": code} for picture, code in boards.match(production_id, named, access.person(request))]


@router.post("/shots/{shot_id}/board", response={200: b.BoardOut, 422: s.Problems})
def upload_board(request: HttpRequest, shot_id: int, file: File[UploadedFile | None] = None) -> Any:
    """The shot's board: PNG, JPEG, TIFF or the first page of a PDF. The supervisor."""
    access.of_shot(request, shot_id, access.WRITES)
    if file is None:
        raise InputError.at("file", "Choose a picture.")
    picture = next(boards.pictures(file.name or "board", file.read(boards.MOST_BYTES + 1)))
    made = boards.keep(Shot.objects.get(pk=shot_id), access.person(request), picture)
    return {"id": made.pk, "name": made.name, "width_px": made.width_px, "height_px": made.height_px}


@router.delete("/shots/{shot_id}/board", response=b.TakenIn)
def remove_board(request: HttpRequest, shot_id: int) -> Any:
    """Show the shot without its board; the picture is kept. The supervisor."""
    access.of_shot(request, shot_id, access.WRITES)
    boards.drop(Shot.objects.get(pk=shot_id))
    return {"new": 0, "changed": 1}


@router.get("/boards/{board_id}.jpg", include_in_schema=False)
def board_picture(request: HttpRequest, board_id: int, width: int = 0) -> HttpResponse:
    """The picture of a board, whole or not wider than ``width``. Anybody in the production."""
    board = Board.objects.filter(pk=board_id).select_related("shot").defer("picture").first()
    if board is None:
        raise HttpError(404, "There is no such thing here, or it is not yours to see.")
    access.role_in(request, board.shot.production_id)
    body = boards.smaller_board(board_id, width) if 0 < width < board.width_px else bytes(board.picture)
    return HttpResponse(body, content_type="image/jpeg", headers=KEPT_FOR_EVER)


@router.get("/shots/{shot_id}/small.jpg", include_in_schema=False)
def small_picture(request: HttpRequest, shot_id: int) -> HttpResponse:
    """The view through the lens, small, for the wall. Anybody in the production."""
    access.of_shot(request, shot_id)
    table = BenchTable(shot_to_look_at(shot_id), school="measured", units="metric")
    if table.hero is None:
        raise HttpError(404, "There is no hero yet, so there is no camera to look through.")
    return HttpResponse(jpeg(render(table.stack, SMALL_PX)), content_type="image/jpeg", headers=KEPT_FOR_EVER)


# --- recipes -------------------------------------------------------------------------------------------------------


@router.get("/recipes", response=b.RecipesOut)
def list_recipes(request: HttpRequest) -> Any:
    """Every recipe, and what the guide asks. Anybody who is signed in."""
    return {
        "recipes": [plan.recipe_out(one) for one in RECIPES.values()], "sees": [{"key": key, "text": text} for key, text in SEES.items()],
        "needs": [{"key": key, "text": text} for key, text in NEEDS.items()],
    }  # fmt: skip


@router.get("/guide", response={200: list[b.SuggestionOut], 422: s.Problems})
def ask_guide(request: HttpRequest, sees: str, without: str = "") -> Any:
    """Recipes for what the audience should see, those that need nothing missing first. Anybody who is signed in."""
    lacking = [one for one in without.split(",") if one]
    return [{"key": one.recipe.key, "lacks": list(one.lacks)} for one in guide(sees, lacking)]


@router.get("/cautions", response=list[b.KeyTitle])
def list_cautions(request: HttpRequest) -> Any:
    """The usual cautions by key. Anybody who is signed in."""
    return [{"key": key, "title": one.title} for key, one in CAUTIONS.items()]


@router.get("/shots/{shot_id}/plan", response=b.PlanOut)
def read_plan(request: HttpRequest, shot_id: int) -> Any:
    """A shot broken down. Anybody in the production."""
    return _plan(shot_id, access.of_shot(request, shot_id))


@router.post("/shots/{shot_id}/recipes", response={201: b.PlanOut, 422: s.Problems})
def choose_recipe(request: HttpRequest, shot_id: int, payload: b.ChooseIn) -> Any:
    """Choose a recipe: its plates fill the stack. The supervisor."""
    role = access.of_shot(request, shot_id, access.WRITES)

    def work() -> tuple[int, Any]:
        who = access.person(request)
        if payload.own is not None:
            recipes.choose_own(shot_id, who, payload.own)
        else:
            recipes.choose(shot_id, who, payload.key, payload.answers, fill=payload.fill)
        return 201, _plan(shot_id, role)

    return Status(*once(request, work))


@router.patch("/shots/{shot_id}/recipes/{recipe_id}", response={200: b.PlanOut, 422: s.Problems})
def recipe_back(request: HttpRequest, shot_id: int, recipe_id: int, payload: b.Removed) -> Any:
    """Take a recipe back with its layers, or bring them again. The supervisor."""
    role = access.of_shot(request, shot_id, access.WRITES)
    (recipes.drop if payload.removed else recipes.restore)(shot_id, access.person(request), recipe_id)
    return _plan(shot_id, role)


@router.post("/shots/{shot_id}/save-recipe", response={201: b.PlanOut, 422: s.Problems})
def save_recipe(request: HttpRequest, shot_id: int, payload: b.SaveRecipe) -> Any:
    """Keep the shot's plates as a recipe of the production. The supervisor."""
    role = access.of_shot(request, shot_id, access.WRITES)

    def work() -> tuple[int, Any]:
        recipes.save_as_recipe(shot_id, access.person(request), payload.title)
        return 201, _plan(shot_id, role)

    return Status(*once(request, work))


@router.post("/layers/{layer_id}/ticks", response={200: b.PlanOut, 422: s.Problems})
def tick_check(request: HttpRequest, layer_id: int, payload: b.TickIn) -> Any:
    """Tick a check of a plate. The supervisor and the crew."""
    from jungoptic.app.shots.models import Layer

    role = access.of_layer(request, layer_id, access.LOGS)
    plan.tick(layer_id, access.person(request), payload.text, payload.done)
    return _plan(Layer.objects.values_list("shot_id", flat=True).get(pk=layer_id), role)


# --- costs and cautions --------------------------------------------------------------------------------------------


@router.patch("/shots/{shot_id}/costs", response={200: b.PlanOut, 422: s.Problems})
def say_costs(request: HttpRequest, shot_id: int, payload: b.CostIn) -> Any:
    """Say what a shot's costs depend on, or choose a way. The supervisor."""
    role = access.of_shot(request, shot_id, access.WRITES)
    costing.say(shot_id, payload.changes)
    return _plan(shot_id, role)


def _figures(production_id: int) -> dict[str, Any]:
    production = Production.objects.select_related("figures").get(pk=production_id)
    row = getattr(production, "figures", None)
    return {"version": row.version if row else 1, "values": costing.figures_of(production).model_dump(), "fields": list(record_fields(FigureRecord))}


@router.get("/productions/{production_id}/figures", response=b.FiguresOut)
def read_figures(request: HttpRequest, production_id: int) -> Any:
    """What the production reckons with. Anybody in the production."""
    access.role_in(request, production_id)
    return _figures(production_id)


@router.patch("/productions/{production_id}/figures", response={200: b.FiguresOut, 409: s.Problems, 422: s.Problems})
def change_figures(request: HttpRequest, production_id: int, payload: b.FiguresIn) -> Any:
    """Change what the production reckons with. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    costing.change_figures(production_id, payload.version, payload.changes)
    return _figures(production_id)


@router.post("/shots/{shot_id}/sign", response={200: b.PlanOut, 422: s.Problems})
def sign_caution(request: HttpRequest, shot_id: int, payload: b.SignOffIn) -> Any:
    """Sign a caution off, or take that back. The supervisor."""
    role = access.of_shot(request, shot_id, access.WRITES)
    if payload.withdraw:
        safety.take_back(shot_id, access.person(request), payload.caution)
    else:
        safety.sign(_table(shot_id), access.person(request), payload.caution, payload.note)
    return _plan(shot_id, role)


@router.put("/shots/{shot_id}/cautions", response={200: b.PlanOut, 422: s.Problems})
def set_cautions(request: HttpRequest, shot_id: int, payload: b.CautionsIn) -> Any:
    """The cautions that are added by hand. The supervisor."""
    role = access.of_shot(request, shot_id, access.WRITES)
    safety.say_cautions(shot_id, access.person(request), payload.cautions)
    return _plan(shot_id, role)


# --- what is connected ---------------------------------------------------------------------------------------------


@router.get("/shots/{shot_id}/reuse", response=list[b.ReuseOut])
def read_reuse(request: HttpRequest, shot_id: int) -> Any:
    """What stock and other shots have that could serve. Anybody in the production."""
    access.of_shot(request, shot_id)
    return connected.reuse(shot_id)


@router.get("/productions/{production_id}/places", response=list[b.PlaceOut])
def read_places(request: HttpRequest, production_id: int) -> Any:
    """What recurs in each place and which shots carry it. Anybody in the production."""
    access.role_in(request, production_id)
    return connected.continuity(production_id)


@router.post("/productions/{production_id}/places", response={201: list[b.PlaceOut], 422: s.Problems})
def new_place(request: HttpRequest, production_id: int, payload: b.PlaceIn) -> Any:
    """A new place. The supervisor."""
    access.role_in(request, production_id, access.WRITES)

    def work() -> tuple[int, Any]:
        connected.save_place(production_id, None, 0, payload.name, payload.recurring, payload.cautions)
        return 201, connected.continuity(production_id)

    return Status(*once(request, work))


@router.put("/productions/{production_id}/places/{place_id}", response={200: list[b.PlaceOut], 409: s.Problems, 422: s.Problems})
def change_place(request: HttpRequest, production_id: int, place_id: int, payload: b.PlaceIn) -> Any:
    """What recurs in a place, and its cautions. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    connected.save_place(production_id, place_id, payload.version, payload.name, payload.recurring, payload.cautions)
    return connected.continuity(production_id)


@router.patch("/productions/{production_id}/places/{place_id}", response={200: list[b.PlaceOut], 422: s.Problems})
def place_back(request: HttpRequest, production_id: int, place_id: int, payload: b.Removed) -> Any:
    """Take a place out of the production, or bring it back. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    removing.remove_place(production_id, place_id, payload.removed)
    return connected.continuity(production_id)


def _stock(production_id: int) -> list[dict[str, Any]]:
    return [
        {"id": one.pk, **{name: getattr(one, name) for name in b.StockIn.model_fields}}
        for one in StockItem.objects.filter(production=production_id, removed=False)[:1000]
    ]


@router.get("/productions/{production_id}/stock", response=list[b.StockOut])
def read_stock(request: HttpRequest, production_id: int) -> Any:
    """What was filmed already. Anybody in the production."""
    access.role_in(request, production_id)
    return _stock(production_id)


@router.post("/productions/{production_id}/stock", response={201: list[b.StockOut], 422: s.Problems})
def new_stock(request: HttpRequest, production_id: int, payload: b.StockIn) -> Any:
    """Add something that was filmed already. The supervisor."""
    access.role_in(request, production_id, access.WRITES)

    def work() -> tuple[int, Any]:
        connected.add_stock(production_id, payload.model_dump())
        return 201, _stock(production_id)

    return Status(*once(request, work))


@router.patch("/productions/{production_id}/stock/{item_id}", response={200: list[b.StockOut], 422: s.Problems})
def stock_back(request: HttpRequest, production_id: int, item_id: int, payload: b.Removed) -> Any:
    """Take a stock element out, or bring it back. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    removing.remove_stock(production_id, item_id, payload.removed)
    return _stock(production_id)


# --- sets in plan --------------------------------------------------------------------------------------------------


def _build(request: HttpRequest, build_id: int, allowed: frozenset[access.Role] = access.READS) -> Build:
    build = Build.objects.filter(pk=build_id, removed=False).select_related("production__figures").first()
    if build is None:
        raise HttpError(404, "There is no such thing here, or it is not yours to see.")
    access.role_in(request, build.production_id, allowed)
    return build


@router.get("/productions/{production_id}/builds", response=list[b.BuildName])
def list_builds(request: HttpRequest, production_id: int) -> Any:
    """The sets and models in plan. Anybody in the production."""
    access.role_in(request, production_id)
    return _builds(production_id)


def _builds(production_id: int) -> list[dict[str, Any]]:
    rows = (
        Build.objects.filter(production=production_id, removed=False)
        .select_related("place")
        .annotate(piece_count=Count("pieces", distinct=True), view_count=Count("views", distinct=True))
    )
    return [
        {"id": one.pk, "name": one.name, "place": one.place.name if one.place else "", "pieces": one.piece_count, "views": one.view_count}
        for one in rows[:200]
    ]


@router.post("/productions/{production_id}/builds", response={201: b.BuildOut, 422: s.Problems})
def new_build(request: HttpRequest, production_id: int, payload: b.NewBuild) -> Any:
    """A new set or model in plan. The supervisor."""
    access.role_in(request, production_id, access.WRITES)

    def work() -> tuple[int, Any]:
        made = builds.new(production_id, payload.name)
        return 201, present.jsonable(builds.worked_out(made, "metric"))

    return Status(*once(request, work))


@router.patch("/productions/{production_id}/builds/{build_id}", response={200: list[b.BuildName], 422: s.Problems})
def build_back(request: HttpRequest, production_id: int, build_id: int, payload: b.Removed) -> Any:
    """Take a set out of the production, or bring it back. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    removing.remove_build(production_id, build_id, payload.removed)
    return _builds(production_id)


@router.get("/builds/{build_id}", response=b.BuildOut)
def read_build(request: HttpRequest, build_id: int, units: s.Units = "metric") -> Any:
    """A set with what its shots see of it. Anybody in the production."""
    return builds.worked_out(_build(request, build_id), units)


@router.put("/builds/{build_id}", response={200: b.BuildOut, 409: s.Problems, 422: s.Problems})
def save_build(request: HttpRequest, build_id: int, payload: b.BuildIn, units: s.Units = "metric") -> Any:
    """Save a set with pieces and views. The supervisor."""
    _build(request, build_id, access.WRITES)
    views = None if payload.views is None else [one.model_dump() for one in payload.views]
    builds.save(build_id, payload.version, payload.fields, payload.pieces, views)
    return builds.worked_out(_build(request, build_id), units)


# --- the book ------------------------------------------------------------------------------------------------------


@router.post("/productions/{production_id}/book", response={202: s.CardOut})
def make_book(request: HttpRequest, production_id: int, payload: s.CardIn) -> Any:
    """Have the worker print the break-down book. Anybody in the production."""
    access.role_in(request, production_id)
    return Status(202, _asked(ask_for_book(production_id, access.person(request), payload.paper, payload.units, payload.school)))


@router.post("/shots/{shot_id}/page", response={202: s.CardOut})
def make_page(request: HttpRequest, shot_id: int, payload: s.CardIn) -> Any:
    """Have the worker print one shot's page of the book. Anybody in the production."""
    access.of_shot(request, shot_id)
    return Status(202, _asked(ask_for_page(shot_id, access.person(request), payload.paper, payload.units, payload.school)))


def _asked(card: Any) -> dict[str, Any]:
    return {"id": card.pk, "paper": card.paper, "state": card.state, "progress": card.progress, "message": card.message}
