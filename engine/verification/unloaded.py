"""What bears nothing though one would think so: beams on which nothing is put, cladding on which no wind or snow acts, or such as nobody stated. A frame
copied without its floors passes easily, and so does a clad building that nobody gave wind."""

from __future__ import annotations

import numpy as np

from engine.actions.cases import Loading
from engine.actions.panels import DOWN
from engine.analysis.system import Response
from engine.catalogue.steels import GRAVITY
from engine.document import Document
from engine.document.rules import Site
from engine.structure.model import Bools, Structure
from engine.structure.words import ROLE_WORDS

#: what lies across to bear what is put on it
BEARING = ("rafter", "purlin", "side rail", "main beam", "joist")
#: share of its own weight within which a case is that of the weight, and what counts as no load, N
BESIDE, NONE = 1e-3, 1.0
#: share of the loads of a case that may be missing at the supports
MISSING = 1e-3
#: natures of what acts on cladding, with the kinds of panels that it acts on
ON_CLADDING = (("wind", ("wall", "roof")), ("snow", ("roof",)))
#: what bears it where no cladding is drawn
OUTDOORS = {"wind": ("rafter", "purlin", "side rail", "gable post"), "snow": ("rafter", "purlin")}
#: panels that are named one by one
NAMED = 3
NOTHING_BORNE = "nothing is put on it in any case: it bears its own weight alone"


def laden(structure: Structure, loading: Loading) -> Bools:
    """(members,) on which a load of any case lies along them, other than their own weight."""
    table, count = loading.table(structure), len(structure.members)
    force = (table.first + table.last) / 2 * (table.end - table.start)[:, None]
    total = np.zeros((len(loading.cases), count, 3))
    np.add.at(total, (table.case, table.member), force)
    own = np.array([structure.mass(m) * GRAVITY for m in structure.members])[:, None] * DOWN
    borne = np.zeros(count, dtype=bool)
    for case, of in zip(loading.cases, total, strict=True):
        # a permanent case that comes to no more than their own weight is that of the weight
        beside = of if case.nature != "permanent" else np.where(np.abs(of - own) <= BESIDE * np.abs(own), 0.0, of)
        borne |= (case.nature != "imperfection") & (np.linalg.norm(beside, axis=1) > NONE)
    borne[[structure.index[p.member] for p in loading.points if p.member]] = True
    return borne


def unloaded(structure: Structure, loading: Loading) -> list[int]:
    """The numbers of beams by their roles that no load of any case lies on, that no slab rests on, and that nothing meets between their ends."""
    borne = laden(structure, loading)
    nodes = {p.node for p in loading.points if p.node >= 0}
    slabs = {structure.index[name] for p in structure.panels if p.plate is not None for name in p.carriers}
    found = []
    for i, m in enumerate(structure.members):
        if m.role not in BEARING or m.bar or i in slabs or borne[i]:
            continue
        if not any(set(structure.meeting[node]) - {i} or node in nodes for node in m.nodes[1:-1]):
            found.append(i)
    return found


def unasked(document: Document, structure: Structure, loading: Loading) -> tuple[str, ...]:
    """Walls and roofs on which no case of wind acts, and roofs on which none of snow does though snow is stated for the place: neither on the panel, be it by
    0, nor on a member that carries it."""
    found = []
    for nature, kinds in ON_CLADDING:
        if nature == "snow" and document.site.ground_snow <= 0:
            continue
        cases = {k for k, case in enumerate(loading.cases) if case.nature == nature}
        on = {s.panel for s in loading.surfaces if s.case in cases}
        members = {line.member for line in loading.lines if line.case in cases}
        members |= {point.member for point in loading.points if point.case in cases}
        bare = [
            p.name for p in structure.panels if p.kind in kinds and p.name not in on and not members & set(p.carriers)
        ]
        if bare:
            names = ", ".join(f"“{name}”" for name in bare[:NAMED])
            more = f" and {len(bare) - NAMED} more" if len(bare) > NAMED else ""
            found.append(f"no {nature} acts on {names}{more} in any case")
        elif not any(p.kind in kinds for p in structure.panels):
            found += _undrawn(structure, loading, nature, cases)
    return tuple(found)


def _undrawn(structure: Structure, loading: Loading, nature: str, cases: set[int]) -> list[str]:
    """Said where no cladding is drawn, and yet there is what bears some outdoors, on which none of its cases has a load. cases: by number."""
    outdoors = {m.role for m in structure.members} & set(OUTDOORS[nature])
    acting = (
        {s.case for s in loading.surfaces} | {line.case for line in loading.lines} | {p.case for p in loading.points}
    )
    if not outdoors or cases & acting:
        return []
    words = " and ".join(ROLE_WORDS[role][1].lower() for role in OUTDOORS[nature] if role in outdoors)
    return [f"no {nature} acts in any case, though there are {words}"]


def lost(response: Response) -> tuple[str, ...]:
    """Cases whose loads are not what the supports give back: where panels rest on nothing."""
    loading = response.system.loading
    borne = loading.borne
    off = np.abs(borne + response.reaction[:, :3].sum(axis=0).T).max(axis=1, initial=0.0)
    least = np.maximum(MISSING * np.linalg.norm(borne, axis=1), NONE)
    return tuple(
        f"{far / 1000:.2f} kN of the loads of “{case.name}” do not reach the supports: nothing bears them where they lie"
        for case, far, enough in zip(loading.cases, off.tolist(), least.tolist(), strict=True)
        if far > enough and case.nature != "imperfection"
    )


def unplaced(document: Document, loading: Loading) -> tuple[str, ...]:
    """Snow and wind that are generated from what a new project begins with, where nobody stated a place or other values."""
    site, new = document.site, Site()
    values = ("place", "altitude", "ground_snow", "wind_speed", "sources")
    own = {case.name for case in document.cases}
    generated = {case.nature for case in loading.cases if case.nature in ("snow", "wind") and case.name not in own}
    if not generated or any(getattr(site, name) != getattr(new, name) for name in values):
        return ()
    figures = {
        "snow": f"{site.ground_snow:g} kN/m² of snow on the ground",
        "wind": f"a wind of {site.wind_speed:g} m/s",
    }
    said = " and ".join(figures[nature] for nature in ("snow", "wind") if nature in generated)
    return (f"no place is stated: {said} are what a new project begins with",)
