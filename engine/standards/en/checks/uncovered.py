"""What no check of EN 1993 here speaks for, member by member: why it is not covered, and what a verdict leaves out."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from engine.analysis.combined import Combined
from engine.analysis.lateral import end_conditions
from engine.catalogue.properties import PRONE
from engine.catalogue.steels import E as STEEL
from engine.document import Document
from engine.standards.en.axial import thickest
from engine.standards.en.checks.alike import UNEQUAL, general_stretches
from engine.standards.en.checks.axial import is_axial
from engine.standards.en.checks.built_up import is_built_up
from engine.standards.en.checks.faces import beside
from engine.standards.en.checks.grounds import SteelGrounds
from engine.standards.en.checks.sheeting import sheeting_of
from engine.standards.en.checks.summed import is_summed
from engine.standards.en.combinations import partial_factor
from engine.standards.en.shear_lag import left_at_ultimate
from engine.standards.en.steel import slender_web
from engine.standards.en.toughness import cold
from engine.standards.en.wind_areas import by_larger_areas
from engine.structure.axes import local_axes
from engine.structure.model import Bools, Member, Structure
from engine.verification.outcomes import Findings

#: shapes with checks
COVERED = ("I", "welded I", "square", "rectangular", "circular")
#: what a verdict on modelled purlins and rails leaves out
LARGER = "its wind is that of large areas (c_pe,10), not the local pressure of its own area (EN 1991-1-4 7.2.1(1))"
#: what a verdict on members that sheeting holds leaves out
SHEETED = "its sheeting holds it as stated: that it bears what this asks of it, and is fixed for it, is not verified (EN 1993-1-3 10.3)"
#: what a verdict on members that nothing of the model holds leaves out; places nearer than this are one, m
HELD, AT = "what holds its flanges sideways between its ends is not in the model, and counts as stiff and strong", 1e-3
#: what a verdict on rigid links leaves out
RIGID = "it counts as rigid in every analysis, whatever its section"
#: yield strength in Pa up to which EN 1993-1-1 goes, with what rounding and other standards' grades make of S460; f_u over f_y at least, 3.2.2(1)
STRONGEST, DUCTILE = 461e6, 1.10
#: share by which a steel's modulus of elasticity may differ from 210 kN/mm²
STIFF = 0.07
#: share of a direction from which a support must hold along an axis
ALONG = 0.2
#: share of a flange from which on its loss by shear lag is told
LAG = 0.02
FACTORS = "EN 1990 table A1.2(B)"
#: share by which a factor may be rounded
ROUNDED = 0.005
#: cases that are named
NAMED = 3
#: what a verdict on unequal flanges leaves out
AT_SHEAR_CENTRE = "loads sideways count at its shear centre, not at its centroid"


def uncovered(grounds: SteelGrounds, found: Findings) -> None:
    """Add to the reasons and to what verdicts leave out."""
    structure = grounds.combined.structure
    by_larger = by_larger_areas(grounds.document)
    for i, member in enumerate(structure.members):
        if member.section.shape == "given":
            found.reasons[i].append("the section is known by its stiffness alone")
        elif member.material.strength is None:
            found.reasons[i].append("the material has no design strength")
        elif not (member.section.shape in COVERED or is_axial(member) or is_summed(member) or is_built_up(member)):
            found.reasons[i].append(f"checks of this shape ({member.section.shape}) are not covered yet")
        found.reasons[i] += _beyond_steel(member)
        found.left_out[i] += cold(member)
        if member.behaviour == "rigid link":
            found.left_out[i].append(RIGID)
        if member.role in by_larger and member.jig == "hall":
            found.left_out[i].append(LARGER)
        sheeting = sheeting_of(grounds.document, structure, member)
        if sheeting and sheeting.shear > 0 and not sheeting.sideways:
            found.left_out[i].append(
                "its sheeting is not stiff enough to hold it (BB.2.1): it counts as free between its restraints"
            )
        if sheeting and (sheeting.sideways or sheeting.twist):
            found.left_out[i].append(SHEETED)
        found.left_out[i] += [HELD] if _held_by_nothing(structure, i) and not (sheeting and sheeting.sideways) else []
        found.left_out[i] += _unused_lengths(structure, i)
        found.left_out[i] += _shear_lag(structure, i)
        if member.section.shape in UNEQUAL and not member.bar:
            found.left_out[i].append(AT_SHEAR_CENTRE)
    for i in grounds.reaches:
        if structure.members[i].pieces or structure.members[i].section.shape in UNEQUAL:
            found.reasons[i].append(
                "its haunch, taper or unequal flanges go on in another member where nothing holds it: make one member of both, or hold the node"
            )
    for i, words in _no_forks(structure).items():
        found.left_out[i].append(words)
    if grounds.strength:
        beside(grounds, found)
    _slender_webs(grounds, found)
    stabilising = grounds.stabilising
    for i in stabilising.loose:
        found.left_out[i].append(
            "what holds it sideways leads to no bracing in the model, so that nothing carries its forces (5.3.3)"
        )
    for i in sorted({bar for span in stabilising.spans if not span.firm.all() for bar in span.bars}):
        found.reasons[i].append("its bracing is too soft for what it stabilises (5.3.3)")


def _beyond_steel(member: Member) -> list[str]:
    """Why a steel is none that EN 1993-1-1 is for, in words."""
    if member.material.strength is None:
        return []
    thickness = thickest(member.section)
    fy, fu = member.material.fy(thickness), member.material.fu(thickness)
    said = []
    if abs(member.material.E / STEEL - 1) > STIFF:
        said.append(
            f"its modulus of elasticity is {member.material.E / 1e9:.3g} kN/mm²: EN 1993-1-1 is for steel, with 210 (3.2.6)"
        )
    if fy > STRONGEST:
        said.append(f"its steel yields at {fy / 1e6:.0f} N/mm²: EN 1993-1-1 is for steels up to S460 (3.1, 3.2.1)")
    if fu < DUCTILE * fy:
        said.append(
            f"its steel breaks at {fu / fy:.2f} times the stress at which it yields: {DUCTILE:.2f} is needed (3.2.2)"
        )
    return said


def _shear_lag(structure: Structure, number: int) -> list[str]:
    """What wide flanges of welded members lose, on the safe side of where moments change their sign: over half of the member, all of it
    where both ends are hinged, twice of it at a free end."""
    m = structure.members[number]
    if m.bar or not (m.section.shape in UNEQUAL or m.section.welded):
        return []
    length, hinged = structure.length(m), all("ry" in r for r in (m.release_start, m.release_end))
    free = "free" in (end_conditions(structure, number).start, end_conditions(structure, number).end)
    kappa = max(m.section.b, m.section.b2) / 2 / (length if hinged else 2 * length if free else length / 2)
    lost = 1 - left_at_ultimate(kappa, not hinged)
    return (
        [f"shear lag in its flanges, up to {100 * lost:.0f} % of them, is not counted (EN 1993-1-5 3.3)"]
        if lost > LAG
        else []
    )


def _held_by_nothing(structure: Structure, number: int) -> bool:
    """Whether a hinged member by hand counts as held between its ends where no member, deck or support of the model is: what bracing stabilises
    is of members that are joined rigidly."""
    m = structure.members[number]
    hinged = "ry" in m.release_start and "ry" in m.release_end
    if m.bar or m.jig or not hinged:
        return False
    decks = (p for p in structure.panels if p.kind == "floor" or p.rigid or p.law or p.plate)
    if any(m.name in panel.carriers for panel in decks):
        return False
    start, length = structure.xyz[m.nodes[0]], structure.length(m)
    there = [0.0, length]
    for node in m.nodes[1:-1]:
        if len(structure.meeting[node]) > 1 or structure.fixed[node].any() or structure.springs[node].any():
            there.append(float(np.linalg.norm(structure.xyz[node] - start)))
    return any(min(abs(x - place) for place in there) > AT for x in (*m.outer, *m.inner))


def _unused_lengths(structure: Structure, number: int) -> list[str]:
    """Lengths for lateral-torsional buckling that are stated where none is used."""
    member, said = structure.members[number], []
    length, general = structure.length(member), general_stretches(structure, number)
    for s in member.checks.lateral or ():
        at = f"its length for lateral buckling stated at {s.at:.2f} m is not used"
        if s.at >= length:
            said.append(f"{at}: it ends before")
        elif any(a - 1e-6 <= s.at <= b for a, b in general):
            said.append(f"{at}: the general method takes the restraints as they are (6.3.4)")
        elif member.bar or member.section.shape not in PRONE:
            said.append(f"{at}: it does not buckle sideways")
        elif member.checks.lateral_factor(s.flange, *_around(member, s.flange, s.at, length)) is None:
            said.append(f"{at}: what holds the flange there is {s.over:.2f} m apart no more")
    return said


def _around(member: Member, flange: str, at: float, length: float) -> tuple[float, float]:
    """Between which places a flange is held around a place, m."""
    places = member.outer if flange == "outer" else member.inner
    return max((x for x in places if x <= at), default=0.0), min((x for x in places if x > at), default=length)


def _no_forks(structure: Structure) -> dict[int, str]:
    """Members that buckle sideways whose ends count as forks though only a support is there, which does not hold them so."""
    found = {}
    held = structure.fixed | (structure.springs != 0)
    for i, m in enumerate(structure.members):
        if m.bar or m.section.shape not in (*PRONE, *UNEQUAL):
            continue
        ends = structure.xyz[[m.nodes[0], m.nodes[-1]]]
        x, y, _ = local_axes(ends[:1], ends[1:], np.array([m.roll]))[0]
        free = []
        for node, name in ((m.nodes[0], "start"), (m.nodes[-1], "end")):
            if structure.meeting[node] != (i,) or not held[node].any():
                continue
            loose = [
                words
                for way, own, words in ((x, held[node, 3:], "against twist"), (y, held[node, :3], "sideways"))
                if (~own & (np.abs(way) > ALONG)).any()
            ]
            free += [f"{name} {' and '.join(loose)}"] if loose else []
        if free:
            found[i] = (
                f"it counts as held at its {' and at its '.join(free)}, which its support in the model does not do"
            )
    return found


def _slender_webs(grounds: SteelGrounds, found: Findings) -> None:
    members, owner = grounds.combined.structure.members, grounds.combined.elements.member
    p = grounds.element_steel.take(grounds.steel_of, 0)
    unstiffened = slender_web(p, grounds.document.national.steel.eta) | (grounds.deepest > 0)
    for i in np.unique(owner[unstiffened & flange_may_fold(grounds)]).tolist():
        found.reasons[i].append("the compressed flange may buckle into the web (EN 1993-1-5 8), which is not covered")
        found.slender.add(i)
    for i in np.unique(owner[unstiffened]).tolist():
        if not members[i].checks.stiffened:
            found.left_out[i].append(
                "its web counts with stiffeners at the supports (EN 1993-1-5 5.1(2)), which are not in the model"
            )


def unfactored(document: Document, combined: Combined, strength: Sequence[int]) -> tuple[str, ...]:
    """Said where combinations for strength count cases with less than their partial factors, or weights beside wind with more than where they help,
    and no other combination makes up for it."""
    if not strength:
        return ()
    rows, cases = np.abs(combined.rows[list(strength)]), combined.response.system.loading.cases
    rules, basis = document.rules, document.national.basis
    most = rows.max(axis=0).tolist()
    wanted = [partial_factor(case, rules, basis) for case in cases]
    short = [
        f"“{case.name}” with {factor:.4g}, not {least:.4g}"
        for case, factor, least in zip(cases, most, wanted, strict=True)
        if 0 < factor < least * (1 - ROUNDED)
    ]
    said = [f"every combination for strength counts with less than the partial factors of {FACTORS}: {_few(short)}"]
    natures = np.array([case.nature for case in cases])
    windy = rows[:, natures == "wind"].any(axis=1)
    if not windy.any():
        return tuple(said) if short else ()
    helping, lightest = rules.gamma_G_favourable, rows[windy].min(axis=0)
    heavy = [
        f"“{case.name}” with {factor:.4g}, not {helping:.4g}"
        for case, factor in zip(cases, lightest.tolist(), strict=True)
        if case.nature == "permanent" and factor > helping * (1 + ROUNDED)
    ]
    lifted = [f"no combination for strength counts wind where weights help against it ({FACTORS}): {_few(heavy)}"]
    return (*(said if short else ()), *(lifted if heavy else ()))


def _few(words: list[str]) -> str:
    more = f" and {len(words) - NAMED} more" if len(words) > NAMED else ""
    return f"{'; '.join(words[:NAMED])}{more}"


def flange_may_fold(grounds: SteelGrounds) -> Bools:
    """(e,) I sections, also with haunches and unequal flanges, beyond h_w/t_w = k E/f_y √(A_w/A_fc), EN 1993-1-5 (8.1), with k = 0.55 of elastic bending."""
    p = grounds.element_steel.take(grounds.steel_of, 0)
    with np.errstate(divide="ignore", invalid="ignore"):
        deep = p.h - 2 * p.tf
        most = 0.55 * p.E / p.fy * np.sqrt(deep * p.tw / (p.b * p.tf))
        folds = np.asarray((p.kind == 0) & (deep / p.tw > most))
    by_stresses = np.flatnonzero(grounds.deepest > 0)
    if len(by_stresses):
        h = grounds.haunched.take(grounds.haunched_row[by_stresses], 0)
        folds[by_stresses] = grounds.deepest[by_stresses] > 0.55 * h.E / h.fy * np.sqrt(h.A_w / h.A_fc)
    return folds
