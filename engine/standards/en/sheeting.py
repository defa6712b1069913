"""Sheeting that holds beams: what it must be as stiff as, EN 1993-1-1 BB.2, for doubly symmetric I sections."""

from __future__ import annotations

from math import pi

from engine.catalogue.properties import Section
from engine.catalogue.steels import Material

#: K_θ of table BB.1 at its largest, under a uniform moment, and K_v of (BB.3) for a plastic analysis: both on the safe side
K_THETA, K_V = 4.0, 1.0
#: share of S that counts where the sheeting is fixed at every second rib only, BB.2.1(3)
EVERY_SECOND = 0.2


def shear_needed(section: Section, material: Material, length: float) -> float:
    """S in N that holds the flange sideways all along, (BB.2); length: span of the beam in m."""
    euler = pi**2 * material.E / length**2
    bent = euler * section.Iw + material.G * section.It + euler * section.Iz * 0.25 * section.h**2
    return bent * 70 / section.h**2


def rotation_needed(section: Section, material: Material, K_theta: float = K_THETA, K_v: float = K_V) -> float:
    """C_θ in Nm/m per radian that holds the beam against twist, (BB.3)."""
    M_pl = section.Wpl_y * material.fy(max(section.tf, section.tw))
    return M_pl**2 / (material.E * section.Iz) * K_theta * K_v
