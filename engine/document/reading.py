"""A document's text as values: what is no JSON is refused with what it seems to be."""

from __future__ import annotations

import json
from typing import Any

from engine.errors import ModelError

#: first bytes of what is taken for a document by mistake
_KNOWN = {
    b"\x1f\x8b": "compressed by gzip",
    b"PK": "a compressed archive or a spreadsheet",
    b"%PDF": "a PDF",
    b"\xff\xfe": "written in UTF-16",
    b"\xfe\xff": "written in UTF-16",
}


def read_json(text: bytes) -> Any:
    """The values of a JSON text in UTF-8. Raises ModelError for what is none, for a name stated twice, and for nesting without
    end."""
    for start, what in _KNOWN.items():
        if text.startswith(start):
            raise ModelError(f"The file is {what}, not JSON in UTF-8.")
    try:
        found = json.loads(text.decode("utf-8-sig"), object_pairs_hook=_once)
    except ModelError:
        raise
    except UnicodeDecodeError:
        raise ModelError("The file is not JSON in UTF-8.") from None
    except RecursionError:
        raise ModelError("The file is nested too deeply.") from None
    except json.JSONDecodeError as error:
        raise ModelError(f"The file is not JSON: {error}.") from None
    except ValueError:
        raise ModelError("The file holds a number with too many digits.") from None
    return found


def _once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found = dict(pairs)
    if len(found) < len(pairs):
        names = [name for name, _ in pairs]
        twice = next(name for name in names if names.count(name) > 1)
        raise ModelError(f"“{twice}” is stated twice in one place of the file.", twice)
    return found
