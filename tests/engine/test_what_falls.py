"""Members of every shape and behaviour under what tears, bends, shears or twists them beyond any doubt: none of them passes."""

import unittest
from itertools import product

from engine.chain import run
from engine.document import read_document
from tests.engine.test_built_up import BATTENED, LACED

BUILT = [
    {"name": "welded", "shape": "welded I", "h": 500, "b": 200, "tw": 8, "tf": 12},
    {"name": "unequal", "shape": "welded I", "h": 500, "b": 200, "tw": 8, "tf": 12, "b2": 150, "tf2": 10},
    {"name": "box", "shape": "box", "h": 300, "b": 200, "tw": 8, "tf": 8},
    {"name": "cross", "shape": "cross", "of": "IPE 300"},
    {"name": "angles", "shape": "double", "of": "L 80x8", "gap": 10},
    {"name": "channels", "shape": "double", "of": "UPN 160", "gap": 10},
    {"name": "laced", **LACED},
    {"name": "battened", **BATTENED},
]
ROLLED = (
    "IPE 300", "SHS 150x8", "RHS 200x100x8", "CHS 139.7x5", "UPN 200", "UPE 200", "L 100x10", "L 150x75x10", "T IPE 200", "RD 60", "FL 100x20",
    "RECT 100x60",
)  # fmt: skip
BEHAVIOURS = ("beam", "bar", "tension-only", "compression-only")
SPAN, FY = 4.0, 355e3


def bench(load: dict, behaviours: tuple[str, ...]):
    """Every shape with each behaviour over 4 m by itself, under one load in kN and m: of its ends, or along it."""
    made = list(product([*ROLLED, *(b["name"] for b in BUILT)], behaviours))
    nodes, members, supports, loads = [], [], [], []
    for k, (name, behaviour) in enumerate(made):
        nodes += [{"name": f"{end}{k}", "at": [x, 5.0 * k, 0]} for end, x in (("a", 0), ("b", SPAN))]
        members.append({"name": f"m{k}", "start": f"a{k}", "end": f"b{k}", "section": name, "behaviour": behaviour})
        held = ["rx"] if behaviour == "beam" else []
        supports += [{"node": f"a{k}", "fixed": ["x", "y", "z", *held]}, {"node": f"b{k}", "fixed": ["y", "z"]}]
        loads.append(load | ({"member": f"m{k}"} if "value" in load else {"node": f"b{k}"}) | {"case": "Q"})
    return run(
        read_document(
            {
                "built_sections": BUILT,
                "nodes": nodes,
                "members": members,
                "supports": supports,
                "cases": [{"name": "Q", "nature": "imposed", "category": "E"}],
                "member_loads" if "value" in load else "node_loads": loads,
                "combinations": [{"name": "S", "use": "strength", "factors": {"Q": 1.0}}],
                "rules": {"imperfections": False},
                "analysis": {"order": "first"},
            }
        )
    )


class WhatFalls(unittest.TestCase):
    def none_passes(self, load: dict, *behaviours: str) -> list:
        chain = bench(load, behaviours)
        passing = [chain.structure.members[v.member] for v in chain.verification.verdicts if v.status == "passes"]
        self.assertEqual([(m.section.name, m.behaviour) for m in passing], [])
        return [m.section for m in chain.structure.members]

    def test_what_is_bent(self):
        for way in ([0, 0, -500], [0, -500, 0]):
            for s in self.none_passes({"kind": "line", "value": way}, *BEHAVIOURS):
                self.assertGreater(500 * SPAN**2 / 8, max(s.Wpl_y or 0, s.Wpl_z or 0, s.Wel_y, s.Wel_z) * FY, s.name)

    def test_what_is_sheared(self):
        for way in ([0, 0, -9000], [0, -9000, 0]):
            for s in self.none_passes({"kind": "force", "value": way, "start": 0.02}, *BEHAVIOURS):
                self.assertGreater(9000 * (1 - 0.02 / SPAN), s.A * FY / 3**0.5, s.name)

    def test_what_is_pulled_and_what_is_pressed(self):
        for force, behaviours in (
            (9000, ("beam", "bar", "tension-only")),
            (-9000, ("beam", "bar", "compression-only")),
        ):
            for s in self.none_passes({"force": [force, 0, 0]}, *behaviours):
                self.assertGreater(9000, s.A * FY, s.name)

    def test_what_is_twisted(self):
        self.none_passes({"kind": "moment", "value": [900, 0, 0], "start": 2.0}, "beam")
