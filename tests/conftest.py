"""The demo production once for all tests that roll back; those that flush the database make it again."""

from __future__ import annotations

import pytest
from django.core.cache import cache
from hypothesis import HealthCheck, settings

from jungoptic.app.demo.production import make_demo
from jungoptic.app.shots import bench
from jungoptic.app.shots.models import Change

# A loaded machine is slow, not wrong.
settings.register_profile("patient", settings.default, deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("patient")


@pytest.fixture(scope="session")
def django_db_setup(django_db_setup: None, django_db_blocker) -> None:
    with django_db_blocker.unblock():
        make_demo()
        Change.objects.all().delete()  # the tests count what they change themselves


@pytest.fixture(autouse=True)
def _nothing_kept_of_other_tests():
    """A shot that was rolled back may come to the same version with other values: the process must not remember it."""
    bench._KEPT.clear()
    cache.clear()
