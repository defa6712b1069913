"""What `./lorica solve` writes: a chain's numbers in the units of its document. docs/format.md describes it."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.analysis.diagrams import FORCES, extremes
from engine.analysis.elements import Elements
from engine.analysis.lateral_members import lateral_factors
from engine.chain import Chain
from engine.errors import ModelError
from engine.report import loads, modes, verdicts
from engine.standards.family import family
from engine.verification.standing import in_words

RESULT_VERSION = 1
#: elements up to which modes are written
MODES = 2000


def _tidy(values: Any) -> Any:
    """Numbers to ten significant digits, as plain lists."""
    array = np.asarray(values, dtype=float)
    if not np.isfinite(array).all():
        raise ModelError(
            "The numbers are beyond what can be computed: a load or a stiffness is far too large or too small."
        )
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
                "name": found.case.name,
                "symbol": found.case.symbol,
                "nature": found.case.nature,
                "note": found.case.note,
                "expected": _tidy(found.balance.expected / unit),
                "ground": _tidy(found.balance.ground / unit),
                "applied": _tidy(found.balance.applied / unit),
                "reacted": _tidy(found.balance.reacted / unit),
                "balance_holds": found.balance.holds,
                **({"moment_lost": list(found.balance.tilted)} if found.balance.tilted else {}),
            }
            for found in loads.cases(chain)
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
        "members": [_verdict(m) for m in verdicts.members(chain)],
        "whole": _whole(chain),
        "secondary": [
            {
                "role": s.role,
                "table": s.table,
                "status": s.status,
                "utilisation": s.worst if s.uses else None,
                "not_covered": list(s.reasons),
                "left_out": list(s.left_out),
            }
            for s in chain.verification.secondary
        ],
        **_modes(chain),
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
    elements = response.elements
    u = _tidy(combined.displacement([number])[..., 0])
    reaction = _tidy(combined.reaction([number])[..., 0] / unit)
    held = (structure.fixed | (structure.springs != 0)).any(axis=1)
    ends = _tidy(combined.end_force([number])[..., 0] / unit)
    along = combined.diagrams([number])
    w = _tidy(combined.deflections([number])[..., 0])
    places = _tidy(elements.positions(along.x))
    forces = [_tidy(getattr(along, name)[..., 0] / unit) for name in FORCES]
    peaks = _extremes(elements, extremes(along, combined.pulled([number])), unit)
    members: dict[str, Any] = {}
    for e, m in enumerate(elements.member.tolist()):
        name = structure.members[m].name
        entry = members.get(name)
        if entry is None:
            axes = {"local_axes": _tidy(elements.axes[e]), "extremes": peaks[m]}
            entry = members[name] = {"end_forces": [], "stations": [], **axes}
        entry["end_forces"].append(ends[e])
        rows = zip(places[e], w[e], *(values[e] for values in forces), strict=True)
        entry["stations"] += [
            {"x": x, **dict(zip(FORCES, values, strict=True)), "displacement": moved} for x, moved, *values in rows
        ]
    return {
        "displacements": dict(zip(structure.nodes, u, strict=True)),
        "reactions": {structure.nodes[i]: reaction[i] for i in np.flatnonzero(held).tolist()},
        "members": members,
    }


def _extremes(elements: Elements, found: dict[str, Any], unit: float) -> list[dict[str, Any]]:
    """By member the greatest and least of each force between its ends, exact between the stations, with their places in metres
    from its start."""
    count = int(elements.member.max(initial=-1)) + 1
    first = np.searchsorted(elements.member, np.arange(count + 1))
    stretch = elements.reach / elements.length
    out: list[dict[str, Any]] = [{} for _ in range(count)]
    for name, (most, most_at, least, least_at) in found.items():
        rows = [most[:, 0] / unit, elements.offset + most_at[:, 0] * stretch, least[:, 0] / unit]
        rows.append(elements.offset + least_at[:, 0] * stretch)
        parts = [slice(first[m], first[m + 1]) for m in range(count)]
        high = [own.start + int(rows[0][own].argmax()) for own in parts]
        low = [own.start + int(rows[2][own].argmin()) for own in parts]
        values = _tidy(np.stack([rows[0][high], rows[1][high], rows[2][low], rows[3][low]], axis=1))
        for m, own_values in enumerate(values):
            out[m][name] = dict(zip(("most", "most_at", "least", "least_at"), own_values, strict=True))
    return out


def _modes(chain: Chain) -> dict[str, Any]:
    """Natural frequencies with the masses of the document, and the buckling modes of the combination that is nearest to its critical
    load, of frames of up to MODES elements."""
    if len(chain.response.elements) > MODES:
        return {}
    found: dict[str, Any] = {
        "vibration": [
            {"name": f"vibration {k}", "frequency_hz": m.value} for k, m in enumerate(modes.natural(chain), 1)
        ]
    }
    alpha = chain.combined.alpha
    if np.isfinite(alpha).any() and np.nanmin(alpha) > 0:
        worst = int(np.nanargmin(alpha))
        found["buckling"] = {
            "combination": chain.combinations[worst].name,
            "modes": [
                {"name": f"buckling {k}", "factor": m.value, "by_itself": name or None}
                for k, (m, name) in enumerate(modes.buckling(chain, worst), 1)
            ],
        }
    return {"modes": found}


def _whole(chain: Chain) -> dict[str, Any]:
    """What may be said of the whole, every member counted."""
    found = chain.verification.whole
    return {
        "passing": found.passing,
        "failing": found.failing,
        "not_covered": found.not_covered,
        "left_out": verdicts.left_out(chain),
    }


def _verdict(m: verdicts.MemberReport) -> dict[str, Any]:
    return {
        "name": m.member.name,
        "role": m.member.role,
        "section": m.member.section.name,
        "material": m.member.material.name,
        "status": m.status,
        "not_covered": list(m.verdict.not_covered),
        "left_out": list(m.verdict.left_out),
        "utilisation": m.governing.utilisation if m.governing else None,
        "governs": m.governing.words if m.governing else None,
        "checks": {
            c.criterion: {
                "utilisation": c.utilisation,
                "clause": c.clause,
                "combination": c.combination.name,
                "position": c.position,
            }
            for c in m.checks
        },
    }
