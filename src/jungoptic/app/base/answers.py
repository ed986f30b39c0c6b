"""Answers as JSON."""

from __future__ import annotations

from typing import Any

import orjson
from django.http import HttpResponse

from jungoptic.app.base.edits import Writing

Json = dict[str, Any]
MOST_ROWS = 200  # of a list that is not paged further


def fields_of(record: Any) -> Json:
    """A slotted record's fields by name, one level deep: the writer of JSON goes on from there by itself."""
    return {name: getattr(record, name) for name in record.__slots__}


def jsonable(body: Any) -> Any:
    """The body as plain JSON values, records inside it included."""
    return orjson.loads(orjson.dumps(body, option=orjson.OPT_NON_STR_KEYS))


def raw(body: Any, status: int = 200) -> HttpResponse:
    """The body as it is: what was built has the response's shape (tests hold it to it), and a drag cannot
    wait for a second look.
    """
    return HttpResponse(
        orjson.dumps(body, option=orjson.OPT_NON_STR_KEYS), content_type="application/json", status=status
    )


def written(write: Writing, row_id: int, version: int) -> Json:
    """The answer of a write that shows nothing else: see :class:`Written`."""
    assert write.kept is not None
    return {"write": write.kept.pk, "id": row_id, "version": version}
