"""One member as the workbench shows it: laid flat with its restraints, and the proof of one of its criteria."""

from __future__ import annotations

from engine.chain import Chain
from engine.report.ribbon import Ribbon, ribbon
from engine.verification.proof import Proof
from server.projects import verdict_schemas
from server.projects.derivations import derivation_out


def ribbon_out(chain: Chain, member: int) -> verdict_schemas.RibbonOut:
    """The restraint ribbon of a member in its governing strength combination."""
    m, verification = chain.structure.members[member], chain.verification
    found = ribbon(chain, member)
    spans: dict[str, list[verdict_schemas.SpanOut]] = {"outer": [], "inner": []}
    for span in found.spans:
        spans[span.flange].append(verdict_schemas.SpanOut(start=span.start, end=span.end, utilisation=span.utilisation))
    figures = verification.checks.figures(member, list(found.strong))
    return verdict_schemas.RibbonOut(
        member=m.name,
        length=chain.structure.length(m),
        combination=found.combination,
        outer=list(m.outer),
        inner=list(m.inner),
        x=found.x.tolist(),
        My=(found.My / 1000).tolist(),
        outer_spans=spans["outer"],
        inner_spans=spans["inner"],
        buckled=_buckled_out(found),
        figures=[verdict_schemas.FigureOut(**vars(figure)) for figure in figures],
    )


def _buckled_out(found: Ribbon) -> verdict_schemas.BuckledOut | None:
    shape = found.buckled
    if shape is None:
        return None
    along = {name: getattr(shape, name).round(4).tolist() for name in ("x", "outer", "inner")}
    return verdict_schemas.BuckledOut(combination=found.buckles_in, factor=shape.factor, **along)


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
