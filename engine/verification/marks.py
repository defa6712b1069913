"""Which combinations matter: how near each comes to what governs, among those of its use."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.actions.combinations import Combination
from engine.analysis.combined import Combined
from engine.analysis.solve import Response
from engine.document import Document
from engine.processors import shared_out
from engine.structure.model import Floats
from engine.verification.axial import axial_values, is_axial
from engine.verification.channels import channel_most, is_channel
from engine.verification.equilibrium import resistances
from engine.verification.general import general_utilisations
from engine.verification.sections import blocks_of, section_values
from engine.verification.service import measure
from engine.verification.stability import stability_values
from engine.verification.verify import Verification
from engine.verification.webs import web_most

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


def marks(
    document: Document, combined: Combined, verification: Verification, combinations: list[Combination]
) -> list[Mark]:
    """A mark for each combination.

    Strength and accidental: utilisation of each member; EQU: overturning, uplift, tension on each support; the others:
    deflection or sway of each member that has a limit, else the movement of each node.
    """
    response = combined.response
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
                [m.name for m in response.structure.members],
                _utilisations(document, response, verification),
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


def _utilisations(document: Document, response: Response, verification: Verification) -> Floats:
    """(members, combinations) largest utilisation of section and stability checks."""
    numbers = np.arange(len(response.structure.members) + 1)
    found = np.zeros((len(numbers) - 1, len(verification.strength)))
    everything = slice(None)
    segments, grounds = verification.grounds.segments(), verification.grounds

    def sections(rows: slice) -> Floats:
        v = section_values(document, grounds, rows, everything, everything)
        most = np.maximum(np.maximum(v["u_NM"], v["n"]), v["u_V"]).max(axis=1)
        return np.asarray(np.nan_to_num(most))

    def stability(rows: slice) -> Floats:
        v = stability_values(document, segments.of(rows, everything), verification.steel, verification.grounds.limits)
        parts = (v["u_Ny"], v["u_Nz"], v["u_LT"], v["u_661"], v["u_662"])
        return np.where(segments.inside[rows, None], 0.0, np.nan_to_num(np.max(np.broadcast_arrays(*parts), axis=0)))

    for owner, of, each in (
        (response.elements.member, sections, verification.peaks.N[0].size),
        (segments.member, stability, len(verification.strength)),
    ):
        first = np.searchsorted(owner, numbers)
        rows = [slice(first[start], first[end]) for start, end in blocks_of(first, each)]
        for own, values in zip(rows, shared_out(of, rows), strict=True):
            np.maximum.at(found, owner[own], values)
    for members, values in general_utilisations(document, grounds):
        found[members] = np.maximum(found[members], np.nan_to_num(values))
    for i, m in enumerate(response.structure.members):
        if is_channel(m):
            found[i] = np.maximum(found[i], np.nan_to_num(channel_most(document, grounds, i)))
        if is_axial(m):
            found[i] = np.maximum(found[i], np.nan_to_num(axial_values(document, grounds, i)["u_axial"]))
        on_web = web_most(document, grounds, i)
        if on_web is not None:
            found[i] = np.maximum(found[i], on_web)
    return found


def _movements(combined: Combined, verification: Verification, which: list[int]) -> tuple[list[str], Floats]:
    """Names and (quantities, combinations): deflection or sway of the stretches that have a limit; else movements of nodes."""
    structure = combined.structure
    under = (
        "variable" if set(which) <= set(verification.variable) and verification.limited("variable") else "deflection"
    )
    limited = [stretch for _, stretch in verification.limited(under)]
    if not limited:
        moved = np.linalg.norm(np.moveaxis(combined.displacement(which)[:, :3], 1, 2), axis=2)
        far = moved.max(axis=1) > STILL * moved.max(initial=0.0)
        return [name for name, keep in zip(structure.nodes, far, strict=True) if keep], moved[far]
    moved, along = combined.displacement(which), combined.deflections(which)
    rows = [measure(combined, moved, along[stretch.rows], stretch).max(axis=(0, 1)) for stretch in limited]
    return [structure.members[stretch.members[0]].name for stretch in limited], np.array(rows)
