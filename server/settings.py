"""Django settings. Safe for production by default; LORICA_LOCAL=1 relaxes what HTTP on loopback cannot have.

LORICA_SECRET (needed), LORICA_DATABASE_URL (needed), LORICA_HOSTS (comma-separated), LORICA_LOCAL,
LORICA_CLIMATE_URL (of a climate service), LORICA_DETAILING_URL (of an office that details steel), LORICA_WORKERS (1: worker processes compute), LORICA_RESULTS_MB, LORICA_RUN_SECONDS and
LORICA_RUN_MB (the most that a run may take), LORICA_LOG (file; else standard error), LORICA_METRICS_TOKEN, LORICA_PROJECTS and LORICA_STORAGE_MB (of one
person), LORICA_DELETED_DAYS, LORICA_HSTS (seconds, 0
by default), LORICA_CONNECTIONS (of a web process to the database). docs/operating.md tells more.
"""

import os
from datetime import timedelta
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
    "django.contrib.admin",
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "django.contrib.staticfiles",
    "axes",
    "ninja",
    "procrastinate.contrib.django",
    "server.people.apps.People",
    "server.projects",
]
MIDDLEWARE = [
    "server.logs.requests",
    "django.middleware.security.SecurityMiddleware",
    "server.security.headers",
    "server.reading.plain_addresses",
    "server.static.static_files",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.gzip.GZipMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "axes.middleware.AxesMiddleware",
]
ROOT_URLCONF = "server.urls"
ASGI_APPLICATION = "server.asgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [ROOT / "server" / "templates"],
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
                "django.contrib.messages.context_processors.messages",
            ]
        },
    }
]
CONNECTIONS = int(os.environ.get("LORICA_CONNECTIONS", "0"))
DATABASES = {"default": dj_database_url.parse(needed("LORICA_DATABASE_URL"), conn_max_age=0 if CONNECTIONS else 60)}
DATABASES["default"]["CONN_HEALTH_CHECKS"] = True
if CONNECTIONS:
    DATABASES["default"]["OPTIONS"] = {"pool": {"min_size": 1, "max_size": CONNECTIONS, "timeout": 10}}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
# the cheapest to check of those that are thought safe: a stranger who guesses costs little
PASSWORD_HASHERS = [
    "django.contrib.auth.hashers.ScryptPasswordHasher",
    "django.contrib.auth.hashers.PBKDF2PasswordHasher",
]
# by name and address together: a stranger elsewhere cannot lock somebody out
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_FAILURE_LIMIT = 8
AXES_COOLOFF_TIME = timedelta(minutes=15)
AXES_RESET_ON_SUCCESS = True
AXES_LOCKOUT_CALLABLE = "server.sign_in.locked_out"
AXES_VERBOSE = False
AXES_DISABLE_ACCESS_LOG = True
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
#: where an office that details steel takes models; "" for none
DETAILING_URL = os.environ.get("LORICA_DETAILING_URL", "")

#: whether worker processes (manage.py work) compute the chains; else the web process does, while it is asked
WORKERS = os.environ.get("LORICA_WORKERS") == "1"
#: bytes that stored results may take together
RESULTS_SIZE = int(os.environ.get("LORICA_RESULTS_MB", "2000")) * 1_000_000

#: the most that one run may take, in seconds and in bytes of its worker's memory
RUN_SECONDS = float(os.environ.get("LORICA_RUN_SECONDS", "900"))
RUN_MEMORY = int(os.environ.get("LORICA_RUN_MB", "3000")) * 1_000_000

#: the most that one person may have: projects, and bytes of their revisions
MOST_PROJECTS = int(os.environ.get("LORICA_PROJECTS", "1000"))
MOST_STORAGE = int(os.environ.get("LORICA_STORAGE_MB", "1000")) * 1_000_000
#: days that a deleted project waits to be removed
DELETED_DAYS = int(os.environ.get("LORICA_DELETED_DAYS", "30"))

#: lines of JSON, to standard error or to a file that is renamed when it has grown (several processes write it)
LOG = os.environ.get("LORICA_LOG", "")
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "filters": {"numbered": {"()": "server.logs.Numbered"}},
    "formatters": {
        "json": {
            "()": "pythonjsonlogger.json.JsonFormatter",
            "fmt": "{asctime}{levelname}{name}{message}{request_id}{pid}",
            "style": "{",
            "rename_fields": {"asctime": "time", "levelname": "level", "name": "logger"},
        }
    },
    "handlers": {
        "lines": {
            "formatter": "json",
            "filters": ["numbered"],
            **(
                {
                    "class": "concurrent_log_handler.ConcurrentRotatingFileHandler",
                    "filename": LOG,
                    "maxBytes": 10_000_000,
                    "backupCount": 5,
                }
                if LOG
                else {"class": "logging.StreamHandler"}
            ),
        }
    },
    "root": {"handlers": ["lines"], "level": "WARNING"},
    "loggers": {
        "lorica": {"level": "INFO"},
        # each request has a line of its own
        "django.request": {"level": "ERROR"},
        "django.server": {"handlers": [], "propagate": False},
    },
}
METRICS_TOKEN = os.environ.get("LORICA_METRICS_TOKEN", "")

SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE_SSL_REDIRECT = not LOCAL
# asked of the process itself, not through the proxy
SECURE_REDIRECT_EXEMPT = [r"^healthz$", r"^readyz$", r"^metrics$"]
# a choice: browsers that were told once refuse plain HTTP for the whole domain until it ends
SECURE_HSTS_SECONDS = int(os.environ.get("LORICA_HSTS", "0"))
SECURE_HSTS_INCLUDE_SUBDOMAINS = SECURE_HSTS_PRELOAD = SECURE_HSTS_SECONDS > 0
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
