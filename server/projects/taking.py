"""Files of others taken in: read by a process of their own, with limits, since nobody knows what is in them."""

from __future__ import annotations

import asyncio
import json
import resource
import sys

from django.conf import settings
from pydantic import BaseModel

from engine.errors import ModelError

#: what a reading process may take: bytes of memory, seconds of processor, seconds altogether
MEMORY, PROCESSOR, PATIENCE = 3 << 30, 40, 60


class TakenOut(BaseModel):
    """A document that a file became, and what is said of it: nothing is made of it yet."""

    document: dict[str, object]
    understood: list[str]
    guessed: list[str]
    left_out: list[str]


def _bounded() -> None:
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    resource.setrlimit(resource.RLIMIT_CPU, (PROCESSOR, PROCESSOR))


async def ifc_taken(data: bytes) -> TakenOut:
    """Read an IFC file. Raises ModelError."""
    process = await asyncio.create_subprocess_exec(
        sys.executable,
        "-m",
        "publish",
        "take",
        "-",
        cwd=settings.ROOT,
        stdin=asyncio.subprocess.PIPE,
        stdout=asyncio.subprocess.PIPE,
        stderr=asyncio.subprocess.PIPE,
        preexec_fn=_bounded,
    )
    try:
        out, said = await asyncio.wait_for(process.communicate(data), PATIENCE)
    except TimeoutError:
        process.kill()
        raise ModelError(
            f"The file takes longer than {PATIENCE} s to read; ./lorica take reads it without a limit."
        ) from None
    except asyncio.CancelledError:
        process.kill()
        raise
    if process.returncode == 2:
        raise ModelError(said.decode().strip().splitlines()[-1].removeprefix("lorica: "))
    if process.returncode:
        raise ModelError("The file takes more memory or time to read than there is, or breaks its reader.")
    return TakenOut(**json.loads(out))
