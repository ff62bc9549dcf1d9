"""Settings. The database comes from PostgreSQL's usual environment variables; all else has a safe default."""

import os
import secrets
import sys
from pathlib import Path

from csp.constants import NONCE, NONE, SELF

ROOT = Path(__file__).resolve().parents[2]
WEB = ROOT / "web" / "dist"

SECRET_KEY = os.environ.get("HAKOBU_SECRET") or secrets.token_urlsafe(40)
DEBUG = False
#: Loopback only: a page elsewhere that resolves its own name to this machine is refused by its host.
ALLOWED_HOSTS = [*os.environ.get("HAKOBU_HOSTS", "").split(), "127.0.0.1", "localhost", "[::1]"]

INSTALLED_APPS = [
    "django.contrib.contenttypes",
    "django.contrib.auth",
    "django.contrib.staticfiles",
    "csp",
    "rest_framework",
    "drf_spectacular",
    "procrastinate.contrib.django",
    "jobs",
    "library",
    "sending",
    "previews",
    "api",
]
MIDDLEWARE = [
    "api.door.Door",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.middleware.gzip.GZipMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
ROOT_URLCONF = "config.urls"
WSGI_APPLICATION = "config.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [Path(__file__).parent / "templates"],
        "OPTIONS": {"context_processors": ["django.template.context_processors.request"]},
    }
]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "HOST": os.environ.get("PGHOST", "127.0.0.1"),
        "PORT": os.environ.get("PGPORT", "5432"),
        "NAME": os.environ.get("PGDATABASE", "hakobu"),
        "USER": os.environ.get("PGUSER", "hakobu"),
        "PASSWORD": os.environ.get("PGPASSWORD", ""),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en-gb"

STATIC_URL = "/static/"
STATIC_ROOT = ROOT / "server" / "static"
STATICFILES_DIRS = [WEB] if WEB.is_dir() else []
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedStaticFilesStorage"},
}
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/static/assets/.+-[A-Za-z0-9_-]{8}\."

CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [SELF],
        "script-src": [SELF],
        "style-src": [SELF, NONCE],
        "img-src": [SELF, "data:", "blob:"],
        "font-src": [SELF],
        "connect-src": [SELF],
        "object-src": [NONE],
        "base-uri": [NONE],
        "form-action": [SELF],
        "frame-ancestors": [NONE],
    }
}
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
CSRF_COOKIE_SAMESITE = "Strict"

#: Largest request body, in bytes: a design within the reader's budget, and its form around it.
MOST_UPLOADED = 65 * 1024 * 1024
DATA_UPLOAD_MAX_MEMORY_SIZE = 4 * 1024 * 1024

REST_FRAMEWORK = {
    "DEFAULT_AUTHENTICATION_CLASSES": ["api.csrf.CsrfGuard"],
    "DEFAULT_PERMISSION_CLASSES": [],
    "DEFAULT_RENDERER_CLASSES": ["rest_framework.renderers.JSONRenderer"],
    "DEFAULT_PARSER_CLASSES": ["api.parsers.BoundedJson", "rest_framework.parsers.MultiPartParser"],
    "DEFAULT_SCHEMA_CLASS": "drf_spectacular.openapi.AutoSchema",
    "EXCEPTION_HANDLER": "api.errors.as_sentence",
    "UNAUTHENTICATED_USER": None,
}
SPECTACULAR_SETTINGS = {
    "TITLE": "Hakobu",
    "DESCRIPTION": "Jobs, their revisions, and the files they end in.",
    "VERSION": "1",
    "OAS_VERSION": "3.1.1",
    "COMPONENT_SPLIT_REQUEST": True,
    "SERVE_INCLUDE_SCHEMA": False,
    "POSTPROCESSING_HOOKS": ["drf_spectacular.hooks.postprocess_schema_enums", "api.openapi.add_parameters"],
    "PATH_CONVERTER_OVERRIDES": {"row": {"type": "integer", "minimum": 0}},
}
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
    # A refused request is its sender's matter, one line; what goes wrong inside is logged with its traceback.
    "loggers": {
        # Tests are refused thousands of times on purpose.
        "api.door": {"level": "WARNING" if sys.argv[1:2] == ["test"] else "INFO"},
        "django.request": {"level": "ERROR"},
        "django.security.DisallowedHost": {"level": "CRITICAL"},
    },
}
#: A worker says that it lives every other second; a job of one that has been silent for long is given to another.
PROCRASTINATE_WORKER_DEFAULTS = {"update_heartbeat_interval": 2.0, "stalled_worker_timeout": 20.0}
#: The socket that the process for previews listens on; without it previews are worked out in the process asked.
PREVIEWS = os.environ.get("HAKOBU_PREVIEWS", "")

TEST_RUNNER = "config.test_runner.CountingRunner"
