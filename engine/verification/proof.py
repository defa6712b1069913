"""The proof of one outcome: the same check evaluated on one row, written out with symbols, numbers, units and clauses."""

from __future__ import annotations

from dataclasses import dataclass, replace

from engine.actions.combinations import Combination
from engine.derivation import Derivation, steps
from engine.verification.checks import Evaluated
from engine.verification.outcomes import CRITERIA, SERVICE, SWINGING, Outcome
from engine.verification.service import BOUNCES, SWINGS, frequency_of, measure
from engine.verification.verify import Verification


@dataclass(frozen=True, kw_only=True)
class Proof(Derivation):
    """The derivation of an outcome in a combination. utilisation: its last value, equal to the one in the verdict."""

    combination: str
    formula: str
    utilisation: float


def prove(verification: Verification, combinations: list[Combination], member: int, outcome: Outcome) -> Proof:
    """Write out one outcome of one member."""
    found = evaluated(verification, member, outcome)
    used = verification.used(outcome.criterion)
    combination = combinations[used[outcome.combination]]
    return Proof(
        title=CRITERIA[outcome.criterion],
        clause=verification.checks.clauses[outcome.criterion],
        combination=combination.name,
        formula=combination.formula,
        utilisation=found.values["u"],
        steps=steps(verification.checks.lines(outcome.criterion), found.values, verification.checks.symbols),
        assumptions=tuple(found.assumptions),
    )


def evaluated(verification: Verification, member: int, outcome: Outcome) -> Evaluated:
    """An outcome computed anew, with every value of its proof."""
    if outcome.criterion not in SERVICE:
        return verification.checks.evaluated(member, outcome)
    words, rise = verification.stretches[outcome.row].words, verification.stretches[outcome.row].camber
    camber = f", less the camber of {rise * 1000:g} mm in its middle" if rise else "; no pre-camber"
    notes = [f"First-order displacement {words}{camber}."]
    if outcome.criterion == "floor":
        notes.append("Dunkerley: 1/f² of the whole is at most the sum of 1/f² of its parts, each swinging alone.")
    if outcome.criterion == "frequency":
        notes.append(
            "What it rests on is taken as still: on beams that bend too it swings slower, as natural modes show."
        )
    return Evaluated(_service_values(verification, outcome), notes)


def _service_values(verification: Verification, outcome: Outcome) -> dict[str, float]:
    combined = verification.grounds.combined
    which = [verification.used(outcome.criterion)[outcome.combination]]
    stretch = verification.stretches[outcome.row]
    found = measure(combined, combined.displacement(which), combined.deflections(which, stretch.rows), stretch)
    k, s = divmod(outcome.station, found.shape[1])
    w, limit = float(found[k, s, 0]), stretch.length / stretch.ratio
    swings: dict[str, float] = {}
    if outcome.criterion in SWINGING:
        swings = {"f_own": frequency_of(w), "f_least": frequency_of(limit)}
    if outcome.criterion == "floor":
        alone = measure(
            combined,
            combined.displacement(which),
            combined.deflections(which, stretch.rows),
            replace(stretch, way="down"),
        )
        bent = float(alone[k, s, 0])
        swings |= {"w_own": bent, "w_supports": (w - bent) * (BOUNCES / SWINGS) ** 2}
    return {
        **swings,
        "x": outcome.position,
        "camber": stretch.camber,
        "w": w,
        "span": stretch.length,
        "ratio": stretch.ratio,
        "absolute": float(stretch.absolute),
        "limit": limit,
        "u": w / limit,
    }
