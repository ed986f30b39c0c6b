"""Hypothesis on a machine that may be slow; the demo's database, made when the first test asks for it."""

from __future__ import annotations

import os
from collections.abc import Iterator

import pytest
from hypothesis import HealthCheck, settings

# A loaded machine is slow, not wrong.
settings.register_profile("patient", settings.default, deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("patient")


@pytest.fixture(scope="session")
def django_db_setup(django_test_environment: None, django_db_blocker) -> Iterator[None]:
    """In place of pytest-django's: a copy of the template for this worker."""
    from tests.demo_database import clone

    with django_db_blocker.unblock(), clone(os.environ.get("PYTEST_XDIST_WORKER", "alone")):
        yield
