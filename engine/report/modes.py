"""How the building swings and buckles."""

from __future__ import annotations

import numpy as np

from engine.analysis.modes import buckling_modes, natural_modes
from engine.analysis.modes_drawn import Mode
from engine.chain import Chain


def natural(chain: Chain) -> list[Mode]:
    """Natural modes with the masses that the document chooses; all permanent cases where it chooses none."""
    chosen, cases = chain.document.analysis.masses, chain.loading.cases
    factors = [chosen.get(c.name, 0.0) if chosen else float(c.nature == "permanent") for c in cases]
    return natural_modes(chain.response.system, np.array(factors))


def buckling(chain: Chain, combination: int) -> list[tuple[Mode, str]]:
    """Buckling modes of a combination by its number, each with the member that buckles by itself in it, "" for none."""
    names = [m.name for m in chain.structure.members]
    found = buckling_modes(chain.combined, combination)
    return [(m, names[m.by_itself] if m.by_itself >= 0 else "") for m in found]
