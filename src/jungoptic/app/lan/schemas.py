"""How others come here, over the wire."""

from __future__ import annotations

from pydantic import BaseModel as Schema


class JoiningOut(Schema):
    """``guide``: where a device gets the certificate first; ``code`` is that address as a drawing. All None
    where the application serves this machine only, or a reverse proxy stands before it.
    """

    address: str | None
    guide: str | None
    code: str | None
    fingerprint: str | None
