"""Which device is spoken to: the class that the settings name for its kind."""

from __future__ import annotations

from typing import Any, Literal

from django.conf import settings
from django.utils.module_loading import import_string

Kind = Literal["camera", "rig", "dimmer", "meter"]


def device(kind: Kind, *args: Any, **more: Any) -> Any:
    """A device of a kind, as :mod:`protocols` describes it."""
    return import_string(settings.DEVICES[kind])(*args, **more)
