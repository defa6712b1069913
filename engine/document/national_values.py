"""One value that standards leave to nations, and where it stands in a document."""

from __future__ import annotations

from engine.document.base import Part


class NationalValue(Part):
    """One value. path: of the document; recommended: None where another value holds unless it is stated; choices: words that it
    may take, for numbers none."""

    path: str
    group: str
    heading: str
    symbol: str
    words: str
    clause: str
    recommended: float | bool | str | None
    choices: list[str]
