"""Members whose axes miss each other by an eccentricity: joined by rigid links, where that is asked for."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.structure.model import Floats
from publish.meet import Met, passing
from publish.taken import counted

#: metres within which members that pass each other are joined, by what is settled
PASSING = {"0": 0.0, "50": 0.05, "100": 0.1, "200": 0.2, "300": 0.3, "500": 0.5}


def rigid_links(
    met: Met, members: list[dict[str, Any]], nodes: list[tuple[str, Floats]], within: float
) -> tuple[list[dict[str, Any]], list[str]]:
    """Links between members that pass each other, and what is said of them; nodes gets those that they need. Those of one role and section are left apart:
    braces that cross pass each other."""

    def alike(lines: tuple[int, int]) -> bool:
        return len({(members[i]["role"], members[i]["section"]) for i in lines}) == 1

    pairs = [p for p in passing(met.nodes, met.ends, within) if not alike(p.lines)]
    names = {tuple(np.round(at, 4)): name for name, at in nodes}
    links = []
    for k, pair in enumerate(pairs, 1):
        ends = []
        for at in pair.places:
            key = tuple(np.round(at, 4))
            if key not in names:
                names[key] = f"n{len(nodes) + 1}"
                nodes.append((names[key], at))
            ends.append(names[key])
        made = {what: members[pair.lines[0]][what] for what in ("section", "material")}
        links.append(made | {"name": f"link {k}", "behaviour": "rigid link", "start": ends[0], "end": ends[1]})
    if not pairs:
        return [], []
    far = max(float(np.linalg.norm(np.diff(p.places, axis=0))) for p in pairs) * 1000
    places = counted(len(pairs), "place")
    return links, [f"Rigid links join members at {places} at which they pass each other, {far:.0f} mm apart at most."]
