"""A dossier as one web page that needs nothing else: text, tables, formulas as MathML, drawings, pictures and fonts within it, no script."""

from __future__ import annotations

from base64 import b64encode
from collections.abc import Mapping
from functools import cache
from pathlib import Path
from typing import Any

from jinja2 import Environment, FileSystemLoader, StrictUndefined
from latex2mathml.converter import convert

from engine.dossier.values import Dossier
from publish.blocks import numbered, page_data

HERE = Path(__file__).parent
#: weights with their fonts
FONTS = ((400, "IBMPlexSansCondensed-Regular.ttf"), (700, "IBMPlexSansCondensed-Bold.ttf"))


def webpage(dossier: Dossier, pictures: Mapping[str, bytes] | None = None) -> bytes:
    """The page. pictures: PNG or JPEG by key; one that is not there is told as missing."""
    data = page_data(dossier, mathml)
    numbers = numbered(data["chapters"])
    environment = Environment(loader=FileSystemLoader(HERE), autoescape=True, undefined=StrictUndefined)
    page = environment.get_template("dossier.html").render(
        **data,
        numbers={part["anchor"]: number for part, number in numbers},
        contents=[entry for part, number in numbers if (entry := _entry(part, number))],
        fonts=[(weight, b64encode((HERE / "fonts" / name).read_bytes()).decode()) for weight, name in FONTS],
        pictures={key: _inline(picture) for key, picture in (pictures or {}).items()},
    )
    return page.encode()


@cache
def mathml(latex: str) -> str:
    """A formula in LaTeX as MathML."""
    found: str = convert(latex)
    return found


def _entry(part: dict[str, Any], number: str) -> dict[str, Any] | None:
    """A line of the contents; headings of single members have none."""
    if "blocks" in part:
        words = [{"sub": False, "words": part["title"]}]
        return {"anchor": part["anchor"], "number": number, "words": words, "chapter": True}
    if part["depth"] > 2:
        return None
    return {"anchor": part["anchor"], "number": number, "words": part["words"], "chapter": False}


def _inline(picture: bytes) -> str:
    kind = "png" if picture.startswith(b"\x89PNG") else "jpeg"
    return f"data:image/{kind};base64,{b64encode(picture).decode()}"
