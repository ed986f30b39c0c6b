"""What was filmed already, and where it could be used again."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from jungoptic.app.base.answers import written
from jungoptic.app.base.once import writes
from jungoptic.app.base.schemas import Problems, Removed, Written
from jungoptic.app.people.signed_in import person
from jungoptic.app.productions import access
from jungoptic.app.productions.writing import in_production
from jungoptic.app.stock.keeping import add_stock, remove_stock
from jungoptic.app.stock.models import StockItem
from jungoptic.app.stock.reuse import reuse
from jungoptic.app.stock.schemas import NewStock, ReuseOut, StockOut

router = Router()


@router.get("/shots/{shot_id}/reuse", response=list[ReuseOut])
def read_reuse(request: HttpRequest, shot_id: int) -> Any:
    """What stock and other shots have that could serve. Anybody in the production."""
    access.of_shot(request, shot_id)
    return reuse(shot_id)


@router.get("/productions/{production_id}/stock", response=list[StockOut])
def read_stock(request: HttpRequest, production_id: int) -> Any:
    """What was filmed already. Anybody in the production."""
    access.role_in(request, production_id)
    items = StockItem.objects.filter(production=production_id, removed=False)[:1000]
    return [{name: getattr(item, name) for name in StockOut.model_fields} for item in items]


@router.post("/productions/{production_id}/stock", response={201: Written, 409: Problems, 422: Problems})
@writes
def new_stock(request: HttpRequest, production_id: int, payload: NewStock) -> Any:
    """Add something that was filmed already; ``version`` is the production's. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    with in_production(person(request), production_id, payload.version) as write:
        item = add_stock(write, payload.model_dump(exclude={"version"}))
    return Status(201, written(write, item.pk, item.version))


@router.patch(
    "/productions/{production_id}/stock/{item_id}", response={200: Written, 409: Problems, 422: Problems}
)
@writes
def stock_back(request: HttpRequest, production_id: int, item_id: int, payload: Removed) -> Any:
    """Take a stock element out, or bring it back. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    with in_production(person(request), production_id) as write:
        item = remove_stock(write, item_id, payload.version, payload.removed)
    return written(write, item.pk, item.version)
