"""Stability of all members under all combinations: bounds tell which combinations can govern, and those are checked in full."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from engine.document import Document
from engine.processors import shared_out
from engine.standards.en.checks.alike import Alike, Segments, alike
from engine.standards.en.checks.grounds import SteelGrounds
from engine.standards.en.checks.sections import NEAR, raise_to
from engine.standards.en.checks.segments import Along
from engine.standards.en.member_stability import stability_check
from engine.standards.en.steel import SteelArrays, Values
from engine.structure.model import Bools, Floats, Ints
from engine.verification.outcomes import Findings, Held, Outcome, Reached, most_of


def stability_values(document: Document, segments: Segments, steel: SteelArrays, limits: Floats) -> Values:
    """`stability_check` on segments. steel: of every member; limits: (2, members, combinations) as in `SteelGrounds`, of the combinations
    that the segments have."""
    return checked(document, segments, steel.take(segments.member, 1), limits[:, segments.member])


def checked(document: Document, s: Segments, p: SteelArrays, most: Floats) -> Values:
    """`stability_check` on segments; p: their steel; most: (2, rows, combinations) critical forces about y and z that the buckling of
    the whole leaves them."""

    def lengths(values: Floats) -> Floats:
        return values[:, None]

    return stability_check(
        p,
        s.N,
        s.My,
        s.Mz,
        s.Cmy,
        s.CmLT,
        s.C1,
        lengths(s.Lcr_y),
        lengths(s.Lcr_z),
        lengths(s.L_T),
        lengths(s.a_T),
        lengths(s.L_LT),
        document.rules.gamma_M1,
        s.lift,
        s.My_most,
        s.Mz_most,
        most[0],
        most[1],
        document.national.steel.lambda_LT0,
        document.national.steel.beta,
        document.national.steel.modification == "(6.58)",
        document.national.steel.lateral == "6.3.2.2",
        None if s.Cmy_0 is None else (s.Cmy_0[0], s.Cmy_0[1]),
    )


def stability(grounds: SteelGrounds, found: Findings) -> list[Held]:
    """Add to the outcomes and reasons of each member; gives what the segments reach."""
    combined = grounds.combined
    chunks = alike(
        grounds.document,
        combined.structure,
        combined.elements,
        grounds.forces.x,
        grounds.lengths,
        len(grounds.strength),
    )
    steel, limits = grounds.steel, grounds.limits

    def of(own: Alike) -> tuple[Segments, dict[str, Floats], Bools]:
        along = Along(own, grounds.combined.elements, grounds.forces)
        segments = along.segments()
        p, most = steel.take(segments.member, 1), limits[:, segments.member]
        if grounds.document.national.steel.interaction == "annex A":
            # nothing is known to bound its factors
            v = checked(grounds.document, replace(segments, **along.factors(annex_a=True)), p, most)
            largest = criteria(v, p)
        else:
            v = checked(grounds.document, segments, p, most)
            largest = criteria(v, p)
            _exact(grounds.document, along, segments, steel, most, largest)
        for u in largest.values():
            u[segments.inside] = np.nan
        return segments, largest, ((v["cls"] == 4) & np.isnan(p.A_eff)).any(axis=1) & ~segments.inside

    held = []
    for own, (segments, largest, class_4) in zip(chunks, shared_out(of, chunks), strict=True):
        most = np.nan_to_num(np.max(list(largest.values()), axis=0)).max(axis=1, initial=0.0)
        held.append(Held(segments.member, segments.start, segments.end, most))
        count = len(own.spans)
        for i, m in enumerate(own.members.tolist()):
            rows = slice(i * count, (i + 1) * count)
            found.outcomes[m] += _governing(
                {name: u[rows] for name, u in largest.items()}, segments.start[rows], segments.end[rows]
            )
            unknown = np.isnan(np.stack([u[rows] for u in largest.values()])).any(axis=(0, 2)) & ~segments.inside[rows]
            if class_4[rows].any():
                found.reasons[m].append("a class 4 cross-section of this shape is not covered")
                found.slender.add(m)
            elif unknown.any() and np.isfinite(steel.fy[m]):
                found.reasons[m].append("a resistance could not be computed")
    return held


def criteria(v: Values, p: SteelArrays) -> dict[str, Floats]:
    """(rows, combinations) utilisation by criterion; below 0 where the criterion asks nothing."""
    return {
        "flexural": np.maximum(v["u_Ny"], v["u_Nz"]),
        "lateral": np.where(p.kind == 0, v["u_LT"], -1.0),
        "interaction": np.maximum(v["u_661"], v["u_662"]),
    }


def _exact(
    document: Document, along: Along, segments: Segments, steel: SteelArrays, most: Floats, largest: dict[str, Floats]
) -> None:
    """Put exact utilisations in place of the bounds in `largest` wherever they can be the largest of their segment, and −1 where they
    cannot.

    With annex B utilisations fall with C1 and rise with C_my and C_mLT, so a uniform moment and C_m = 1 bound them from above; those
    of flexural buckling do not depend on the factors.
    """
    bounds = {name: largest[name] for name in ("lateral", "interaction")}

    def found(rows: Ints, columns: Ints) -> dict[str, Floats]:
        own = segments.pairs(rows, columns, along.factors_of(rows, columns, annex_a=False))
        p = steel.take(own.member, 1)
        exact = criteria(checked(document, own, p, most[:, rows, columns][..., None]), p)
        return {name: exact[name][:, 0] for name in bounds}

    every = np.arange(len(segments.member))
    first = [np.nan_to_num(bound, nan=-1.0).argmax(axis=1) for bound in bounds.values()]
    likely = found(np.tile(every, 2), np.concatenate(first))
    can = np.zeros(most.shape[1:], dtype=bool)
    for name, bound in bounds.items():
        least = likely[name].reshape(2, -1).max(axis=0)[:, None]
        can |= (bound >= least * (1 - NEAR)) & (bound > 0)
    rows, columns = np.nonzero(can & ~segments.inside[:, None])
    for name, values in found(rows, columns).items():
        largest[name] = np.where(bounds[name] > 0, -1.0, bounds[name])
        largest[name][rows, columns] = values


def _governing(largest: dict[str, Floats], start: Floats, end: Floats) -> list[Outcome]:
    """The largest utilisation of each criterion over the segments of one member, (rows, combinations)."""
    found = []
    for criterion, u in largest.items():
        if not u.size or np.isnan(u).all() or np.nanmax(u) < 0:
            continue
        row, c = (int(i) for i in np.unravel_index(int(np.argmax(np.where(np.isnan(u), -1.0, u))), u.shape))
        found.append(Outcome(criterion, float(u[row, c]), c, float(start[row] + end[row]) / 2, row))
    return found


def stability_reached(grounds: SteelGrounds, member: int, governing: bool = False) -> list[Reached]:
    """The segments of a member in every combination for strength."""
    segments = grounds.segments([member])
    v = stability_values(grounds.document, segments, grounds.steel, grounds.limits)
    where = [(r, -1, float(segments.start[r] + segments.end[r]) / 2) for r in range(len(segments.member))]
    found = []
    for name, u in criteria(v, grounds.steel.take(segments.member, 1)).items():
        u[segments.inside] = np.nan
        if not np.isnan(u).all() and np.nanmax(u) >= 0:
            found.append(most_of(name, grounds.strength, u, where))
    return found


def stability_most(grounds: SteelGrounds, most: Floats) -> None:
    """Raise (members, combinations) to what the segments reach."""
    segments = grounds.segments()

    def of(rows: slice) -> Floats:
        v = stability_values(grounds.document, segments.of(rows, slice(None)), grounds.steel, grounds.limits)
        return np.where(segments.inside[rows, None], 0.0, _greatest(v))

    raise_to(most, segments.member, len(grounds.strength), of)


def stability_of(grounds: SteelGrounds, column: int, along: Floats) -> list[Held]:
    """What the segments reach in one combination for strength."""
    s = grounds.segments(columns=[column])
    v = stability_values(grounds.document, s, grounds.steel, grounds.limits[..., [column]])
    most = np.where(s.inside, 0.0, _greatest(v)[:, 0])
    return [Held(s.member, s.start, s.end, most)]


def _greatest(v: Values) -> Floats:
    """(rows, combinations) the largest utilisation of all criteria of segments."""
    parts = (v["u_Ny"], v["u_Nz"], v["u_LT"], v["u_661"], v["u_662"])
    return np.asarray(np.nan_to_num(np.max(np.broadcast_arrays(*parts), axis=0)))
