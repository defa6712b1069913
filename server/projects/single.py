"""One member looked at closely: what comes next to what governs, what moves it, and what a change would do to it."""

from __future__ import annotations

from typing import Annotated, Any, Literal

import numpy as np
from pydantic import BaseModel, Field

from engine.chain import Chain
from engine.editing.operations import Operation
from engine.errors import ModelError
from engine.sizing.levers import MOST, Lever, changed, levers, proof_otherwise
from engine.verification.outcomes import CRITERIA, SERVICE, Outcome, Reached, kind_of
from engine.verification.proof import Proof, prove
from engine.verification.single import everything
from server.projects import verdict_schemas
from server.projects.one_member import proof_out

#: combinations that are told beside the governing one
NEXT = 4


class NextOut(BaseModel):
    """Another combination, and what a criterion reaches in it."""

    combination: str
    formula: str
    utilisation: float


class CriterionOut(BaseModel):
    """One criterion of a member: what governs it, and the combinations that come next."""

    criterion: str
    words: str
    clause: str
    utilisation: float
    combination: str
    formula: str
    position: float
    next: list[NextOut]


class LeverOut(BaseModel):
    """One input changed, and what governs the member then. kind: "section", "stay", "plate", "load", "length y" or "length z"; without: criteria
    that were not looked at, in words."""

    kind: str
    words: str
    utilisation: float
    governs: str
    without: list[str]
    operations: list[Operation]


class WhyOut(BaseModel):
    """Why something governs a member. where: what is checked there, in words; large: the building is too large for levers to be tried."""

    revision: int
    member: str
    where: str
    criteria: list[CriterionOut]
    levers: list[LeverOut]
    large: bool


class TryIn(BaseModel):
    """Operations whose effect on a member is asked for; nothing is changed."""

    member: Annotated[str, Field(max_length=120)]
    operations: Annotated[list[Operation], Field(min_length=1, max_length=20)]
    revision: int | None = None


class TriedOut(BaseModel):
    """What a member would reach, and what it reaches now, each with what governs. without: criteria that were not looked at."""

    revision: int
    member: str
    utilisation: float | None
    governs: str
    before: float | None
    governed: str
    without: list[str]


class OtherMethods(BaseModel):
    """Methods that EN 1993-1-1 leaves to choose, where they are others than the document's."""

    lateral: Literal["6.3.2.3", "6.3.2.2"] | None = None
    modification: Literal["1", "(6.58)"] | None = None
    interaction: Literal["annex A", "annex B"] | None = None


class OtherwiseIn(BaseModel):
    """A proof of a member as operations or other methods would make it; nothing is changed."""

    member: Annotated[str, Field(max_length=120)]
    criterion: Annotated[str, Field(max_length=40)]
    combination: Annotated[str, Field(max_length=120)]
    operations: Annotated[list[Operation], Field(max_length=20)] = []
    methods: OtherMethods = OtherMethods()
    revision: int | None = None


def told(body: TryIn | OtherwiseIn) -> dict[str, Any]:
    """What is asked, without the revision that it is asked of, as a worker may read it again; of operations what they state."""
    operations = [o.model_dump(mode="json", exclude_unset=True) | {"do": o.do} for o in body.operations]
    return body.model_dump(mode="json", exclude={"revision", "operations"}) | {"operations": operations}


class OtherwiseOut(BaseModel):
    """Such a proof; what the member would reach, with what governs then. without: criteria that were not looked at."""

    proof: verdict_schemas.ProofOut
    reaches: float | None
    governs: str
    without: list[str]


class MethodOut(BaseModel):
    """One way to an effective length. factor: on the own length, None where it leads to none; words: how it was found; note: what
    speaks against it."""

    key: str
    name: str
    factor: float | None
    length: float | None
    words: str
    note: str


class AxisOut(BaseModel):
    """The effective length about one axis that is in force, why, and what other ways lead to. own: whether it was set for the member."""

    axis: str
    length: float
    factor: float
    why: str
    own: bool
    methods: list[MethodOut]


class SegmentOut(BaseModel):
    """A segment between restraints of a flange: m from the start, its length for lateral-torsional buckling, over their distance where that is stated, and the
    largest utilisation."""

    flange: Literal["outer", "inner"]
    start: float
    end: float
    length: float
    stated: float | None
    utilisation: float


class WaysOut(BaseModel):
    """Effective lengths of a member, by the forces of a combination. segments: what buckles sideways under any combination."""

    revision: int
    member: str
    combination: str
    axes: list[AxisOut]
    segments: list[SegmentOut]


def index_of(chain: Chain, name: str) -> int:
    """The number of a member. Raises ModelError for a name that none bears."""
    if name not in chain.structure.index:
        raise ModelError(f"There is no member “{name}”.", "member")
    return chain.structure.index[name]


def why_out(chain: Chain, revision: int, member: str) -> WhyOut:
    """Criteria of a member worst first, and what moves it."""
    index = index_of(chain, member)
    found = everything(chain.verification, index)
    return WhyOut(
        revision=revision,
        member=member,
        where=_where(chain, index, found[0]) if found else "",
        criteria=[_criterion(chain, r) for r in found],
        levers=[_lever(lever) for lever in levers(chain, member)],
        large=len(chain.structure.members) > MOST,
    )


def _criterion(chain: Chain, r: Reached) -> CriterionOut:
    words, clause = CRITERIA[r.criterion], chain.verification.checks.clauses[r.criterion]
    order = np.argsort(-np.nan_to_num(r.utilisation, nan=-1.0), kind="stable")[: NEXT + 1]
    told = [
        NextOut(
            combination=chain.combinations[r.used[c]].name,
            formula=chain.combinations[r.used[c]].formula,
            utilisation=float(r.utilisation[c]),
        )
        for c in order.tolist()
        if np.isfinite(r.utilisation[c])
    ]
    return CriterionOut(
        criterion=r.criterion,
        words=words,
        clause=clause,
        utilisation=told[0].utilisation,
        combination=told[0].combination,
        formula=told[0].formula,
        position=float(r.position[r.worst]),
        next=told[1:],
    )


def _lever(lever: Lever) -> LeverOut:
    return LeverOut(
        kind=lever.kind,
        words=lever.words,
        utilisation=lever.outcome.utilisation,
        governs=CRITERIA[lever.outcome.criterion],
        without=[CRITERIA[criterion] for criterion in lever.without],
        operations=list(lever.operations),
    )


def _where(chain: Chain, index: int, r: Reached) -> str:
    """What the governing check looks at."""
    row = int(r.row[r.worst])
    between = chain.verification.checks.between(index, r.outcome(r.worst))
    if r.criterion in ("lateral", "interaction", "single", "twist") and between:
        flange, length = between.flange.capitalize(), between.lateral
        return f"{flange} flange compressed, {between.start:.2f} m to {between.end:.2f} m, L_LT = {length:.2f} m."
    if r.criterion == "general" and between:
        return f"{between.start:.2f} m to {between.end:.2f} m, between places where both flanges are held."
    if r.criterion == "flexural":
        lengths = chain.verification.grounds.lengths[index]
        return f"L_cr,y = {lengths.y:.2f} m, {lengths.why_y}; L_cr,z = {lengths.z:.2f} m, {lengths.why_z}."
    if r.criterion in SERVICE:
        stretch = chain.verification.stretches[row]
        limit = stretch.length / stretch.ratio
        over = f"{limit * 1000:g} mm at most" if stretch.absolute else f"{stretch.length:.2f} m / {stretch.ratio:g}"
        return f"{over}, {stretch.words}."
    return f"At {r.position[r.worst]:.2f} m from its start."


def tried_out(chain: Chain, revision: int, member: str, operations: list[Operation]) -> TriedOut:
    """What operations would do to a member, under the forces present. Raises ModelError for what cannot be done."""
    index = index_of(chain, member)
    outcomes, without = changed(chain, member, tuple(operations))
    now = chain.verification.verdicts[index].governing
    then = outcomes[0] if outcomes else None

    def words(outcome: Outcome | None) -> str:
        return CRITERIA[outcome.criterion] if outcome else ""

    return TriedOut(
        revision=revision,
        member=member,
        utilisation=then.utilisation if then else None,
        governs=words(then),
        before=now.utilisation if now else None,
        governed=words(now),
        without=[CRITERIA[criterion] for criterion in without],
    )


def otherwise_out(chain: Chain, revision: int, asked: OtherwiseIn) -> OtherwiseOut:
    """The proof of a member as it would be otherwise, under the forces present. Raises ModelError for what cannot be done or is not checked then."""
    index_of(chain, asked.member)
    methods = asked.methods.model_dump(exclude_none=True)
    which = asked.criterion, asked.combination
    found, reached, without = proof_otherwise(chain, asked.member, tuple(asked.operations), methods, which)
    return OtherwiseOut(
        proof=proof_out(found, revision, asked.member),
        reaches=reached[0].utilisation if reached else None,
        governs=CRITERIA[reached[0].criterion] if reached else "",
        without=[CRITERIA[criterion] for criterion in without],
    )


def lengths_out(chain: Chain, revision: int, member: str) -> WaysOut:
    """Ways to the effective lengths of a member under what governs its stability, or its strength. Raises ModelError for a name that
    none bears, and where nothing is combined for strength."""
    index, grounds = index_of(chain, member), chain.verification.grounds
    if not grounds.strength:
        raise ModelError("There is no combination for strength.", "combinations")
    m = chain.structure.members[index]
    strong = [o for o in chain.verification.verdicts[index].outcomes if kind_of(o.criterion) != "service"]
    stable = [o for o in strong if kind_of(o.criterion) == "stability"] or strong
    column = max(stable, key=lambda o: o.utilisation).combination if stable else 0
    own, lengths = chain.structure.length(m), grounds.lengths[index]
    axes = []
    for axis, now, why, stated in (
        ("y", lengths.y, lengths.why_y, m.checks.buckling_y),
        ("z", lengths.z, lengths.why_z, m.checks.buckling_z),
    ):
        ways = [
            MethodOut(length=None if way.factor is None else way.factor * own, **vars(way))
            for way in chain.verification.checks.methods(index, axis, column)
        ]
        axes.append(AxisOut(axis=axis, length=now, factor=now / own, why=why, own=stated is not None, methods=ways))
    name = chain.combinations[grounds.strength[column]].name
    return WaysOut(revision=revision, member=member, combination=name, axes=axes, segments=_segments(chain, index))


def _segments(chain: Chain, index: int) -> list[SegmentOut]:
    checks = chain.structure.members[index].checks
    found = []
    for b in chain.verification.checks.flanges(index):
        stated = checks.lateral_factor(b.flange, b.start, b.end)
        # what is shorter than its stretch is held all along
        if not b.flange or b.solved or (stated is None and b.lateral < (b.end - b.start) * (1 - 1e-3)):
            continue
        found.append(
            SegmentOut(
                flange=b.flange,
                start=b.start,
                end=b.end,
                length=b.lateral,
                stated=stated,
                utilisation=b.utilisation,
            )
        )
    return found


def proof_of(chain: Chain, member: str, criterion: str, combination: str = "") -> Proof:
    """The proof of one check of a member, in what governs it or in another combination. Raises ModelError for what there is not."""
    index = index_of(chain, member)

    def written(outcome: Outcome) -> Proof:
        return prove(chain.verification, chain.combinations, index, outcome)

    governing = next((o for o in chain.verification.verdicts[index].outcomes if o.criterion == criterion), None)
    if governing is None:
        raise ModelError(f"Member “{member}” has no check “{criterion}”.", "criterion")
    if not combination:
        return written(governing)
    for r in everything(chain.verification, index):
        names = [chain.combinations[number].name for number in r.used]
        if r.criterion == criterion and combination in names:
            outcome = r.outcome(names.index(combination))
            if not np.isfinite(outcome.utilisation):
                raise ModelError(f"“{member}” is not covered in {combination}.", "combination")
            return written(outcome)
    raise ModelError(f"“{criterion}” is not checked in “{combination}”.", "combination")
