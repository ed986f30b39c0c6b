"""Nothing of a production gets to anybody outside, whatever they name: every call of every operation, made
by the supervisor of another production, with every id in path, query and body in turn one of ours.
"""

from __future__ import annotations

import io
import json
import re
from collections.abc import Iterator
from dataclasses import replace
from typing import Any
from urllib.parse import urlencode

import pytest
from django.db import transaction
from django.db.models import CharField, F, Max, Model, Sum, TextField, Value
from django.db.models.functions import Concat, Left

from jungoptic.app.api.main import api
from jungoptic.app.base.models import Write
from jungoptic.app.boards.models import Board
from jungoptic.app.builds.models import Build
from jungoptic.app.days.fields import KINDS as DAY_KINDS
from jungoptic.app.files.models import StoredFile
from jungoptic.app.footage.models import Card, Recording
from jungoptic.app.frames.models import (
    Exposure,
    ExposureSheet,
    FigurePoint,
    Hyperlapse,
    Piece,
    Pose,
    Rig,
    SheetCheat,
    SheetClip,
)
from jungoptic.app.jobs.models import Job
from jungoptic.app.kit.models import Camera, Lamp, Lens, RecordingMode
from jungoptic.app.measuring.models import MeasuredPicture, Measurement
from jungoptic.app.moving.coming_in import bring_in
from jungoptic.app.moving.going_out import pack
from jungoptic.app.moving.tables import TABLES
from jungoptic.app.people.models import Person
from jungoptic.app.productions.models import Invitation, Membership, Place, Production
from jungoptic.app.recipes.models import ShotRecipe
from jungoptic.app.shelf.rows import KINDS as KIT_KINDS
from jungoptic.app.shots.edit import KINDS
from jungoptic.app.shots.models import Layer, LayerPicture, SetUp, Shot
from jungoptic.app.stills.models import Still
from jungoptic.app.stock.models import StockItem
from jungoptic.app.takes.models import Take
from tests.kept import forget_everything

from .conftest import Caller
from .malformed import leaves, put, there
from .said import Call, as_seen, every_call

SECRET = "Zeph"  # in every text of ours, and in nobody else's
# What a field of that name is the number of, in a path, a query or a body.
ROWS = {kind: own.model for kind, own in (*KIT_KINDS.items(), *DAY_KINDS.items())}
NO_ROWS = {"kind", "row_id", "name", "ending", "day"}  # what else an address has in it
NAMES: dict[str, type[Model]] = {
    "production_id": Production,
    "shot_id": Shot,
    "layer_id": Layer,
    "place_id": Place,
    "build_id": Build,
    "item_id": StockItem,
    "recipe_id": ShotRecipe,
    "take_id": Take,
    "still_id": Still,
    "sheet_id": ExposureSheet,
    "pose_id": Pose,
    "exposure_id": Exposure,
    "rig_id": Rig,
    "piece_id": Piece,
    "point_id": FigurePoint,
    "hyperlapse_id": Hyperlapse,
    "clip_id": SheetClip,
    "cheat_id": SheetCheat,
    "job_id": Job,
    "card_id": Card,
    "recording_id": Recording,
    "against_id": Recording,
    "measurement_id": Measurement,
    "measured_picture_id": MeasuredPicture,
    "lens_id": Lens,
    "mode_id": RecordingMode,
    "lamp_id": Lamp,
    "member_id": Membership,
    "invitation_id": Invitation,
    "file_id": StoredFile,
    "board_id": Board,
    "set_up_id": SetUp,
    "stage_id": Place,
    "here_id": Place,
    "there_id": Place,
    "first_id": SetUp,
    "then_id": SetUp,
    "camera_id": Camera,
    "on_id": Lens,
    "only_for_id": Layer,
    "picture_id": LayerPicture,
    "like_set_up": SetUp,
    "kit_lamp": Lamp,
    "source": Production,
    "selected": Layer,
    "only": Layer,
    "write": Write,
    "shot": Shot,
}
OF_NOBODY = ("/calculations", "/session", "/qr", "/invitation", "/films/asked", "/film-file", "/guide")
_SCHEMA = api.get_openapi_schema()["paths"]
# Every address there is, also what the schema leaves out.
_PATHS = ["/" + re.sub(r"<(?:\w+:)?(\w+)>", r"{\1}", str(one.pattern)) for one in api.urls[0]]


class Theirs:
    """A production as full as ours, whose supervisor is the stranger; which of its rows is which of ours."""

    def __init__(self, ours: Production) -> None:
        target = io.BytesIO()
        pack(ours.pk, target)
        target.seek(0)
        self.ours = ours
        self.theirs = bring_in(Person.objects.get(username="stranger"), "film.zip", target).production
        self.pairs: dict[type[Model], dict[int, int]] = {}
        for table in TABLES:
            pks = [list(table.rows(one.pk).values_list("pk", flat=True)) for one in (ours, self.theirs)]
            self.pairs[table.model] = dict(zip(*pks, strict=False))

    def of(self, model: type[Model], pk: int) -> int:
        """The row of theirs that is this one of ours; a number that nobody has where there is none."""
        return self.pairs.get(model, {}).get(pk, 2**40)


def mark(production: Production) -> None:
    """Every text that somebody wrote in the production says whose it is."""
    for table in TABLES:
        for field in table.model._meta.concrete_fields:
            said = isinstance(field, CharField | TextField) and field.name in {
                "title",
                "description",
                "code",
                "name",
                "pass_of",
                "note",
                "slate",
                "reason",
                "text",
            }
            if said:
                room = (field.max_length or 1000) - len(SECRET)
                rows = table.rows(production.pk).order_by().exclude(**{field.name: ""})
                rows.update(**{field.name: Concat(Value(SECRET), Left(F(field.name), room))})
    Job.objects.filter(production=production).update(title=f"{SECRET} card")


def numbered(call: Call) -> Iterator[tuple[str, Any, type[Model]]]:
    """Where in a call a row is named: in which part, where there, and of which model."""
    template = next(one for one in _PATHS if _matches(one, call.path))
    for at, (step, given) in enumerate(zip(template.split("/"), call.path.split("/"), strict=True)):
        name = step.strip("{}").removesuffix("}.jpg")
        if step.startswith("{") and given.removesuffix(".jpg").isdigit():
            model = ROWS[call.path.split("/")[4]] if name == "row_id" else NAMES[name]
            yield "path", at, model
    for name in call.query:
        if name in NAMES:
            yield "query", name, NAMES[name]
    for at in leaves(call.body):
        last, value = at[-1], there(call.body, at)
        if len(at) >= 2 and at[-2] in KINDS:
            yield "key", at, KINDS[at[-2]].model
        if isinstance(value, int) and not isinstance(value, bool):
            if last in NAMES:
                yield "body", at, NAMES[last]
            else:
                assert not str(last).endswith("_id"), f"{last}: whose number is that? Say it in NAMES"


def _matches(template: str, path: str) -> bool:
    return re.fullmatch(re.sub(r"{\w+}", r"[^/]+", template), path) is not None


def named(call: Call, part: str, at: Any) -> int:
    if part == "path":
        return int(call.path.split("/")[at].removesuffix(".jpg"))
    return int(call.query[at] if part == "query" else at[-1] if part == "key" else there(call.body, at))


def naming(call: Call, part: str, at: Any, pk: int) -> Call:
    """The call with another row named there."""
    if part == "path":
        steps = call.path.split("/")
        steps[at] = re.sub(r"^\d+", str(pk), steps[at])
        return replace(call, path="/".join(steps))
    if part == "query":
        return replace(call, query={**call.query, at: pk})
    if part == "body":
        return replace(call, body=put(call.body, at, pk))
    rows = there(call.body, at[:-1])
    return replace(
        call, body=put(call.body, at[:-1], {pk if key == at[-1] else key: one for key, one in rows.items()})
    )


def of_theirs(call: Call, theirs: Theirs) -> Call:
    """The same call in the other production. Keys last: they are steps of where the others stand."""
    places = sorted(numbered(call), key=lambda one: one[0] == "key")
    for part, at, model in places:
        call = naming(call, part, at, theirs.of(model, named(call, part, at)))
    return call


def asked(caller: Caller, call: Call) -> tuple[int, str]:
    caller.client.raise_request_exception = False
    address = f"/api{call.path}?{urlencode(call.query)}"
    for file in call.files.values():
        file.seek(0)
    if call.files:
        answer = caller.client.post(address, {"version": 1, **call.files})
    else:
        data = json.dumps(call.body) if call.body is not None else ""
        kind = "application/json"
        answer = caller.client.generic(call.method.upper(), address, data, content_type=kind)
    return answer.status_code, answer.getvalue().decode("utf-8", "replace")


def standing(production: Production) -> tuple[Any, ...]:
    """What changes with whatever is written in a production."""
    revisions = Shot.objects.filter(production=production).aggregate(Sum("revision"), Max("version"))
    writes = Write.objects.filter(production=production).count()
    files = StoredFile.objects.filter(production=production).count()
    jobs = list(Job.objects.filter(production=production).values_list("pk", "state"))
    return Production.objects.get(pk=production.pk).version, revisions, writes, files, jobs


@pytest.fixture
def calls(production, take, card) -> tuple[list[Call], Theirs]:
    made = every_call(take, card)
    theirs = Theirs(production)
    mark(production)
    forget_everything()
    return made, theirs


def test_no_id_of_ours_opens_anything_from_another_production(
    calls: tuple[list[Call], Theirs], stranger: Caller
):
    made, theirs = calls
    ours, tried, leaks, allowed = theirs.ours, 0, [], 0
    stood = standing(ours)
    for call in made:
        if call.path.startswith(OF_NOBODY):
            continue
        own = of_theirs(call, theirs)
        places = list(zip(numbered(call), numbered(own), strict=True))
        for (part, at, _), (_, at_theirs, _) in [*places, ((None, None, None), (None, None, None))]:
            mixed = own if part is None else naming(own, part, at_theirs, named(call, part, at))
            with transaction.atomic():
                mixed = as_seen(mixed) if mixed.method != "get" else mixed
                status, said = asked(stranger, mixed)
                touched = part is not None and standing(ours) != stood
                transaction.set_rollback(True)
            forget_everything()
            tried += 1
            allowed += part is None and status < 300
            if SECRET in said or touched or status >= 500:
                leaks.append(
                    f"{mixed.method} {mixed.path} {dict(mixed.query)} {part} {at}: {status} {said[:300]}"
                )
    assert leaks == []
    assert tried > 300 and allowed > 80, "the same calls are answered where every row is their own"


def test_every_operation_on_a_row_is_walked(take, card):
    """A new operation needs a call in test_access or test_writes; a new kind of number a line in NAMES."""
    made = every_call(take, card)
    walked = {(one.method, next(path for path in _PATHS if _matches(path, one.path))) for one in made}
    for path, operations in _SCHEMA.items():
        for method in operations:
            at = path.removeprefix("/api")
            if "{" in at and not at.startswith(OF_NOBODY):
                assert (method, at) in walked, (method, at)
            for one in re.findall(r"{(\w+)}", at):
                assert one in NAMES or one in {"kind", "row_id", "name", "ending", "day"}, (
                    f"{one}: say it in NAMES"
                )
