"""The API: thin operations that read, call core, and answer. Every operation says who may call it."""

from __future__ import annotations

from typing import Any

import orjson
from django.contrib.auth import authenticate, login, logout
from django.db.models import Count, Q
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from ninja import Body, NinjaAPI, Query, Schema, Status
from ninja.errors import HttpError, ValidationError
from ninja.security import APIKeyCookie, django_auth
from pydantic import Field

from jungoptic.app.api import access, breakdown, present
from jungoptic.app.api import schemas as s
from jungoptic.app.api.parsing import BodyParser
from jungoptic.app.cards.models import Card
from jungoptic.app.cards.tasks import ask_for_card, stop_card
from jungoptic.app.kit.models import Lamp
from jungoptic.app.productions import judging
from jungoptic.app.productions.models import Membership
from jungoptic.app.replies.once import once
from jungoptic.app.shots.add import accept, add_backing, add_lamp, add_layer, add_line, withdraw
from jungoptic.app.shots.bench import BenchTable, Draft, Versions, shot_to_look_at
from jungoptic.app.shots.edit import KINDS, SET_UP_FIELDS, ConflictError, Edit, EditSet, change_shot
from jungoptic.app.shots.models import Layer
from jungoptic.app.takes.log import circle_take, record_take
from jungoptic.app.takes.models import Take
from jungoptic.core.calculation import CALCULATIONS, Calculation, find
from jungoptic.core.errors import FieldProblem, InputError
from jungoptic.core.handbook import cards
from jungoptic.core.handbook.checks import CHECKS
from jungoptic.core.light.placed import Backing as BackingRecord
from jungoptic.core.light.placed import PlacedLamp as PlacedLampRecord
from jungoptic.core.match.fill import known_values
from jungoptic.core.match.lighting import resolved
from jungoptic.core.match.records import Layer as LayerRecord
from jungoptic.core.match.records import SetUp as SetUpRecord
from jungoptic.core.match.stack import ShotPlan
from jungoptic.core.motion.move import Move
from jungoptic.core.plan.scales import choose_scale
from jungoptic.core.plan.solve import SOLVABLE, solve
from jungoptic.core.stage.render import jpeg, render

PAGE = 200


class CsrfOnly(APIKeyCookie):
    """Signing in needs no session, but its request must come from our own page."""

    param_name = "csrftoken"

    def authenticate(self, request: HttpRequest, key: str | None) -> bool:
        return True


class Api(NinjaAPI):
    def get_openapi_schema(self, **how: Any) -> Any:
        """The schema, with what every operation may answer when it says no."""
        schema = super().get_openapi_schema(**how)
        refused = {"description": "What is wrong, and where", "content": {"application/json": {"schema": {"$ref": "#/components/schemas/Problems"}}}}
        for operations in schema["paths"].values():
            for operation in operations.values():
                operation["responses"].setdefault("4XX", refused)
        return schema


api = Api(title="Jungoptic", version="1", auth=django_auth, docs_url=None, urls_namespace="api", parser=BodyParser())
api.add_router("", breakdown.router)


def _problems(request: HttpRequest, status: int, problems: tuple[FieldProblem, ...]) -> HttpResponse:
    return api.create_response(request, {"problems": [{"field": p.field, "message": p.message} for p in problems]}, status=status)


@api.exception_handler(InputError)
def _input_error(request: HttpRequest, error: InputError) -> HttpResponse:
    return _problems(request, 422, error.problems)


@api.exception_handler(ConflictError)
def _conflict(request: HttpRequest, error: ConflictError) -> HttpResponse:
    return _problems(request, 409, (FieldProblem("version", str(error)),))


@api.exception_handler(HttpError)
def _http_error(request: HttpRequest, error: HttpError) -> HttpResponse:
    if isinstance(error.__cause__, InputError):  # found while the body was read
        return _problems(request, 422, error.__cause__.problems)
    return _problems(request, error.status_code, (FieldProblem("", str(error)),))


@api.exception_handler(ValidationError)
def _validation_error(request: HttpRequest, error: ValidationError) -> HttpResponse:
    problems = []
    for one in error.errors:
        field = ".".join(str(step) for step in one["loc"] if step not in ("body", "payload", "query", "path"))
        problems.append(FieldProblem(field, f"{field or 'The request'}: {one['msg'].lower()}."))
    return _problems(request, 422, tuple(problems))


# --- session -------------------------------------------------------------------------------------------------------


def _session(request: HttpRequest) -> dict[str, Any]:
    user = request.user
    if not user.is_authenticated:
        return {"person": None}
    who = access.person(request)
    return {
        "person": {
            "username": who.username, "name": who.shown_name, "units": who.units, "theme": who.theme, "school": who.school, "single_keys": who.single_keys,
        }
    }  # fmt: skip


@api.get("/session", response=s.SessionOut, auth=None)
def read_session(request: HttpRequest) -> Any:
    """Who is signed in, if anybody. Open to all."""
    get_token(request)
    return _session(request)


@api.post("/session", response={200: s.SessionOut, 401: s.Problems, 429: s.Problems}, auth=CsrfOnly())
def sign_in(request: HttpRequest, payload: s.SignIn) -> Any:
    """Sign in. Open to all; an account is locked after repeated failures."""
    user = authenticate(request, username=payload.username, password=payload.password)
    if user is None:
        from axes.handlers.proxy import AxesProxyHandler

        from jungoptic.app.people.lockout import locked_out

        if AxesProxyHandler.is_locked(request, {"username": payload.username}):
            return locked_out(request)
        return Status(401, {"problems": [{"field": "password", "message": "That name and password do not go together. Check both and try again."}]})
    login(request, user)
    return Status(200, _session(request))


@api.delete("/session", response=s.SessionOut)
def sign_out(request: HttpRequest) -> Any:
    """Sign out. Anybody who is signed in."""
    logout(request)
    return {"person": None}


@api.patch("/session", response=s.SessionOut)
def change_preferences(request: HttpRequest, payload: s.Preferences) -> Any:
    """Change one's own units, theme, school and keys. Anybody who is signed in."""
    who = access.person(request)
    for name, value in payload.model_dump(exclude_none=True).items():
        setattr(who, name, value)
    who.save(update_fields=list(payload.model_dump(exclude_none=True)) or None)
    return _session(request)


# --- productions and shots -----------------------------------------------------------------------------------------


@api.get("/productions", response=list[s.ProductionOut])
def list_productions(request: HttpRequest) -> Any:
    """The productions that the caller is in."""
    memberships = (
        Membership.objects.filter(person=access.person(request))
        .select_related("production")
        .annotate(shots=Count("production__shots", filter=Q(production__shots__template=False, production__shots__removed=False)))
    )
    return [
        {
            "id": m.production.pk, "title": m.production.title, "slug": m.production.slug, "role": m.role, "shots": m.shots,
            "delivery_width_px": m.production.delivery_width_px, "delivery_height_px": m.production.delivery_height_px,
            "frame_rate_fps": m.production.frame_rate_fps,
        }
        for m in memberships[:PAGE]
    ]  # fmt: skip


class BenchQuery(Schema):
    school: s.School = "measured"
    units: s.Units = "metric"
    basis: s.Basis = "shot"
    selected: int | None = None
    after_finish: bool = True
    frame: int = Field(0, ge=0, le=1_000_000)


def _raw(body: dict[str, Any]) -> HttpResponse:
    """The body as it is: what present builds has the response's shape (tests hold it to it), and a drag cannot wait for a second look."""
    return HttpResponse(orjson.dumps(body, option=orjson.OPT_NON_STR_KEYS), content_type="application/json")


def _table(shot_id: int, query: Any, draft: Draft | None = None, versions: Versions | None = None) -> BenchTable:
    return BenchTable(
        shot_to_look_at(shot_id, versions),
        school=query.school,
        units=query.units,
        draft=draft,
        basis=query.basis,
        after_finish=query.after_finish,
        frame=query.frame,
    )


def _bench(shot_id: int, role: str, query: Any, draft: Draft | None = None, versions: Versions | None = None) -> dict[str, Any]:
    return present.bench(_table(shot_id, query, draft, versions), role, query.selected)


def _draft(tried: s.ChangeSet) -> Draft:
    return Draft(**{kind: getattr(tried, kind) for kind in KINDS})


@api.get("/shots/{shot_id}/bench", response=s.BenchOut)
def read_bench(request: HttpRequest, shot_id: int, query: Query[BenchQuery]) -> Any:
    """One shot judged and drawn. Anybody in the production."""
    role, versions = access.shot_seen(request, shot_id)
    return _raw(_bench(shot_id, role, query, versions=versions))


@api.get("/shots/{shot_id}/version", response=s.VersionOut)
def read_version(request: HttpRequest, shot_id: int) -> Any:
    """Whether anything of the shot has changed: cheap enough to ask every few seconds. Anybody in the production."""
    version, revision = access.shot_seen(request, shot_id)[1]
    return {"version": version, "revision": revision}


@api.post("/shots/{shot_id}/trial", response=s.BenchOut)
def try_changes(request: HttpRequest, shot_id: int, payload: s.Trial) -> Any:
    """Judge and draw with changes that are only tried: nothing is saved. Anybody in the production."""
    role, versions = access.shot_seen(request, shot_id)
    return _raw(_bench(shot_id, role, payload, _draft(payload), versions))


@api.post("/shots/{shot_id}/picture", include_in_schema=True)
def picture(request: HttpRequest, shot_id: int, payload: s.PictureIn) -> HttpResponse:
    """The view through the lens as a JPEG, with what is being tried. Anybody in the production."""
    versions = access.shot_seen(request, shot_id)[1]
    table = _table(shot_id, payload, _draft(payload), versions)
    if table.hero is None:
        raise InputError.at("", "There is no hero yet, so there is no camera to look through.")
    only = next((at for at, layer in enumerate(table.layers) if layer.pk == payload.only), None)
    pixels = render(table.stack, payload.width_px, moment=table.moment, only=only, after_finish=payload.after_finish)
    return HttpResponse(jpeg(pixels), content_type="image/jpeg", headers={"Cache-Control": "no-store"})


@api.post("/shots/{shot_id}/changes", response={200: s.BenchOut, 409: s.Problems, 422: s.Problems})
def save_changes(request: HttpRequest, shot_id: int, payload: s.ChangesIn) -> Any:
    """Save changes to set-ups and layers together, or none of them. The supervisor."""
    role = access.of_shot(request, shot_id, access.WRITES)

    def work() -> tuple[int, Any]:
        edits = {kind: {pk: Edit(edit.version, edit.changes) for pk, edit in getattr(payload, kind).items()} for kind in KINDS}
        change_shot(shot_id, access.person(request), EditSet(**edits))
        return 200, present.jsonable(_bench(shot_id, role, payload))

    return Status(*once(request, work))


@api.post("/shots/{shot_id}/add", response={201: s.AddOut, 422: s.Problems})
def add(request: HttpRequest, shot_id: int, payload: s.AddIn) -> Any:
    """Add a layer, a lamp, a backing or a line of the board. The supervisor."""
    role = access.of_shot(request, shot_id, access.WRITES)

    def work() -> tuple[int, Any]:
        who = access.person(request)
        if payload.what == "layer":
            made = add_layer(shot_id, who, payload.fields, like_set_up=payload.like_set_up, own_set_up=payload.own_set_up)
        elif payload.what == "line":
            made = add_line(shot_id, who, payload.fields)
        elif payload.like_set_up is None:
            raise InputError.at("like_set_up", "Say in which set-up it stands.")
        elif payload.what == "lamp":
            made = add_lamp(shot_id, who, payload.like_set_up, payload.fields, payload.kit_lamp)
        else:
            made = add_backing(shot_id, who, payload.like_set_up, payload.fields)
        if payload.what == "layer":
            payload.selected = made
        return 201, {"id": made, "bench": present.jsonable(_bench(shot_id, role, payload))}

    return Status(*once(request, work))


@api.post("/shots/{shot_id}/accept", response={200: s.BenchOut, 422: s.Problems})
def accept_verdict(request: HttpRequest, shot_id: int, payload: s.AcceptIn) -> Any:
    """Accept a verdict with a reason, or take that back. The supervisor."""
    role = access.of_shot(request, shot_id, access.WRITES)

    def work() -> tuple[int, Any]:
        if payload.withdraw:
            withdraw(shot_id, payload.layer_id, payload.item)
        else:
            accept(shot_id, access.person(request), payload.layer_id, payload.item, payload.reason, as_shot=payload.basis == "shot")
        return 200, present.jsonable(_bench(shot_id, role, payload))

    return Status(*once(request, work))


def _solvable(layer_id: int, payload: s.SolveIn) -> tuple[BenchTable, Layer, SetUpRecord]:
    """The table, the layer and its planned set-up with its key written out; refuses what cannot be solved."""
    shot_id = Layer.objects.values_list("shot_id", flat=True).get(pk=layer_id)
    table = BenchTable(shot_to_look_at(shot_id), school=payload.school, units=payload.units, draft=_draft(payload))
    layer = next((one for one in table.layers if one.pk == layer_id), None)
    if layer is None:
        raise InputError.at("", "This layer was removed.")
    if layer.set_up is None or table.hero is None:
        raise InputError.at("", f"“{layer.name}” is a picture whose camera is unknown: there is nothing to set. Choose a filmed layer.")
    if layer.is_hero:
        raise InputError.at("", "This is the hero: the others are solved to it. Choose another layer.")
    return table, layer, resolved(table.set_up_record(layer), table.layer_record(layer))


@api.post("/layers/{layer_id}/scales", response=s.ScalesOut)
def choose(request: HttpRequest, layer_id: int, payload: s.SolveIn) -> Any:
    """The common scales side by side for this layer, this space and this camera. Anybody in the production."""
    access.of_layer(request, layer_id)
    table, layer, plan = _solvable(layer_id, payload)
    assert layer.set_up is not None and table.hero is not None
    rows = choose_scale(
        table.hero, table.layer_record(layer), plan, table.delivery, table.kit(layer.set_up),
        locked=[name for name in payload.locked if name not in ("distance_m", "lens_height_m", "focus_distance_m")],
        school=payload.school, tolerances=table.tolerances, units=payload.units,
    )  # fmt: skip
    return {"layer_id": layer_id, "rows": [present.scale_row(row, table.words) for row in rows]}


@api.post("/layers/{layer_id}/solve", response=s.SolveOut)
def solve_layer(request: HttpRequest, layer_id: int, payload: s.SolveIn) -> Any:
    """Find settings for one layer within the kit. Nothing is saved. Anybody in the production."""
    access.of_layer(request, layer_id)
    table, layer, plan = _solvable(layer_id, payload)
    assert layer.set_up is not None and table.hero is not None
    given = table.set_up_record(layer)
    # Where the sun or the lamps give the key, it is turned in the drawing and not by the solver.
    fixed = ["key"] if (given.sun_at or given.lamps) and "key" not in payload.locked else []
    kit = table.kit(layer.set_up)
    if given.sun_at:
        kit = kit.but(stage_length_m=None, stage_width_m=None, beams_m=None)
    answers = solve(
        table.hero, table.layer_record(layer), plan, table.delivery, kit,
        locked=[*payload.locked, *fixed], shared=table.shared_with(layer), school=payload.school, tolerances=table.tolerances, units=payload.units,
    )  # fmt: skip
    behind = table.behind_m(layer)
    return {
        "layer_id": layer_id, "set_up_id": layer.set_up.pk, "lockable": SOLVABLE, "answers": [present.jsonable(present.answer(found, behind)) for found in answers],
    }  # fmt: skip


# --- what can be said, and how it is judged -------------------------------------------------------------------------


@api.get("/fields", response=s.FieldsOut)
def read_fields(request: HttpRequest) -> Any:
    """Label, unit, limits and choices of everything that can be said of a shot's rows. Anybody who is signed in."""
    return {
        "layer": list(cards.record_fields(LayerRecord)), "lamp": list(cards.record_fields(PlacedLampRecord)), "backing": list(cards.record_fields(BackingRecord)),
        "set_up": list(cards.record_fields(SetUpRecord)), "shot": list(cards.record_fields(ShotPlan)), "move": list(cards.record_fields(Move)),
    }  # fmt: skip


@api.get("/productions/{production_id}/lamps", response=list[s.LampOut])
def list_lamps(request: HttpRequest, production_id: int) -> Any:
    """The lamps that the kit has. Anybody in the production."""
    access.role_in(request, production_id)
    return list(Lamp.objects.filter(production=production_id)[:PAGE].values("id", "name", "intensity_cd", "beam_deg"))


@api.get("/productions/{production_id}/judging", response=s.JudgingOut)
def read_judging(request: HttpRequest, production_id: int) -> Any:
    """Finish, errors of placing and tolerances. Anybody in the production."""
    access.role_in(request, production_id)
    return judging.read(production_id)


@api.patch("/productions/{production_id}/judging", response={200: s.JudgingOut, 409: s.Problems, 422: s.Problems})
def change_judging(request: HttpRequest, production_id: int, payload: s.JudgingIn) -> Any:
    """Change how the production is judged. The supervisor."""
    access.role_in(request, production_id, access.WRITES)

    def work() -> tuple[int, Any]:
        return 200, judging.change(production_id, payload.version, payload.model_dump(exclude={"version", "tolerances"}, exclude_none=True), {
            item: (one.holds, one.tight) for item, one in payload.tolerances.items()
        })  # fmt: skip

    return Status(*once(request, work))


# --- takes ---------------------------------------------------------------------------------------------------------


@api.get("/shots/{shot_id}/log", response=s.LogOut)
def read_log(request: HttpRequest, shot_id: int, units: s.Units = "metric", school: s.School = "measured") -> Any:
    """The set-up cards and takes of a shot. Anybody in the production."""
    role = access.of_shot(request, shot_id)
    return _raw(present.log(BenchTable(shot_to_look_at(shot_id), school=school, units=units), role))


def _take_out(take_id: int, units: s.Units) -> dict[str, Any]:
    take = Take.objects.select_related("lens", "mode__camera", "recorded_by", "layer").get(pk=take_id)
    table = BenchTable(shot_to_look_at(take.layer.shot_id), school="measured", units=units)
    layer = next(one for one in table.layers if one.pk == take.layer_id)
    body: dict[str, Any] = s.TakeOut.model_validate(present.jsonable(present.take(table, layer, take))).model_dump(mode="json")
    return body


@api.post("/layers/{layer_id}/takes", response={201: s.TakeOut, 422: s.Problems})
def log_take(request: HttpRequest, layer_id: int, payload: s.TakeIn) -> Any:
    """Log a take with what it was really set to. The supervisor and the crew."""
    access.of_layer(request, layer_id, access.LOGS)

    def work() -> tuple[int, Any]:
        take = record_take(
            layer_id, access.person(request), payload.actual, note=payload.note, circled=payload.circled, recorded_at=payload.recorded_at
        )
        return 201, _take_out(take.pk, payload.units)

    return Status(*once(request, work))


@api.patch("/takes/{take_id}", response={200: s.TakeOut, 409: s.Problems})
def circle(request: HttpRequest, take_id: int, payload: s.CircleIn) -> Any:
    """Circle or uncircle a take. The supervisor and the crew."""
    access.of_take(request, take_id, access.LOGS)

    def work() -> tuple[int, Any]:
        circle_take(take_id, payload.version, payload.circled)
        return 200, _take_out(take_id, payload.units)

    return Status(*once(request, work))


# --- cards ---------------------------------------------------------------------------------------------------------


def _card(card: Card) -> dict[str, Any]:
    return {"id": card.pk, "paper": card.paper, "state": card.state, "progress": card.progress, "message": card.message}


@api.post("/shots/{shot_id}/cards", response={202: s.CardOut})
def make_card(request: HttpRequest, shot_id: int, payload: s.CardIn) -> Any:
    """Have the worker print a shot card. Anybody in the production."""
    access.of_shot(request, shot_id)
    return Status(202, _card(ask_for_card(shot_id, access.person(request), payload.paper, payload.units, payload.school)))


@api.get("/cards/{card_id}", response=s.CardOut)
def read_card(request: HttpRequest, card_id: int) -> Any:
    """How far a card is. Anybody in the production."""
    access.of_card(request, card_id)
    return _card(Card.objects.defer("pdf").get(pk=card_id))


@api.delete("/cards/{card_id}", response=s.CardOut)
def stop(request: HttpRequest, card_id: int) -> Any:
    """Stop a card that is being made. Anybody in the production."""
    access.of_card(request, card_id)
    return _card(stop_card(card_id))


@api.get("/cards/{card_id}/pdf", include_in_schema=False)
def download_card(request: HttpRequest, card_id: int) -> HttpResponse:
    """The finished PDF. Anybody in the production."""
    access.of_card(request, card_id)
    card = Card.objects.select_related("shot", "production").get(pk=card_id)
    if card.state != Card.State.READY or card.pdf is None:
        raise HttpError(409, "This card is not ready yet.")
    return HttpResponse(
        bytes(card.pdf),
        content_type="application/pdf",
        headers={"Content-Disposition": f'inline; filename="{card.shot.code if card.shot else card.production.slug}-{card.kind}-{card.paper}.pdf"'},
    )


# --- calculations --------------------------------------------------------------------------------------------------


def _line(entry: Calculation) -> dict[str, Any]:
    return {"name": entry.name, "question": entry.question, "moment": cards.moment_of(entry.name)}


def _output(name: str, schema: dict[str, Any]) -> dict[str, Any]:
    inner = next((one for one in schema.get("anyOf", []) if one.get("type") != "null"), schema)
    return {
        "name": name, "title": schema.get("title", name), "unit": schema.get("unit", ""), "help": schema.get("description") or "", "kind": inner.get("type", "object"),
    }  # fmt: skip


@api.get("/calculations", response=list[s.CalculationLine])
def list_calculations(request: HttpRequest) -> Any:
    """Every calculation by what one wants to know, in the order of the work. Anybody who is signed in."""
    return [_line(CALCULATIONS[name]) for names in cards.MOMENTS.values() for name in names]


@api.get("/calculations/{name}", response=s.CalculationOut)
def read_calculation(request: HttpRequest, name: str) -> Any:
    """One calculation as a card: fields, outputs, formula, sources, check values. Anybody who is signed in."""
    entry = find(name)
    outputs = entry.outputs.model_json_schema()["properties"]
    return {
        **_line(entry), "formula": entry.formula, "sources": [present.source_out(key) for key in entry.sources], "fields": list(cards.fields_of(entry)),
        "outputs": [_output(key, schema) for key, schema in outputs.items()], "example": cards.example_of(entry),
        "checks": [f"{check.kind}: {check.source}" for check in CHECKS[name]],
    }  # fmt: skip


@api.post("/calculations/{name}/around", response=list[s.AroundRow])
def look_around(request: HttpRequest, name: str, payload: s.AroundIn) -> Any:
    """The answers around one of the values: for a table or a plot. Anybody who is signed in."""
    rows = cards.around(find(name), payload.values, payload.field, points=payload.points)
    return [{"value": value, "outputs": outputs} for value, outputs in rows]


@api.get("/layers/{layer_id}/fill/{name}", response=s.FillOut)
def fill_card(request: HttpRequest, layer_id: int, name: str) -> Any:
    """What this layer of a shot knows of the card's fields. Anybody in the production."""
    role = access.of_layer(request, layer_id)
    entry = find(name)
    shot_id = Layer.objects.values_list("shot_id", flat=True).get(pk=layer_id)
    table = BenchTable(shot_to_look_at(shot_id), school="measured", units="metric")
    layer = next(one for one in table.layers if one.pk == layer_id)
    if table.hero is None:
        raise InputError.at("", "This shot has no hero plate yet, so there is nothing to fill the card from.")
    known = known_values(table.match(layer), table.shot.production.mains_hz)
    writes = role in access.WRITES and layer.set_up is not None
    return {
        "values": {field: known[field] for field in entry.inputs.model_fields if field in known}, "layer_id": layer_id, "layer_name": layer.name,
        "set_up_id": layer.set_up_id, "set_up_version": layer.set_up.version if layer.set_up else None,
        "settable": [field for field in entry.outputs.model_fields if writes and field in SET_UP_FIELDS],
    }  # fmt: skip


@api.post("/calculations/{name}", response=dict[str, Any])
def calculate(request: HttpRequest, name: str, payload: Body[dict[str, Any]]) -> Any:
    """Run one calculation. Anybody who is signed in."""
    return find(name).run(payload)


@api.get("/sources", response=list[s.SourceOut])
def list_sources(request: HttpRequest) -> Any:
    """Every source, by key. Anybody who is signed in."""
    from jungoptic.core.sources import SOURCES

    return [present.source_out(key) for key in SOURCES]
