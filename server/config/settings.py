"""Django's settings. Values from outside come through `environment`, and nowhere else."""

from datetime import timedelta
from pathlib import Path

import platformdirs
from csp.constants import NONE, SELF

from server.config import environment as env

BASE_DIR = Path(__file__).resolve().parents[2]
INSTALLED = not (BASE_DIR / "pyproject.toml").exists()
"""Whether this is the installed package and no checkout: records are then kept where the system keeps such data."""
VAR_DIR = env.path("VAR", platformdirs.user_data_path("yperon", False) if INSTALLED else BASE_DIR / "var")
WEB_BUILD = BASE_DIR / "yperon_web" if INSTALLED else BASE_DIR / "web" / "dist"
_DEMO = env.flag("DEMO", default=False)

DEBUG = env.flag("DEBUG", default=False)
SECRET_KEY = env.secret("SECRET_KEY", VAR_DIR / "secret_key")
ALLOWED_HOSTS = env.words("ALLOWED_HOSTS", ["127.0.0.1", "localhost", "[::1]"])
FIXED_NOW = env.moment("NOW")
LIVE = env.flag("LIVE", True)
"""Whether screens are told at once of what is recorded elsewhere."""
SPEED = env.times("SPEED", 10_000)
"""How many times as fast the clock runs from the start on: for watching devices, never for a household."""
"""Set by tests and screenshots: the instant that `clock.now` answers instead of the real one."""
SHOP = env.http_address("SHOP")
"""Where a parts shop answers with its price list; empty: none."""

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "qsessions",
    "axes",
    "csp",
    "ninja",
    "server.base",
    "server.logbook",
    "server.household",
    "server.people",
    "server.machines",
    "server.due",
    "server.setup",
    "server.bench",
    "server.shelf",
    "server.faults",
    "server.season",
    "server.devices",
    "server.document",
    "demo",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "csp.middleware.CSPMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.gzip.GZipMiddleware",
    "qsessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "server.base.middleware.fresh_answers",
    "axes.middleware.AxesMiddleware",
]
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
ROOT_URLCONF = "server.config.urls"
WSGI_APPLICATION = "server.config.wsgi.application"
TEMPLATES: list[dict[str, object]] = []

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": env.path("DATABASE", VAR_DIR / ("demo.sqlite3" if _DEMO else "yperon.sqlite3")),
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 20,
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON;",
        },
        "TEST": {"NAME": VAR_DIR / f"test-{env.text('SHARD', '0')}.sqlite3"},
    }
}
BACKUPS = env.path("BACKUPS", VAR_DIR / "backups")
"""Where copies of the database are kept: a folder on another disk is better."""
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
TEST_RUNNER = "tests.runner.CountingRunner"

PASSWORD_HASHERS = ["django.contrib.auth.hashers.Argon2PasswordHasher"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
AXES_FAILURE_LIMIT = 8
"""So many wrong passwords in a row, then nobody is let in for a while."""
AXES_COOLOFF_TIME = timedelta(minutes=5)
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
"""Throttled is a name from an address: one who guesses locks nobody else out."""
AXES_RESET_ON_SUCCESS = True
AXES_RESET_COOL_OFF_ON_FAILURE_DURING_LOCKOUT = False
AXES_DISABLE_ACCESS_LOG = True
AXES_VERBOSE = False
AXES_CLIENT_IP_CALLABLE = "server.base.middleware.address_of"
AXES_LOCKOUT_CALLABLE = "server.household.auth.throttled"
HTTPS_ONLY = env.flag("HTTPS", default=False)
"""Whether it is served over https alone: cookies are then sent over nothing else. `serve --lan` sets it."""
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = HTTPS_ONLY
SESSION_ENGINE = "qsessions.backends.db"
"""Sessions that know whose they are, so that somebody can look where they are signed in, and end it."""
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_AGE = 60 * 60 * 24 * 90
CSRF_COOKIE_SAMESITE = "Lax"
X_FRAME_OPTIONS = "DENY"
SECURE_REFERRER_POLICY = "same-origin"
SECURE_CONTENT_TYPE_NOSNIFF = True

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "img-src": [SELF, "blob:"],
        "object-src": [NONE],
        "base-uri": [NONE],
        "form-action": [SELF],
        "frame-ancestors": [NONE],
    }
}

WHITENOISE_ROOT = WEB_BUILD
WHITENOISE_INDEX_FILE = False
WHITENOISE_AUTOREFRESH = DEBUG
STATIC_URL = "/static/"


def WHITENOISE_IMMUTABLE_FILE_TEST(path: str, url: str) -> bool:  # noqa: N802 - whitenoise's own name
    """Vite puts a content hash into every name below /assets/, so these files never change."""
    return url.startswith("/assets/")


LANGUAGE_CODE = "en"
USE_I18N = False
USE_TZ = True
TIME_ZONE = "UTC"

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {
        "lines": {"format": "%(message)s"},
        "json": {
            "()": "pythonjsonlogger.json.JsonFormatter",
            "fmt": "%(asctime)s %(levelname)s %(name)s %(message)s",
        },
    },
    "handlers": {"console": {"class": "logging.StreamHandler", "formatter": env.choice("LOG", ("lines", "json"))}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}

DEMO_SIGN_IN = {"user_name": "keeper", "password": "quillgate"} if _DEMO else None
"""With the demo household, its sign-in, shown on the sign-in page; None otherwise."""
