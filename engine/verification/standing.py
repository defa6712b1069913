"""Stability of the whole in the verdicts: combinations beyond their critical load, in too low an order, or without a state."""

from __future__ import annotations

import numpy as np

from engine.actions.combinations import Combination
from engine.analysis.combined import Combined
from engine.document import Document
from engine.document.rules import AnalysisOptions
from engine.structure.words import label
from engine.verification.outcomes import Outcome

#: utilisation said of a combination beyond its critical load where its α_cr is not known
BEYOND = 9.99


def judge(
    document: Document,
    combined: Combined,
    combinations: list[Combination],
    strength: tuple[int, ...],
    outcomes: list[list[Outcome]],
    reasons: list[list[str]],
) -> None:
    """A combination beyond its critical load fails the member that buckles by itself, for the others then nothing is known of it;
    or it fails all. First order below the limit of 5.2.1(3), one-way parts without a state and mechanisms of slack members
    cover nothing."""
    standing, limit = combined.standing, document.analysis.second_order_below
    worst: dict[int, tuple[float, int]] = {}
    unknown: list[tuple[str, int]] = []
    for k, i in enumerate(strength):
        if not combined.stable(i):
            alpha = combined.alpha[i]
            u = float(1 / alpha if np.isfinite(alpha) and 0 < alpha < 1 else BEYOND)
            alone = int(standing.by_itself[k]) if 0 < alpha < 1 else -1
            for m in [alone] if alone >= 0 else range(len(outcomes)):
                worst[m] = max(worst.get(m, (0.0, -1)), (u, k))
            if alone >= 0:
                name = combined.structure.members[alone].name
                unknown.append((f"nothing is known of {combinations[i].name}: “{name}” buckles in it", alone))
        elif document.analysis.order == "first" and standing.together[k] < limit:
            words = (
                f"first order below the limit: α_cr = {standing.together[k]:.2f} < {limit:g} in {combinations[i].name}"
            )
            unknown.append((f"{words} (5.2.1(3)); take second order by α_cr", -1))
        elif standing.loose[k] and not document.rules.imperfections:
            unknown.append(
                (
                    f"slack members leave a mechanism in {combinations[i].name} that no load and no imperfection pushes",
                    -1,
                )
            )
        if not combined.settled(i):
            words = f"members or supports that act one way find no state in {combinations[i].name} (they alternate)"
            unknown.append((words, -1))
    for m, (u, k) in worst.items():
        row = int(np.searchsorted(combined.elements.member, m))
        outcomes[m].append(Outcome("critical", u, k, 0.0, row))
    everyone = _few([words for words, _ in unknown])
    excepted = {but for _, but in unknown if but >= 0}
    for m, found in enumerate(reasons):
        found.extend(_few([words for words, but in unknown if but != m]) if m in excepted else everyone)


def lenient(
    document: Document, combined: Combined, combinations: list[Combination], strength: tuple[int, ...]
) -> tuple[str, ...]:
    """Said where a limit of α_cr below the usual one leaves combinations in first order that would be in second."""
    limit, usual = document.analysis.second_order_below, AnalysisOptions().second_order_below
    if document.analysis.order == "second" or limit >= usual or not strength:
        return ()
    together = combined.standing.together
    first = [k for k in range(len(strength)) if limit <= together[k] < usual]
    if not first:
        return ()
    worst = min(first, key=lambda k: float(together[k]))
    return (
        f"second order is left out down to α_cr = {limit:g}, as stated, not {usual:g} (5.2.1(3)): "
        f"α_cr = {together[worst]:.2f} in {combinations[strength[worst]].name}",
    )


def _few(unknown: list[str], most: int = 3) -> list[str]:
    """The first of them, and how many more there are."""
    more = len(unknown) - most
    return unknown[:most] + ([f"the like of {more} more combination{'s' if more > 1 else ''}"] if more > 0 else [])


def free_to_move(
    combined: Combined, combinations: list[Combination], which: tuple[int, ...], reasons: list[list[str]]
) -> None:
    """Of combinations for deflection that slack members leave as a mechanism nothing is known."""
    for i in which:
        if combined.free(i):
            for found in reasons:
                found.append(f"slack members or lifted supports leave a mechanism in {combinations[i].name}")


def in_words(combined: Combined, number: int) -> str:
    """What buckles first in an ultimate combination: which members, which way, alone or together."""
    k = int(combined.column[number])
    standing, structure = combined.standing, combined.structure
    alpha = standing.alpha[k] if k >= 0 else np.nan
    if np.isnan(alpha):
        return ""
    if np.isinf(alpha):
        return "nothing buckles: no member is in compression"
    if alpha == 0:
        return "what acts in it does not stand"
    axis = "z" if standing.plane[k] == 0 else "y"
    alone = int(standing.by_itself[k])
    if alone >= 0:
        return f"“{label(structure.members[alone])}” buckles by itself about its {axis} axis"
    own = [structure.members[m] for m in np.flatnonzero(standing.part[:, k]).tolist()]
    names = ", ".join(f"“{label(m)}”" for m in own[:3]) + (f" and {len(own) - 3} more" if len(own) > 3 else "")
    way = "XYZ"[int(standing.along[k])]
    if standing.sways[k]:
        return f"sway along {way}: {names}"
    return f"{names} buckle together about their {axis} axis, moving along {way}"
