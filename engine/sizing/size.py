"""Sizing: every group to the section that makes the whole lightest, or cheapest, and passes with the forces of its own analysis.

1. What stands is analysed. From that is foreseen what every assignment of sections to groups would reach (foresight.py).
2. The lightest assignment that is foreseen to pass is analysed; from there it goes on, until nothing lighter is foreseen to pass.
   It is analysed under the combinations that have governed so far first, and only where it passes these under all of them: what
   fails under some fails under all.
3. Around the best that passed, single groups, pairs and triples are moved to what is lighter and may pass, and analysed.

What passed was verified as a whole, by the same chain as everything else; nothing is taken on trust.
"""

from __future__ import annotations

from collections.abc import Callable

from engine.document import Document
from engine.progress import Progress, quiet
from engine.sizing.assignments import Search
from engine.sizing.sized import Round, Sizing
from engine.sizing.told import told


def size(document: Document, progress: Callable[[Round], None] = lambda _: None, within: Progress = quiet) -> Sizing:
    """Find the sections. `progress` is told of each round, `within` of each stage within them; both may raise to stop the work.

    Raises ModelError when nothing may be chosen, for what the document's plan says wrongly, or when the document cannot be computed.
    """
    search = Search(document, progress, within)
    search.propose()
    search.refine()
    return told(search)
