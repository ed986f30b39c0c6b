"""The usual cautions."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest
from ninja import Router

from jungoptic.app.safety.schemas import KeyTitle
from jungoptic.core.cautions import CAUTIONS

router = Router()


@router.get("/cautions", response=list[KeyTitle])
def list_cautions(request: HttpRequest) -> Any:
    """The usual cautions by key. Anybody who is signed in."""
    return [{"key": key, "title": one.title} for key, one in CAUTIONS.items()]
