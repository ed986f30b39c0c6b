"""What happens, told to every process that listens: through PostgreSQL, so it is told when it is committed and not before."""

from __future__ import annotations

import json

from django.db import connection

CHANNEL = "jungoptic"


def publish(production_id: int, shot_id: int | None, write_id: int) -> None:
    """Tell that a production, and a shot of it, has changed."""
    told = {"production": production_id, "shot": shot_id, "write": write_id}
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_notify(%s, %s)", [CHANNEL, json.dumps(told)])
