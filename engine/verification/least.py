"""What joints must bear at least, whatever acts on them."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class TiesAsked:
    """Whether members must tie the building together when a part of it fails, along floors and up columns; in words why, and what of it is not
    covered."""

    horizontal: bool
    vertical: bool
    words: str


@dataclass(frozen=True)
class Splice:
    """Least forces of a splice in compression: moments about both axes in Nm and shear both ways in N, clause; or, where the ends bear in full contact,
    a force along the member in N, bearing_clause."""

    moment_y: float
    moment_z: float
    shear: float
    clause: str
    bearing: float
    bearing_clause: str
