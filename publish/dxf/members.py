"""Members of a drawing's lines: by the role, section and behaviour that their layers have, with feet where columns begin."""

from __future__ import annotations

from typing import Any, get_args

import numpy as np

from engine.document.base import Behaviour, Role
from engine.structure.model import Floats, Ints
from engine.structure.words import ROLE_WORDS
from publish.meet import Met

#: share of its length that a line rises to be upright
UPRIGHT = 0.99
#: roles whose members bear along their axis alone unless they are said to do more
HINGED = ("web", "roof bracing", "wall bracing", "tie", "strut", "knee brace")
SECTIONS = {
    "column": "HEA 240",
    "rafter": "IPE 300",
    "main beam": "IPE 300",
    "gable post": "IPE 200",
    "purlin": "IPE 140",
    "side rail": "IPE 120",
    "joist": "IPE 200",
    "top chord": "HEA 140",
    "bottom chord": "HEA 120",
    "web": "SHS 80x4",
    "roof bracing": "RD 20",
    "wall bracing": "RD 20",
    "tie": "RD 20",
    "strut": "SHS 100x5",
    "knee brace": "SHS 100x5",
}
#: what another role is made of
USUAL = "IPE 200"
ROLES = [role for role in get_args(Role) if role != "deck"]
BEHAVIOURS = [behaviour for behaviour in get_args(Behaviour) if behaviour != "rigid link"]
FEET = {"pinned": ["x", "y", "z"], "fixed": ["x", "y", "z", "rx", "ry", "rz"], "none": []}


def role_by_way(ends: Floats) -> str:
    """The role of lines by how most of their length runs: upright, level, or neither. ends: (lines, 2, 3)."""
    way = ends[:, 1] - ends[:, 0]
    length = np.linalg.norm(way, axis=1)
    rises = np.abs(way[:, 2]) / np.maximum(length, 1e-12)
    shares = {
        "column": float(length[rises > UPRIGHT].sum()),
        "main beam": float(length[rises < 1e-3].sum()),
    }
    shares["rafter"] = float(length.sum()) - sum(shares.values())
    return max(shares, key=lambda role: shares[role])


def behaviour_of(role: str, section: str) -> str:
    """How members of a role bear: rods in tension alone."""
    if role not in HINGED:
        return "beam"
    return "tension-only" if section.startswith(("RD ", "FL ")) else "bar"


def members_of(met: Met, made: list[dict[str, str]], grade: str) -> list[dict[str, Any]]:
    """Members as a document states them, numbered by role from front to back and from left to right. made: what each kept line is."""
    middle = met.nodes[met.ends].mean(axis=1).round(3)
    order = np.lexsort((middle[:, 2], middle[:, 0], middle[:, 1]))
    count: dict[str, int] = {}
    out = []
    for k in order.tolist():
        start, end = _onwards(met.nodes, met.ends[k])
        role, section, behaviour = (made[k][field] for field in ("role", "section", "behaviour"))
        count[role] = count.get(role, 0) + 1
        out.append(
            {
                "name": f"{ROLE_WORDS[role][0]} {count[role]}",
                "start": f"n{start + 1}",
                "end": f"n{end + 1}",
                "role": role,
                "section": section,
                "material": grade,
                "behaviour": behaviour_of(role, section) if behaviour == "usual" else behaviour,
            }
        )
    return out


def _onwards(nodes: Floats, ends: Ints) -> tuple[int, int]:
    """The ends of a line, the lower one first, of a level one the left or the front one."""
    a, b = (int(n) for n in ends)
    way = (nodes[b] - nodes[a]).round(6)
    upright = abs(way[2]) > UPRIGHT * float(np.linalg.norm(way))
    first = next((v for v in (way[[2, 0, 1]] if upright else way) if v), 1.0)
    return (a, b) if first > 0 else (b, a)


def feet_of(met: Met, roles: list[str]) -> tuple[list[int], str]:
    """Nodes that something stands on, and which they are in words: lower ends of columns and posts that nothing goes on below; without
    any, the lowest nodes."""
    z = met.nodes[:, 2]
    lower = np.where(z[met.ends[:, 0]] <= z[met.ends[:, 1]], met.ends[:, 0], met.ends[:, 1])
    upper = met.ends.sum(axis=1) - lower
    rises = z[upper] - z[lower] > 1e-3
    tops = set(upper[rises].tolist())
    on = [int(n) for n, role in zip(lower, roles, strict=True) if role in ("column", "gable post")]
    if feet := sorted(set(on) - tops):
        return feet, "where columns begin"
    return np.flatnonzero(z <= z.min() + 1e-3).tolist(), "the lowest nodes"
