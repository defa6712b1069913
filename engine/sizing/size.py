"""Sizing: every group to the section that makes the whole lightest, or cheapest, and passes with the forces of its own analysis.

1. What stands is analysed. From that is foreseen what every assignment of sections to groups would reach (foresight.py).
2. The lightest assignment that is foreseen to pass is analysed; from there it goes on, until nothing lighter is foreseen to pass.
   It is analysed under the combinations that have governed so far first, and only where it passes these under all of them: what
   fails under some fails under all.
3. Around the best that passed, single groups, pairs and triples are moved to what is lighter and may pass, and analysed.
4. With each other set of haunches that is allowed it goes on from there, as long as something lighter is foreseen to pass.

What passed was verified as a whole, by the same chain as everything else; nothing is taken on trust.
"""

from __future__ import annotations

from collections.abc import Callable
from copy import copy
from dataclasses import replace

import numpy as np

from engine.document import Document
from engine.errors import ModelError
from engine.expand import expand
from engine.progress import Progress, quiet
from engine.sizing.assignments import Search
from engine.sizing.candidates import Candidates, candidates_of
from engine.sizing.foresight import foresee
from engine.sizing.groups import with_choices
from engine.sizing.haunches import Haunches
from engine.sizing.sized import Round, Sizing
from engine.sizing.told import told


def size(document: Document, progress: Callable[[Round], None] = lambda _: None, within: Progress = quiet) -> Sizing:
    """Find the sections. `progress` is told of each round, `within` of each stage within them; both may raise to stop the work.

    Raises ModelError when nothing may be chosen, for what the document's plan says wrongly, or when the document cannot be computed.
    """
    best = Search(document, progress, within)
    best.propose()
    best.refine()
    for haunches in best.haunches:
        other = _with_haunches(best, haunches)
        if other is not None:
            other.propose()
            other.refine()
            best = min(best, other, key=_rank)
    return told(best)


def _rank(search: Search) -> tuple[float, float]:
    """The lightest that pass before those that miss it least."""
    if search.best is not None:
        return 0.0, search.weight(search.best)
    at = search.closest()
    return 1.0, np.inf if at is None else search.over(at)


def _with_haunches(best: Search, haunches: Haunches) -> Search | None:
    """A search that begins with other haunches at the best that was found so far; None, with the reason told, where they cannot be set out."""
    other, space, at = copy(best), best.space, best.closest()
    sizes = "; ".join(f"{name} {length:g} × {depth:g} m" for name, (length, depth) in haunches.items())
    try:
        may = tuple(candidates_of(best.document, best.structure, g, haunches.get(g.name)) for g in space.groups)
        other.space = replace(space, candidates=may, uncovered={})
        start = tuple(_like(of, space.candidates[k], at[k] if at else -1) for k, of in enumerate(may))
        expand(with_choices(best.document, best.structure, space.groups, other.choices(start)))
    except ModelError as error:
        best.refused.append(f"Haunches of {sizes} cannot be set out: {error.message}")
        return None
    other.analysed, other.chains, other.lost, other.best, other.start = {}, {}, [], None, start
    other.looked = set()
    other.bound = np.inf if best.best is None else best.weight(best.best)
    if other.analyse(start, "haunches", f"haunches of {sizes}") is None:
        return None
    other.foresight, other.seen_from = foresee(other.chains[start], space.groups, may), start
    return other


def _like(of: Candidates, before: Candidates, at: int) -> int:
    """Which candidate is that of a list with other haunches; where it is not there, the first that is as stiff."""
    found = [k for k, s in enumerate(of.sections) if s.Iy >= before.sections[at].Iy * (1 - 1e-9)]
    same = [
        k
        for k in found
        if (of.choices[k].section, of.choices[k].grade) == (before.choices[at].section, before.choices[at].grade)
    ]
    return next(iter([*same, *found]), len(of.choices) - 1)
