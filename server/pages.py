"""The page of the application, and the style of the sign-in page."""

from functools import cache

from django.conf import settings
from django.contrib.auth.decorators import login_required
from django.http import HttpRequest, HttpResponse
from django.views.decorators.csrf import ensure_csrf_cookie


@cache
def _file(name: str) -> bytes:
    folder = settings.STATIC_ROOT if name.endswith("html") else settings.ROOT / "server" / "templates"
    return bytes((folder / name).read_bytes())


@login_required
@ensure_csrf_cookie
def application(request: HttpRequest) -> HttpResponse:
    """The built front end; it asks the API for everything else."""
    return HttpResponse(_file("index.html"))


def sign_in_style(request: HttpRequest) -> HttpResponse:
    """Style of the sign-in page, which needs no front end."""
    return HttpResponse(_file("sign_in.css"), content_type="text/css")
