"""What must be so before anything is served."""

from __future__ import annotations

import os

from django.core.exceptions import ImproperlyConfigured

SHORTEST_KEY = 32


def refuse_without_secret() -> None:
    """Raise ImproperlyConfigured unless this machine has a key of its own."""
    if len(os.environ.get("JUNGOPTIC_SECRET_KEY", "")) < SHORTEST_KEY:
        raise ImproperlyConfigured(
            f"Set JUNGOPTIC_SECRET_KEY to {SHORTEST_KEY} characters or more that nobody can guess, the same"
            " on every machine: python3 -c 'import secrets; print(secrets.token_urlsafe(48))'"
        )
