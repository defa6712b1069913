"""An IFC4 file opened, or one sentence why it is none."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any, TypeVar

import ifcopenshell

from engine.errors import ModelError

Read = TypeVar("Read")


def opened(data: bytes, read: Callable[[Any], Read]) -> Read:
    """What is read of a file. Raises ModelError for one that is none, of another schema, cut off, or broken inside."""
    head = data[:4096].decode("latin-1")
    if not head.lstrip().startswith("ISO-10303-21"):
        raise ModelError("This is no IFC file: it does not begin with ISO-10303-21.")
    schema = re.search(r"FILE_SCHEMA\s*\(\s*\(\s*'([^']+)'", head)
    if schema is None or not schema[1].upper().startswith("IFC4"):
        raise ModelError(f"The file is of the schema {schema[1] if schema else '(none)'}; IFC4 is read.")
    if "END-ISO-10303-21" not in data[-400:].decode("latin-1"):
        raise ModelError("The file is cut off: its end is missing.")
    try:
        return read(ifcopenshell.file.from_string(data.decode("utf-8", "replace")))
    except ModelError:
        raise
    except (RuntimeError, AttributeError, KeyError, ValueError, TypeError, IndexError) as error:
        raise ModelError(f"The file cannot be read as IFC4 ({type(error).__name__}).") from error
