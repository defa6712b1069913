"""A small picture of a building: its members as strokes, seen from the right, in front and above."""

from __future__ import annotations

import numpy as np

from engine.structure.model import Bools, Floats

#: size of the picture; the most members in it, the longest ones
WIDTH, HEIGHT = 120.0, 60.0
MOST = 400
#: what a metre along x, y and z is to the right and upwards in the picture
RIGHT, UP = np.array([0.82, 0.57, 0.0]), np.array([-0.25, 0.36, 0.9])


def picture(ends: Floats, marked: Bools) -> tuple[str, str]:
    """SVG paths of lines (m, 2, 3) that are not and that are marked."""
    if not len(ends):
        return "", ""
    keep = np.sort(np.argsort(-np.linalg.norm(ends[:, 1] - ends[:, 0], axis=1), kind="stable")[:MOST])
    flat = np.stack([ends[keep] @ RIGHT, -(ends[keep] @ UP)], axis=-1)
    low, size = flat.min(axis=(0, 1)), np.ptp(flat, axis=(0, 1))
    scale = float(np.min(np.array([WIDTH, HEIGHT]) / np.maximum(size, 1e-6)))
    placed = (flat - low) * scale + (np.array([WIDTH, HEIGHT]) - size * scale) / 2

    def path(own: Bools) -> str:
        return "".join(f"M{a:.1f} {b:.1f}L{c:.1f} {d:.1f}" for (a, b), (c, d) in placed[own].tolist())

    return path(~marked[keep]), path(marked[keep])
