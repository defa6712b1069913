"""Files of others taken in: read by a process of their own, with limits, since nobody knows what is in them."""

from __future__ import annotations

import asyncio
import resource
import sys
from typing import Annotated

from django.conf import settings
from pydantic import BaseModel, Field, TypeAdapter, ValidationError

from engine.errors import ModelError
from engine.returned.model import ReturnedModel
from publish.taken import Taken

#: what a reading process may take: bytes of memory, seconds of processor, seconds altogether
MEMORY, PROCESSOR, PATIENCE = 3 << 30, 40, 60

#: bytes of what is settled: it goes to the process that reads as an argument
MOST_SETTLED = 100_000


class Settling(BaseModel):
    """One choice that was made: of which layer, sheet or column, which of its properties, and what."""

    of: Annotated[str, Field(max_length=300)]
    field: Annotated[str, Field(max_length=40)]
    value: Annotated[str, Field(max_length=100)]


#: what a form says was settled
SETTLED = TypeAdapter(Annotated[list[Settling], Field(max_length=2000)])


def _bounded() -> None:
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    resource.setrlimit(resource.RLIMIT_CPU, (PROCESSOR, PROCESSOR))


async def read_file(data: bytes, name: str, settled: str) -> Taken:
    """What a file of others becomes, with what is settled of it as JSON. Raises ModelError."""
    try:
        own = SETTLED.dump_json(SETTLED.validate_json(settled)).decode()
    except ValidationError:
        raise ModelError("What is settled of the file is no list of choices.", "settled") from None
    if len(own.encode()) > MOST_SETTLED:
        raise ModelError("More is settled of the file than can be taken at once.", "settled")
    given = [f"--name={name.replace(chr(0), '')[-200:]}", f"--settled={own}"]
    return Taken.model_validate_json(await _read(data, "take", "-", *given))


async def read_returned(data: bytes) -> ReturnedModel:
    """The members of a model that came back. Raises ModelError."""
    return ReturnedModel.model_validate_json(await _read(data, "returned"))


async def _read(data: bytes, *command: str) -> bytes:
    """What a process of its own says of a file. Raises ModelError."""
    process = await asyncio.create_subprocess_exec(
        sys.executable,
        "-m",
        "publish",
        *command,
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
    return out
