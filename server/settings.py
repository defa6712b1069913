"""Django settings. Safe for production by default; LORICA_LOCAL=1 relaxes what HTTP on loopback cannot have.

LORICA_SECRET (needed), LORICA_DATABASE_URL (needed), LORICA_HOSTS (comma-separated), LORICA_LOCAL,
LORICA_CLIMATE_URL (of a climate service), LORICA_WORKERS (1: worker processes compute), LORICA_RESULTS_MB.
"""

import os
from pathlib import Path

import dj_database_url
from django.core.exceptions import ImproperlyConfigured

ROOT = Path(__file__).resolve().parent.parent


def needed(name: str) -> str:
    """An environment variable that has no default."""
    try:
        return os.environ[name]
    except KeyError:
        raise ImproperlyConfigured(f"The environment variable {name} is not set.") from None


LOCAL = os.environ.get("LORICA_LOCAL") == "1"
SECRET_KEY = needed("LORICA_SECRET")
DEBUG = False
ALLOWED_HOSTS = [host for host in os.environ.get("LORICA_HOSTS", "").split(",") if host]
if LOCAL:
    ALLOWED_HOSTS += ["127.0.0.1", "localhost"]

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "ninja",
    "procrastinate.contrib.django",
    "server.projects",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "server.security.headers",
    "server.reading.plain_addresses",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.middleware.gzip.GZipMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
ROOT_URLCONF = "server.urls"
WSGI_APPLICATION = "server.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [ROOT / "server" / "templates"],
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
            ]
        },
    }
]
DATABASES = {"default": dj_database_url.parse(needed("LORICA_DATABASE_URL"), conn_max_age=60, conn_health_checks=True)}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
LOGIN_URL = "/sign-in/"
LOGIN_REDIRECT_URL = "/"
LOGOUT_REDIRECT_URL = "/sign-in/"

LANGUAGE_CODE = "en-gb"
TIME_ZONE = "UTC"
USE_TZ = True

STATIC_URL = "/static/"
STATIC_ROOT = ROOT / ".local" / "static"
STATICFILES_DIRS = [ROOT / "web" / "dist"] if (ROOT / "web" / "dist").exists() else []
# Vite names its files by their content; WhiteNoise compresses them and lets browsers keep them.
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedStaticFilesStorage"},
}
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/static/assets/"

#: a document of some ten thousand members stays below this
DATA_UPLOAD_MAX_MEMORY_SIZE = 8 * 1024 * 1024

#: where the climate service answers; "" for none
CLIMATE_URL = os.environ.get("LORICA_CLIMATE_URL", "")

#: whether worker processes (manage.py work) compute the chains; else the web process does, while it is asked
WORKERS = os.environ.get("LORICA_WORKERS") == "1"
#: bytes that stored results may take together
RESULTS_SIZE = int(os.environ.get("LORICA_RESULTS_MB", "2000")) * 1_000_000

SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE_SSL_REDIRECT = not LOCAL
SECURE_HSTS_SECONDS = 0 if LOCAL else 31_536_000
SECURE_HSTS_INCLUDE_SUBDOMAINS = SECURE_HSTS_PRELOAD = not LOCAL
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
