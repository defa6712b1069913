"""One member as the workbench shows it: laid flat with its restraints, and the proof of one of its criteria."""

from __future__ import annotations

import numpy as np

from engine.chain import Chain
from engine.verification.outcomes import kind_of
from engine.verification.proof import Proof
from server.projects import verdict_schemas
from server.projects.derivations import derivation_out


def ribbon_out(chain: Chain, member: int) -> verdict_schemas.RibbonOut:
    """The restraint ribbon of a member in its governing strength combination."""
    structure, verification = chain.structure, chain.verification
    m = structure.members[member]
    verdict = verification.verdicts[member]
    strong = [o for o in verdict.outcomes if kind_of(o.criterion) != "service"]
    worst = max(strong, key=lambda o: o.utilisation, default=None)
    c = worst.combination if worst else 0
    first = np.searchsorted(chain.response.elements.member, np.arange(len(structure.members) + 1))
    e = slice(first[member], first[member + 1])
    spans: dict[str, list[verdict_schemas.SpanOut]] = {"outer": [], "inner": []}
    for span in verification.checks.flanges(member):
        spans[span.flange].append(verdict_schemas.SpanOut(start=span.start, end=span.end, utilisation=span.utilisation))
    values = [(f.symbol, f.value, f.words) for f in verification.checks.figures(member, strong)]
    forces = verification.forces
    return verdict_schemas.RibbonOut(
        member=m.name,
        length=structure.length(m),
        combination=chain.combinations[verification.strength[c]].name if verification.strength else "",
        outer=list(m.outer),
        inner=list(m.inner),
        x=(chain.response.elements.positions(forces.x)[e]).ravel().tolist(),
        My=(forces.My[e, :, c].ravel() / 1000).tolist() if verification.strength else [],
        outer_spans=spans["outer"],
        inner_spans=spans["inner"],
        values=values,
    )


def proof_out(proof: Proof, revision: int, member: str) -> verdict_schemas.ProofOut:
    """A proof for the screen."""
    return verdict_schemas.ProofOut(
        revision=revision,
        member=member,
        **derivation_out(proof).model_dump(),
        combination=proof.combination,
        formula=proof.formula,
        utilisation=proof.utilisation,
    )
