"""What is read of requests: JSON, and texts that a database can keep."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

from django.http import HttpRequest, HttpResponse, JsonResponse
from ninja.errors import HttpError
from ninja.parser import Parser

from engine.document.base import nul_within

NUL = "The text holds a NUL character, which nothing can be named by."


def read_json(body: bytes) -> Any:
    """A body as values. Raises HttpError with a sentence for what is none."""
    try:
        found = json.loads(body)
    except RecursionError:
        raise HttpError(422, "The text is nested too deeply.") from None
    except ValueError as error:
        raise HttpError(422, f"The text is not JSON: {error}.") from None
    if b"\\u0000" in body and nul_within(found) is not None:
        raise HttpError(422, NUL)
    return found


class JsonParser(Parser):
    """JSON bodies; what is none is refused in a sentence."""

    def parse_body(self, request: HttpRequest) -> Any:
        """The body as values. Raises HttpError."""
        return read_json(request.body)


def plain_addresses(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """Middleware that refuses addresses with NUL characters."""

    def middleware(request: HttpRequest) -> HttpResponse:
        if "\0" in request.path or any(
            "\0" in text for values in request.GET.lists() for text in (values[0], *values[1])
        ):
            return JsonResponse({"message": NUL, "place": ""}, status=422)
        return get_response(request)

    return middleware
