"""Effective lengths: rules by role, and the sway mode of a portal frame."""

from __future__ import annotations

from math import cos, pi, radians, tan

from scipy.optimize import brentq

from engine.catalogue.sections import section
from engine.document import Document
from engine.structure.model import Member


def sway_factor(stiffness_ratio: float, fixed_base: bool) -> float:
    """Effective length factor of the columns of a one-bay frame in its sway mode, both columns loaded alike.

    stiffness_ratio r = (I_beam / L) / (I_column / h). Pinned bases: kh tan kh = 6 r; fixed: kh / tan kh = −6 r; K = π/kh.
    (Timoshenko and Gere, Theory of Elastic Stability, 2.4.)
    """
    if fixed_base:
        root = brentq(lambda u: u / tan(u) + 6 * stiffness_ratio, pi / 2 + 1e-12, pi - 1e-12)
    else:
        root = brentq(lambda u: u * tan(u) - 6 * stiffness_ratio, 1e-9, pi / 2 - 1e-9)
    return pi / float(root)


def default_factors(document: Document, member: Member, length: float) -> tuple[float, str, bool]:
    """(factor on the member's length for buckling about y, how it was found, whether it is a sway mode)."""
    hall = document.hall
    if hall and member.frame and member.role == "column":
        beam = section(hall.sections.rafters).Iy / (hall.span / cos(radians(hall.pitch)))
        column = section(hall.sections.columns).Iy / hall.eaves_height
        factor = sway_factor(beam / column, hall.bases == "fixed")
        return factor, f"sway mode of the frame, r = {beam / column:.3f}, {hall.bases} bases", True
    if hall and member.frame and member.role == "rafter":
        return 2.0, "both slopes, eaves to eaves", True
    return 1.0, "own length", False
