"""What was filmed already, and where it could be used again."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router, Status

from jungoptic.app.base.once import once
from jungoptic.app.base.schemas import Problems, Removed
from jungoptic.app.productions import access
from jungoptic.app.stock.keeping import add_stock, remove_stock
from jungoptic.app.stock.models import StockItem
from jungoptic.app.stock.reuse import reuse
from jungoptic.app.stock.schemas import ReuseOut, StockIn, StockOut

router = Router()


@router.get("/shots/{shot_id}/reuse", response=list[ReuseOut])
def read_reuse(request: HttpRequest, shot_id: int) -> Any:
    """What stock and other shots have that could serve. Anybody in the production."""
    access.of_shot(request, shot_id)
    return reuse(shot_id)


def _stock(production_id: int) -> list[dict[str, Any]]:
    return [
        {"id": one.pk, **{name: getattr(one, name) for name in StockIn.model_fields}}
        for one in StockItem.objects.filter(production=production_id, removed=False)[:1000]
    ]


@router.get("/productions/{production_id}/stock", response=list[StockOut])
def read_stock(request: HttpRequest, production_id: int) -> Any:
    """What was filmed already. Anybody in the production."""
    access.role_in(request, production_id)
    return _stock(production_id)


@router.post("/productions/{production_id}/stock", response={201: list[StockOut], 422: Problems})
def new_stock(request: HttpRequest, production_id: int, payload: StockIn) -> Any:
    """Add something that was filmed already. The supervisor."""
    access.role_in(request, production_id, access.WRITES)

    def work() -> tuple[int, Any]:
        add_stock(production_id, payload.model_dump())
        return 201, _stock(production_id)

    return Status(*once(request, work))


@router.patch("/productions/{production_id}/stock/{item_id}", response={200: list[StockOut], 422: Problems})
def stock_back(request: HttpRequest, production_id: int, item_id: int, payload: Removed) -> Any:
    """Take a stock element out, or bring it back. The supervisor."""
    access.role_in(request, production_id, access.WRITES)
    remove_stock(production_id, item_id, payload.removed)
    return _stock(production_id)
