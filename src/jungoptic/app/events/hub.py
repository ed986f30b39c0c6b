"""One ear at the database for all who look: what is told there goes to everybody who looks at that
production.
"""

from __future__ import annotations

import asyncio
import json
import logging
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

import psycopg
from django.db import connections
from psycopg import sql

from jungoptic.app.base.events import CHANNEL

Told = dict[str, Any]
MISSED: Told = {"missed": True}  # look again: something may have happened that was not heard
MOST_WAITING = 200  # of one listener that does not read
AGAIN_S = 1.0
logger = logging.getLogger(__name__)


class Listener(asyncio.Queue[Told]):
    """What one browser has still to be told."""

    def tell(self, told: Told) -> None:
        if self.full():  # it reads too slowly: one word for all of it
            while not self.empty():
                self.get_nowait()
            told = MISSED
        self.put_nowait(told)


class Hub:
    """Listens to PostgreSQL from the first that listens to it on."""

    def __init__(self) -> None:
        self._listeners: dict[int, set[Listener]] = {}
        self._ear: asyncio.Task[None] | None = None
        self._hears = asyncio.Event()

    @contextmanager
    def listening(self, production_id: int) -> Iterator[Listener]:
        """What happens in a production from now on."""
        listener = Listener(MOST_WAITING)
        self._listeners.setdefault(production_id, set()).add(listener)
        if self._ear is None or self._ear.done():
            self._ear = asyncio.create_task(self._listen())
        try:
            yield listener
        finally:
            self._listeners[production_id].discard(listener)
            if not self._listeners[production_id]:
                del self._listeners[production_id]

    async def hears(self) -> None:
        """Wait until nothing that happens is missed any more."""
        await self._hears.wait()

    async def _listen(self) -> None:
        again = False
        while True:
            try:
                await self._hear(again)
            except psycopg.Error as error:
                logger.warning("the database is not heard (%s): listening again", error)
            self._hears.clear()
            again = True
            await asyncio.sleep(AGAIN_S)

    async def _hear(self, again: bool) -> None:
        where = connections.databases["default"]
        async with await psycopg.AsyncConnection.connect(
            host=where["HOST"],
            port=where["PORT"],
            user=where["USER"],
            password=where["PASSWORD"],
            dbname=where["NAME"],
            autocommit=True,
        ) as connection:
            await connection.execute(sql.SQL("LISTEN {}").format(sql.Identifier(CHANNEL)))
            self._hears.set()
            if again:
                for listener in [one for listeners in self._listeners.values() for one in listeners]:
                    listener.tell(MISSED)
            async for notice in connection.notifies():
                told = json.loads(notice.payload)
                for listener in self._listeners.get(told.pop("production"), ()):
                    listener.tell(told)


HUB = Hub()
