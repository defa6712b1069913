"""Least forces that joints must bear whatever acts: splices of members in compression, EN 1993-1-8 6.2.7.1; horizontal ties, EN 1991-1-7 A.5."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from engine.actions.cases import Case
from engine.catalogue.properties import Section
from engine.catalogue.steels import Material
from engine.document import Document
from engine.standards.en.combinations import psi
from engine.structure.model import Floats
from engine.verification.least import Splice

#: shares of what the weaker section bears, 6.2.7.1(14), and of the largest compression, 6.2.7.1(15)
MOMENT, SHEAR, BEARING = 0.25, 0.025, 0.25
#: N that a tie bears at least; share of the load on a beam that it must bear as a tie. (A.1) 0.8 (g + ψq) s L of an inner one is 0.8 of
#: what lies on it; (A.2) 0.4 (g + ψq) s L of one at the edge, which carries a strip s/2, too
LEAST_TIE, TIE = 75e3, 0.8
#: by consequence class, table A.1, in words what A.4 asks for
ASKED = {
    "": "No consequence class is stated: whether ties must hold the building together when a part of it fails (EN 1991-1-7 A.4) is not asked here.",
    "1": "Consequence class 1: no ties are asked for (EN 1991-1-7 A.4).",
    "2a": "Consequence class 2a: horizontal ties (EN 1991-1-7 A.5.1), below at each end of a beam that meets a column.",
    "2b": "Consequence class 2b: horizontal ties (EN 1991-1-7 A.5.1), below at each end of a beam that meets a column, and vertical ties (A.6), below at "
    "each splice of a column. What holds columns down at their bases, and columns that may be missing in place of ties (A.7), are not covered.",
    "3": "Consequence class 3: ties as of class 2b are told below at each end of a beam that meets a column and at each splice of one. The assessment of risks that "
    "EN 1991-1-7 A.4 asks for is not covered.",
}


def splice(document: Document, parts: Sequence[tuple[Section, Material]], compression: float) -> Splice:
    """What a splice between sections must bear at least where it is in compression; compression: the largest, N. Capacities are plastic
    ones, which is on the safe side for sections of class 3 and 4."""
    own = document.rules.gamma_M0
    strengths = [(s, m.fy(max(s.tf, s.tw)) / own) for s, m in parts]
    return Splice(
        moment_y=MOMENT * min(s.Wpl_y * f for s, f in strengths),
        moment_z=MOMENT * min(s.Wpl_z * f for s, f in strengths),
        shear=SHEAR * min(s.A * f for s, f in strengths),
        bearing=BEARING * compression,
        clause="EN 1993-1-8 6.2.7.1(14)",
        bearing_clause="EN 1993-1-8 6.2.7.1(15)",
    )


def ties(document: Document, cases: Sequence[Case], on: Floats) -> Floats:
    """(m,) N that members must bear in tension as horizontal ties. on: (m, cases) N of weight on each, downwards. One variable action leads
    with ψ1 or ψ2, as nationally chosen, the others have ψ2; of cases that exclude one another the worst counts."""
    basis, rules, site = document.national.basis, document.rules, document.site
    lead = 1 if basis.accidental_lead == "ψ1" else 2
    permanent = sum((on[:, k] for k, c in enumerate(cases) if c.nature == "permanent"), np.zeros(len(on)))
    sets: dict[str, list[int]] = {}
    for k, case in enumerate(cases):
        if case.nature in ("imposed", "snow") and not case.alone:
            sets.setdefault(case.exclusive or case.together or f"{k}", []).append(k)
    rest, leading = np.zeros(len(on)), np.zeros(len(on))
    for own in sets.values():
        psis = np.array([psi(cases[k], rules, site, basis) for k in own])
        # what excludes another does not act with it; what acts together does
        worst = np.max if cases[own[0]].exclusive else np.sum
        always, first = (np.maximum(worst(psis[:, j] * on[:, own], axis=1), 0.0) for j in (2, lead))
        rest += always
        leading = np.maximum(leading, first - always)
    return np.maximum(TIE * (permanent + rest + leading), LEAST_TIE)
