"""Open thin-walled sections from the line of their walls: torsion, shear centre and warping by sectorial coordinates."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]


@dataclass(frozen=True)
class ThinWalled:
    """Properties of an unbranched open section. y, z: centroid; shear_y, shear_z: shear centre from the centroid."""

    A: float
    y: float
    z: float
    Iy: float
    Iz: float
    Iyz: float
    It: float
    Iw: float
    shear_y: float
    shear_z: float


def thin_walled(line: NDArray[np.float64], t: float | NDArray[np.float64]) -> ThinWalled:
    """Properties from the points (n, 2) of the wall's middle line (y, z) and its thickness, one for all or one a wall.

    Vlasov, Thin-walled elastic beams, chapter I: sectorial coordinate ω, shear centre from ∫ω y and ∫ω z, Iw = ∫ω² dA
    with the mean of ω removed; It = Σ l t³ / 3.
    """
    p, q = line[:-1], line[1:]
    length = np.hypot(*(q - p).T)
    dA = length * t
    A = float(dA.sum())
    cy, cz = ((p + q) / 2 * dA[:, None]).sum(axis=0) / A
    p, q = p - (cy, cz), q - (cy, cz)

    def product(a0: Floats, a1: Floats, b0: Floats, b1: Floats) -> float:
        """∫ a b dA of two values that run linearly along each wall."""
        return float((dA * (2 * a0 * b0 + a0 * b1 + a1 * b0 + 2 * a1 * b1)).sum() / 6)

    y0, z0, y1, z1 = p[:, 0], p[:, 1], q[:, 0], q[:, 1]
    Iy, Iz, Iyz = product(z0, z1, z0, z1), product(y0, y1, y0, y1), product(y0, y1, z0, z1)

    def sectorial(py: float, pz: float) -> tuple[Floats, Floats]:
        step = (y0 - py) * (z1 - pz) - (y1 - py) * (z0 - pz)
        end = np.cumsum(step)
        return end - step, end

    w0, w1 = sectorial(0.0, 0.0)
    Swy, Swz = product(w0, w1, y0, y1), product(w0, w1, z0, z1)
    det = Iy * Iz - Iyz**2
    sy = (Iz * Swz - Iyz * Swy) / det
    sz = -(Iy * Swy - Iyz * Swz) / det
    w0, w1 = sectorial(sy, sz)
    mean = float((dA * (w0 + w1)).sum() / 2 / A)
    w0, w1 = w0 - mean, w1 - mean
    It = float((length * t**3).sum() / 3)
    return ThinWalled(A, float(cy), float(cz), Iy, Iz, Iyz, It, product(w0, w1, w0, w1), sy, sz)
