"""The application's settings with a fast password hasher and answers that a test can hold back."""

from jungoptic.app.settings import *  # noqa: F403
from jungoptic.app.settings import MIDDLEWARE as _MIDDLEWARE
from jungoptic.app.settings import ROOT as _ROOT

PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
WRONG_PASSWORD_HOLDS_S = 0.0
MIDDLEWARE = ["tests.answers.middleware", *_MIDDLEWARE]
SIMULATED_CARDS = _ROOT / ".run" / "test-cards"
DROPPED = _ROOT / ".run" / "test-dropped"
CARDS = [SIMULATED_CARDS, DROPPED]
FOOTAGE = _ROOT / ".run" / "test-footage"
