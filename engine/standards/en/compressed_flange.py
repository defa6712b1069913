"""Lateral-torsional buckling estimated quickly: the compressed flange as a strut between its restraints (EN 1993-1-1 6.3.2.4)."""

from __future__ import annotations

from dataclasses import dataclass
from math import pi, sqrt

import numpy as np

from engine.catalogue.properties import Section
from engine.standards.en.steel import CURVES, reduction

#: λ̄_c,0 is more than λ̄_LT,0 by this (6.3.2.4(1)B note 2)
ABOVE = 0.1
#: h/t_f up to which a welded section takes curve d, in ε (6.3.2.4(3)B)
STOCKY = 44.0


@dataclass(frozen=True)
class FlangeStrut:
    """slenderness: λ̄_f; plain: up to which nothing is reduced, λ̄_c,0 M_c,Rd/M_Ed; resistance: M_b,Rd, Nm."""

    slenderness: float
    plain: float
    resistance: float


def flange_strut(
    section: Section,
    length: float,
    C1: float,
    M: float,
    M_c: float,
    fy: float,
    E: float,
    welded: bool,
    values: tuple[float, float],
) -> FlangeStrut:
    """A doubly symmetric I section between restraints `length` (m) apart: M: the largest moment, M_c: its resistance without buckling (Nm), fy, E in N/m²;
    k_c is 1/√C1 (table 6.6); values: λ̄_LT,0 and k_fl."""
    plateau, k_fl = values
    flange = section.b * section.tf
    # a third of the web's compressed half goes with the flange
    web = (section.h - 2 * section.tf) / 2 * section.tw / 3
    radius = sqrt(section.tf * section.b**3 / 12 / (flange + web))
    epsilon, strain = sqrt(235e6 / fy), pi * sqrt(E / fy)
    slenderness = length / sqrt(C1) / (radius * strain)
    plain = (plateau + ABOVE) * M_c / max(M, 1e-9)
    curve = "d" if welded and section.h / section.tf <= STOCKY * epsilon else "c"
    chi = float(reduction(np.asarray(CURVES[curve]), np.asarray(slenderness))[1])
    return FlangeStrut(slenderness, plain, M_c if slenderness <= plain else min(k_fl * chi, 1.0) * M_c)
