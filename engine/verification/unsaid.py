"""What a verdict leaves out of the building as a whole, in words."""

from __future__ import annotations

from collections.abc import Collection

import numpy as np

from engine.actions.cases import Case
from engine.actions.combinations import Combination
from engine.analysis.combined import Combined
from engine.document import Document
from engine.document.base import Role
from engine.structure.join import MID_AIR
from engine.structure.model import Panel, Structure

#: what the verdict on plane frames leaves out
OUT_OF_PLANE = "frames are analysed in their planes alone: what pushes across them, and what holds them there at every node, is not verified"
#: said once of all cases of concentrated loads
CONCENTRATED = "the concentrated loads of categories of use are in no combination for strength"
#: reaches below this are none, m
SAME = 1e-3
#: natures whose cases no combination for deflection counts
NOT_SERVICE = ("accidental", "seismic", "imperfection")
#: roles of floors, and categories of what people walk on (EN 1991-1-1 table 6.1), "" where none is stated
FLOORS: tuple[Role, ...] = ("main beam", "joist")
WALKED = ("", "A", "B", "C", "D")
#: share by which a factor may be rounded
ROUNDED = 0.005
#: cases that are named
NAMED = 3
#: from this length on it is told where no temperature acts, m: shorter buildings are commonly built without joints for it
LONG = 60.0
#: what it leaves out of decks that are stiff in their plane
DECKS = "decks and sheeting that count as stiff in their planes: that they bear what they carry sideways, and are fixed for it, is not verified"


def idle(combined: Combined, combinations: list[Combination]) -> tuple[str, ...]:
    """Cases with loads that no combination for strength takes up."""
    rows = np.array([c.factors for c in combinations if c.use in ("strength", "accidental")])
    loading = combined.response.system.loading
    if not len(rows):
        return ()
    found = []
    for i, case in enumerate(loading.cases):
        if case.nature == "imperfection" or rows[:, i].any():
            continue
        if case.alone:
            # there are many, and all of them are left out or none
            found += [] if CONCENTRATED in found else [CONCENTRATED]
            continue
        if np.abs(combined.response.reaction[..., i]).max(initial=0.0) > 1.0:
            found.append(f"case “{case.name}” is in no combination for strength")
    return tuple(found)


def spared(combined: Combined, combinations: list[Combination]) -> tuple[str, ...]:
    """Cases with loads that combinations for deflection leave out, or count with less than one."""
    rows = np.array([c.factors for c in combinations if c.use == "deflection"])
    if not len(rows):
        return ()
    most, found = np.abs(rows).max(axis=0), []
    for i, case in enumerate(combined.response.system.loading.cases):
        acts = np.abs(combined.response.reaction[..., i]).max(initial=0.0) > 1.0
        if acts and case.nature not in NOT_SERVICE and not case.alone and most[i] < 1 - ROUNDED:
            found.append(f"“{case.name}” with {most[i]:.4g}")
    if not found:
        return ()
    more = f" and {len(found) - NAMED} more" if len(found) > NAMED else ""
    return (
        f"every combination for deflection counts with less than characteristic loads (EN 1990 (6.14b)): {'; '.join(found[:NAMED])}{more}",
    )


def unswung(document: Document, structure: Structure, cases: list[Case]) -> tuple[str, ...]:
    """Said of floors that people walk on where nobody asked how fast they may swing."""
    stated = document.rules.floor_frequency or any(document.rules.frequencies.get(role) for role in FLOORS)
    walked = any(case.nature == "imposed" and case.category in WALKED for case in cases)
    if stated or not walked or not any(m.role in FLOORS for m in structure.members):
        return ()
    return ("natural frequency of floors not checked: no limit of it is stated (EN 1990 A1.4.4)",)


def untempered(structure: Structure, natures: set[str]) -> tuple[str, ...]:
    """Said of what is long and grows or shrinks in no case. natures: of its cases."""
    if "temperature" in natures or len(structure.xyz) == 0:
        return ()
    # along the sides of the smallest box around it in plan, however it lies
    angles = np.radians(np.arange(90))
    ways = np.stack([np.cos(angles), np.sin(angles)]), np.stack([-np.sin(angles), np.cos(angles)])
    sides = np.array([np.ptp(structure.xyz[:, :2] @ way, axis=0) for way in ways])
    far = float(sides[:, sides.prod(axis=0).argmin()].max())
    if far < LONG:
        return ()
    return (f"no temperature acts in any case (EN 1991-1-5), though it is {far:.0f} m long",)


def weightless(document: Document, structure: Structure) -> tuple[str, ...]:
    """Said where the members weigh something and no case counts it."""
    if not document.counts_weight and any(map(structure.mass, structure.members)):
        return ("no case counts the self-weight of the members: it acts only as far as stated loads bear it",)
    light = {m.material.name for m in structure.members if m.material.density == 0 and m.behaviour != "rigid link"}
    return tuple(f"what is of “{name}” weighs nothing: its density is not stated" for name in sorted(light))


def of_slabs(structure: Structure) -> tuple[str, ...]:
    """Slabs and walls, which are analysed alone."""
    if not structure.slabs:
        return ()
    count = "1 slab or wall" if len(structure.slabs) == 1 else f"{len(structure.slabs)} slabs and walls"
    return (
        f"{count}: movements, moments and forces in them are told, not verified; in second order they stay as stiff as they are",
    )


def of_decks(structure: Structure) -> tuple[str, ...]:
    """Panels that are stiff in their own plane, and hold what they lie on."""
    return (DECKS,) if any(p.rigid or p.law for p in structure.panels) else ()


def of_sheeting(structure: Structure, pressed: Collection[str], others: Collection[str]) -> tuple[str, ...]:
    """Decks and sheeting between the members that carry panels. pressed: names of panels that loads act on; others: kinds of panels of the hall
    whose sheeting has purlins or rails beside the model."""
    spans = [
        _widest(structure, p)
        for p in structure.panels
        if p.name in pressed and p.plate is None and p.carriers and not (p.jig == "hall" and p.kind in others)
    ]
    if not spans:
        return ()
    return (f"decks and sheeting themselves, which span up to {max(spans):.2f} m between members, are not verified",)


def _widest(structure: Structure, panel: Panel) -> float:
    """The largest distance along its span, m, between neighbouring members that carry a panel; of one that bears both ways its shorter side."""
    if panel.two_way:
        sides = np.linalg.norm(np.roll(panel.corners, -1, axis=0) - panel.corners, axis=1)
        return float(sides.min())
    lines = panel.flat(np.array([structure.xyz[structure.ends[structure.index[name]]] for name in panel.carriers]))
    # (n, ends, s and t), from the lesser s on; lines along the span carry nothing across it
    lines = np.take_along_axis(lines, lines[..., :1].argsort(axis=1), axis=1)
    start, end = lines[:, 0], lines[:, 1]
    reach = end[:, 0] - start[:, 0]
    start, end, reach = start[reach > SAME], end[reach > SAME], reach[reach > SAME]
    places = np.unique(np.concatenate([start[:, 0], end[:, 0]]))
    widest = 0.0
    for low, high in zip(places[:-1], places[1:], strict=True):
        there = (start[:, 0] < (low + high) / 2) & ((low + high) / 2 < end[:, 0])
        # between straight lines it is widest at an end of what they share
        share = (np.array([[low], [high]]) - start[there, 0]) / reach[there]
        t = np.sort(start[there, 1] + share * (end[there, 1] - start[there, 1]))
        widest = max(widest, float(np.diff(t).max(initial=0.0)))
    return widest


def held_aloft(structure: Structure) -> tuple[str, ...]:
    """Supports above the lowest one that hold sideways and carry nothing downwards: something that is not in the model holds there."""
    held = structure.fixed[:, :3] | (structure.springs[:, :3] > 0)
    supported = held.any(axis=1)
    if not supported.any():
        return ()
    aloft = supported & ~held[:, 2] & (structure.xyz[:, 2] > structure.xyz[supported, 2].min() + MID_AIR)
    if not aloft.any():
        return ()
    along = " and ".join("XY"[k] for k in range(2) if (held[:, k] & aloft).any())
    count = int(aloft.sum())
    places = "a node is" if count == 1 else f"{count} nodes are"
    return (
        f"{places} held along {along} by supports in the air: what holds there is not in the model, and not verified",
    )
