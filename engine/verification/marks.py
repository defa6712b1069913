"""Which combinations matter: how near each comes to what governs, among those of its use."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.actions.combinations import Combination
from engine.analysis.combined import Combined
from engine.structure.model import Floats
from engine.verification.equilibrium import resistances
from engine.verification.service import measure
from engine.verification.verify import Verification

#: shares nearer to 1 than this are equal to what governs
EQUAL = 1e-6
#: nodes that move less than this share of the farthest are left out where nothing has a limit
STILL = 0.1


@dataclass(frozen=True)
class Mark:
    """share: of what governs, at most, over all that its use is proven for; at: the member or node where it comes
    nearest, or words. governs: for how many it governs, alone or with others."""

    share: float
    at: str
    governs: int


def marks(verification: Verification, combinations: list[Combination]) -> list[Mark]:
    """A mark for each combination.

    Strength and accidental: utilisation of each member; EQU: overturning, uplift, tension on each support; the others:
    deflection or sway of each member that has a limit, else the movement of each node.
    """
    combined = verification.grounds.combined
    found = [Mark(0.0, "", 0)] * len(combinations)
    for uses in (
        ("strength", "accidental"),
        ("uplift",),
        ("deflection",),
        ("variable",),
        ("frequent",),
        ("quasi-permanent",),
    ):
        own = [i for i, c in enumerate(combinations) if c.use in uses]
        if not own:
            continue
        if uses[0] == "strength":
            names, values = (
                [m.name for m in combined.structure.members],
                verification.checks.most(),
            )
        elif uses[0] == "uplift":
            names, values = resistances(combined, own)
        else:
            names, values = _movements(combined, verification, own)
        most = values.max(axis=1, keepdims=True)
        share = np.where(most > 0, values / np.where(most > 0, most, 1.0), 0.0)
        for k, i in enumerate(own):
            at = int(share[:, k].argmax()) if len(share) else -1
            governs = int((share[:, k] >= 1 - EQUAL).sum())
            found[i] = Mark(float(share[at, k]) if at >= 0 else 0.0, names[at] if at >= 0 else "", governs)
    return found


def _movements(combined: Combined, verification: Verification, which: list[int]) -> tuple[list[str], Floats]:
    """Names and (quantities, combinations): deflection or sway of the stretches that have a limit; else movements of nodes."""
    structure = combined.structure
    own = next((use for use, of in verification.served if set(which) <= set(of)), "deflection")
    under = own if verification.limited(own) else "deflection"
    limited = [stretch for _, stretch in verification.limited(under)]
    if not limited:
        moved = np.linalg.norm(np.moveaxis(combined.displacement(which)[:, :3], 1, 2), axis=2)
        far = moved.max(axis=1) > STILL * moved.max(initial=0.0)
        return [name for name, keep in zip(structure.nodes, far, strict=True) if keep], moved[far]
    moved, along = combined.displacement(which), combined.deflections(which)
    rows = [measure(combined, moved, along[stretch.rows], stretch).max(axis=(0, 1)) for stretch in limited]
    return [structure.members[stretch.members[0]].name for stretch in limited], np.array(rows)
