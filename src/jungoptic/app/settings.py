"""Settings. Everything that differs from machine to machine comes from the environment; `./run` sets it."""

import os
from pathlib import Path
from urllib.parse import unquote, urlsplit

from csp.constants import NONE, SELF, UNSAFE_INLINE

ROOT = Path(__file__).resolve().parents[3]
WEB_BUILD = Path(os.environ.get("JUNGOPTIC_WEB_BUILD", ROOT / "web" / "dist"))

DEBUG = os.environ.get("JUNGOPTIC_DEBUG") == "1"
SECRET_KEY = os.environ.get("JUNGOPTIC_SECRET_KEY") or "for-tests-and-tools-only-" + "0" * 32
ALLOWED_HOSTS = os.environ.get("JUNGOPTIC_HOSTS", "127.0.0.1,localhost,[::1]").split(",")
CSRF_TRUSTED_ORIGINS = [origin for origin in os.environ.get("JUNGOPTIC_ORIGINS", "").split(",") if origin]


def _database(url: str) -> dict[str, object]:
    parts = urlsplit(url)
    return {
        "ENGINE": "django.db.backends.postgresql",
        "NAME": unquote(parts.path.lstrip("/")) or "jungoptic",
        "USER": unquote(parts.username or ""),
        "PASSWORD": unquote(parts.password or ""),
        "HOST": parts.hostname or "127.0.0.1",
        "PORT": str(parts.port or 5432),
        "CONN_MAX_AGE": 60,
    }


DATABASES = {"default": _database(os.environ.get("DATABASE_URL", "postgresql://jungoptic@127.0.0.1:5432/jungoptic"))}

# The rooms that keep something in the database; each builds on those before it.
ROOMS = (
    "base",
    "people",
    "productions",
    "kit",
    "shots",
    "takes",
    "boards",
    "recipes",
    "costs",
    "safety",
    "stock",
    "builds",
    "breakdown",
    "papers",
    "demo",
)
INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.postgres",
    "axes",
    "csp",
    "ninja",
    "procrastinate.contrib.django",
    *(f"jungoptic.app.{room}" for room in ROOMS),
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "axes.middleware.AxesMiddleware",
]
ROOT_URLCONF = "jungoptic.app.urls"
WSGI_APPLICATION = "jungoptic.app.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [Path(__file__).parent / "papers" / "templates"],
        "OPTIONS": {"context_processors": []},
    }
]

AUTH_USER_MODEL = "people.Person"
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
AUTH_PASSWORD_VALIDATORS = [{"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"}]
AXES_FAILURE_LIMIT = 5
AXES_COOLOFF_TIME = 0.25  # hours
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_LOCKOUT_CALLABLE = "jungoptic.app.people.lockout.locked_out"

SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
if os.environ.get("JUNGOPTIC_HTTPS") == "1":
    SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = True
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "script-src": [SELF],
        "style-src": [SELF, UNSAFE_INLINE],  # the drawings set style attributes
        "img-src": [SELF, "data:", "blob:"],
        "font-src": [SELF],
        "connect-src": [SELF],
        "object-src": [NONE],
        "base-uri": [SELF],
        "frame-ancestors": [NONE],
        "form-action": [SELF],
    }
}

STATIC_URL = "/static/"
WHITENOISE_ROOT = WEB_BUILD if WEB_BUILD.is_dir() else None
WHITENOISE_INDEX_FILE = False
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/assets/.+-[A-Za-z0-9_-]{8}\.\w+$"

LANGUAGE_CODE = "en"
TIME_ZONE = "UTC"
USE_TZ = True
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
DATA_UPLOAD_MAX_MEMORY_SIZE = 8_000_000  # a pasted edit list; pictures are counted apart

PROCRASTINATE_IMPORT_PATHS = ["jungoptic.app.papers.jobs"]

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": os.environ.get("JUNGOPTIC_LOG", "WARNING")},
}
