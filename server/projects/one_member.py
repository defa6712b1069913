"""One member as the workbench shows it: laid flat with its restraints, and the proof of one of its criteria."""

from __future__ import annotations

import numpy as np

from engine.chain import Chain
from engine.verification.channels import buckling_use, is_channel
from engine.verification.general import general_largest, general_values
from engine.verification.outcomes import kind_of
from engine.verification.proof import Proof
from engine.verification.stability import stability_values
from server.projects import verdict_schemas


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
    grounds = verification.grounds
    s = grounds.segments([member])
    spans: dict[int, list[verdict_schemas.SpanOut]] = {1: [], -1: []}
    if verification.strength:
        v = stability_values(chain.document, s, verification.steel, grounds.limits)
        sideways = np.nan_to_num(v["u_LT"]).max(axis=1) if m.section.shape == "I" else np.zeros(len(s.member))
        if is_channel(m):
            sideways = np.nan_to_num(buckling_use(chain.document, grounds, member)[1]["u_single"]).max(axis=1)
        stretches = general_largest(chain.document, grounds, member)
        for r in range(len(s.member)):
            u = float(sideways[r])
            if s.inside[r]:
                u = next(u for a, b, u in stretches if a < s.start[r] + 1e-6 and s.end[r] < b + 1e-6)
            spans[int(s.flange[r])].append(
                verdict_schemas.SpanOut(start=float(s.start[r]), end=float(s.end[r]), utilisation=u)
            )
    values: list[tuple[str, str, str]] = []
    whole = next((o for o in strong if o.criterion == "general"), None)
    if whole:
        found, (start, end) = general_values(chain.document, grounds, member, whole.row, whole.combination)
        place = f"{start:.2f} m to {end:.2f} m, with its haunch or taper"
        values.append(
            (r"\alpha_{cr,op}", f"{float(found['alpha_op']):.2f}", f"Buckling sideways of {place} (6.3.4(3))")
        )
        values.append((r"\chi_{op}", f"{float(found['chi_op']):.2f}", "Reduction of the general method (6.3.4(4))"))
    if m.section.shape == "I":
        lateral = next((o for o in strong if o.criterion == "lateral"), None)
        if lateral:
            row, column = [lateral.row], [lateral.combination]
            v = stability_values(chain.document, s.of(row, column), verification.steel, grounds.limits[..., column])
            values.append(
                (
                    "L_{LT}",
                    f"{float(s.L_LT[lateral.row]):.2f} m",
                    f"Of the governing segment, {s.start[lateral.row]:.2f} m to {s.end[lateral.row]:.2f} m, "
                    f"{'outer' if s.flange[lateral.row] > 0 else 'inner'} flange in compression",
                )
            )
            values.append(
                (
                    "M_{cr}",
                    f"{float(v['Mcr'][0, 0]) / 1000:.0f} kNm",
                    "Elastic critical moment of the same segment (6.3.2.2)",
                )
            )
            values.append(
                (r"\chi_{LT}", f"{float(v['chi_LT'][0, 0]):.2f}", "Reduction for lateral-torsional buckling (6.57)")
            )
    forces = verification.forces
    return verdict_schemas.RibbonOut(
        member=m.name,
        length=structure.length(m),
        combination=chain.combinations[verification.strength[c]].name if verification.strength else "",
        outer=list(m.outer),
        inner=list(m.inner),
        x=(chain.response.elements.positions(forces.x)[e]).ravel().tolist(),
        My=(forces.My[e, :, c].ravel() / 1000).tolist() if verification.strength else [],
        outer_spans=spans[1],
        inner_spans=spans[-1],
        values=values,
    )


def proof_out(proof: Proof, revision: int, member: str) -> verdict_schemas.ProofOut:
    """A proof for the screen."""
    return verdict_schemas.ProofOut(
        revision=revision,
        member=member,
        title=proof.title,
        clause=proof.clause,
        combination=proof.combination,
        formula=proof.formula,
        utilisation=proof.utilisation,
        steps=[verdict_schemas.StepOut(**vars(step)) for step in proof.steps],
        assumptions=list(proof.assumptions),
    )
