"""The local axes of members: x from start to end, z upwards unless rolled."""

from __future__ import annotations

import numpy as np

from engine.structure.model import Floats


def local_axes(start: Floats, end: Floats, roll: Floats) -> Floats:
    """(e, 3, 3) local axes as rows for elements between (e, 3) points, turned by (e,) radians."""
    x = end - start
    x = x / np.linalg.norm(x, axis=1, keepdims=True)
    vertical = np.abs(x[:, 2]) > 1 - 1e-9
    up = np.where(vertical[:, None], np.array([-1.0, 0.0, 0.0]) * np.sign(x[:, 2:3]), np.array([0.0, 0.0, 1.0]))
    z = up - np.sum(up * x, axis=1, keepdims=True) * x
    z /= np.linalg.norm(z, axis=1, keepdims=True)
    y = np.cross(z, x)
    c, s = np.cos(roll)[:, None], np.sin(roll)[:, None]
    return np.stack([x, c * y + s * z, c * z - s * y], axis=1)
