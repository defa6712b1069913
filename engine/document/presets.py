"""Sets of limits of deflection by what hangs on the steel: usual values to begin with, which EN 1990 A1.4 leaves to client and nation."""

from __future__ import annotations

from dataclasses import dataclass, field


@dataclass(frozen=True)
class Preset:
    """Limits as length over deflection, height over drift: of roofs (rafters, chords), of columns, of other roles, and of roles under
    variable actions alone."""

    name: str
    words: str
    rafters: float
    sway: float
    roles: dict[str, float] = field(default_factory=dict)
    variable: dict[str, float] = field(default_factory=dict)


PRESETS = (
    Preset(
        "Metal sheeting",
        "sheets or panels, nothing brittle behind them",
        200.0,
        150.0,
        {"purlin": 200.0, "side rail": 150.0, "gable post": 150.0, "eaves beam": 200.0, "ridge beam": 200.0},
    ),
    Preset(
        "Brittle finishes",
        "ceilings, plaster, glass or tiles",
        250.0,
        300.0,
        {"purlin": 250.0, "side rail": 200.0, "gable post": 200.0, "main beam": 250.0, "joist": 250.0, "member": 250.0},
        {"rafter": 360.0, "main beam": 360.0, "joist": 360.0, "member": 360.0},
    ),
    Preset(
        "Masonry walls",
        "walls or precast panels held by the columns",
        200.0,
        300.0,
        {"purlin": 200.0, "side rail": 300.0, "gable post": 300.0},
    ),
    Preset(
        "Crane runway",
        "overhead cranes; their rails have own limits",
        250.0,
        400.0,
        {"purlin": 200.0, "side rail": 150.0, "gable post": 200.0},
    ),
    Preset(
        "Secondary sheds",
        "stores and shelters that mind no movement",
        150.0,
        100.0,
        {"purlin": 150.0, "side rail": 120.0, "gable post": 120.0, "eaves beam": 150.0, "ridge beam": 150.0},
    ),
)
