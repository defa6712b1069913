"""The content-security-policy: everything comes from this server, nothing from elsewhere."""

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' data: blob:; "
    "connect-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
)


def content_security_policy(
    get_response: Callable[[HttpRequest], HttpResponse],
) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware that states the policy on every answer."""

    def middleware(request: HttpRequest) -> HttpResponse:
        response = get_response(request)
        response["Content-Security-Policy"] = POLICY
        return response

    return middleware
