"""The stream of one browser that looks at one production."""

from __future__ import annotations

import asyncio
import json
import time
from collections.abc import AsyncIterator
from urllib.parse import urlsplit

from asgiref.sync import sync_to_async
from django.conf import settings
from django.http import HttpRequest, HttpResponse, HttpResponseBase, StreamingHttpResponse
from django.views.decorators.http import require_safe

from jungoptic.app.events.hub import HUB
from jungoptic.app.productions.models import Membership

RETRY_MS = 2000


def _may(request: HttpRequest, production_id: int) -> bool:
    """Whether the caller is signed in, now, and in the production."""
    key = request.session.session_key
    if not key or not request.session.exists(key):
        return False
    return Membership.objects.filter(
        person=request.user.pk, person__is_active=True, production=production_id, removed=False
    ).exists()


def _ours(request: HttpRequest, origin: str) -> bool:
    """Whether a page of ours asks: of the host that was asked, from the application's own port, or one that
    the settings trust.
    """
    parts = urlsplit(origin)
    own = (
        parts.hostname == urlsplit(f"//{request.get_host()}").hostname
        and str(parts.port) == settings.WEB_PORT
    )
    return own or origin in settings.CSRF_TRUSTED_ORIGINS


@require_safe
async def happens(request: HttpRequest, production_id: int) -> HttpResponseBase:
    """What happens in a production, as it happens.

    Anybody in the production; it ends when they are not any more.
    """
    origin = request.headers.get("Origin", "")
    if origin and not _ours(request, origin):
        return HttpResponse(status=403)
    headers = {"Cache-Control": "no-store", "X-Accel-Buffering": "no", "Vary": "Origin"}
    if origin:
        headers |= {"Access-Control-Allow-Origin": origin, "Access-Control-Allow-Credentials": "true"}
    if not await sync_to_async(_may)(request, production_id):
        return HttpResponse(status=404, headers=headers)
    return StreamingHttpResponse(
        _stream(request, production_id), content_type="text/event-stream", headers=headers
    )


async def _stream(request: HttpRequest, production_id: int) -> AsyncIterator[str]:
    with HUB.listening(production_id) as listener:
        await HUB.hears()
        yield f"retry: {RETRY_MS}\nevent: listening\ndata: {{}}\n\n"
        looked = time.monotonic()
        while True:
            try:
                told = await asyncio.wait_for(listener.get(), settings.EVENTS_BEAT_S)
                if told.get("shot") is None and not await sync_to_async(_may)(request, production_id):
                    return  # taken out of the production just now
                yield f"data: {json.dumps(told)}\n\n"
            except TimeoutError:
                yield ": still here\n\n"
            if time.monotonic() - looked >= settings.EVENTS_BEAT_S:
                if not await sync_to_async(_may)(request, production_id):
                    return
                looked = time.monotonic()
