"""Members whose torsion is not negligible: cross-sections with the bimoment of warping, and buckling with it."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import product

import numpy as np

from engine.standards.en.checks.alike import UNEQUAL, Segments
from engine.standards.en.checks.grounds import HAUNCH_TORSION_LIMIT, TORSION_LIMIT, TORSION_UNCHECKED, SteelGrounds
from engine.standards.en.checks.stability import stability_values
from engine.standards.en.steel import Values, classify
from engine.standards.en.torsion import Warped, torsion_member, torsion_section, warped
from engine.structure.model import HINGE, Bools, Floats, Ints
from engine.verification.outcomes import Findings, Held, Outcome, Reached, most_of

#: shapes with a check: I sections, and hollow ones
SHAPES = ("I", "square", "rectangular", "circular")
GOES_ON = "its torsion goes on in another member where nothing holds it: make one member of both, or hold the node"
HAUNCHED = "torsion above what is negligible (6.2.7) with a haunch, taper or unequal flanges is not covered yet"
CLASS_4 = "torsion above what is negligible (6.2.7) in a class 4 cross-section is not covered"

Columns = list[int] | slice
#: elements of a member, and what torsion does at their stations
Twisted = tuple[Ints, Warped]
EVERY = slice(None)
#: members that are looked at together
TOGETHER = 32


def use_of(grounds: SteelGrounds, member: int, columns: Columns = EVERY) -> Floats:
    """(c,) the largest torque along a member, as St Venant's shear stress over the yield stress in shear."""
    m = grounds.combined.structure.members[member]
    T = grounds.peaks.T[grounds.combined.elements.rows(member)][..., columns]
    strength = m.material.fy(max(m.section.tf, m.section.tw)) / grounds.document.rules.gamma_M0 / np.sqrt(3)
    return np.asarray(np.abs(T).max(axis=(0, 1)) / m.section.Wt / strength)


def is_twisted(grounds: SteelGrounds, member: int) -> bool:
    """Whether a prismatic member has torsion that is not negligible, and a check of it."""
    m = grounds.combined.structure.members[member]
    if m.section.shape not in SHAPES or m.material.strength is None or m.bar or m.pieces or not grounds.strength:
        return False
    return bool(use_of(grounds, member).max() > TORSION_LIMIT)


def counts(grounds: SteelGrounds, member: int, columns: Columns = EVERY) -> Bools:
    """(c,) whether a member's torsion is more than negligible in each combination."""
    return np.asarray(use_of(grounds, member, columns) > TORSION_LIMIT)


def _warping_at(grounds: SteelGrounds, member: int) -> list[tuple[bool, bool]]:
    """Which ends may be held against warping: where a support holds or springs more than one rotation, or other members meet it, without
    a hinge in bending, both being held and not is looked at."""
    structure = grounds.combined.structure
    m = structure.members[member]
    may = []
    for node, released in ((m.nodes[0], m.release_start), (m.nodes[-1], m.release_end)):
        alone = all(other == member for other in structure.meeting[node])
        turns = (structure.fixed[node, 3:] | (structure.springs[node, 3:] != 0)).sum()
        may.append((False, True) if (turns > 1 or not alone) and not released & HINGE else (False,))
    return [(start, end) for start, end in product(*may)]


def twist_of(grounds: SteelGrounds, member: int, columns: Columns = EVERY) -> Twisted:
    """(elements of a member, the largest bimoment, St Venant torque and twist, (elements, stations, combinations), whichever ends are held
    against warping)."""
    rows = grounds.combined.elements.rows(member)
    T = grounds.peaks.T[rows][..., columns]
    m = grounds.combined.structure.members[member]
    if grounds.steel.kind[member] != 0:
        return rows, Warped(np.zeros(T.shape), np.abs(T), np.zeros(T.shape))
    x = grounds.combined.elements.positions(grounds.peaks.x, rows).ravel()
    stiff = m.material.E * m.section.Iw, m.material.G * m.section.It
    flat = T.reshape(len(x), -1)
    cases = [warped(x, flat, *stiff, held) for held in _warping_at(grounds, member)]
    B, T_t, twist = (
        np.max([np.abs(getattr(case, name)) for case in cases], axis=0).reshape(T.shape)
        for name in ("B", "T_t", "twist")
    )
    return rows, Warped(B, T_t, twist)


def section_use(
    grounds: SteelGrounds, member: int, columns: Columns = EVERY, known: Twisted | None = None
) -> tuple[Ints, Warped, Values]:
    """(elements, what torsion does, `torsion_section` at (elements, stations, combinations)). known: `twist_of` the same, where it is known."""
    rows, twist = known or twist_of(grounds, member, columns)
    rules, eta = grounds.document.rules, grounds.document.national.steel.eta
    N, Vy, Vz, My, Mz = (getattr(grounds.peaks, name)[rows][..., columns] for name in ("N", "Vy", "Vz", "My", "Mz"))
    p = grounds.steel.take(np.full(len(rows), member), 2)
    v = torsion_section(p, N, Vy, Vz, My, Mz, twist.B, twist.T_t, rules.gamma_M0, eta, rules.gamma_M1)
    return rows, twist, v


def member_use(
    grounds: SteelGrounds, members: Sequence[int], columns: Columns = EVERY, known: Sequence[Twisted] | None = None
) -> tuple[Segments, Values]:
    """(segments of members, `torsion_member` with `stability_check` on them, (segments, combinations)). known: `twist_of` of each, where it is known."""
    picked = list(range(len(grounds.strength)))[columns] if isinstance(columns, slice) else columns
    s = grounds.segments(members, picked)
    v = stability_values(grounds.document, s, grounds.steel, grounds.limits[..., columns])
    B, T_t = np.zeros((len(s.member), len(picked))), np.zeros((len(s.member), len(picked)))
    for i, (rows, twist) in zip(members, known or [twist_of(grounds, i, columns) for i in members], strict=True):
        own = np.flatnonzero(s.member == i)
        x = grounds.combined.elements.positions(grounds.peaks.x, rows).ravel()
        within = (x >= s.start[own, None] - 1e-6) & (x <= s.end[own, None] + 1e-6)
        B[own] = np.max(np.where(within[..., None], twist.B.reshape(len(x), -1), 0.0), axis=1)
        T_t[own] = twist.T_t.reshape(len(x), -1).max(axis=0)
    p = grounds.steel.take(s.member, 1)
    rules = grounds.document.rules
    most = T_t / (p.Wt * p.fy / rules.gamma_M0 / np.sqrt(3))
    return s, v | torsion_member(p, v, s.N, B, most, rules.gamma_M1) | {"B": B, "u_T": most}


def torsion(grounds: SteelGrounds, found: Findings) -> list[Held]:
    """Add to the outcomes and reasons of each member in torsion."""
    _uncovered(grounds, found)
    held = []
    twisted = [i for i in range(len(found.outcomes)) if is_twisted(grounds, i)]
    for i, reached in _all_reached(grounds, twisted):
        if i in grounds.reaches:
            found.reasons[i].append(GOES_ON)
        for r in reached:
            if r.worst >= 0:
                found.outcomes[i].append(r.outcome(r.worst))
            if np.isnan(r.utilisation[counts(grounds, i)]).any():
                found.reasons[i].append(CLASS_4)
        most = max(float(np.nan_to_num(r.utilisation).max()) for r in reached)
        length = grounds.combined.structure.length(grounds.combined.structure.members[i])
        held.append(Held(np.array([i]), np.zeros(1), np.array([length]), np.array([most])))
    return held


def _uncovered(grounds: SteelGrounds, found: Findings) -> None:
    """Members with haunches, tapers or unequal flanges whose torsion counts: only that of sections with a haunch is in their stresses, up
    to a half."""
    members, owner = grounds.combined.structure.members, grounds.combined.elements.member
    has_haunch = (grounds.haunched_row >= 0) & (grounds.steel_of >= len(members))
    limit = np.where(has_haunch, HAUNCH_TORSION_LIMIT, TORSION_UNCHECKED)
    for i in np.unique(owner[grounds.torsion_along > limit]).tolist():
        if members[i].pieces or members[i].section.shape in UNEQUAL:
            found.reasons[i].append(HAUNCHED)


def torsion_reached(grounds: SteelGrounds, member: int, governing: bool = False) -> list[Reached]:
    """Both criteria of a member in torsion in every combination for strength, NaN where it is negligible; nothing for others."""
    return next((r for _, r in _all_reached(grounds, [member])), []) if is_twisted(grounds, member) else []


def _all_reached(grounds: SteelGrounds, members: Sequence[int]) -> Iterator[tuple[int, list[Reached]]]:
    """The same of members, all of which are in torsion, some together: under what any of them asks for. The others are asked by the checks
    without torsion."""
    for at in range(0, len(members), TOGETHER):
        some = members[at : at + TOGETHER]
        asked = np.array([counts(grounds, i) for i in some])
        columns = np.flatnonzero(asked.any(axis=0))
        known = [twist_of(grounds, i, columns.tolist()) for i in some]
        segments, w = member_use(grounds, some, columns.tolist(), known)
        twist = np.broadcast_to(w["u_twist"], (len(segments.member), len(columns)))
        for i, own, found in zip(some, asked[:, columns], known, strict=True):
            rows = np.flatnonzero(segments.member == i)
            middles = [(k, -1, float(segments.start[r] + segments.end[r]) / 2) for k, r in enumerate(rows)]
            by_buckling = np.full((len(rows), len(grounds.strength)), np.nan)
            by_buckling[:, columns[own]] = twist[rows][:, own]
            yield (
                i,
                [
                    _by_section(grounds, i, columns[own], found, own),
                    most_of("twist", grounds.strength, by_buckling, middles),
                ],
            )


def _by_section(grounds: SteelGrounds, member: int, asked: Ints, known: Twisted, own: Bools) -> Reached:
    """Cross-sections of a member in the combinations it asks for. own: which those are of what is known."""
    twist = Warped(*(getattr(known[1], name)[..., own] for name in ("B", "T_t", "twist")))
    rows, _, v = section_use(grounds, member, asked.tolist(), (known[0], twist))
    places = grounds.combined.elements.positions(grounds.peaks.x, rows)
    where = [(int(rows[e]), s, float(places[e, s])) for e in range(len(rows)) for s in range(places.shape[1])]
    by_section = np.full((len(where), len(grounds.strength)), np.nan)
    by_section[:, asked] = v["u_torsion"].reshape(len(where), -1)
    return most_of("torsion", grounds.strength, by_section, where)


def torsion_most(grounds: SteelGrounds, most: Floats) -> None:
    """Raise (members, combinations) to what torsion makes them reach."""
    for i in range(len(most)):
        for r in torsion_reached(grounds, i):
            most[i] = np.maximum(most[i], np.nan_to_num(r.utilisation))


def torsion_of(grounds: SteelGrounds, column: int, along: Floats) -> list[Held]:
    """What members in torsion reach in one combination for strength."""
    held = []
    for i, m in enumerate(grounds.combined.structure.members):
        if not is_twisted(grounds, i) or not counts(grounds, i, [column])[0]:
            continue
        rows, _, v = section_use(grounds, i, [column])
        along[rows] = np.fmax(along[rows], v["u_torsion"][..., 0])
        u = float(np.nan_to_num(member_use(grounds, [i], [column])[1]["u_twist"]).max())
        held.append(Held(np.array([i]), np.zeros(1), np.array([grounds.combined.structure.length(m)]), np.array([u])))
    return held


def torsion_proof(grounds: SteelGrounds, member: int, outcome: Outcome) -> dict[str, float]:
    """Every value of the check of a cross-section at the place of an outcome."""
    rows, twist, v = section_use(grounds, member, [outcome.combination])
    at = int(np.flatnonzero(rows == outcome.row)[0]), outcome.station, 0
    there = outcome.row, outcome.station, outcome.combination
    m = grounds.combined.structure.members[member]
    p = grounds.steel.take(np.array([member]), 0)
    N = grounds.peaks.N[there] / v["left"][at]
    values = {name: float(np.ravel(value)[0]) for name, value in classify(p, np.array([N])).items()}
    values |= {name: float(np.broadcast_to(value, v["u_torsion"].shape)[at]) for name, value in v.items()}
    values |= {name: float(getattr(grounds.peaks, name)[there]) for name in ("N", "Vy", "Vz", "T", "My", "Mz")}
    values |= {name: float(getattr(twist, name)[at]) for name in ("B", "T_t", "twist")}
    stiff = m.material.E * m.section.Iw
    values["k_t"] = float(np.sqrt(m.material.G * m.section.It / stiff)) if stiff > 0 else 0.0
    return values | {"u": values["u_torsion"]}


def twist_proof(grounds: SteelGrounds, member: int, outcome: Outcome) -> dict[str, float]:
    """Every value of the check of buckling, beside those of `stability_check`, in the segment of an outcome."""
    _, w = member_use(grounds, [member], [outcome.combination])
    of = np.broadcast_shapes(w["u_twist"].shape, w["B"].shape)
    names = ("u_63", "B", "u_T", "h_s", "W_w", "B_Rd", "b_B", "k_w", "k_zw", "grown", "k_alpha", "u_twist")
    values = {name: float(np.broadcast_to(w[name], of)[outcome.row, 0]) for name in names}
    _, twist = twist_of(grounds, member, [outcome.combination])
    return values | {"T_t": float(twist.T_t.max()), "u": values["u_twist"]}
