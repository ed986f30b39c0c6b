"""Hypothesis on a machine that may be slow; the demo's database and a live server, made when the first test
asks for them.

What knows Django is imported then: the tests of core need none.
"""

from __future__ import annotations

import gc
from collections.abc import Iterator
from typing import TYPE_CHECKING

import pytest
from hypothesis import HealthCheck, settings

if TYPE_CHECKING:
    from tests.live import Live

QUIET_S = 60.0  # what solves gives way to all else on the machine

# A loaded machine is slow, not wrong.
settings.register_profile(
    "patient", settings.default, deadline=None, suppress_health_check=[HealthCheck.too_slow]
)
settings.load_profile("patient")


def pytest_collection_finish() -> None:
    """What was imported and collected stays to the end: the collector need not walk through it again and
    again.
    """
    gc.collect()
    gc.freeze()
    gc.set_threshold(100_000, 50, 100)


@pytest.fixture(scope="session")
def django_db_setup(django_test_environment: None, django_db_blocker) -> Iterator[None]:
    """In place of pytest-django's: a copy of the template for this process."""
    from tests.demo_database import clone

    with django_db_blocker.unblock(), clone():
        yield


@pytest.fixture(scope="session")
def server(django_db_setup: None) -> Iterator[Live]:
    from tests.live import live

    with live() as running:
        yield running


@pytest.fixture
def stored(server: Live, django_db_blocker) -> Iterator[None]:
    """The demo as it was made, open to the server's threads; what a test writes is put back once nothing is
    running any more.
    """
    from tests.demo_database import put_back
    from tests.kept import forget_everything

    forget_everything()
    with django_db_blocker.unblock():
        yield
        assert server.wait_until_quiet(QUIET_S), "the server was still answering when the test had ended"
        put_back()
