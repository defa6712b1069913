"""What every answer says: everything comes from this server, nothing from elsewhere; answers of the API are kept by nobody."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' data: blob:; "
    "connect-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
)


def headers(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware that states the content-security-policy on every answer, and that what the API says is not stored."""

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        response["Content-Security-Policy"] = POLICY
        if request.path.startswith("/api/"):
            response["Cache-Control"] = "no-store"
        return response

    return middleware
