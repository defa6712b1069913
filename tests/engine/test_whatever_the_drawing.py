"""One building drawn in many ways has one verdict: turned, mirrored, in another order, backwards, with its loads in parts, in other units."""

from __future__ import annotations

import unittest
from copy import deepcopy
from typing import Any

import numpy as np

from engine.chain import run
from engine.document import read_document

#: a utilisation may differ by this share of itself, or by as much as is no load
SHARE, NONE = 3e-3, 2e-3
#: of cross-sections: the peak of a moment between two stations counts with the other moment at the first of them, which another direction changes
SECTION = 1.5e-2

Drawn = dict[str, Any]


def building(rng: np.random.Generator) -> Drawn:
    """A random frame in space of one or two fields and storeys, rigid or with beams along it hinged in front of its clamped columns, with joists
    between its beams, under own cases."""
    fields = rng.integers(1, 3, 3).tolist()
    size = np.array([rng.uniform(4, 8), rng.uniform(4, 7), rng.uniform(3, 4.5)]).round(3)
    nodes: dict[tuple[float, ...], str] = {}
    members: list[Drawn] = []

    def node(*at: float) -> str:
        place = tuple((np.array(at) * size).round(3).tolist())
        return nodes.setdefault(place, f"n{len(nodes)}")

    def member(role: str, section: str, start: str, end: str, **more: Any) -> None:
        members.append(
            {"name": f"m{len(members)}", "role": role, "section": section, "start": start, "end": end, **more}
        )

    across, along, up = (range(count + 1) for count in fields)
    clamped, hinges = rng.random() < 0.5, {"releases": {"start": ["ry", "rz"], "end": ["ry", "rz"]}}
    for i in across:
        for j in along:
            for k in up[1:]:
                member("column", "HEB 200", node(i, j, k - 1), node(i, j, k))
                if i:
                    member("main beam", "IPE 300", node(i - 1, j, k), node(i, j, k))
                if j:
                    member("main beam", "IPE 240", node(i, j - 1, k), node(i, j, k), **(hinges if clamped else {}))
                if i and j:
                    member("joist", "IPE 200", node(i - 0.5, j - 1, k), node(i - 0.5, j, k), **hinges)
    held = ["x", "y", "z", "rx", "ry", "rz"] if clamped else ["x", "y", "z", "rz"]
    loads = []
    for m in members:
        value = rng.uniform(0.3, 4.0, 3).round(2).tolist()
        cases = (
            (("wind X", (1, 0, 0)), ("wind Y", (0, 1, 0)))
            if m["role"] == "column"
            else (("G", (0, 0, -1)), ("Q", (0, 0, -1)))
        )
        for (case, way), size_ in zip(cases, value, strict=False):
            loads.append({"case": case, "member": m["name"], "value": [w * size_ for w in way]})
        if m["role"] == "main beam" and rng.random() < 0.3:
            loads.append(
                {"case": "Q", "member": m["name"], "kind": "force", "value": [0, 0, -5], "start": 0.3, "ratio": True}
            )
    return {
        "nodes": [{"name": name, "at": list(at)} for at, name in nodes.items()],
        "members": members,
        "supports": [{"node": name, "fixed": held} for at, name in nodes.items() if at[2] == 0],
        "cases": [
            {"name": "weight", "nature": "permanent", "self_weight": True},
            {"name": "G", "nature": "permanent"},
            {"name": "Q", "nature": "imposed", "category": "B"},
            {"name": "wind X", "nature": "wind", "excludes": "wind"},
            {"name": "wind Y", "nature": "wind", "excludes": "wind"},
        ],
        "member_loads": loads,
        "analysis": {"bears_at": 0.1},
    }


def verdicts(drawn: Drawn) -> dict[str, tuple[str, dict[str, float]]]:
    chain = run(read_document(drawn))
    return {
        m.name: (v.status, {o.criterion: o.utilisation for o in v.outcomes})
        for m, v in zip(chain.structure.members, chain.verification.verdicts, strict=True)
    }


def turned(drawn: Drawn, degrees: float) -> Drawn:
    found, a = deepcopy(drawn), np.radians(degrees)
    R = np.array([[np.cos(a), -np.sin(a), 0], [np.sin(a), np.cos(a), 0], [0, 0, 1]])
    for n in found["nodes"]:
        n["at"] = (R @ n["at"] + [100.5, -20.25, 0]).tolist()
    for load in found["member_loads"]:
        load["value"] = (R @ load["value"]).tolist()
    for m in found["members"]:
        m["roll"] = degrees if m["role"] == "column" else 0.0
    return found | {"supports": [s | {"turn": degrees} for s in found["supports"]]}


def mirrored(drawn: Drawn, axis: int) -> Drawn:
    found = deepcopy(drawn)
    for each, key in [(n, "at") for n in found["nodes"]] + [(load, "value") for load in found["member_loads"]]:
        each[key][axis] = -each[key][axis]
    return found


def shuffled(drawn: Drawn, rng: np.random.Generator) -> Drawn:
    """In another order, under other names of nodes, some members backwards."""
    found = deepcopy(drawn)
    names = {n["name"]: f"z{k}" for k, n in enumerate(rng.permutation(np.array(found["nodes"], dtype=object)).tolist())}
    for n in found["nodes"]:
        n["name"] = names[n["name"]]
    for m in found["members"]:
        m["start"], m["end"] = names[m["start"]], names[m["end"]]
        if rng.random() < 0.5:
            m["start"], m["end"] = m["end"], m["start"]
            for load in found["member_loads"]:
                if load["member"] == m["name"] and "start" in load:
                    load["start"] = 1 - load["start"]
    for key in ("nodes", "members", "member_loads"):
        rng.shuffle(found[key])
    return found | {"supports": [s | {"node": names[s["node"]]} for s in found["supports"]]}


def in_parts(drawn: Drawn) -> Drawn:
    """Line loads in two stretches, forces in two halves, in newtons."""
    loads = []
    for load in drawn["member_loads"]:
        newtons = [1000.0 * v for v in load["value"]]
        if load.get("kind") == "force":
            loads += [load | {"value": [v / 2 for v in newtons]}] * 2
        else:
            loads += [load | {"value": newtons, "start": a, "end": b, "ratio": True} for a, b in ((0, 0.37), (0.37, 1))]
    return deepcopy(drawn) | {"units": "N, m", "member_loads": loads}


class Whatever(unittest.TestCase):
    def same(self, one: Drawn, other: Drawn) -> None:
        before, after = verdicts(one), verdicts(other)
        self.assertEqual(before.keys(), after.keys())
        for name, (status, own) in before.items():
            self.assertEqual((name, after[name][0], after[name][1].keys()), (name, status, own.keys()))
            for criterion, utilisation in own.items():
                far = abs(after[name][1][criterion] - utilisation)
                share = SECTION if criterion == "section" else SHARE
                self.assertLessEqual(far, max(share * utilisation, NONE), f"{name} {criterion} {utilisation:.4f}")

    def test_one_verdict(self):
        for seed in range(4):
            drawn, rng = building(np.random.default_rng(seed)), np.random.default_rng(seed)
            for words, other in (
                ("turned", turned(drawn, 30 + 15 * seed)),
                ("mirrored", mirrored(drawn, seed % 2)),
                ("shuffled", shuffled(drawn, rng)),
                ("in parts", in_parts(drawn)),
            ):
                with self.subTest(seed=seed, words=words):
                    self.same(drawn, other)


if __name__ == "__main__":
    unittest.main()
