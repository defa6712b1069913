"""Members of every shape and behaviour under what tears, bends, shears or twists them beyond any doubt: none of them passes."""

import unittest
from collections.abc import Callable
from functools import partial
from itertools import product
from typing import Any

import numpy as np

from engine.catalogue.properties import Section
from engine.chain import run
from engine.document import Document, read_document
from engine.expand import expand
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


def document(behaviours: tuple[str, ...], loads: Callable[[int], list[dict[str, Any]]], held: bool = False) -> Document:
    """Every shape with each behaviour over 4 m by itself, under loads in kN and m by its number: of its end, or along it. held: both flanges, closely."""
    nodes, members, supports, acting = [], [], [], []
    for k, (name, behaviour) in enumerate(product([*ROLLED, *(b["name"] for b in BUILT)], behaviours)):
        nodes += [{"name": f"{end}{k}", "at": [x, 5.0 * k, 0]} for end, x in (("a", 0), ("b", SPAN))]
        closely = [0.5 * i for i in range(1, 8)] if held else []
        members.append(
            {"name": f"m{k}", "start": f"a{k}", "end": f"b{k}", "section": name, "behaviour": behaviour}
            | {"restraints_outer": closely, "restraints_inner": closely}
        )
        twist = ["rx"] if behaviour == "beam" else []
        supports += [{"node": f"a{k}", "fixed": ["x", "y", "z", *twist]}, {"node": f"b{k}", "fixed": ["y", "z"]}]
        acting += [{"case": "Q", "node": f"b{k}"} | load for load in loads(k) if "force" in load]
        acting += [{"case": "Q", "member": f"m{k}"} | load for load in loads(k) if "value" in load]
    return read_document(
        {
            "built_sections": BUILT,
            "nodes": nodes,
            "members": members,
            "supports": supports,
            "cases": [{"name": "Q", "nature": "imposed", "category": "E"}],
            "node_loads": [load for load in acting if "force" in load],
            "member_loads": [load for load in acting if "value" in load],
            "combinations": [{"name": "S", "use": "strength", "factors": {"Q": 1.0}}],
            "rules": {"imperfections": False},
            "analysis": {"order": "first"},
        }
    )


class WhatFalls(unittest.TestCase):
    def none_passes(self, load: dict[str, Any], *behaviours: str) -> list[Section]:
        return self.passing(document(behaviours, lambda k: [load]))

    def passing(self, members: Document) -> list[Section]:
        """Fails where any passes; their sections."""
        chain = run(members)
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

    def test_what_is_bent_and_pulled_or_pressed(self):
        """Shares of A f_y, W_y f_y and W_z f_y, plastic, which no shape bears together, though each of them alone."""
        shapes = [m.section for m in expand(document(("beam",), lambda k: [])).members]

        def loads(shares: tuple[float, float, float], k: int) -> list[dict[str, Any]]:
            s, (n, my, mz) = shapes[k], shares
            moments = [
                share * FY * np.nanmax([W, V]) for share, W, V in ((mz, s.Wpl_z, s.Wel_z), (my, s.Wpl_y, s.Wel_y))
            ]
            across = [0.0, *(-8 * M / SPAN**2 for M in moments)]
            return [{"force": [n * s.A * FY, 0, 0]}, {"kind": "line", "value": across}]

        for shares in ((0.85, 0.85, 0), (-0.85, 0, 0.85), (0, 0.85, 0.85), (0.6, 0.6, 0.6)):
            for behaviour in ("beam", "bar"):
                with self.subTest(shares=shares, behaviour=behaviour):
                    self.passing(document((behaviour,), partial(loads, shares), held=True))
