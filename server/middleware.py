"""How middleware is made that serves views of both kinds, those that wait in a thread and those that wait without one."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from asgiref.sync import iscoroutinefunction
from django.http import HttpRequest, HttpResponse
from django.utils.decorators import sync_and_async_middleware

Before = Callable[[HttpRequest], HttpResponse | None]
After = Callable[[HttpRequest, HttpResponse], HttpResponse]


def middleware(before: Before, after: After) -> Any:
    """Middleware from what is done before a view (an answer in its place, or None) and what is done with its answer. Neither may
    wait for anything."""

    @sync_and_async_middleware
    def made(get_response: Callable[[HttpRequest], Any]) -> Callable[[HttpRequest], Any]:
        if iscoroutinefunction(get_response):

            async def within(request: HttpRequest) -> HttpResponse:
                return after(request, before(request) or await get_response(request))

            return within

        def around(request: HttpRequest) -> HttpResponse:
            return after(request, before(request) or get_response(request))

        return around

    return made


def nothing_before(request: HttpRequest) -> HttpResponse | None:
    """No answer in place of the view's."""
    return None


def unchanged(request: HttpRequest, response: HttpResponse) -> HttpResponse:
    """The answer as it is."""
    return response
