"""How large a request may be: what is larger is refused before it is kept anywhere."""

from __future__ import annotations

import json
from collections.abc import Awaitable, Callable, Mapping
from typing import Any

from django.conf import settings

Receive = Callable[[], Awaitable[Mapping[str, Any]]]
Send = Callable[[Mapping[str, Any]], Awaitable[None]]
Application = Callable[[dict[str, Any], Receive, Send], Awaitable[None]]


def too_large() -> str:
    """The sentence."""
    return f"The request is larger than {settings.DATA_UPLOAD_MAX_MEMORY_SIZE / 1e6:.0f} MB, which is the most that is taken."


def bounded(application: Application) -> Application:
    """The application behind a limit on the body, by what its head says and by what comes."""

    async def within(scope: dict[str, Any], receive: Receive, send: Send) -> None:
        most, begun = settings.DATA_UPLOAD_MAX_MEMORY_SIZE, False
        said = next((value for name, value in scope.get("headers", ()) if name == b"content-length"), b"0")
        if said.isdigit() and int(said) > most:
            await _refuse(send)
            return
        came = 0

        async def counted() -> Mapping[str, Any]:
            nonlocal came
            message = await receive()
            came += len(message.get("body", b""))
            # to the application it is as if the caller had gone
            return {"type": "http.disconnect"} if came > most else message

        async def noticed(message: Mapping[str, Any]) -> None:
            nonlocal begun
            begun = True
            await send(message)

        await application(scope, counted, noticed)
        if came > most and not begun:
            await _refuse(send)

    return within


async def _refuse(send: Send) -> None:
    body = json.dumps({"message": too_large(), "place": ""}).encode()
    headers = [(b"content-type", b"application/json"), (b"connection", b"close")]
    await send({"type": "http.response.start", "status": 413, "headers": headers})
    await send({"type": "http.response.body", "body": body})
