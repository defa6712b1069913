"""Adding parts that were made elsewhere: a drawing, a table, another document."""

from __future__ import annotations

from collections.abc import Callable, Iterable

import numpy as np
from scipy.spatial import cKDTree

from engine.document.byhand import NodeInput
from engine.editing.operations import Add
from engine.editing.work import SAME, Work
from engine.errors import ModelError


class Adding(Work):
    """The operation that adds many parts at once."""

    def _add(self, o: Add) -> None:
        self._add_sections(o)
        nodes = self._add_nodes(o)
        members = self._add_members(o, nodes)
        on_ground = np.flatnonzero((self.structure.fixed | (self.structure.springs > 0)).any(axis=1))
        held = {self.structure.nodes[k] for k in on_ground.tolist()}
        for k, support in enumerate(o.supports):
            node = nodes.get(support.node)
            if node is None:
                raise ModelError(f"There is no node “{support.node}” among those that are added.", f"supports.{k}")
            # what is held already stays as it is
            if node not in held:
                self.document.supports.append(support.model_copy(update={"node": node}))

        self._add_loads(o, nodes, members)

    def _add_members(self, o: Add, nodes: dict[str, str]) -> dict[str, str]:
        """Members by the names that they were added with."""
        named = _namer({*self.structure.index, *self.stated})
        found: dict[str, str] = {}
        for k, member in enumerate(o.members):
            ends = [nodes.get(name) for name in (member.start, member.end)]
            if None in ends:
                missing = member.start if ends[0] is None else member.end
                raise ModelError(
                    f"{member.name}: there is no node “{missing}” among those that are added.", f"members.{k}"
                )
            if ends[0] == ends[1]:
                raise ModelError(f"{member.name} has no length.", f"members.{k}")
            if member.name in found:
                raise ModelError(f"There are two members named “{member.name}”.", f"members.{k}")
            found[member.name] = named(member.name)
            update = {"name": found[member.name], "start": ends[0], "end": ends[1]}
            self.document.members.append(member.model_copy(update=update))
        return found

    def _add_loads(self, o: Add, nodes: dict[str, str], members: dict[str, str]) -> None:
        known = {c.name: c for c in self.document.cases}
        for k, case in enumerate(o.cases):
            if case.name not in known:
                self.document.cases.append(case)
            elif known[case.name].nature != case.nature:
                words = f"Case “{case.name}” is {known[case.name].nature} in this project, not {case.nature}."
                raise ModelError(words, f"cases.{k}")
        cases = {c.name for c in o.cases}
        for k, load in enumerate(o.member_loads):
            of = (load.member, *load.run)
            if load.case not in cases or not set(of) <= set(members):
                raise ModelError("The load is of a case or on a member that is not added.", f"member_loads.{k}")
            update = {"member": members[load.member], "run": [members[name] for name in load.run]}
            self.document.member_loads.append(load.model_copy(update=update))
        for k, point in enumerate(o.node_loads):
            if point.case not in cases or point.node not in nodes:
                raise ModelError("The load is of a case or on a node that is not added.", f"node_loads.{k}")
            self.document.node_loads.append(point.model_copy(update={"node": nodes[point.node]}))

    def _add_sections(self, o: Add) -> None:
        known = {s.name: s for s in self.document.sections}
        for k, section in enumerate(o.sections):
            if section.name not in known:
                self.document.sections.append(section)
            elif known[section.name] != section:
                raise ModelError(f"There is another section named “{section.name}” in this project.", f"sections.{k}")

    def _add_nodes(self, o: Add) -> dict[str, str]:
        """Nodes by the names that they were added with: those that stand at their places, else new ones."""
        places = np.array([node.at for node in o.nodes], dtype=float) + np.array(o.step)
        standing = list(self.at)
        near = np.full(len(places), len(standing))
        if standing:
            _, near = cKDTree(np.array([self.at[name] for name in standing])).query(places, distance_upper_bound=SAME)
        named = _namer(self.at)
        found: dict[str, str] = {}
        for node, place, k in zip(o.nodes, places, near.tolist(), strict=True):
            if node.name in found:
                raise ModelError(f"There are two nodes named “{node.name}”.", "nodes")
            if k < len(standing):
                found[node.name] = standing[k]
                continue
            found[node.name] = named(node.name)
            x, y, z = (round(float(v), 9) for v in place)
            self.document.nodes.append(NodeInput(name=found[node.name], at=(x, y, z)))
        return found


def _namer(taken: Iterable[str]) -> Callable[[str], str]:
    """Gives names that nothing bears yet: the one that is wanted, else with a number after it."""
    used = set(taken)

    def name(wanted: str) -> str:
        own, number = wanted, 2
        while own in used:
            own, number = f"{wanted[:70]} ({number})", number + 1
        used.add(own)
        return own

    return name
