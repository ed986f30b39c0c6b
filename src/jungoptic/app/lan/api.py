"""How a telephone or a second laptop comes here."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.conf import settings
from django.http import HttpRequest
from ninja import Router

from jungoptic.app.base import qr
from jungoptic.app.lan.authority import fingerprint, read
from jungoptic.app.lan.schemas import JoiningOut

router = Router()


@router.get("/joining", response=JoiningOut)
def read_joining(request: HttpRequest) -> Any:
    """Where others on the local network find this. Anybody who is signed in."""
    told = settings.LAN
    if told is None:
        return {"address": None, "guide": None, "code": None, "fingerprint": None}
    return {
        "address": told["address"],
        "guide": told["guide"],
        "code": qr.svg(told["guide"]),
        "fingerprint": fingerprint(read(Path(told["authority"]))),
    }
