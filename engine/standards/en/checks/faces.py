"""Members that are hinged to the faces of others: their reactions act beside the axis, where the analysis has them."""

from __future__ import annotations

import numpy as np

from engine.standards.en.checks.grounds import SteelGrounds
from engine.structure.model import HINGE, Floats, Member
from engine.structure.runs import lying
from engine.verification.outcomes import Findings

#: shapes whose face stands half their depth from the axis
FACED = ("I", "welded I", "square", "rectangular", "circular")
#: cosine from which on directions count as across, or as along a local axis; and as one line
ACROSS, ALONG, STRAIGHT = 0.3, 0.7, 0.99
#: share of the elastic moment resistance from which on it is told
TOLD = 0.02


def beside(grounds: SteelGrounds, found: Findings) -> None:
    """Add to what verdicts leave out: the moments of reactions at the faces of members, where they are no trifle."""
    lies = lying(grounds.combined.structure)
    for i, (M, about) in moments(grounds).items():
        m = grounds.combined.structure.members[i]
        fy = float(grounds.steel.fy[i])
        share = M * grounds.document.rules.gamma_M0 / ((m.section.Wel_y if about == "y" else m.section.Wel_z) * fy)
        if share > TOLD:
            found.left_out[i].append(
                f"what is hinged to its face acts in its axis: up to {M / 1e3:.1f} kNm about {about}, {100 * share:.0f} % of its elastic"
                " moment resistance, are not in it" + ("" if lies[i] else ": Response states where hinged beams bear")
            )


def moments(grounds: SteelGrounds) -> dict[int, tuple[float, str]]:
    """By member the largest moment in Nm, under any combination for strength, that the reactions of what is hinged to it would bring
    from its faces to one side of their node, and about which axis."""
    structure = grounds.combined.structure
    found: dict[int, tuple[float, str]] = {}
    for i, m in enumerate(structure.members):
        if m.bar or m.section.shape not in FACED or not np.isfinite(grounds.steel.fy[i]):
            continue
        for node in m.nodes:
            others = [j for j in structure.meeting[node] if j != i and _hinged(structure.members[j], node)]
            for about, M in _at(grounds, i, node, others).items():
                if found.get(i, (0.0, ""))[0] < M:
                    found[i] = M, about
    return found


def _hinged(member: Member, node: int) -> bool:
    """Whether a beam ends at a node with a hinge that the analysis has in the node."""
    if member.bar or member.behaviour == "rigid link":
        return False
    ends = zip(
        (member.nodes[0], member.nodes[-1]), (member.release_start, member.release_end), member.joints, strict=True
    )
    return any(n == node and release & HINGE and not joint for n, release, joint in ends)


def _at(grounds: SteelGrounds, number: int, node: int, others: list[int]) -> dict[str, float]:
    """The largest moment about y and about z, where anything is hinged to the member at a node."""
    if not others:
        return {}
    elements, f, m = grounds.combined.elements, grounds.analysed, grounds.combined.structure.members[number]
    x, y, z = elements.axes[elements.rows(number)[0]]
    sums: dict[str, Floats] = {}
    for j in others:
        other, rows = grounds.combined.structure.members[j], elements.rows(j)
        start = other.nodes[0] == node
        e, s = (int(rows[0]), 0) if start else (int(rows[-1]), f.x.shape[1] - 1)
        way = elements.axes[e][0] * (1.0 if start else -1.0)
        if abs(way @ x) > ACROSS:
            continue
        about = "y" if abs(way @ z) > ALONG else "z"
        depth = m.section.h if about == "y" else m.section.tw if m.section.shape in ("I", "welded I") else m.section.b
        # the shear that it hands over, along the member's axis
        handed = (1.0 if start else -1.0) * (
            f.Vz[e, s] * (elements.axes[e][2] @ x) + f.Vy[e, s] * (elements.axes[e][1] @ x)
        )
        side = np.sign(way @ (z if about == "y" else y))
        sums[about] = sums.get(about, 0.0) + handed * side * depth / 2
    half = 0.5 if _goes_on(grounds, number, node) else 1.0
    return {about: half * float(np.abs(M).max()) for about, M in sums.items()}


def _goes_on(grounds: SteelGrounds, number: int, node: int) -> bool:
    """Whether the member, or another on its line, stands on both sides of a node: each takes half."""
    structure = grounds.combined.structure
    m = structure.members[number]
    if node in m.nodes[1:-1]:
        return True
    own = structure.xyz[m.nodes[-1]] - structure.xyz[m.nodes[0]]
    for j in structure.meeting[node]:
        other = structure.members[j]
        step = structure.xyz[other.nodes[-1]] - structure.xyz[other.nodes[0]]
        if j != number and not other.bar and abs(own @ step) > STRAIGHT * np.linalg.norm(own) * np.linalg.norm(step):
            return True
    return False
