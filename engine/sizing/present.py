"""What the candidates of a group would reach under the forces that are present: all of them at once.

Only the combinations, segments and stations that govern now, or nearly, are looked at; the analysis that follows a proposal looks at
all. Where a haunch or taper governs, its utilisation goes with that of the prismatic member in the same stretch.
"""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np

from engine.catalogue.properties import Section
from engine.catalogue.steels import Material
from engine.chain import Chain
from engine.expand import materials_of
from engine.sizing.groups import Candidates, Group
from engine.standards.en.steel import section_check, steel_arrays, torsion_use
from engine.structure.model import Floats, Ints
from engine.verification.axial import axial_values, is_axial
from engine.verification.lengths import effective_lengths
from engine.verification.outcomes import SERVICE, kind_of
from engine.verification.runs import HELD, reaches
from engine.verification.sections import TORSION_LIMIT, section_values
from engine.verification.single import reached, under_present
from engine.verification.stability import checked, criteria, stability_values
from engine.verification.verify import STRENGTH

#: of each criterion the places and combinations that are looked at, those that reach most now
PLACES = 24
#: members that are looked at where candidates are tried one after the other
FEW = 2
#: utilisation of what could not be computed
UNKNOWN = np.inf


def reached_by(chain: Chain, group: Group, candidates: Candidates) -> Floats:
    """(n, 2) utilisation of candidates in cross-sections and in stability."""
    materials = materials_of(chain.document)
    made_of = [
        (s, materials.material(choice.grade)) for s, choice in zip(candidates.sections, candidates.choices, strict=True)
    ]
    now = now_of(chain, group)
    members = chain.structure.members
    # the present one is the last of them
    made_of.append((members[group.members[0]].section, members[group.members[0]].material))
    steel = steel_arrays([(section, material, members[group.members[0]].bar) for section, material in made_of])
    known = np.isfinite(chain.verification.grounds.steel.fy[list(group.members)]).all()
    if known and np.isfinite(steel.fy).all():
        found = np.stack([_sections(chain, group, made_of), _stability(chain, group, made_of)], axis=1)
    else:
        found = np.array([_one(chain, group, section, material) for section, material in made_of])
    found = np.where(np.isnan(found), UNKNOWN, found)
    with np.errstate(divide="ignore", invalid="ignore"):
        raise_by = np.where((found[-1] > 0) & np.isfinite(found[-1]), now[:2] / found[-1], 1.0)
    return np.asarray(found[:-1] * np.where(np.isfinite(raise_by), raise_by, 1.0))


def now_of(chain: Chain, group: Group) -> Floats:
    """(3,) what a group reaches now in cross-sections, stability and service, of what is covered."""
    found = np.zeros(3)
    kinds = ("section", "stability", "service")
    for i in group.members:
        for o in chain.verification.verdicts[i].outcomes:
            k = kinds.index(kind_of(o.criterion))
            found[k] = max(found[k], o.utilisation)
    return found


def _governing(chain: Chain, group: Group) -> list[int]:
    """The combinations for strength that govern any criterion of any member of a group."""
    verdicts = chain.verification.verdicts
    found = {o.combination for i in group.members for o in verdicts[i].outcomes if o.criterion in STRENGTH}
    return sorted(found)


def _places(values: list[Floats]) -> tuple[Ints, ...]:
    """Where several arrays of one shape are largest, each place once."""
    found: list[Ints] = []
    for u in values:
        flat = np.nan_to_num(u, nan=-1.0).ravel()
        count = min(PLACES, flat.size)
        found.append(np.argpartition(flat, flat.size - count)[flat.size - count :])
    return np.unravel_index(np.unique(np.concatenate(found)), values[0].shape)


def _stability(chain: Chain, group: Group, made_of: list[tuple[Section, Material]]) -> Floats:
    document, grounds = chain.document, chain.verification.grounds
    columns, members = _governing(chain, group), list(group.members)
    if not columns:
        return np.zeros(len(made_of))
    segments = grounds.segments(members, columns)
    limits = grounds.limits[..., columns]
    v = stability_values(document, segments, grounds.steel, limits)
    present = criteria(v, grounds.steel.take(segments.member, 1))
    found = np.zeros((2, len(made_of)))
    for k, own in enumerate((~segments.inside, segments.inside)):
        rows = np.flatnonzero(own)
        if not len(rows):
            continue
        picked = _places([np.where(own[:, None], u, -1.0) for u in present.values()])
        inside = own[picked[0]]
        row, column = picked[0][inside], picked[1][inside]
        if not len(row):
            continue
        factors: dict[str, Any] = {}
        if segments.Cmy_0 is not None:
            factors["Cmy_0"] = segments.Cmy_0[:, row, column]
        pairs = segments.pairs(row, column, factors)
        count = len(row)
        each, of = np.tile(np.arange(count), len(made_of)), np.repeat(np.arange(len(made_of)), count)
        s = pairs.of(each, slice(None))  # type: ignore[arg-type]
        depth = np.array([section.h for section, _ in made_of])[of]
        s = replace(s, a_T=np.where(s.a_T > 0, depth / 2, 0.0))
        steel = steel_arrays([(x, material, chain.structure.members[members[0]].bar) for x, material in made_of])
        # the frame's own buckling goes with the stiffness of what buckles
        stiffness = np.stack([[x.Iy for x, _ in made_of], [x.Iz for x, _ in made_of]])
        most = limits[:, pairs.member, column][:, each] * (stiffness / stiffness[:, -1:])[:, of]
        p = steel.take(of, 1)
        u = np.stack(
            [np.nan_to_num(x, nan=np.inf) for x in criteria(checked(document, s, p, most[..., None]), p).values()]
        )
        found[k] = u.max(axis=0).reshape(len(made_of), count).max(axis=1)
    # of stretches with a haunch: as far as the general method found them now
    general = [
        o.utilisation for i in members for o in chain.verification.verdicts[i].outcomes if o.criterion == "general"
    ]
    if general and found[1, -1] > 0:
        found[1] *= max(general) / found[1, -1]
    return np.asarray(found.max(axis=0))


def _sections(chain: Chain, group: Group, made_of: list[tuple[Section, Material]]) -> Floats:
    document, grounds = chain.document, chain.verification.grounds
    elements, columns = chain.response.elements, _governing(chain, group)
    own = np.isin(elements.member, group.members) & (grounds.steel_of == elements.member)
    e = np.flatnonzero(own)
    if not len(e) or not columns:
        return np.zeros(len(made_of))
    v = section_values(document, grounds, e.tolist(), slice(None), columns)
    shape = (len(e), grounds.peaks.N.shape[1], len(columns))
    at = _places([np.broadcast_to(v[key], shape) for key in ("u_NM", "u_V")])
    f, count = grounds.peaks, len(at[0])
    where = e[at[0]], at[1], np.array(columns)[at[2]]
    N, Vy, Vz, T, My, Mz = (np.tile(x[where], len(made_of)) for x in (f.N, f.Vy, f.Vz, f.T, f.My, f.Mz))
    steel = steel_arrays([(s, material, chain.structure.members[group.members[0]].bar) for s, material in made_of])
    p = steel.take(np.repeat(np.arange(len(made_of)), count), 0)
    gammas = document.rules.gamma_M0, document.national.steel.eta, document.rules.gamma_M1
    w = section_check(p, N, Vy, Vz, T, My, Mz, *gammas)
    u = np.maximum(np.nan_to_num(w["u_NM"], nan=np.inf), np.nan_to_num(w["u_V"], nan=np.inf))
    found = np.broadcast_to(u, N.shape).reshape(len(made_of), count).max(axis=1)
    if not any(chain.verification.verdicts[i].not_covered for i in group.members):
        most = np.full(len(made_of), np.abs(f.T[e]).max())
        twisted = torsion_use(steel.take(np.arange(len(made_of)), 0), most, document.rules.gamma_M0)
        found = np.where(twisted > TORSION_LIMIT, UNKNOWN, found)
    return np.asarray(found)


def _one(chain: Chain, group: Group, section: Section, material: Material) -> tuple[float, float]:
    """One candidate, by the members that reach most now."""
    verdicts, structure = chain.verification.verdicts, chain.structure
    ranked = sorted(
        group.members,
        key=lambda i: -max((o.utilisation for o in verdicts[i].outcomes if o.criterion in STRENGTH), default=0.0),
    )
    chosen = set(group.members)
    members = tuple(
        m.but(section=section, material=material) if i in chosen else m for i, m in enumerate(structure.members)
    )
    other = replace(structure, members=members)
    grounds = under_present(chain.document, other, chain.verification)
    lengths, on = list(chain.verification.grounds.lengths), reaches(other)
    for i in ranked[:FEW]:
        lengths[i] = effective_lengths(chain.document, other, members[i], on.get(i, HELD))
    vars(grounds)["lengths"] = tuple(lengths)
    found = [0.0, 0.0]
    for i in ranked[:FEW]:
        if is_axial(members[i]) and members[i].checks.holes is None:
            u = axial_values(chain.document, grounds, i)["u_axial"]
            found[1] = max(found[1], UNKNOWN if np.isnan(u).any() else float(u.max()))
            continue
        strong = reached(chain.document, grounds, i, governing=True)
        if not strong:
            return UNKNOWN, UNKNOWN
        for r in strong:
            k = 0 if kind_of(r.criterion) == "section" else 1
            known = not np.isnan(r.utilisation).any() or r.criterion == "general"
            found[k] = max(found[k], float(np.nanmax(r.utilisation)) if known else UNKNOWN)
    return found[0], found[1]


def worst_of_service(chain: Chain, group: Group) -> list[tuple[int, int]]:
    """(stretch, combination among all) of what governs each limit of movement of a group."""
    best: dict[str, tuple[float, int, int]] = {}
    for i in group.members:
        for o in chain.verification.verdicts[i].outcomes:
            if o.criterion in SERVICE:
                number = chain.verification.used(o.criterion)[o.combination]
                best[o.criterion] = max(best.get(o.criterion, (0.0, 0, 0)), (o.utilisation, o.row, number))
    return [(stretch, number) for _, stretch, number in best.values()]
