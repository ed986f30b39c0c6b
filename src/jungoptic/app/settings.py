"""Settings. Everything that differs from machine to machine comes from the environment; `./run` sets it."""

import os
import secrets
from ipaddress import ip_address
from pathlib import Path
from urllib.parse import unquote, urlsplit

from csp.constants import NONE, SELF, UNSAFE_INLINE

ROOT = Path(__file__).resolve().parents[3]
WEB_BUILD = Path(os.environ.get("JUNGOPTIC_WEB_BUILD", ROOT / "web" / "dist"))

# Recipes and cautions of one's own: data files, one recipe each; docs/recipes.md says how they are written.
OWN_RECIPES = Path(os.environ.get("JUNGOPTIC_RECIPES", ROOT / "recipes"))

DEBUG = os.environ.get("JUNGOPTIC_DEBUG") == "1"
# Without one, each process has another: good for tools and tests. Whatever serves refuses (serving.py).
SECRET_KEY = os.environ.get("JUNGOPTIC_SECRET_KEY") or secrets.token_urlsafe(48)
ALLOWED_HOSTS = os.environ.get("JUNGOPTIC_HOSTS", "127.0.0.1,localhost,[::1]").split(",")
CSRF_TRUSTED_ORIGINS = [origin for origin in os.environ.get("JUNGOPTIC_ORIGINS", "").split(",") if origin]
_LOOPBACK = {"127.0.0.1", "localhost", "[::1]"}
BEYOND_LOOPBACK = not _LOOPBACK.issuperset(ALLOWED_HOSTS)
# On the local network, served by the application itself with a certificate of its own authority.
LAN = (
    {
        "address": os.environ["JUNGOPTIC_ADDRESS"],
        "guide": os.environ["JUNGOPTIC_GUIDE"],
        "authority": os.environ["JUNGOPTIC_AUTHORITY"],
    }
    if os.environ.get("JUNGOPTIC_AUTHORITY")
    else None
)
# Where the page hears what happens: an address, or a port of the host that it was read from; without either
# it asks every few seconds.
WEB_PORT = os.environ.get("JUNGOPTIC_PORT", "8000")
EVENTS_PORT = os.environ.get("JUNGOPTIC_EVENTS_PORT", "")
EVENTS_URL = os.environ.get("JUNGOPTIC_EVENTS_URL", "")
EVENTS_BEAT_S = float(
    os.environ.get("JUNGOPTIC_EVENTS_BEAT_S", "15")
)  # a sign of life, so that nobody between holds the line for dead


def _is_bare(host: str) -> bool:
    """Whether a host is an address, or this machine, and no name."""
    try:
        ip_address(host.strip("[]"))
    except ValueError:
        return host == "localhost"
    return True


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
        "CONN_HEALTH_CHECKS": True,  # a connection from before the database was away is not used
    }


DATABASES = {
    "default": _database(os.environ.get("DATABASE_URL", "postgresql://jungoptic@127.0.0.1:5432/jungoptic"))
}

# The rooms that keep something in the database; each builds on those before it.
ROOMS = (
    "base",
    "people",
    "productions",
    "files",
    "kit",
    "shots",
    "jobs",
    "takes",
    "footage",
    "boards",
    "recipes",
    "costs",
    "safety",
    "stock",
    "builds",
    "breakdown",
    "measuring",
    "stills",
    "frames",
    "days",
    "rushes",
    "papers",
    "backup",
    "lan",
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
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": f"django.contrib.auth.password_validation.{name}", "OPTIONS": options}
    for name, options in (
        ("UserAttributeSimilarityValidator", {}),
        ("MinimumLengthValidator", {"min_length": 10}),
        ("CommonPasswordValidator", {}),
        ("NumericPasswordValidator", {}),
    )
]
PASSWORD_HASHERS = [
    "jungoptic.app.people.hashers.SmallArgon2",
    "django.contrib.auth.hashers.PBKDF2PasswordHasher",  # accounts of earlier versions, until they sign in
]
WRONG_PASSWORD_HOLDS_S = 0.5
# The reverse proxies whose word about who asks is believed: addresses or networks, with commas.
TRUSTED_PROXIES = [one.strip() for one in os.environ.get("JUNGOPTIC_PROXIES", "").split(",") if one.strip()]
AXES_CLIENT_IP_CALLABLE = "jungoptic.app.people.doors.client_address"
AXES_FAILURE_LIMIT = 5
AXES_HANDLER = "jungoptic.app.people.lockout.GrowingLocks"
AXES_COOLOFF_TIME = "jungoptic.app.people.lockout.cool_off"
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_RESET_COOL_OFF_ON_FAILURE_DURING_LOCKOUT = False
AXES_ENABLE_ACCESS_FAILURE_LOG = True
AXES_LOCKOUT_CALLABLE = "jungoptic.app.people.lockout.locked_out"

SESSION_COOKIE_NAME = os.environ.get("JUNGOPTIC_SESSION_COOKIE", "sessionid")
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
if os.environ.get("JUNGOPTIC_HTTPS") == "1":
    SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = True
    if LAN is None:  # a reverse proxy speaks TLS, and says so in a header that it lets nobody else set
        SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
        SECURE_SSL_REDIRECT = True
        if not any(_is_bare(host) for host in ALLOWED_HOSTS):  # a browser keeps it for a name only (RFC 6797)
            SECURE_HSTS_SECONDS = 31_536_000
# Other names of the domain are not ours to speak for.
SILENCED_SYSTEM_CHECKS = ["security.W005", "security.W021"]

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "script-src": [SELF],
        "style-src": [SELF, UNSAFE_INLINE],  # the drawings set style attributes
        "img-src": [SELF, "data:", "blob:"],
        "media-src": [SELF, "blob:"],
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
WHITENOISE_MIMETYPES = {".webmanifest": "application/manifest+json"}
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/assets/.+-[A-Za-z0-9_-]{8}\.\w+$"

LANGUAGE_CODE = "en"
TIME_ZONE = "UTC"
USE_TZ = True
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
DATA_UPLOAD_MAX_MEMORY_SIZE = 8_000_000  # a pasted edit list; pictures are counted apart


def _files() -> dict[str, object]:
    """Where files are kept: a folder of this machine, or a bucket of a store that speaks S3."""
    bucket = os.environ.get("JUNGOPTIC_S3_BUCKET")
    if not bucket:
        return {
            "BACKEND": "django.core.files.storage.FileSystemStorage",
            "OPTIONS": {"location": os.environ.get("JUNGOPTIC_FILES", str(ROOT / ".run" / "files"))},
        }
    options = {"bucket_name": bucket, "file_overwrite": False, "querystring_auth": True, "default_acl": None}
    said = {
        "endpoint_url": "JUNGOPTIC_S3_ENDPOINT",
        "region_name": "JUNGOPTIC_S3_REGION",
        "access_key": "JUNGOPTIC_S3_KEY",
        "secret_key": "JUNGOPTIC_S3_SECRET",
    }
    return {
        "BACKEND": "storages.backends.s3.S3Storage",
        "OPTIONS": {
            **options,
            **{option: os.environ[name] for option, name in said.items() if os.environ.get(name)},
        },
    }


# Where cards of cameras appear on this machine, the simulated camera's too, and where footage is copied to.
SIMULATED_CARDS = Path(os.environ.get("JUNGOPTIC_SIMULATED_CARDS", ROOT / ".run" / "cards"))
_CARDS = os.environ.get("JUNGOPTIC_CARDS", "/media:/run/media:/mnt")
DROPPED = Path(os.environ.get("JUNGOPTIC_DROPPED", ROOT / ".run" / "dropped"))  # on the page
CARDS = [*(Path(each) for each in _CARDS.split(":") if each), SIMULATED_CARDS, DROPPED]
FOOTAGE = Path(os.environ.get("JUNGOPTIC_FOOTAGE", ROOT / ".run" / "footage"))

STORAGES = {
    "default": _files(),
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}

CACHES = {
    "default": {
        "BACKEND": "django.core.cache.backends.locmem.LocMemCache",
        "OPTIONS": {"MAX_ENTRIES": 512},  # boards as small as a wall shows them
    }
}

_JOBS = [
    "jungoptic.app.boards.jobs",
    "jungoptic.app.days.jobs",
    "jungoptic.app.demo.footage",
    "jungoptic.app.footage.jobs",
    "jungoptic.app.footage.simulated",
    "jungoptic.app.frames.jobs",
    "jungoptic.app.frames.turning",
    "jungoptic.app.measuring.simulated",
    "jungoptic.app.papers.jobs",
    "jungoptic.app.rushes.jobs",
    "jungoptic.app.rushes.sheets",
    "jungoptic.app.shelf.opened",
]  # the rooms' modules that describe kinds of jobs
PRELOADED = [*_JOBS, "weasyprint"]  # in the server that jobs' processes are forked from
BESIDE = [
    "jungoptic.core.plan.solve",
    "jungoptic.core.plan.scales",
    "jungoptic.app.shots.drawing",
    "jungoptic.app.boards.reading",
    "jungoptic.app.exchange.reading",
    "jungoptic.app.looks.svg",
    "jungoptic.app.footage.frames",
    "jungoptic.app.frames.beside",
    "jungoptic.app.line_up.beside",
    "jungoptic.app.measuring.reading",
    "jungoptic.app.people.hashers",
]  # in the server that the processes beside a web server's are forked from
WEB_PROCESSES = int(os.environ.get("WEB_CONCURRENCY") or 2)  # as many web servers share the cores
PROCRASTINATE_IMPORT_PATHS = ["jungoptic.app.jobs.queue", *_JOBS]
JOB_BEAT_S = 5.0  # a worker's signs of life; after three that did not come, its jobs go to another
JOB_STALLED_S = 3 * JOB_BEAT_S
JOB_SWEEP = "* * * * * */10"  # when that is looked after; the sixth field counts seconds
PROCRASTINATE_WORKER_DEFAULTS = {
    "update_heartbeat_interval": JOB_BEAT_S,
    "stalled_worker_timeout": JOB_STALLED_S,
    "delete_jobs": "successful",
}

# What stands on the set: a class for each kind of device. Real ones are written as
# jungoptic.app.devices.protocols says.
DEVICES = {
    kind: os.environ.get(
        f"JUNGOPTIC_{kind.upper()}", f"jungoptic.app.devices.simulated.Simulated{kind.capitalize()}"
    )
    for kind in ("camera", "rig", "dimmer", "meter")
}

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": os.environ.get("JUNGOPTIC_LOG", "WARNING")},
}
