"""What every change of a row says: which version of it the writer has seen."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any


@dataclass(frozen=True)
class Edit:
    """Fields to change in one row, and the version that the writer has seen."""

    version: int
    changes: Mapping[str, Any]


class ConflictError(Exception):
    """Somebody else saved first. Nothing was written."""

    def __init__(self, what: str, name: str, who: str, fields: list[str]) -> None:
        self.what, self.name, self.who, self.fields = what, name, who, fields
        super().__init__(
            f"{who} changed {name} while you worked ({', '.join(fields) or 'another field'}). Yours was not saved; look at theirs and save again."
        )
