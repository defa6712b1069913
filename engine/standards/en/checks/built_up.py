"""Built-up members, laced or battened, pressed and bent across their chords: EN 1993-1-1 6.4."""

from __future__ import annotations

import numpy as np

from engine.catalogue.shapes.latticed import SHAPES
from engine.standards.en.built_up import PANELS, Values, built_up_check
from engine.standards.en.checks.grounds import TORSION_UNCHECKED, SteelGrounds
from engine.structure.model import Member
from engine.verification.outcomes import Findings, Held, Outcome, Reached, most_of

#: what a verdict on such a member leaves out
LEFT_OUT = (
    "the weight of its lacing or battens is not in its own",
    "its net section is not checked",
    "its end plates, and what joins lacing or battens to its chords, are not checked",
)
FEW = "it has fewer than three panels between its ends (6.4.1(1))"
CLASS_4 = "a chord of class 4 is not covered"
TORSION = "torsion above what is negligible (6.2.7) is not covered yet"

Columns = list[int] | slice
EVERY = slice(None)


def is_built_up(member: Member) -> bool:
    """Whether a member is verified here."""
    return member.section.shape in SHAPES and member.material.strength is not None


def built_up_values(grounds: SteelGrounds, member: int, columns: Columns = EVERY) -> Values:
    """`built_up_check` under the largest forces along a member in each combination."""
    m = grounds.combined.structure.members[member]
    assert m.section.latticed is not None
    rows = grounds.combined.elements.rows(member)

    def most(name: str) -> np.ndarray:
        return np.asarray(np.abs(getattr(grounds.peaks, name)[rows][..., columns]).max(axis=(0, 1)))

    lengths, rules = grounds.lengths[member], grounds.document.rules
    limits = grounds.limits[:, member][:, columns]
    gammas = rules.gamma_M0, rules.gamma_M1
    N, V = grounds.extremes(member, columns), (most("Vy"), most("Vz"))
    return built_up_check(
        m.section.latticed,
        m.material,
        N,
        most("My"),
        most("Mz"),
        V,
        (lengths.y, lengths.z),
        gammas,
        (limits[0], limits[1]),
    )


def _reasons(grounds: SteelGrounds, member: int, v: Values) -> list[str]:
    structure = grounds.combined.structure
    m = structure.members[member]
    assert m.section.latticed is not None
    found = [CLASS_4] if np.isnan(v["u_chord"]).any() else []
    if structure.length(m) < (PANELS - 1e-6) * m.section.latticed.panel:
        found.append(FEW)
    twisted = np.abs(grounds.peaks.T[grounds.combined.elements.rows(member)]).max(initial=0.0) / m.section.Wt
    if twisted > TORSION_UNCHECKED * v["fy"] / grounds.document.rules.gamma_M0 / np.sqrt(3):
        found.append(TORSION)
    return found


def built_up(grounds: SteelGrounds, found: Findings) -> list[Held]:
    """Add to the outcomes and reasons of each such member, and to what its verdict leaves out; gives what they reach."""
    held = []
    for i, m in enumerate(grounds.combined.structure.members):
        if not is_built_up(m):
            continue
        v = built_up_values(grounds, i)
        found.reasons[i] += _reasons(grounds, i, v)
        found.left_out[i] += LEFT_OUT
        reached = _reached(grounds, i, v)
        found.outcomes[i] += [r.outcome(r.worst) for r in reached if r.worst >= 0]
        most = max(float(np.nan_to_num(r.utilisation).max()) for r in reached)
        found.along[grounds.combined.elements.rows(i)] = 0.0
        length = grounds.combined.structure.length(m)
        held.append(Held(np.array([i]), np.zeros(1), np.array([length]), np.array([most])))
    return held


def _reached(grounds: SteelGrounds, member: int, v: Values) -> list[Reached]:
    where = [(member, -1, grounds.combined.structure.length(grounds.combined.structure.members[member]) / 2)]
    return [
        most_of(name, grounds.strength, np.asarray(v[key])[None], where)
        for name, key in (("chord", "u_chord"), ("lacing", "u_lacing"))
    ]


def built_up_reached(grounds: SteelGrounds, member: int, governing: bool = False) -> list[Reached]:
    """Chords and lacing in every combination for strength; nothing for other members."""
    if not is_built_up(grounds.combined.structure.members[member]):
        return []
    return _reached(grounds, member, built_up_values(grounds, member))


def built_up_most(grounds: SteelGrounds, most: np.ndarray) -> None:
    """Raise (members, combinations) to what such members reach."""
    for i in range(len(most)):
        for r in built_up_reached(grounds, i):
            most[i] = np.maximum(most[i], np.nan_to_num(r.utilisation))


def built_up_of(grounds: SteelGrounds, column: int, along: np.ndarray) -> list[Held]:
    """What such members reach in one combination for strength."""
    held = []
    for i, m in enumerate(grounds.combined.structure.members):
        if is_built_up(m):
            v = built_up_values(grounds, i, [column])
            u = float(np.nan_to_num(np.maximum(v["u_chord"], v["u_lacing"]))[0])
            along[grounds.combined.elements.rows(i)] = 0.0
            length = grounds.combined.structure.length(m)
            held.append(Held(np.array([i]), np.zeros(1), np.array([length]), np.array([u])))
    return held


def built_up_proof(grounds: SteelGrounds, member: int, outcome: Outcome) -> dict[str, float]:
    """Every value of the check in the combination of an outcome, for its proof."""
    v = built_up_values(grounds, member, [outcome.combination])
    lengths = grounds.lengths[member]
    values = {name: float(np.ravel(value)[0]) for name, value in v.items()}
    u = values["u_chord" if outcome.criterion == "chord" else "u_lacing"]
    return values | {"Lcr_y": lengths.y, "Lcr_z": lengths.z, "u": u}
