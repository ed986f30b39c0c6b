"""Whether this process answers, and whether it can work: for whatever watches it. Says nothing else."""

from __future__ import annotations

from functools import cache

from django.db import DatabaseError, connection
from django.db.migrations.loader import MigrationLoader
from django.db.migrations.recorder import MigrationRecorder
from django.http import HttpRequest, JsonResponse
from django.views.decorators.cache import never_cache
from django.views.decorators.http import require_safe

from jungoptic.app.jobs.waiting import oldest_waiting_s

LATE_S = 60.0  # a light job that waits longer has no worker


@cache
def _of_this_version() -> frozenset[tuple[str, str]]:
    """The last steps of the tables, read once: anybody may ask, as often as they like."""
    return frozenset(MigrationLoader(None).graph.leaf_nodes())


@require_safe
@never_cache
def alive(request: HttpRequest) -> JsonResponse:
    """This process answers."""
    return JsonResponse({"alive": True})


@require_safe
@never_cache
def ready(request: HttpRequest) -> JsonResponse:
    """The database answers, with the tables of this version, and the workers come after what is asked.

    503 where one does not; what is true of each is said.
    """
    told = {"database": False, "tables": False, "workers": False}
    try:
        with connection.cursor() as cursor:
            cursor.execute("select 1")
        told["database"] = True
        told["tables"] = _of_this_version() <= MigrationRecorder(connection).applied_migrations().keys()
        told["workers"] = told["tables"] and oldest_waiting_s("light") < LATE_S
    except DatabaseError:
        pass
    return JsonResponse(told, status=200 if all(told.values()) else 503)
