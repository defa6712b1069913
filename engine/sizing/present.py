"""What the candidates of a group would reach under the forces that are present: all of them at once.

Only the combinations and places that govern now, or nearly, are looked at; the analysis that follows a proposal looks at all.
"""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from engine.catalogue.properties import Section
from engine.catalogue.steels import Material
from engine.chain import Chain
from engine.expand import materials_of
from engine.sizing.candidates import Candidates
from engine.sizing.groups import Group
from engine.structure.model import Floats
from engine.verification.outcomes import KINDS, SERVICE, kind_of
from engine.verification.verify import STRENGTH

#: members that are looked at where candidates are tried one after the other
FEW = 2
#: utilisation of what could not be computed
UNKNOWN = np.inf


def reached_by(chain: Chain, group: Group, candidates: Candidates) -> Floats:
    """(n, 2) utilisation of candidates in cross-sections and in stability."""
    materials = materials_of(chain.document)
    made_of = [
        (s, materials.material(choice.grade)) for s, choice in zip(candidates.sections, candidates.choices, strict=True)
    ]
    now = now_of(chain, group)
    members = chain.structure.members
    # the present one is the last of them
    made_of.append((members[group.members[0]].section, members[group.members[0]].material))
    verdicts = [chain.verification.verdicts[i] for i in group.members]
    present: dict[str, float] = {}
    for o in (o for verdict in verdicts for o in verdict.outcomes):
        present[o.criterion] = max(present.get(o.criterion, 0.0), o.utilisation)
    twist = not any(verdict.not_covered for verdict in verdicts)
    at_once = chain.verification.checks.candidates(group.members, made_of, _governing(chain, group), present, twist)
    if at_once is None:
        found = np.array([_one(chain, group, section, material) for section, material in made_of])
    else:
        found = at_once
    found = np.where(np.isnan(found), UNKNOWN, found)
    with np.errstate(divide="ignore", invalid="ignore"):
        raise_by = np.where((found[-1] > 0) & np.isfinite(found[-1]), now[:2] / found[-1], 1.0)
    return np.asarray(found[:-1] * np.where(np.isfinite(raise_by), raise_by, 1.0))


def now_of(chain: Chain, group: Group) -> Floats:
    """(3,) what a group reaches now in cross-sections, stability and service, of what is covered; limits of slenderness choose what it
    may be made of."""
    found = np.zeros(3)
    for i in group.members:
        for o in (o for o in chain.verification.verdicts[i].outcomes if o.criterion != "slenderness"):
            k = KINDS.index(kind_of(o.criterion))
            found[k] = max(found[k], o.utilisation)
    return found


def _governing(chain: Chain, group: Group) -> list[int]:
    """The combinations for strength that govern any criterion of any member of a group."""
    verdicts = chain.verification.verdicts
    found = {o.combination for i in group.members for o in verdicts[i].outcomes if o.criterion in STRENGTH}
    return sorted(found)


def _one(chain: Chain, group: Group, section: Section, material: Material) -> tuple[float, float]:
    """One candidate, by the members that reach most now."""
    verdicts, structure = chain.verification.verdicts, chain.structure
    ranked = sorted(
        group.members,
        key=lambda i: -max((o.utilisation for o in verdicts[i].outcomes if o.criterion in STRENGTH), default=0.0),
    )
    chosen = set(group.members)
    members = tuple(
        m.but(section=section, material=material) if i in chosen else m for i, m in enumerate(structure.members)
    )
    now = chain.verification
    checks = now.checks.on(now.grounds.under(chain.document, replace(structure, members=members), ranked[:FEW]))
    found = [0.0, 0.0]
    for i in ranked[:FEW]:
        strong = checks.reached(i, governing=True)
        if not strong:
            return UNKNOWN, UNKNOWN
        for r in strong:
            k = 0 if kind_of(r.criterion) == "section" else 1
            known = not np.isnan(r.utilisation).any() or r.criterion == "general"
            found[k] = max(found[k], float(np.nanmax(r.utilisation)) if known else UNKNOWN)
    return found[0], found[1]


def worst_of_service(chain: Chain, group: Group) -> list[tuple[int, int]]:
    """(stretch, combination among all) of what governs each limit of movement of a group."""
    best: dict[str, tuple[float, int, int]] = {}
    for i in group.members:
        for o in chain.verification.verdicts[i].outcomes:
            if o.criterion in SERVICE:
                number = chain.verification.used(o.criterion)[o.combination]
                best[o.criterion] = max(best.get(o.criterion, (0.0, 0, 0)), (o.utilisation, o.row, number))
    return [(stretch, number) for _, stretch, number in best.values()]
