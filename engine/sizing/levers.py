"""What moves the utilisation of one member: the same member solved with one input changed, under the forces present.

Another section of it alone moves otherwise: its deflection is found by a linear analysis of the whole. What a new analysis would change
in the forces is not in it.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from math import floor
from types import MappingProxyType

import numpy as np

from engine.analysis.combined import Combined
from engine.analysis.solve import assemble, solve_linear
from engine.catalogue.properties import PRONE, Section
from engine.catalogue.sections import family_of, is_known
from engine.chain import Chain
from engine.document.byhand import OwnChecks, StiffenerPlates
from engine.editing.apply import operate
from engine.editing.operations import ChangeMembers, MemberChange, Operation, Restrain
from engine.errors import ModelError
from engine.expand import expand
from engine.structure.model import Member, Structure
from engine.verification.outcomes import CRITERIA, SERVICE, UNDER, Outcome, Reached
from engine.verification.proof import Proof, prove
from engine.verification.single import Otherwise, everything, otherwise, served, tried

#: by how much a load grows, and a length falls: a tenth, as their words say
MORE, SHORTER = 0.10, 0.10
#: members of a building up to which levers are tried: each sets the building out again
MOST = 1500
#: share of a member's length below which a document states no effective length
SHORTEST = 0.1
#: plates of stiffeners: thicknesses, steps of their width, mm, and how many times as wide as thick they are at most
THICKNESSES, WIDTHS, SLIM = (6, 8, 10, 12, 15, 20, 25, 30, 40, 50, 60), 5, 10
#: restraints nearer than this to another make no difference worth a line, m
APART = 0.3


@dataclass(frozen=True)
class Lever:
    """One input changed. kind: "section", "stay", "plate" at rigid joints, "stiffeners", "load", "length y" or "length z"; outcome: what governs then; without: criteria that
    were not looked at; operations: what makes it so."""

    kind: str
    words: str
    outcome: Outcome
    without: tuple[str, ...] = ()
    operations: tuple[Operation, ...] = ()


def changed(chain: Chain, member: str, operations: tuple[Operation, ...]) -> tuple[list[Outcome], tuple[str, ...]]:
    """What a member would reach after operations on it, worst first, under what is present; and the criteria that this says nothing of.
    Raises ModelError for what cannot be done."""
    there, without = _otherwise(chain, member, operations)
    outcomes = tried(there, chain.structure.index[member])
    return [o for o in outcomes if o.criterion not in without], without


def proof_otherwise(
    chain: Chain, member: str, operations: tuple[Operation, ...], methods: Mapping[str, str], which: tuple[str, str]
) -> tuple[Proof, list[Outcome], tuple[str, ...]]:
    """The proof of a criterion of a member in a combination, `which`, after operations on it or by other methods that the standard allows (national choices of
    steel, by name), under what is present; what the member would reach then, and the criteria that this says nothing of, as of `changed`. Raises
    ModelError for what cannot be done or is not checked then."""
    index, (criterion, combination) = chain.structure.index[member], which
    there, without = _otherwise(chain, member, operations, methods)
    words = CRITERIA.get(criterion, criterion)
    if criterion in without:
        raise ModelError("How it would move takes a new analysis.", "criterion")
    every = there.reached(index)
    own = next((r for r in every if r.criterion == criterion), None)
    if own is None:
        raise ModelError(f"“{words}” would be no check of it.", "criterion")
    names = [chain.combinations[number].name for number in own.used]
    if combination not in names:
        raise ModelError(f"“{words}” is not checked in “{combination}”.", "combination")
    outcome = own.outcome(names.index(combination))
    if not np.isfinite(outcome.utilisation):
        raise ModelError(f"It would not be covered in {combination}.", "combination")
    reached = [o for o in tried(there, index, every) if o.criterion not in without]
    return prove(there.of(criterion), chain.combinations, index, outcome), reached, without


def _otherwise(
    chain: Chain, member: str, operations: tuple[Operation, ...], methods: Mapping[str, str] = MappingProxyType({})
) -> tuple[Otherwise, tuple[str, ...]]:
    document = chain.document
    for operation in operations:
        document = operate(document, operation)
    if methods:
        steel = document.national.steel.model_copy(update=dict(methods))
        national = document.national.model_copy(update={"steel": steel})
        document = document.model_copy(update={"national": national})
    structure = expand(document)
    index = chain.structure.index[member]
    if structure.index.get(member) != index or len(structure.members) != len(chain.structure.members):
        raise ModelError("That changes which members there are: it takes a new analysis.", "operations")
    new, old = structure.members[index], chain.structure.members[index]
    if new.nodes != old.nodes or [(p.start, p.end) for p in new.pieces] != [(p.start, p.end) for p in old.pieces]:
        raise ModelError("That changes where the member is cut: it takes a new analysis.", "operations")
    moved: Combined | None = None
    without: tuple[str, ...] = ()
    if new.section != old.section or new.pieces != old.pieces or new.material != old.material:
        moved = _moved(chain, structure)
        if moved is None:
            without = tuple(o.criterion for o in chain.verification.verdicts[index].outcomes if o.criterion in SERVICE)
    return otherwise(document, structure, chain.verification, moved), without


def _moved(chain: Chain, structure: Structure) -> Combined | None:
    """How members made otherwise move, by superposition; None where that does not hold for the deflections."""
    combined, before = chain.combined, chain.response.system
    if (combined.place[[i for _, own in chain.verification.served for i in own]] >= 0).any():
        return None
    system = assemble(structure, chain.loading, before.shear_deformation, before.bows)
    return replace(combined, response=solve_linear(system), states=None, place=np.full_like(combined.place, -1))


def levers(chain: Chain, member: str) -> list[Lever]:
    """One input changed at a time, those that help most first."""
    index = chain.structure.index[member]
    found = everything(chain.verification, index)
    if not found or len(chain.structure.members) > MOST:
        return []
    levers_: list[Lever] = []
    for kind, words, operation in _changes(chain, member, found[0]):
        try:
            outcomes, without = changed(chain, member, (operation,))
        except ModelError:
            continue
        if outcomes:
            levers_.append(Lever(kind, words, outcomes[0], without, (operation,)))
    levers_ += _heavier(chain, index, found[0])
    return sorted(levers_, key=lambda lever: lever.outcome.utilisation)


def next_larger(section: Section) -> Section | None:
    """The lightest of its family that is nowhere less: neither in area nor in second moments; None for one that the document makes up."""
    if not is_known(section.name):
        return None
    own = (section.A, section.Iy, section.Iz)
    found = [
        s
        for s in family_of(section.name)
        if s.name != section.name and all(a >= b for a, b in zip((s.A, s.Iy, s.Iz), own, strict=True))
    ]
    return min(found, key=lambda s: s.A, default=None)


def _changes(chain: Chain, member: str, worst: Reached) -> Iterator[tuple[str, str, Operation]]:
    m = chain.structure.member(member)
    index = chain.structure.index[member]
    larger = next_larger(m.section)
    if larger is not None:
        yield "section", larger.name, ChangeMembers(members=[member], change=MemberChange(section=larger.name))
    grounds = chain.verification.grounds
    if m.bar:
        return
    if worst.criterion == "knee" and m.checks.knees is None:
        plated = m.checks.model_copy(update={"knees": "plates"})
        yield (
            "plate",
            "as thick as its web at rigid joints",
            ChangeMembers(members=[member], change=MemberChange(checks=plated)),
        )
    if worst.criterion in ("web", "stiffener"):
        yield from _stiffeners(m, worst.criterion)
    if (
        worst.criterion in ("lateral", "interaction", "twist", "general", "flexural", "single")
        and m.section.shape in PRONE
    ):
        yield from _stays(chain, index, worst)
    lengths, length = grounds.lengths[index], chain.structure.length(m)
    for axis, now in (("y", lengths.y), ("z", lengths.z)):
        if now * (1 - SHORTER) < SHORTEST * length:
            continue
        own = m.checks.model_copy(update={f"buckling_{axis}": now * (1 - SHORTER) / length, f"from_{axis}": None})
        yield (
            f"length {axis}",
            f"−10 %, L_cr,{axis} {now * (1 - SHORTER):.2f} m",
            ChangeMembers(members=[member], change=MemberChange(checks=OwnChecks(**own.model_dump()))),
        )


def _stiffeners(m: Member, criterion: str) -> Iterator[tuple[str, str, Operation]]:
    """Stiffeners where something presses on a member whose web is crushed, as wide as its flanges or as stated; thicker ones where they fail."""
    plates = m.checks.plates
    if criterion == "stiffener" and plates:
        thicker = next((t for t in THICKNESSES if t > plates.thickness), None)
        if thicker is None:
            return
        words = f"in place of {plates.width:g} × {plates.thickness:g}"
        own = m.checks.model_copy(update={"plates": plates.model_copy(update={"thickness": thicker})})
    else:
        width = min(WIDTHS * floor((m.section.b - m.section.tw) * 500 / WIDTHS), SLIM * THICKNESSES[-1])
        if plates is None and width < WIDTHS:
            return
        thick = next(t for t in THICKNESSES if t >= width / SLIM)
        words = "where something presses"
        own = m.checks.model_copy(
            update={"stiffened": True, "plates": plates or StiffenerPlates(width=width, thickness=thick)}
        )
    assert own.plates is not None
    change = ChangeMembers(members=[m.name], change=MemberChange(checks=own))
    yield "stiffeners", f"{own.plates.width:g} × {own.plates.thickness:g} {words}", change


def _stays(chain: Chain, index: int, worst: Reached) -> Iterator[tuple[str, str, Operation]]:
    """A restraint in the middle of what governs: of the flange in compression (with a haunch, the inner one), at a purlin, rail or stay
    where there is one."""
    m = chain.structure.members[index]
    between = chain.verification.checks.between(index, worst.outcome(worst.worst))
    if between is None:
        return
    start, end = between.start, between.end
    # where both are held at its ends, the inner one: that of a haunch
    flange, other = ("outer", "inner") if between.flange == "outer" else ("inner", "outer")
    if end - start < 2 * APART:
        return
    middle = (start + end) / 2
    there = [x for x in getattr(m, other) if start + APART < x < end - APART]
    at = min(there, key=lambda x: abs(x - middle)) if there else round(middle, 2)
    yield (
        "stay",
        f"{flange} at {at:.2f} m",
        Restrain(members=[m.name], flange=flange, at=at),  # type: ignore[arg-type]
    )


def _heavier(chain: Chain, index: int, worst: Reached) -> list[Lever]:
    """The variable action that leads in what governs, a tenth larger."""
    number = worst.used[worst.worst]
    factors, cases = chain.combined.rows[number], chain.loading.cases
    variable = [
        i for i, c in enumerate(cases) if factors[i] and c.nature not in ("permanent", "imperfection", "settlement")
    ]
    if not variable:
        return []
    lead = max(variable, key=lambda i: abs(factors[i]))
    words = f"{cases[lead].symbol} +10 %, {cases[lead].name}"
    more, verification = np.zeros_like(factors), chain.verification
    more[lead] = MORE * factors[lead]
    if worst.criterion in SERVICE:
        if chain.combined.place[number] >= 0:
            return []
        rows = chain.combined.rows.copy()
        rows[number] += more
        combined: Combined = replace(chain.combined, rows=rows)
        under = UNDER.get(worst.criterion, "deflection")
        found = served(combined, [number], chain.verification.limited(under), index)
    else:
        found = verification.checks.on(verification.grounds.added(number, more)).reached(index)
    found = [r for r in found if r.worst >= 0]
    if not found:
        return []
    most = max(found, key=lambda r: float(r.utilisation[r.worst]))
    column = chain.verification.used(worst.criterion).index(number)
    outcome = replace(most.outcome(most.worst), combination=column)
    return [Lever("load", words, outcome)]
