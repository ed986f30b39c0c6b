"""The shot that core's own examples use, as fixtures."""

import pytest

from jungoptic.core import example
from jungoptic.core.kit import Kit
from jungoptic.core.match import Delivery, Layer, SetUp


@pytest.fixture
def delivery() -> Delivery:
    return example.DELIVERY


@pytest.fixture
def hero() -> SetUp:
    return example.HERO


@pytest.fixture
def model() -> SetUp:
    return example.MODEL


@pytest.fixture
def mill() -> Layer:
    return example.MILL


@pytest.fixture
def kit() -> Kit:
    return example.KIT


@pytest.fixture
def actor() -> Layer:
    return example.ACTOR


@pytest.fixture
def on_green() -> SetUp:
    return example.ON_GREEN
