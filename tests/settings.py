"""The application's settings with a fast password hasher."""

from jungoptic.app.settings import *  # noqa: F403

PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
