"""Formulas for word processors: MathML, the part of it that proofs need, as Office Math (ECMA-376 part 1, 22.1)."""

from __future__ import annotations

import xml.etree.ElementTree as ET
from collections.abc import Callable
from functools import cache
from html import escape

from publish.webpage import mathml

_MATHML = "{http://www.w3.org/1998/Math/MathML}"
_PAIRS = {"(": ")", "|": "|"}
_FONT = '<w:rPr><w:rFonts w:ascii="Cambria Math" w:hAnsi="Cambria Math"/><w:sz w:val="18"/></w:rPr>'


@cache
def office_math(latex: str) -> str:
    """A formula in LaTeX as an `m:oMath`, its prefixes m and w undeclared. Raises ValueError for what it does not know."""
    return f"<m:oMath>{_inside(list(ET.fromstring(mathml(latex))))}</m:oMath>"


def _inside(parts: list[ET.Element]) -> str:
    """Parts on end; what stands in brackets is one thing, which may be raised."""
    found, at = [], 0
    while at < len(parts):
        opens = next((sign for sign in _PAIRS if _is(parts[at], sign)), "")
        end = _closing(parts, at, opens) if opens else None
        if end is None:
            found.append(_one(parts[at]))
            at += 1
            continue
        last = parts[end]
        bracketed = _bracketed(opens, _PAIRS[opens], parts[at + 1 : end])
        name = last.tag.removeprefix(_MATHML)
        found.append(bracketed if name == "mo" else _stacked(name, [bracketed, *(_one(p) for p in list(last)[1:])]))
        at = end + 1
    return "".join(found)


def _closing(parts: list[ET.Element], at: int, opens: str) -> int | None:
    """Where the bracket that opens at a place is closed: by one alone or by one that is raised or lowered."""
    depth, closes = 1, _PAIRS[opens]
    for k in range(at + 1, len(parts)):
        head = parts[k][0] if len(parts[k]) and parts[k].tag.removeprefix(_MATHML) in _STACKED else parts[k]
        depth += (opens != closes and _is(head, opens)) - _is(head, closes)
        if not depth:
            return k
    return None


def _is(part: ET.Element, sign: str) -> bool:
    return part.tag == f"{_MATHML}mo" and part.text == sign


def _bracketed(opens: str, closes: str, inner: list[ET.Element]) -> str:
    properties = f'<m:dPr><m:begChr m:val="{opens}"/><m:endChr m:val="{closes}"/></m:dPr>'
    return f"<m:d>{properties}{_part('e', inner)}</m:d>"


def _stacked(name: str, inner: list[str]) -> str:
    tag, places = _STACKED[name]
    own = "".join(f"<m:{place}>{one}</m:{place}>" for place, one in zip(places, inner, strict=True))
    return f"<m:{tag}>{own}</m:{tag}>"


def _one(part: ET.Element) -> str:
    name, inner = part.tag.removeprefix(_MATHML), list(part)
    if name in _LETTERS:
        return _LETTERS[name](part)
    if name == "mrow" and _fenced(inner):
        return _bracketed(_escaped(inner[0]), _escaped(inner[-1]), inner[1:-1])
    if name in ("mrow", "mstyle"):
        return _inside(inner)
    if name == "msqrt":
        return f'<m:rad><m:radPr><m:degHide m:val="1"/></m:radPr><m:deg/>{_part("e", inner)}</m:rad>'
    if name == "mroot":
        return f"<m:rad>{_part('deg', inner[1:])}{_part('e', inner[:1])}</m:rad>"
    if name == "mover" and (inner[1].text or "") in "¯‾":
        return f'<m:bar><m:barPr><m:pos m:val="top"/></m:barPr>{_part("e", inner[:1])}</m:bar>'
    if name in _STACKED:
        return _stacked(name, [_one(one) for one in inner])
    raise ValueError(f"{name} is not known")


#: MathML -> the tag and the places of its parts
_STACKED = {
    "mfrac": ("f", ("num", "den")),
    "msub": ("sSub", ("e", "sub")),
    "msup": ("sSup", ("e", "sup")),
    "msubsup": ("sSubSup", ("e", "sub", "sup")),
}


def _part(place: str, inner: list[ET.Element]) -> str:
    return f"<m:{place}>{_inside(inner)}</m:{place}>"


def _fenced(inner: list[ET.Element]) -> bool:
    return len(inner) > 1 and inner[0].get("form") == "prefix" and inner[-1].get("form") == "postfix"


def _escaped(part: ET.Element) -> str:
    return escape(part.text or "")


def _run(words: str, properties: str) -> str:
    return f'<m:r><m:rPr>{properties}</m:rPr>{_FONT}<m:t xml:space="preserve">{words}</m:t></m:r>'


def _letter(part: ET.Element) -> str:
    upright = part.get("mathvariant") == "normal" or len(part.text or "") > 1
    return _run(_escaped(part), f'<m:sty m:val="{"p" if upright else "i"}"/>')


def _upright(part: ET.Element) -> str:
    return _run(_escaped(part), '<m:sty m:val="p"/>')


_LETTERS: dict[str, Callable[[ET.Element], str]] = {
    "mi": _letter,
    "mn": _upright,
    "mo": _upright,
    "mtext": lambda part: _run(_escaped(part), "<m:nor/>"),
    "mspace": lambda part: _run("\u2009", "<m:nor/>"),
}
