"""The application's settings for the process that tells browsers what happens: its one address, and what it
takes to know who asks.
"""

from jungoptic.app.settings import *  # noqa: F403

ROOT_URLCONF = "jungoptic.app.events.urls"
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
]
