"""The application's settings with a fast password hasher and a count of the requests that run."""

from jungoptic.app.settings import *  # noqa: F403
from jungoptic.app.settings import MIDDLEWARE as _MIDDLEWARE

PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
MIDDLEWARE = ["tests.in_flight.middleware", *_MIDDLEWARE]
