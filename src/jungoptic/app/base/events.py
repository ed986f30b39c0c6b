"""What happens, told to every process that listens: through PostgreSQL, so it is told when it is committed
and not before.
"""

from __future__ import annotations

import json

from django.db import connection

CHANNEL = "jungoptic"


def publish(production_id: int, **told: int | str | None) -> None:
    """Tell whoever looks at a production what has happened: a write (``shot``, ``write``, ``key``), a job
    (``job``, ``state``, ``progress``).
    """
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT pg_notify(%s, %s)", [CHANNEL, json.dumps({"production": production_id, **told})]
        )
