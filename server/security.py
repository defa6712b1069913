"""What every answer says: everything comes from this server, nothing from elsewhere; answers of the API are kept by nobody."""

from django.http import HttpRequest, HttpResponse

from server.middleware import middleware, nothing_before

POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' data: blob:; "
    "connect-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
)


def _headers(request: HttpRequest, response: HttpResponse) -> HttpResponse:
    response["Content-Security-Policy"] = POLICY
    if request.path.startswith("/api/"):
        response["Cache-Control"] = "no-store"
    return response


#: states the content-security-policy on every answer, and that what the API says is not stored
headers = middleware(nothing_before, _headers)
