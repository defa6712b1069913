"""What `./lorica solve` writes: a chain's numbers in the units of its document. docs/format.md describes it."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.actions.combinations import Combination
from engine.analysis.lateral import lateral_factors
from engine.balance import balances
from engine.chain import Chain
from engine.standards.family import family
from engine.verification.outcomes import CRITERIA, SERVICE, Verdict
from engine.verification.standing import in_words

RESULT_VERSION = 1
FORCES = ("N", "Vy", "Vz", "T", "My", "Mz")


def _tidy(values: Any) -> Any:
    """Numbers to ten significant digits, as plain lists."""
    array = np.asarray(values, dtype=float)
    with np.errstate(divide="ignore"):
        size = np.where(array == 0, 0, np.floor(np.log10(np.abs(np.where(array == 0, 1, array)))))
    scale = 10.0 ** (9 - size)
    return (np.round(array * scale) / scale).tolist()


def result(chain: Chain, full: bool = False, lateral: bool = False) -> dict[str, Any]:
    """The result as plain data. full: also states every generated combination of a hall, not the cases alone. lateral: the factors
    at which members buckle sideways in the states.

    Forces in the document's unit, lengths in metres, rotations in radians; axes and signs in docs/conventions.md.
    """
    unit = chain.document.force
    shown = [(case.name, "case", chain.combined.case(i)) for i, case in enumerate(chain.loading.cases)]
    stated = {c.name for c in chain.document.combinations}
    shown += [(c.name, "combination", i) for i, c in enumerate(chain.combinations) if full or c.name in stated]
    return {
        "format": "lorica-result",
        "version": RESULT_VERSION,
        "units": chain.document.units,
        "name": chain.document.name,
        "fingerprints": chain.fingerprints,
        "tonnage_kg": chain.tonnage(),
        "residual": chain.response.residual,
        "simplifications": family(chain.document).simplifications(chain.document, chain.structure),
        "cases": [
            {
                "name": case.name,
                "symbol": case.symbol,
                "nature": case.nature,
                "note": case.note,
                "expected": _tidy(b.expected / unit),
                "applied": _tidy(b.applied / unit),
                "reacted": _tidy(b.reacted / unit),
                "balance_holds": b.holds,
            }
            for case, b in zip(chain.loading.cases, balances(chain.loading, chain.response), strict=True)
        ],
        "combinations": [
            {
                "name": c.name,
                "use": c.use,
                "formula": c.formula,
                "factors": {chain.loading.cases[k].name: float(c.factors[k]) for k in np.flatnonzero(c.factors)},
                **_standing(chain, i),
            }
            for i, c in enumerate(chain.combinations)
        ],
        "states": {name: {"kind": kind, **_state(chain, number, unit)} for name, kind, number in shown},
        "members": [_verdict(chain, verdict) for verdict in chain.verification.verdicts],
        **({"lateral_factors": _lateral(chain, [(name, number) for name, _, number in shown])} if lateral else {}),
    }


def _lateral(chain: Chain, shown: list[tuple[str, int]]) -> dict[str, dict[str, float | None]]:
    """By state and member the factor on the state's forces at which the member buckles sideways; None where it does not.
    Members that are not covered are left out."""
    found: dict[str, dict[str, float | None]] = {name: {} for name, _ in shown}
    for i, m in enumerate(chain.structure.members):
        factors = lateral_factors(chain.combined, [number for _, number in shown], i)
        for (name, _), factor in zip(shown, [] if factors is None else factors.tolist(), strict=factors is not None):
            found[name][m.name] = factor if np.isfinite(factor) else None
    return found


def _standing(chain: Chain, number: int) -> dict[str, Any]:
    """How a combination stands: its order, critical factor (None: nothing buckles) and what buckles, whether it found its state,
    which members hang slack and which supports lift."""
    combined = chain.combined
    found: dict[str, Any] = {
        "order": 2 if combined.second[number] else 1,
        "settled": combined.settled(number),
        "stable": combined.stable(number),
    }
    slack = combined.slack(number)
    if slack:
        found["slack"] = [chain.structure.members[m].name for m in slack]
    lifted = combined.lifted(number)
    if lifted:
        found["lifted"] = [f"{chain.structure.nodes[n]} {way}" for n, way in lifted]
    if combined.ultimate[number]:
        alpha = combined.alpha[number]
        found["alpha_cr"] = float(alpha) if np.isfinite(alpha) else None
        found["buckles"] = in_words(combined, number)
    return found


def _state(chain: Chain, number: int, unit: float) -> dict[str, Any]:
    response, structure, combined = chain.response, chain.structure, chain.combined
    u = combined.displacement([number])[..., 0]
    reaction = combined.reaction([number])[..., 0] / unit
    held = (structure.fixed | (structure.springs != 0)).any(axis=1)
    ends = combined.end_force([number])[..., 0] / unit
    along = combined.diagrams([number])
    w = combined.deflections([number])[..., 0]
    members: dict[str, Any] = {}
    for e, m in enumerate(response.elements.member):
        entry = members.setdefault(structure.members[m].name, {"end_forces": [], "stations": []})
        entry["end_forces"].append(_tidy(ends[e]))
        for s in range(along.x.shape[1]):
            station = {"x": float(response.elements.positions(along.x)[e, s])}
            station |= {name: _tidy(getattr(along, name)[e, s, 0] / unit) for name in FORCES}
            station["displacement"] = _tidy(w[e, s])
            entry["stations"].append(station)
    return {
        "displacements": {name: _tidy(u[i]) for i, name in enumerate(structure.nodes)},
        "reactions": {structure.nodes[i]: _tidy(reaction[i]) for i in np.flatnonzero(held)},
        "members": members,
    }


def _verdict(chain: Chain, verdict: Verdict) -> dict[str, Any]:
    member = chain.structure.members[verdict.member]
    governing = verdict.governing
    return {
        "name": member.name,
        "role": member.role,
        "section": member.section.name,
        "material": member.material.name,
        "status": verdict.status,
        "not_covered": list(verdict.not_covered),
        "utilisation": governing.utilisation if governing else None,
        "governs": CRITERIA[governing.criterion][0] if governing else None,
        "checks": {
            o.criterion: {
                "utilisation": o.utilisation,
                "clause": CRITERIA[o.criterion][1],
                "combination": combination_of(chain, o.criterion, o.combination).name,
                "position": o.position,
            }
            for o in verdict.outcomes
        },
    }


def combination_of(chain: Chain, criterion: str, index: int) -> Combination:
    """The combination of an outcome."""
    used = chain.verification.deflection if criterion in SERVICE else chain.verification.strength
    return chain.combinations[used[index]]
