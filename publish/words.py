"""What people call roles and sections in layers and in cells; layers of axes are called so, and can be taken in again."""

from __future__ import annotations

import re
from functools import cache

from engine.catalogue.sections import made_to_size, makers
from engine.structure.words import ROLE_WORDS

#: in a name of a layer
BETWEEN = " - "
#: characters that the name of a layer cannot bear
_NOT_NAMES = re.compile(r'[<>/\\":;?*|=`]')
#: words in the names of layers, in the order in which they are looked for, and what they mean; "" for what is no steel
MEANINGS = {
    "dimension": "",
    "dim": "",
    "text": "",
    "note": "",
    "hatch": "",
    "grid": "",
    "axes": "",
    "axis": "",
    "ground": "",
    "border": "",
    "title": "",
    "viewport": "",
    "defpoints": "",
    **{words[1].lower(): role for role, words in ROLE_WORDS.items() if role not in ("member", "deck")},
    "stanchion": "column",
    "column": "column",
    "rafter": "rafter",
    "purlin": "purlin",
    "rail": "side rail",
    "girt": "side rail",
    "eaves": "eaves beam",
    "ridge": "ridge beam",
    "post": "gable post",
    "joist": "joist",
    "bottom": "bottom chord",
    "top": "top chord",
    "diagonal": "web",
    "web": "web",
    "bracing": "wall bracing",
    "brace": "wall bracing",
    "strut": "strut",
    "tie": "tie",
    "beam": "main beam",
}
#: words up to this long are looked for as words of their own: “tie” is no “fixties”
SHORT = 5


def layer_of(role: str, section: str) -> str:
    """The layer of members of a role and a section."""
    return _NOT_NAMES.sub("_", f"{ROLE_WORDS[role][1]}{BETWEEN}{section}")[:250]


def role_called(words: str) -> str | None:
    """The role of those words alone: its own, or what one or all of its members are called."""
    own = words.strip().lower()
    return next((role for role, (one, all_) in ROLE_WORDS.items() if own in (role, one.lower(), all_.lower())), None)


def section_called(name: str) -> str | None:
    """The section of that name, however its letters and spaces are set; None where there is none."""
    own = _plain(name)
    found = next((section for form, section in _forms() if form == own), None)
    return found or (name.strip() if made_to_size(name.strip()) else None)


def role_in(layer: str) -> str | None:
    """The role that a layer's name tells; "" where it tells of something that is no steel, None where it tells nothing."""
    name = layer.lower().replace("_", " ").replace("-", " ")
    return next((role for word, role in MEANINGS.items() if _stands(word, name)), None)


def _stands(word: str, name: str) -> bool:
    return re.search(rf"\b{word}s?\b", name) is not None if len(word) <= SHORT else word in name


def section_in(layer: str) -> str | None:
    """The catalogue's section whose name stands in a layer's name as a word, the longest one; the space after the letters may lack."""
    name = f" {_plain(layer)} "
    found = [(len(form), own) for form, own in _forms() if _as_word(form, name)]
    return max(found)[1] if found else None


@cache
def _forms() -> list[tuple[str, str]]:
    return [(form, own) for own in makers() for form in {_plain(own), _plain(own).replace(" ", "", 1)}]


def _as_word(form: str, name: str) -> bool:
    at = name.find(form)
    if at < 0:
        return False
    before, after = name[at - 1], name[at + len(form)]
    return not before.isalnum() and not after.isalnum() and after != "."


def _plain(name: str) -> str:
    return re.sub(r"[\s_/]+", " ", name.upper()).strip()
