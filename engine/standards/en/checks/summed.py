"""Channels, flats and rounds that bend: cross-sections along them, and buckling between the restraints of their flanges."""

from __future__ import annotations

import numpy as np

from engine.standards.en.checks.alike import Segments
from engine.standards.en.checks.grounds import TORSION_UNCHECKED, SteelGrounds
from engine.standards.en.summed import SUMMED, Summed, Values, summed_buckling, summed_of, summed_section
from engine.structure.model import Floats, Ints, Member
from engine.verification.outcomes import Findings, Held, Outcome, Reached, most_of

#: what a verdict on such a shape leaves out
LEFT_OUT = {
    "channel": "its loads count at its shear centre: the torsion of others is not checked",
    "tee": "loads sideways count at its shear centre, not at its centroid",
}

Columns = list[int] | slice


def is_summed(member: Member) -> bool:
    """Whether a member is verified here."""
    return member.section.shape in SUMMED and not member.bar and member.material.strength is not None


def left_out(member: Member) -> list[str]:
    """What a verdict on such a member leaves out."""
    return [words] if (words := LEFT_OUT.get(member.section.shape)) else []


def _of(grounds: SteelGrounds, member: int) -> Summed:
    m = grounds.combined.structure.members[member]
    return summed_of(m.section, m.material)


def section_use(grounds: SteelGrounds, member: int, columns: Columns = slice(None)) -> tuple[Ints, Values]:
    """(elements of the member, `summed_section` at their stations (e, s, c))."""
    own = grounds.combined.elements.rows(member)
    f = grounds.peaks
    N, Vy, Vz, My, Mz = (values[own][..., columns] for values in (f.N, f.Vy, f.Vz, f.My, f.Mz))
    return own, summed_section(_of(grounds, member), N, Vy, Vz, My, Mz, grounds.document.rules.gamma_M0)


def buckling_use(grounds: SteelGrounds, member: int, columns: list[int] | None = None) -> tuple[Segments, Values]:
    """(its segments, `summed_buckling` of them (r, c))."""
    s = grounds.segments([member], columns)
    limits: Floats = grounds.limits[:, member][:, slice(None) if columns is None else columns]
    lengths = grounds.lengths[member]
    v = summed_buckling(
        _of(grounds, member),
        s.N,
        s.My,
        s.Mz,
        s.C1,
        s.lift,
        (lengths.y, lengths.z, lengths.torsion),
        s.L_LT[:, None],
        grounds.document.rules.gamma_M1,
        limits[0],
        limits[1],
        np.asarray(s.flange)[:, None],
    )
    return s, v


def summed(grounds: SteelGrounds, found: Findings) -> list[Held]:
    """Add to the outcomes and reasons of each such member, to what its verdict leaves out, and to what the sections reach along it;
    gives what its segments reach."""
    held = []
    for i, m in enumerate(grounds.combined.structure.members):
        if not is_summed(m):
            continue
        found.left_out[i] += left_out(m)
        if _of(grounds, i).cls >= 4:
            found.reasons[i].append("a class 4 cross-section of this shape is not covered")
            found.slender.add(i)
            continue
        p, s = _of(grounds, i), m.section
        if s.shape == "channel" and (s.h - 2 * s.tf) / s.tw > 72 * p.epsilon / grounds.document.national.steel.eta:
            found.reasons[i].append("shear buckling of this shape (6.2.6(6)) is not covered")
            found.slender.add(i)
        twisted = np.abs(grounds.peaks.T[grounds.combined.elements.member == i]).max() / s.Wt
        if twisted > TORSION_UNCHECKED * p.fy / grounds.document.rules.gamma_M0 / np.sqrt(3):
            found.reasons[i].append("torsion above what is negligible (6.2.7) is not covered yet")
        own, v = section_use(grounds, i)
        u = v["u_sum"]
        found.along[own] = u.max(axis=2)
        e, at, c = (int(k) for k in np.unravel_index(int(u.argmax()), u.shape))
        x = float(grounds.combined.elements.positions(grounds.peaks.x)[own[e], at])
        found.outcomes[i].append(Outcome("sum", float(u[e, at, c]), c, x, int(own[e]), at))
        segments, w = buckling_use(grounds, i)
        u = w["u_single"]
        row, c = (int(k) for k in np.unravel_index(int(u.argmax()), u.shape))
        found.outcomes[i].append(
            Outcome("single", float(u[row, c]), c, float(segments.start[row] + segments.end[row]) / 2, row)
        )
        held.append(Held(segments.member, segments.start, segments.end, u.max(axis=1)))
    return held


def summed_in(grounds: SteelGrounds, column: int, along: Floats) -> list[Held]:
    """What they reach in one combination for strength: their sections into `along` (e, s), and their segments."""
    held = []
    for i, m in enumerate(grounds.combined.structure.members):
        if is_summed(m) and _of(grounds, i).cls < 4:
            own, v = section_use(grounds, i, [column])
            along[own] = v["u_sum"][..., 0]
            s, w = buckling_use(grounds, i, [column])
            held.append(Held(s.member, s.start, s.end, w["u_single"][:, 0]))
    return held


def summed_reached(grounds: SteelGrounds, member: int, governing: bool = False) -> list[Reached]:
    """Such a member in every combination for strength; nothing for other members."""
    if not is_summed(grounds.combined.structure.members[member]):
        return []
    own, v = section_use(grounds, member)
    if np.isnan(v["u_sum"]).all():
        return []
    places = grounds.combined.elements.positions(grounds.peaks.x, own)
    where = [(int(own[e]), s, float(places[e, s])) for e in range(len(own)) for s in range(places.shape[1])]
    segments, w = buckling_use(grounds, member)
    middles = [(r, -1, float(segments.start[r] + segments.end[r]) / 2) for r in range(len(segments.member))]
    return [
        most_of("sum", grounds.strength, v["u_sum"].reshape(len(where), -1), where),
        most_of("single", grounds.strength, w["u_single"], middles),
    ]


def summed_most(grounds: SteelGrounds, most: Floats) -> None:
    """Raise (members, combinations) to what such members reach."""
    for i, m in enumerate(grounds.combined.structure.members):
        if is_summed(m):
            _, v = section_use(grounds, i)
            _, w = buckling_use(grounds, i)
            reached = np.maximum(v["u_sum"].max(axis=(0, 1)), w["u_single"].max(axis=0))
            most[i] = np.maximum(most[i], np.nan_to_num(reached))
