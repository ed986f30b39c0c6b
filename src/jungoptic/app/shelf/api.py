"""The kit: entered, changed, retired, taken in and out."""

from __future__ import annotations

from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router, Status

from jungoptic.app.base.answers import written
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Seen, Written
from jungoptic.app.jobs.asking import ask_for
from jungoptic.app.jobs.schemas import JobOut
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.productions.models import Production
from jungoptic.app.productions.writing import in_production
from jungoptic.app.shelf import keeping, opened, reading, starts, table
from jungoptic.app.shelf.abilities import abilities
from jungoptic.app.shelf.abilities_schemas import AbilitiesAsked, AbilitiesOut, OpenedOut
from jungoptic.app.shelf.schemas import KitChange, KitIn, KitOut, KitTable, KitTakenIn, StartIn

router = Router()


@router.get("/productions/{production_id}/kit", response=KitOut)
def read_kit(request: HttpRequest, production_id: int) -> Any:
    """Everything that the production owns, and what stands on it. Anybody in the production."""
    access.role_in(request, production_id)
    return reading.kit(production_id)


@router.get("/productions/{production_id}/kit-abilities", response={200: AbilitiesOut, 422: Problems})
def read_abilities(
    request: HttpRequest, production_id: int, asked: Annotated[AbilitiesAsked, Query()]
) -> Any:
    """What each camera can do with each lens. Anybody in the production."""
    access.role_in(request, production_id)
    return abilities(Production.objects.get(pk=production_id), asked)


@router.get("/productions/{production_id}/kit-opened", response=OpenedOut)
def read_opened(request: HttpRequest, production_id: int) -> Any:
    """What one thing more in the kit would open up, as it was last looked for. Anybody in the production."""
    access.role_in(request, production_id)
    return opened.last(Production.objects.get(pk=production_id))


@router.post("/productions/{production_id}/kit-opened", response={202: JobOut, 409: Problems})
@writes
def look_for_opened(request: HttpRequest, production_id: int, payload: Seen) -> Any:
    """Have it looked for; ``version`` is the production's. Anybody in the production."""
    access.role_in(request, production_id)
    who = person(request)
    with in_production(who, production_id, payload.version) as write:
        how = opened.Looking(school=who.school)
        return Status(202, JobOut.of(ask_for(write, opened.kit_opened, "What more kit opens up", how)))


@router.get("/productions/{production_id}/kit.csv")
def read_kit_table(request: HttpRequest, production_id: int) -> HttpResponse:
    """The kit as a table. Anybody in the production."""
    access.role_in(request, production_id)
    slug = Production.objects.values_list("slug", flat=True).get(pk=production_id)
    answer = HttpResponse(table.write_table(production_id), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{slug}-kit.csv"'
    return answer


@router.post(
    "/productions/{production_id}/kit-table", response={200: KitTakenIn, 409: Problems, 422: Problems}
)
@writes
def take_in_kit(request: HttpRequest, production_id: int, payload: KitTable) -> Any:
    """Take a table in, all of it or nothing; ``version`` is the production's. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    with in_production(person(request), production_id, payload.version) as write:
        write.title = "Kit taken in from a table"
        added, changed = table.read_table(write, payload.text)
    return {**written(write, production_id, payload.version), "added": added, "changed": changed}


@router.post("/productions/{production_id}/kit-start", response={201: Written, 409: Problems, 422: Problems})
@writes
def begin_kit(request: HttpRequest, production_id: int, payload: StartIn) -> Any:
    """Begin with one of the generic classes; ``version`` is the production's. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    with in_production(person(request), production_id, payload.version) as write:
        starts.put_in(write, payload.start)
    return Status(201, written(write, production_id, payload.version))


@router.post("/productions/{production_id}/kit/{kind}", response={201: Written, 409: Problems, 422: Problems})
@writes
def add_to_kit(request: HttpRequest, production_id: int, kind: str, payload: KitIn) -> Any:
    """Something new: a camera, a mode, a lens, a lamp, a support, a filter, gear. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    with in_production(person(request), production_id, payload.version) as write:
        row = keeping.add(write, kind, payload.fields)
    return Status(201, written(write, row.pk, row.version))


@router.patch(
    "/productions/{production_id}/kit/{kind}/{row_id}", response={200: Written, 409: Problems, 422: Problems}
)
@writes
def change_kit(request: HttpRequest, production_id: int, kind: str, row_id: int, payload: KitChange) -> Any:
    """Change something, retire it (``removed``) or bring it back. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    with in_production(person(request), production_id) as write:
        row = keeping.change(write, kind, row_id, payload.version, payload.changes)
    return written(write, row.pk, row.version)
