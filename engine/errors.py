"""The one error the engine raises for input it cannot work with."""

from __future__ import annotations

import sys


class ModelError(ValueError):
    """Input that has no sensible model, said in a sentence that names the thing and the reason.

    place: where in the document it is, as a dotted path ("hall.span"), or "" when it has no single place.
    """

    def __init__(self, message: str, place: str = "") -> None:
        super().__init__(message)
        self.message = message
        self.place = place


def refused(words: str) -> int:
    """Say why something cannot be done; the status that tells so."""
    print(f"lorica: {words}", file=sys.stderr)
    return 2
