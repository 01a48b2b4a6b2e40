"""Settings. What differs between demo, real use and the phone in the garage comes from the environment."""

from __future__ import annotations

import contextlib
import os
import secrets
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
VAR = Path(os.environ.get("GECKO_VAR", ROOT / "var"))
VAR.mkdir(parents=True, exist_ok=True)
# Files in this folder are readable by their owner only.
os.umask(0o077)
with contextlib.suppress(PermissionError):
    # A folder of somebody else's may at least be read.
    VAR.chmod(0o700)
# Rides are marched by compiled code, which is kept here: by processor kind, and by what it was compiled from.
os.environ.setdefault("GECKO_COMPILED", str(VAR / "compiled"))


def _secret_key() -> str:
    """A key made on the first start and kept beside the database."""
    file = VAR / "secret_key"
    if not file.exists():
        file.write_text(secrets.token_urlsafe(50), encoding="utf-8")
        file.chmod(0o600)
    return file.read_text(encoding="utf-8").strip()


SECRET_KEY = _secret_key()
DEBUG = os.environ.get("GECKO_DEBUG") == "1"
HOST = os.environ.get("GECKO_HOST", "127.0.0.1")


def _listed(name: str) -> list[str]:
    """Entries of a variable, between commas."""
    return [entry.strip() for entry in os.environ.get(name, "").split(",") if entry.strip()]


# Hosting behind a proxy: docs/hosting.md says what each is for.
HOSTS = _listed("GECKO_HOSTS")
# Only this machine reaches the server: no proxy passes on requests from elsewhere.
LOOPBACK = HOST in ("127.0.0.1", "::1", "localhost") and not HOSTS
# The demo signs its user in by itself, so it never answers anybody but this machine.
DEMO = os.environ.get("GECKO_DEMO") == "1" and LOOPBACK
LAN_CODE = os.environ.get("GECKO_LAN_CODE", "")

ALLOWED_HOSTS = [*HOSTS, "127.0.0.1", "localhost", "[::1]", "testserver"] if LOOPBACK or HOSTS else ["*"]
HTTPS = os.environ.get("GECKO_HTTPS") == "1"
CSRF_TRUSTED_ORIGINS = _listed("GECKO_ORIGINS") or [f"https://{host}" for host in HOSTS if HTTPS]
TRUSTED_PROXY = os.environ.get("GECKO_TRUSTED_PROXY", "")
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE_SSL_REDIRECT = HTTPS
SECURE_REDIRECT_EXEMPT = ["^healthz$"]
SECURE_HSTS_SECONDS = int(os.environ.get("GECKO_HSTS_S", "0"))
SILENCED_SYSTEM_CHECKS = [
    # Whether other names under the same domain are served by HTTPS too is not ours to promise.
    "security.W005",
    "security.W021",
    # A locked sign-in is told by our own answer, with how long to wait, not by that middleware's page.
    "axes.W002",
]

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "axes",
    "csp",
    "server.accounts",
    "server.garage",
    "server.builds",
    "server.logbook",
    "server.photos",
    "server.engine",
    "server.uploads",
    "server.exchange",
    "server.sharing",
    "server.keeping",
    "server.running",
    "server.demo",
]

MIDDLEWARE = [
    "server.access_log.AccessLogMiddleware",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "server.compressed.JsonGZipMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "server.accounts.middleware.DemoSignInMiddleware",
    "server.garage.roles.RolesMiddleware",
    "server.compute.middleware.AskerMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]

ROOT_URLCONF = "server.urls"
WSGI_APPLICATION = "server.wsgi.application"
AUTH_USER_MODEL = "accounts.User"
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 8}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
PASSWORD_HASHERS = ["server.accounts.guard.TwoAtOnceHasher", "django.contrib.auth.hashers.PBKDF2PasswordHasher"]
AXES_FAILURE_LIMIT = 10
AXES_COOLOFF_TIME = 0.25
AXES_RESET_COOL_OFF_ON_FAILURE_DURING_LOCKOUT = False
AXES_LOCKOUT_PARAMETERS = "server.accounts.guard.locks_for"
AXES_VERBOSE = False
if "test" in sys.argv[1:2]:
    # The real hasher is slow on purpose; tests sign in hundreds of times.
    PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": os.environ.get("GECKO_DB", VAR / "gecko.sqlite3"),
        # Opening the file and its pragmas cost more than most queries.
        "CONN_MAX_AGE": None,
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 10,
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON;",
        },
    }
}
BACKUPS = os.environ.get("GECKO_BACKUPS", VAR / "backups")
PHOTOS = os.environ.get("GECKO_PHOTOS", VAR / "photos")
UPLOADS = os.environ.get("GECKO_UPLOADS", VAR / "uploads")
MOST_IMPORT_MB = int(os.environ.get("GECKO_MOST_IMPORT_MB", "2000"))
"""The largest file read in, as sent and as unpacked. [10⁶ bytes]"""
COMPUTE_BUDGET_S = int(os.environ.get("GECKO_COMPUTE_BUDGET_S", "2"))
"""Processor time one answer may take; of several setups, many trials or a long file a multiple (`Job.shares`). [s]"""
# Two, where there are two cores: a page asks for six answers at once, and one process parses, packs and sends one at a time.
WEB_PROCESSES = int(os.environ.get("GECKO_WEB_PROCESSES", str(min(2, os.cpu_count() or 1))))
WEB_THREADS = int(os.environ.get("GECKO_WEB_THREADS", "64"))
COMPUTE_WORKERS = int(os.environ.get("GECKO_COMPUTE_WORKERS", "0"))
"""Processes for what may follow a moment later; 0: one a core, but one."""
REQUEST_HEAD_S = float(os.environ.get("GECKO_REQUEST_HEAD_S", "10"))
"""A request whose head is not there after so long is closed, also without a proxy before the server. [s]"""
TEST_RUNNER = "server.runner.OnFile"
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

CACHE_FILE = VAR / "cache.sqlite3"
if os.environ.get("GECKO_SHARED_CACHE") == "1":
    # Set by the server for its processes.
    DATABASES["cache"] = {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": CACHE_FILE,
        "CONN_MAX_AGE": None,
        "OPTIONS": {"timeout": 2, "transaction_mode": "IMMEDIATE", "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=OFF;"},
    }
    DATABASE_ROUTERS = ["server.cache.CacheRouter"]
    CACHES = {"default": {"BACKEND": "server.cache.SharedCache", "LOCATION": "kept", "OPTIONS": {"MAX_ENTRIES": 4000}}}
else:
    CACHES = {"default": {"BACKEND": "django.core.cache.backends.locmem.LocMemCache", "OPTIONS": {"MAX_ENTRIES": 300}}}

USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en"
USE_I18N = False

STATIC_URL = "/static/"
WEB_DIST = ROOT / "web" / "dist"
WHITENOISE_ROOT = WEB_DIST if WEB_DIST.exists() else None


def WHITENOISE_IMMUTABLE_FILE_TEST(_path: str, url: str) -> bool:
    """Files with a hash in their name may be kept for ever."""
    return url.startswith("/assets/")


DATA_UPLOAD_MAX_MEMORY_SIZE = 8 * 1024 * 1024
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_AGE = 60 * 60 * 24 * 90
CSRF_COOKIE_SAMESITE = "Lax"
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": ["'self'"],
        # Styles of measured positions are set inline by the plots and by Radix.
        "style-src": ["'self'", "'unsafe-inline'"],
        "img-src": ["'self'", "data:"],
        "font-src": ["'self'", "data:"],
        "object-src": ["'none'"],
        "base-uri": ["'none'"],
        "form-action": ["'self'"],
        "frame-ancestors": ["'none'"],
    }
}
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"line": {"()": "server.access_log.OneLine", "fmt": "%(asctime)s %(levelname)s %(name)s %(message)s"}},
    "handlers": {"console": {"class": "logging.StreamHandler", "formatter": "line"}},
    "loggers": {
        "django.request": {"level": "ERROR"},
        "axes": {"level": "WARNING"},
        "server.access": {"level": "INFO" if os.environ.get("GECKO_ACCESS_LOG") == "1" else "WARNING"},
    },
    "root": {"handlers": ["console"], "level": "WARNING"},
}
