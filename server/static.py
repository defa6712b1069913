"""The built front end, compressed and kept by browsers, also before an asynchronous server."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from asgiref.sync import iscoroutinefunction, sync_to_async
from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.utils.decorators import sync_and_async_middleware
from whitenoise.middleware import WhiteNoiseMiddleware


@sync_and_async_middleware
def static_files(get_response: Callable[[HttpRequest], Any]) -> Callable[[HttpRequest], Any]:
    """Middleware that answers for the front end's files by WhiteNoise, which itself serves in threads alone."""
    if not iscoroutinefunction(get_response):
        served: Callable[[HttpRequest], Any] = WhiteNoiseMiddleware(get_response)
        return served
    files = WhiteNoiseMiddleware(lambda request: HttpResponse(status=404))

    def whole(request: HttpRequest) -> HttpResponse:
        found = files(request)
        return (
            HttpResponse(b"".join(found), status=found.status_code, headers=found.headers) if found.streaming else found
        )

    async def within(request: HttpRequest) -> HttpResponse:
        if request.path.startswith(settings.STATIC_URL):
            return await sync_to_async(whole, thread_sensitive=False)(request)
        return await get_response(request)  # type: ignore[no-any-return]

    return within
