"""What members would reach if they were made of others: all candidates at once, under the forces that are present.

Only the combinations, segments and stations that govern now, or nearly, are looked at. Where a haunch or taper governs, its utilisation
goes with that of the prismatic member in the same stretch.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

import numpy as np

from engine.catalogue.properties import Section
from engine.catalogue.steels import Material
from engine.standards.en.checks.grounds import TORSION_UNCHECKED, SteelGrounds
from engine.standards.en.checks.sections import section_values
from engine.standards.en.checks.stability import checked, criteria, stability_values
from engine.standards.en.steel import section_check, steel_arrays, torsion_use
from engine.structure.model import Floats, Ints

#: of each criterion the places and combinations that are looked at, those that reach most now
PLACES = 24
#: what members would be made of, what they are made of now the last of them
MadeOf = Sequence[tuple[Section, Material]]


def candidates(
    grounds: SteelGrounds,
    members: Sequence[int],
    made_of: MadeOf,
    columns: list[int],
    now: Mapping[str, float],
    twist: bool,
) -> Floats | None:
    """(n, 2) as `Checks.candidates`: by arrays of rolled and welded I sections and of hollow sections; None where anything is of another
    shape or of unknown strength."""
    bar = grounds.combined.structure.members[members[0]].bar
    steel = steel_arrays([(section, material, bar) for section, material in made_of])
    now_of = grounds.steel.take(np.array(list(members)), 0)
    if (
        not (np.isfinite(now_of.fy).all() and np.isfinite(steel.fy).all())
        or max(now_of.kind.max(), steel.kind.max()) > 2
    ):
        return None
    if not columns:
        return np.zeros((len(made_of), 2))
    # panels at rigid joints go with the web that bears the shear, under the moments that are there
    webs = np.array([section.Av_z for section, _ in made_of]) * steel.fy
    by_panels = now.get("knee", 0.0) * webs[-1] / webs
    by_sections = np.maximum(_sections(grounds, members, made_of, columns, twist), by_panels)
    return np.stack([by_sections, _stability(grounds, members, made_of, columns, now.get("general", 0.0))], axis=1)


def _places(values: list[Floats]) -> tuple[Ints, ...]:
    """Where several arrays of one shape are largest, each place once."""
    found: list[Ints] = []
    for u in values:
        flat = np.nan_to_num(u, nan=-1.0).ravel()
        count = min(PLACES, flat.size)
        found.append(np.argpartition(flat, flat.size - count)[flat.size - count :])
    return np.unravel_index(np.unique(np.concatenate(found)), values[0].shape)


def _stability(
    grounds: SteelGrounds, members: Sequence[int], made_of: MadeOf, columns: list[int], general: float
) -> Floats:
    document, own_members = grounds.document, grounds.combined.structure.members
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
        steel = steel_arrays([(x, material, own_members[members[0]].bar) for x, material in made_of])
        # the frame's own buckling goes with the stiffness of what buckles
        stiffness = np.stack([[x.Iy for x, _ in made_of], [x.Iz for x, _ in made_of]])
        most = limits[:, pairs.member, column][:, each] * (stiffness / stiffness[:, -1:])[:, of]
        p = steel.take(of, 1)
        u = np.stack(
            [np.nan_to_num(x, nan=np.inf) for x in criteria(checked(document, s, p, most[..., None]), p).values()]
        )
        found[k] = u.max(axis=0).reshape(len(made_of), count).max(axis=1)
    # of stretches with a haunch: as far as the general method found them now
    if general > 0 and found[1, -1] > 0:
        found[1] *= general / found[1, -1]
    return np.asarray(found.max(axis=0))


def _sections(
    grounds: SteelGrounds, members: Sequence[int], made_of: MadeOf, columns: list[int], twist: bool
) -> Floats:
    document, elements = grounds.document, grounds.combined.elements
    own = np.isin(elements.member, members) & (grounds.steel_of == elements.member)
    e = np.flatnonzero(own)
    if not len(e):
        return np.zeros(len(made_of))
    v = section_values(grounds, e.tolist(), slice(None), columns)
    shape = (len(e), grounds.peaks.N.shape[1], len(columns))
    at = _places([np.broadcast_to(v[key], shape) for key in ("u_NM", "u_V")])
    f, count = grounds.peaks, len(at[0])
    where = e[at[0]], at[1], np.array(columns)[at[2]]
    N, Vy, Vz, T, My, Mz = (np.tile(x[where], len(made_of)) for x in (f.N, f.Vy, f.Vz, f.T, f.My, f.Mz))
    steel = steel_arrays([(s, material, grounds.combined.structure.members[members[0]].bar) for s, material in made_of])
    p = steel.take(np.repeat(np.arange(len(made_of)), count), 0)
    gammas = document.rules.gamma_M0, document.national.steel.eta, document.rules.gamma_M1
    w = section_check(p, N, Vy, Vz, T, My, Mz, *gammas)
    u = np.maximum(np.nan_to_num(w["u_NM"], nan=np.inf), np.nan_to_num(w["u_V"], nan=np.inf))
    found = np.broadcast_to(u, N.shape).reshape(len(made_of), count).max(axis=1)
    # of prismatic members torsion is verified once they are made of it
    if twist and any(grounds.combined.structure.members[i].pieces for i in members):
        most = np.full(len(made_of), np.abs(f.T[e]).max())
        twisted = torsion_use(steel.take(np.arange(len(made_of)), 0), most, document.rules.gamma_M0)
        found = np.where(twisted > TORSION_UNCHECKED, np.inf, found)
    return np.asarray(found)
