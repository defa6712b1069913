"""Releasing a jig: what it set out becomes free, and keeps its loads, lines and levels."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.document import references
from engine.document.base import Category, Nature
from engine.document.byhand import GridLineInput, LevelInput, MemberInput, NodeInput, PanelInput
from engine.document.floors import FloorJig
from engine.document.loads import CaseInput, PanelLoad
from engine.document.naming import free_name
from engine.editing.copied_panels import floor_panel
from engine.editing.operations import ReleaseJig
from engine.editing.work import SAME, Work
from engine.errors import ModelError
from engine.expand import generated


class Releasing(Work):
    """The operation that turns a jig's parts into free ones."""

    def _release(self, o: ReleaseJig) -> None:
        known = {"hall"} if self.document.hall else set()
        known |= {j.name for j in self.document.jigs}
        if o.jig not in known:
            raise ModelError(f"There is no jig “{o.jig}”.", "jig")
        mine = [m for m in self.structure.members if m.jig == o.jig]
        node_names = {n: self.structure.nodes[n] for m in mine for n in m.nodes}
        nodes = self._free_nodes(node_names)
        members = self._free_names([m.name for m in mine], {*self.structure.index, *self.stated})
        number_of = {name: i for i, name in enumerate(self.structure.nodes)}
        number_of |= {name: number_of[other] for name, other in self.structure.aliases.items()}
        stated = {number_of[s.node] for s in self.document.supports if s.node in number_of}
        held = self.structure.fixed.any(axis=1) | (self.structure.springs != 0).any(axis=1)
        for number, name in node_names.items():
            x, y, z = (round(float(v), 9) for v in self.structure.xyz[number])
            if nodes[name] not in self.nodes:
                self.document.nodes.append(NodeInput(name=nodes[name], at=(x, y, z)))
            if held[number] and number not in stated:
                self.document.supports.append(self.support_like(number, nodes[name]))
        of_jig = {m.name for m in generated(self.document).members.values() if m.jig == o.jig}
        edited = [e.member for e in self.document.edits if e.member in of_jig]
        self.document.edits = [e for e in self.document.edits if e.member not in of_jig]
        self.document.moved_nodes = [e for e in self.document.moved_nodes if e.node not in nodes]
        references.rename(self.document, "node", nodes)
        references.rename(self.document, "member", members)
        references.drop(self.document, "member", set(edited) - self.structure.index.keys())
        for member in mine:
            start, end = (nodes[self.structure.nodes[n]] for n in (member.nodes[0], member.nodes[-1]))
            like = self.like(member.name)
            self.document.members.append(
                MemberInput(**{**like, "name": members[member.name], "start": start, "end": end})
            )
        ours = [p.name for p in self.structure.panels if p.jig == o.jig]
        self.document.panel_edits = [e for e in self.document.panel_edits if e.panel not in ours]
        panels = self._free_names(ours, {p.name for p in self.structure.panels})
        self._keep_lines(o.jig)
        self._keep_decks(o.jig, {n: nodes[name] for n, name in node_names.items()}, members, panels)
        self._keep_cladding(o.jig, members, panels)
        if o.jig == "hall":
            self.document.hall = None
            self.document.snow.obstructions = []
        self.document.jigs = [j for j in self.document.jigs if j.name != o.jig]
        there = {p.name for p in self.document.panels}
        references.rename(self.document, "panel", {old: new for old, new in panels.items() if new in there})
        references.drop(self.document, "panel", {old for old, new in panels.items() if new not in there})

    def _free_names(self, names: list[str], taken: set[str]) -> dict[str, str]:
        """What they are called once they are free; where something else bears that name already, with a number."""
        found: dict[str, str] = {}
        for name in names:
            free = free_name(name)
            others = taken - {name} | set(found.values())
            found[name] = self.fresh(f"{free} ", others) if free in others else free
        return found

    def _free_nodes(self, names: dict[int, str]) -> dict[str, str]:
        """What nodes are called once they are free: one that another jig left free at the place already keeps its name."""
        there = {name: np.array(node.at) for name, node in self.nodes.items()}
        same = {
            name: free
            for number, name in names.items()
            for free in (name, free_name(name))
            if free in there and np.abs(there[free] - self.structure.xyz[number]).max() < SAME
        }
        return self._free_names([n for n in names.values() if n not in same], {*self.at, *there}) | same

    def _keep_lines(self, jig: str) -> None:
        """Grid lines and levels that a jig brought along stay when it is released: other jigs lie between them."""
        number = next((i for i, j in enumerate(self.document.jigs) if j.name == jig), -1)
        upto = [self.document.model_copy(update={"jigs": self.document.jigs[: number + k]}) for k in (0, 1)]
        if jig == "hall":
            upto = [
                d.model_copy(update={"jigs": [], "hall": self.document.hall if k else None}) for k, d in enumerate(upto)
            ]
        before, after = (generated(d) for d in upto)
        lines = {(line.axis, line.name) for line in before.grid}
        self.document.grid += [
            GridLineInput.model_validate(vars(line)) for line in after.grid if (line.axis, line.name) not in lines
        ]
        names = {level.name for level in before.levels} | {level.name for level in self.document.levels}
        self.document.levels += [
            LevelInput(name=free_name(level.name), height=level.height)
            for level in after.levels
            if level.name not in names
        ]

    def _keep_cladding(self, jig: str, members: dict[str, str], panels: dict[str, str]) -> None:
        """A jig that is released keeps its roofs and walls as drawn panels: with the weight of their cladding as a case, roofs with
        the imposed load and the even snow. Wind belongs to the building that it was: it goes."""
        made = []
        # what other jigs bear of these cases stays in them
        whole = all(p.jig == jig for p in self.structure.panels if p.kind in ("roof", "wall"))
        for panel in self.structure.panels:
            excluded = [members.get(name, name) for name in panel.excluded]
            carriers = [members.get(name, name) for name in panel.carriers] + excluded
            ours = panel.jig == jig and panel.kind != "floor"
            if not ours or not carriers or panel.grounded is not None:
                continue
            made.append(panel)
            self.document.panels.append(
                PanelInput(
                    name=panels[panel.name],
                    kind="surface",
                    corners=[(float(x), float(y), float(z)) for x, y, z in panel.corners.round(9)],
                    carriers=carriers,
                    excluded=excluded,
                    span=(float(panel.span[0]), float(panel.span[1]), float(panel.span[2])),
                    # μ1 of EN 1991-1-3 table 5.2
                    snow=float(np.interp(panel.pitch, [30, 60], [0.8, 0.0])) if panel.kind == "roof" else None,
                    diaphragm="rigid" if panel.rigid else "none",
                )
            )
        if not made:
            return
        weights = self.document.cladding
        weigh = [(panels[p.name], weights.roof if p.kind == "roof" else weights.walls) for p in made]
        self._keep_case("Cladding", "permanent", "", weigh, "down", whole)
        roofs = [(panels[p.name], weights.roof_imposed) for p in made if p.kind == "roof"]
        if roofs and weights.roof_imposed:
            self._keep_case("Imposed on the roof", "imposed", "H", roofs, "plan", whole)

    def _keep_case(
        self, was: str, nature: Nature, category: Category, on: list[tuple[str, float]], axes: Any, whole: bool
    ) -> None:
        """A case by hand with pressures (kN/m²) on panels in place of a generated one, or of a part of it."""
        name = self.fresh(f"{was} kept ", {c.name for c in self.document.cases})
        force = 1000 / self.document.force
        if whole:
            references.rename(self.document, "case", {was: name})
        excludes = "roof" if category == "H" else ""
        self.document.cases.append(CaseInput(name=name, nature=nature, category=category, excludes=excludes))
        self.document.panel_loads += [
            PanelLoad(case=name, panel=panel, pressure=value * force, axes=axes) for panel, value in on
        ]

    def _keep_decks(self, jig: str, nodes: dict[int, str], members: dict[str, str], panels: dict[str, str]) -> None:
        """A floor that is released keeps its decks as floors drawn by hand: with their loads, carriers, and what holds them in their
        plane."""
        floor = next((j for j in self.document.jigs if j.name == jig and isinstance(j, FloorJig)), None)
        if floor is None:
            return
        numbers = list(nodes)
        for panel in self.structure.panels:
            if panel.jig != jig or panel.kind != "floor":
                continue
            away = np.linalg.norm(self.structure.xyz[numbers] - panel.corners[:, None], axis=2)
            corners = [nodes[numbers[k]] for k in away.argmin(axis=1).tolist()]
            excluded = [members.get(name, name) for name in panel.excluded]
            carriers = [members.get(name, name) for name in panel.carriers] + excluded
            self.document.panels.append(
                floor_panel(panel, floor, panels[panel.name], list(corners), carriers, excluded)
            )
