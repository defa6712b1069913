"""Sizing: every role to its lightest passing section of its own family, re-analysing until nothing changes.

1. Strength: with the forces of the present sections, each role takes its lightest section that passes; analyse again;
   repeat until no role changes. A section once found to fail on re-analysis is not returned to.
2. Deflection: while a deflection or sway limit is exceeded, the rafters or the columns, whichever gains more per
   kilogram, go to a stiffer section.
3. Trim: each role in turn tries the next lighter sections with a full analysis, and keeps one if everything passes.

The result is a fixed point: no single role can take the next lighter section of its family.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from math import log, sqrt

import numpy as np

from engine.catalogue.properties import Section
from engine.catalogue.sections import family_of, section
from engine.chain import Chain, run
from engine.document import Document
from engine.errors import ModelError
from engine.expand import expand
from engine.progress import Progress, quiet
from engine.standards.en.steel import steel_arrays
from engine.verification.outcomes import SERVICE
from engine.verification.sections import section_values
from engine.verification.segments import Segments
from engine.verification.stability import stability_values

MOST_ROUNDS = 40


@dataclass(frozen=True)
class Round:
    """One analysis on the way. step: "start", "strength", "deflection" or "trim"; worst: per role, utilisation."""

    number: int
    step: str
    why: str
    sections: dict[str, str]
    worst: dict[str, float]
    tonnage: float


@dataclass(frozen=True)
class Sizing:
    """The rounds, the sections found, whether every member of the building passes with them, and what is in the way if not."""

    rounds: tuple[Round, ...]
    sections: dict[str, str]
    passes: bool
    obstacles: tuple[str, ...]


def sections_of(document: Document) -> dict[str, str]:
    """Section by role of the document's hall, of those roles that have members; edited members keep their own."""
    assert document.hall is not None
    used = {m.slot for m in expand(document).members if m.jig == "hall"}
    return {role: name for role, name in document.hall.sections.model_dump().items() if role in used}


def with_sections(document: Document, sections: dict[str, str]) -> Document:
    """The document with other sections in its hall."""
    assert document.hall is not None
    chosen = document.hall.sections.model_copy(update=sections)
    return document.model_copy(update={"hall": document.hall.model_copy(update={"sections": chosen})})


def sets_out(document: Document, sections: dict[str, str]) -> bool:
    """Whether the hall can be set out with other sections: a haunch cut from its rafter may be too deep for a lighter one."""
    try:
        expand(with_sections(document, sections))
    except ModelError:
        return False
    return True


def worst_by_role(chain: Chain) -> dict[str, float]:
    """Largest utilisation by role; infinite where something is not covered."""
    found: dict[str, float] = {}
    for v in chain.verification.verdicts:
        m = chain.structure.members[v.member]
        if m.jig == "hall" and m.slot:
            value = np.inf if v.not_covered else (v.governing.utilisation if v.governing else 0.0)
            found[m.slot] = max(found.get(m.slot, 0.0), float(value))
    return found


def deflection_worst(chain: Chain) -> float:
    """Largest utilisation of the deflection and sway limits, of what sizing may change."""
    members = chain.structure.members
    sized = [v for v in chain.verification.verdicts if members[v.member].jig == "hall" and members[v.member].slot]
    outcomes = [o for v in sized for o in v.outcomes if o.criterion in SERVICE]
    return max((o.utilisation for o in outcomes), default=0.0)


def size(document: Document, progress: Callable[[Round], None] = lambda _: None, within: Progress = quiet) -> Sizing:
    """Find the lightest passing sections. `progress` is told of each round, `within` of each stage within them; both may raise to
    stop the work.

    Raises ModelError when the document has no hall, or cannot be computed.
    """
    if document.hall is None:
        raise ModelError("Sizing works on the roles of a hall, and there is no hall.", "hall")
    rounds: list[Round] = []

    def analyse(sections: dict[str, str], step: str, why: str, keep: bool = True) -> Chain:
        chain = run(with_sections(document, sections), within)
        if keep:
            note(chain, sections, step, why)
        return chain

    def note(chain: Chain, sections: dict[str, str], step: str, why: str) -> None:
        rounds.append(Round(len(rounds) + 1, step, why, dict(sections), worst_by_role(chain), chain.tonnage()))
        progress(rounds[-1])

    sections = sections_of(document)
    chain = analyse(sections, "start", "sections as they stand")
    floor = dict.fromkeys(sections, 0)
    for _ in range(MOST_ROUNDS):
        chosen = {}
        for role, name in sections.items():
            family = family_of(name)
            index = lightest_passing(chain, role, family, floor[role])
            present = [s.name for s in family].index(name)
            if index > present:
                floor[role] = max(floor[role], present + 1)
            chosen[role] = family[min(index, len(family) - 1)].name
        if chosen == sections:
            break
        changed = ", ".join(
            f"{role.replace('_', ' ')} {chosen[role]}" for role in chosen if chosen[role] != sections[role]
        )
        sections = chosen
        chain = analyse(sections, "strength", changed)
    chain, sections = _stiffen(chain, sections, analyse, note)
    chain, sections = _trim(chain, sections, analyse, note)
    worst = worst_by_role(chain)
    obstacles = []
    for role, value in worst.items():
        if value > 1.0:
            last = family_of(sections[role])[-1].name
            reason = "is not covered" if np.isinf(value) else f"reaches {value:.2f}"
            more = " and there is no heavier section in its family" if sections[role] == last else ""
            obstacles.append(f"{role.replace('_', ' ')}: {sections[role]} {reason}{more}")
    obstacles += _beside(chain)
    return Sizing(tuple(rounds), sections, chain.verification.whole.passes, tuple(obstacles))


def _beside(chain: Chain) -> list[str]:
    """What fails or is not covered and is no role of the hall, which sizing leaves as it is: by jig and role."""
    found: dict[tuple[str, str], list[tuple[float, str]]] = {}
    for v in chain.verification.verdicts:
        m = chain.structure.members[v.member]
        if v.status != "passes" and not (m.jig == "hall" and m.slot):
            use = np.inf if v.governing is None or v.status == "not covered" else v.governing.utilisation
            found.setdefault((m.jig, m.role), []).append((float(use), m.name))
    words = []
    for (jig, role), members in found.items():
        use, name = max(members)
        reason = "is not covered" if np.isinf(use) else f"reaches {use:.2f}"
        owner = f"the jig “{jig}”" if jig else "what is set out by hand"
        words.append(f"{len(members)} × {role} of {owner}, not sized here: “{name}” {reason}")
    return words


def lightest_passing(chain: Chain, role: str, family: list[Section], floor: int) -> int:
    """Index of the first section of the family that passes under the present forces; len(family) if none does.

    Effective lengths and forces are those of the present analysis. Candidates are first put to the combinations that
    govern now, and only those that pass there to all.
    """
    structure, verification = chain.structure, chain.verification
    members = [i for i, m in enumerate(structure.members) if m.jig == "hall" and m.slot == role]
    if not members:
        return floor
    strong = {"section", "shear", "flexural", "lateral", "interaction"}
    few = sorted({o.combination for i in members for o in verification.verdicts[i].outcomes if o.criterion in strong})
    everything = list(range(len(verification.strength)))
    segments = verification.grounds.segments(members)
    for index in range(floor, len(family)):
        passes = all(_passes(chain, members, segments, family[index], columns) for columns in (few, everything))
        if passes and sets_out(chain.document, {role: family[index].name}):
            return index
    return len(family)


def _passes(chain: Chain, members: list[int], segments: Segments, candidate: Section, columns: list[int]) -> bool:
    """Whether the members, cut into those segments, would pass with another section in those combinations."""
    structure, verification = chain.structure, chain.verification
    chosen = set(members)
    steel = steel_arrays(
        [(candidate if i in chosen else m.section, m.material, m.bar) for i, m in enumerate(structure.members)]
    )
    own = replace(segments, a_T=np.where(segments.a_T > 0, candidate.h / 2, 0.0)).of(slice(None), columns)
    v = stability_values(chain.document, own, steel, verification.grounds.limits[..., columns])
    # haunches change with the section: the analysis that follows verifies them
    clear = ~own.inside
    uses = ("u_Ny", "u_Nz", "u_LT", "u_661", "u_662")
    if np.isnan(v["u_661"][clear]).any() or max(v[key][clear].max(initial=0.0) for key in uses) > 1.0:
        return False
    grounds = verification.grounds
    plain = grounds.steel_of == chain.response.elements.member
    e = [int(j) for j in np.flatnonzero(np.isin(chain.response.elements.member, members) & plain)]
    if not e:
        return True
    v = section_values(chain.document, grounds, e, slice(None), columns, steel)
    return all(bool(v[key].max() <= 1.0) for key in ("u_NM", "u_V"))


Analyse = Callable[..., Chain]
Note = Callable[[Chain, dict[str, str], str, str], None]


def _stiffen(chain: Chain, sections: dict[str, str], analyse: Analyse, note: Note) -> tuple[Chain, dict[str, str]]:
    for _ in range(MOST_ROUNDS):
        worst = deflection_worst(chain)
        if worst <= 1.0:
            break
        best: tuple[float, Chain, dict[str, str], str] | None = None
        for role in ("rafters", "columns", "top_chords", "bottom_chords"):
            if role not in sections:
                continue
            present = section(sections[role])
            aim = present.Iy * (sqrt(worst) if worst > 1.15 else 1.0)
            stiffer = [s for s in family_of(present.name) if s.Iy > present.Iy * 1.0001]
            if not stiffer:
                continue
            pick = next((s for s in stiffer if s.Iy >= aim), stiffer[-1])
            trial = {**sections, role: pick.name}
            found = analyse(trial, "deflection", "", keep=False)
            gain = log(worst / max(deflection_worst(found), 1.0)) / max(found.tonnage() - chain.tonnage(), 1.0)
            if best is None or gain > best[0]:
                best = (gain, found, trial, f"{role} {pick.name}, for deflection {worst:.2f}")
        if best is None:
            break
        _, chain, sections, why = best
        note(chain, sections, "deflection", why)
    for _ in range(MOST_ROUNDS):
        failing = [
            role
            for role, value in worst_by_role(chain).items()
            if value > 1.0 and sections[role] != family_of(sections[role])[-1].name
        ]
        if not failing:
            break
        heavier = {}
        for role in failing:
            names = [s.name for s in family_of(sections[role])]
            heavier[role] = names[names.index(sections[role]) + 1]
        sections = {**sections, **heavier}
        chain = analyse(sections, "strength", ", ".join(f"{r.replace('_', ' ')} {n}" for r, n in heavier.items()))
    return chain, sections


def _trim(chain: Chain, sections: dict[str, str], analyse: Analyse, note: Note) -> tuple[Chain, dict[str, str]]:
    if max(worst_by_role(chain).values()) > 1.0:
        return chain, sections
    changed = True
    while changed:
        changed = False
        for role in list(sections):
            names = [s.name for s in family_of(sections[role])]
            lighter = names[: names.index(sections[role])]
            if not lighter:
                continue
            trial = {**sections, role: lighter[-1]}
            if not sets_out(chain.document, trial):
                continue
            found = analyse(trial, "trim", "", keep=False)
            if max(worst_by_role(found).values()) <= 1.0:
                chain, sections, changed = found, trial, True
                note(chain, sections, "trim", f"{role.replace('_', ' ')} {trial[role]} still passes")
    return chain, sections
