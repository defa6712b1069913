"""Ways to an effective length of one member: end conditions, stiffness of what its ends meet, buckling of the whole.

Equations of columns whose ends are held against turning by beams: Timoshenko and Gere, Theory of Elastic Stability, 2.4 and 2.6;
stability functions s and c of beams with axial force: Livesley and Chandler, Stability Functions for Structural Frameworks, 1956.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import inf, pi, sqrt, tan

import numpy as np
from scipy.optimize import brentq

from engine.standards.en.checks.effective_lengths import default_factors
from engine.standards.en.checks.grounds import SteelGrounds
from engine.structure.axes import local_axes
from engine.structure.model import Floats, Member, Structure
from engine.verification.checks import Method

#: (words, factor) of ends that are held in one of the textbook ways
STANDARD = (
    ("pinned at both ends", 1.0),
    ("fixed and pinned", pi / float(brentq(lambda u: u - tan(u), 4.4, 4.6))),
    ("fixed at both ends", 0.5),
    ("fixed, the other end slides but does not turn", 1.0),
    ("pinned, the other end slides but does not turn", 2.0),
    ("fixed and free", 2.0),
)
#: a member runs on in another where the cosine between them is beyond this; it lies in a plane where its part across is below
STRAIGHT, IN_PLANE = 0.98, 0.2
#: ratios G beyond this count as a hinge
HINGED = 1e6


def non_sway(G_a: float, G_b: float) -> float:
    """K of a column between nodes that do not move, held by beams in single curvature: G = Σ(I_c/L_c)/Σ(I_b/L_b) at each end,
    0 where it is fixed, inf where it is hinged. With u = π/K: G_a G_b u²/4 + (G_a + G_b)/2 (1 − u/tan u) + 2 tan(u/2)/u = 1."""
    a, b = (min(max(G, 1e-9), HINGED) for G in (G_a, G_b))

    def off(u: float) -> float:
        return a * b / 4 * u**2 + (a + b) / 2 * (1 - u / tan(u)) + 2 * tan(u / 2) / u - 1

    # between both ends hinged (K = 1, u = π) and both fixed (K = 0.5, u = 2π)
    low, high = pi + 1e-9, 2 * pi - 1e-12
    return pi / float(brentq(off, low, high)) if off(low) < 0 < off(high) else 1.0


def sway(G_a: float, G_b: float) -> float:
    """The same of a column whose ends move beside each other, held by beams in double curvature; inf where nothing holds it.
    (G_a G_b u² − 36)/(6 (G_a + G_b)) = u/tan u."""
    a, b = min(max(G_a, 1e-9), HINGED), min(max(G_b, 1e-9), HINGED)
    if a >= HINGED and b >= HINGED:
        return inf

    def off(u: float) -> float:
        return (a * b * u**2 - 36) - 6 * (a + b) * u / tan(u)

    return pi / float(brentq(off, 1e-6, pi - 1e-9))


def stability_functions(N: float, EI: float, L: float) -> tuple[float, float]:
    """(s, s c): moments at the near and the far end over EI/L, of a beam turned by 1 at the near end, the far one fixed, with axial
    force N (tension positive). 4 and 2 without it."""
    rho = N * L**2 / EI
    if abs(rho) < 1e-9:
        return 4.0, 2.0
    if rho < 0:
        k = sqrt(-rho)
        below = 2 - 2 * np.cos(k) - k * np.sin(k)
        return float(k * (np.sin(k) - k * np.cos(k)) / below), float(k * (k - np.sin(k)) / below)
    k = sqrt(rho)
    below = 2 - 2 * np.cosh(k) + k * np.sinh(k)
    return float(k * (k * np.cosh(k) - np.sinh(k)) / below), float(k * (np.sinh(k) - k) / below)


def _second_moment(axes: Floats, member: Member, about: Floats) -> float:
    return member.section.Iy * float(axes[1] @ about) ** 2 + member.section.Iz * float(axes[2] @ about) ** 2


def _axes(structure: Structure, member: Member) -> Floats:
    ends = structure.xyz[[member.nodes[0], member.nodes[-1]]]
    return np.asarray(local_axes(ends[:1], ends[1:], np.array([member.roll]))[0])


@dataclass(frozen=True)
class End:
    """What holds an end of a member against turning: its own kind as EI/L with that of what runs on beyond it; of beams their sums for
    single and for double curvature, in units of 2 EI/L and 6 EI/L; fixed: by a support, altogether."""

    columns: float
    single: float
    double: float
    fixed: bool
    count: int

    def ratio(self, swaying: bool) -> float:
        """G: 0 where it is fixed, inf where nothing holds it."""
        beams = self.double if swaying else self.single
        return 0.0 if self.fixed else self.columns / beams if beams > 0 else inf


def end_of(structure: Structure, member: Member, node: int, about: Floats, forces: Floats) -> End:
    """What holds a member at a node against turning about `about`. forces: (members,) N in each, tension positive."""
    axes = _axes(structure, member)
    own = member.material.E * _second_moment(axes, member, about) / structure.length(member)
    columns, single, double, count = own, 0.0, 0.0, 0
    released = member.release_start if node == member.nodes[0] else member.release_end
    if member.bar or released & {"ry", "rz"}:
        return End(columns, 0.0, 0.0, False, 0)
    for i in structure.meeting[node]:
        other = structure.members[i]
        ends = (other.nodes[0], other.nodes[-1])
        if other is member or other.bar or other.behaviour != "beam":
            continue
        its = _axes(structure, other)
        stiff = other.material.E * _second_moment(its, other, about)
        if abs(float(its[0] @ about)) > IN_PLANE:
            continue
        length = structure.length(other)
        if abs(float(its[0] @ axes[0])) > STRAIGHT:
            columns += stiff / length if node in ends else 0.0
            continue
        near, far = (
            (other.release_start, other.release_end) if node == ends[0] else (other.release_end, other.release_start)
        )
        if node in ends and near & {"ry", "rz"}:
            continue
        # a beam that passes holds by both its parts
        parts = [(length, far)] if node in ends else _parts(structure, other, node, length)
        for span, beyond in parts:
            s, sc = stability_functions(float(forces[i]), stiff, span)
            hinged = bool(beyond & {"ry", "rz"}) or _hinge_beyond(structure, other, node)
            by_far = (s - sc**2 / s) if hinged else None
            single += max(by_far if by_far is not None else s - sc, 0.0) * stiff / span / 2
            double += max(by_far if by_far is not None else s + sc, 0.0) * stiff / span / 6
        count += 1
    held = structure.fixed[node, 3:] @ np.abs(about) > 0.9
    spring = float(structure.springs[node, 3:] @ np.abs(about))
    return End(columns, single + spring / 2, double + spring / 6, bool(held), count)


def _parts(structure: Structure, member: Member, node: int, length: float) -> list[tuple[float, frozenset[str]]]:
    at = float(np.linalg.norm(structure.xyz[node] - structure.xyz[member.nodes[0]]))
    return [(at, member.release_start), (length - at, member.release_end)]


def _hinge_beyond(structure: Structure, member: Member, node: int) -> bool:
    """Whether the far end of a beam is free to turn: nothing else is stiff there, and no support holds it."""
    far = member.nodes[-1] if node == member.nodes[0] else member.nodes[0]
    if structure.fixed[far, 3:].any() or structure.springs[far, 3:].any():
        return False
    return not any(structure.members[i] is not member and not structure.members[i].bar for i in structure.meeting[far])


def methods(grounds: SteelGrounds, member: int, axis: str, column: int) -> list[Method]:
    """All ways for buckling about y or z, with the forces of one of the combinations for strength (by its place among them)."""
    combined = grounds.combined
    structure, m = combined.structure, combined.structure.members[member]
    length = structure.length(m)
    found: list[Method] = []
    axes = _axes(structure, m)
    about = axes[1] if axis == "y" else axes[2]
    forces = _axial(grounds, column)
    ends = [end_of(structure, m, node, about, forces) for node in (m.nodes[0], m.nodes[-1])]
    for swaying, name in ((False, "frame, not swaying"), (True, "frame, swaying")):
        G = [end.ratio(swaying) for end in ends]
        said = ", ".join(f"G = {_figure(g)}" for g in G)
        if not swaying:
            found.append(
                Method("non-sway", name, non_sway(*G), f"stiffness of the frame at its ends, not swaying, {said}")
            )
            continue
        K = sway(*G)
        words = f"stiffness of the frame at its ends, swaying, {said}"
        none = "Nothing holds its ends against turning: it falls." if not np.isfinite(K) else ""
        found.append(Method("sway", name, K if np.isfinite(K) else None, words, none))
    found.append(_by_buckling(grounds, member, axis, column, length))
    if axis == "y":
        factor, why, _ = default_factors(grounds.document, structure, m, grounds.beyond(member))
        found.append(Method("rule", "by its role", factor, why))
    return found + [Method("standard", words, standard, words) for words, standard in STANDARD]


def _figure(G: float) -> str:
    return "∞" if G > HINGED else f"{G:.2f}"


def _axial(grounds: SteelGrounds, column: int) -> Floats:
    """(members,) the most compressive force of each in one combination."""
    elements = grounds.combined.elements
    least = grounds.forces.N[:, :, column].min(axis=1)
    found = np.full(len(grounds.combined.structure.members), np.inf)
    np.minimum.at(found, elements.member, least)
    return np.where(np.isfinite(found), found, 0.0)


def _by_buckling(grounds: SteelGrounds, member: int, axis: str, column: int, length: float) -> Method:
    """From the critical force that the buckling of the whole leaves the member, where it takes part in a mode."""
    combined = grounds.combined
    standing, m = combined.standing, combined.structure.members[member]
    at = int(combined.column[grounds.strength[column]])
    name = "buckling of the whole"
    if at < 0:
        return Method("buckling", name, None, "not analysed for this combination", "No buckling analysis of it.")
    # along local z a member bends about y
    N_cr = float(standing.least[1 if axis == "y" else 0, member, at])
    alpha = float(standing.alpha[at])
    if not np.isfinite(N_cr):
        return Method(
            "buckling",
            name,
            None,
            f"α_cr = {alpha:.2f}",
            "It takes part in none of the lowest modes, which are those that are looked at.",
        )
    inertia = m.section.Iy if axis == "y" else m.section.Iz
    factor = pi * sqrt(m.material.E * inertia / N_cr) / length
    alone = int(standing.by_itself[at])
    other = bool(standing.part[:, at].any()) and not bool(standing.part[member, at])
    note = ""
    if other or (alone >= 0 and alone != member):
        first = "the whole" if alone < 0 else f"“{combined.structure.members[alone].name}”"
        note = f"The lowest mode is not this member's: {first} buckles first, at α_cr = {alpha:.2f}."
    kind = "swaying" if standing.sways[at] else "not swaying"
    return Method(
        "buckling", name, factor, f"buckling of the whole, α_cr = {alpha:.2f}, {kind}, N_cr = {N_cr / 1e3:.0f} kN", note
    )
