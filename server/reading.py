"""What is read of requests: JSON, and texts that a database can keep."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse, JsonResponse
from ninja.errors import HttpError
from ninja.parser import Parser

from engine.document.base import nul_within
from engine.document.reading import read_json
from engine.errors import ModelError
from server.middleware import middleware, unchanged

NUL = "The text holds a NUL character, which nothing can be named by."


class JsonParser(Parser):
    """JSON bodies; what is none is refused in a sentence."""

    def parse_body(self, request: HttpRequest) -> Any:
        """The body as values. Raises HttpError with a sentence for what is none."""
        try:
            found = read_json(request.body)
        except ModelError as error:
            raise HttpError(422, error.message.replace("The file", "The request")) from None
        if b"\\u0000" in request.body and nul_within(found) is not None:
            raise HttpError(422, NUL)
        return found


def _plain(request: HttpRequest) -> HttpResponse | None:
    texts = [request.path, *(text for key, values in request.GET.lists() for text in (key, *values))]
    return JsonResponse({"message": NUL, "place": ""}, status=422) if any("\0" in text for text in texts) else None


#: refuses addresses with NUL characters
plain_addresses = middleware(_plain, unchanged)
