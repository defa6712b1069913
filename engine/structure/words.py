"""What members are called on site, by role and place."""

from __future__ import annotations

from engine.structure.model import Member, Panel

#: role -> what one is called, what all of them are called
ROLE_WORDS = {
    "column": ("Column", "Columns"),
    "rafter": ("Rafter", "Rafters"),
    "top chord": ("Top chord", "Top chords"),
    "bottom chord": ("Bottom chord", "Bottom chords"),
    "web": ("Web", "Truss webs"),
    "gable post": ("Gable post", "Gable posts"),
    "purlin": ("Purlin", "Purlins"),
    "side rail": ("Side rail", "Side rails"),
    "eaves beam": ("Eaves beam", "Eaves beams"),
    "ridge beam": ("Ridge beam", "Ridge beams"),
    "roof bracing": ("Roof brace", "Roof bracing"),
    "wall bracing": ("Wall brace", "Wall bracing"),
    "strut": ("Strut", "Struts"),
    "knee brace": ("Knee brace", "Knee braces"),
    "tie": ("Tie", "Ties"),
    "main beam": ("Main beam", "Main beams"),
    "joist": ("Joist", "Joists"),
    "deck": ("Deck tie", "Deck diaphragm"),
    "member": ("Member", "Members by hand"),
}
_SIDES = {"left": "L", "right": "R"}


def label(member: Member) -> str:
    """A member's name as said on site: “Rafter 4·AB-L”, “Wall brace 1·A up”, “Joist mezzanine 1-2-1”."""
    if "/" not in member.name or not member.jig:
        return member.name
    place, rest = member.name.split("/", 1)
    number = place.split("-")[-1] if place.startswith(("frame-", "bay-")) else place
    marks, ends = [], []
    for word in rest.replace("/", "-").split("-"):
        if word in ("up", "down", "upper", "lower"):
            ends.append(word)
        elif word in _SIDES or word.isdigit() or word.isupper():
            marks.append(_SIDES.get(word, word))
        elif word in ("lean", "overhang", "far", "struts"):
            marks.append(word)
    words = f"{ROLE_WORDS[member.role][0]} {number}" + (f"·{'-'.join(marks)}" if marks else "")
    return " ".join([words, *ends])


def slope_words(panel: Panel) -> str:
    """A roof slope as said on site: “AB-left”."""
    return panel.name.removeprefix("roof-")
