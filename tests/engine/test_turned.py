"""A building set out along no axis, drawn backwards, in another order: what it leans along, how it drifts, and its verdicts are the same."""

import random
import unittest
from math import cos, hypot, radians, sin, sqrt

import numpy as np

from engine.chain import respond, run
from engine.document import read_document
from engine.expand import expand
from engine.standards.en.imperfections import slopes, sway, ways
from tests.engine.helpers import FIXED, E, I
from tests.engine.test_service import outcomes


def frame(turned=0.0, back=False, seed=None, lean=0.0):
    """A portal of HEA 200 and IPE 300, 8 × 5 m, hinged at its feet, held sideways at its corners: its floor, its wind and its imperfections."""

    def at(x, y, z):
        c, s = cos(radians(turned)), sin(radians(turned))
        return [c * x - s * y, s * x + c * y, z]

    nodes = {"A": at(0, 0, 0), "B": at(lean, 0, 5), "C": at(8 - lean, 0, 5), "D": at(8, 0, 0)}
    parts = [
        ("c1", "A", "B", "HEA 200", "column"),
        ("b", "B", "C", "IPE 300", "main beam"),
        ("c2", "D", "C", "HEA 200", "column"),
    ]
    members = [
        {"name": n, "start": a, "end": b, "section": s, "material": "S355", "role": role}
        | ({"roll": turned} if role == "column" and not lean else {})
        for n, a, b, s, role in parts
    ]
    if back:
        for m in members:
            m["start"], m["end"] = m["end"], m["start"]
            if m.get("roll") is not None:
                m["roll"] = 180 - m["roll"]
    supports = [{"node": n, "fixed": ["x", "y", "z", "rz"], "turn": turned} for n in "AD"]
    supports += [{"node": n, "fixed": ["y"], "turn": turned} for n in "BC"]
    data = {
        "units": "kN, m",
        "nodes": [{"name": n, "at": p} for n, p in nodes.items()],
        "members": members,
        "supports": supports,
        "cases": [
            {"name": "G", "nature": "permanent"},
            {"name": "Q", "nature": "imposed"},
            {"name": "W", "nature": "wind"},
        ],
        "member_loads": [{"case": c, "member": "b", "value": [0, 0, -q]} for c, q in (("G", 8), ("Q", 10))],
        "node_loads": [{"case": "W", "node": "B", "force": at(12, 0, 0)}],
    }
    if seed is not None:
        for key in ("nodes", "members", "supports"):
            random.Random(seed).shuffle(data[key])
    return data


def verdicts(data):
    chain = run(read_document(data))
    return {
        (chain.structure.members[v.member].name, o.criterion): o.utilisation
        for v in chain.verification.verdicts
        for o in v.outcomes
    }


class Turned(unittest.TestCase):
    def test_the_same_verdicts_however_it_is_set_out(self):
        plain = verdicts(frame())
        self.assertIn(("c1", "sway"), plain)
        for turned, back, seed in ((90, False, None), (37, False, None), (-41, True, 3), (0, True, 4), (112, True, 5)):
            other = verdicts(frame(turned, back, seed))
            self.assertEqual(other.keys(), plain.keys())
            for key, value in plain.items():
                self.assertAlmostEqual(other[key], value, delta=2e-6 * max(1.0, value), msg=f"{key} {turned}")

    def test_a_drift_is_how_far_the_head_moves(self):
        # F h³/3EI of a round cantilever pushed askew, whatever the direction
        F, h, ratio = 7000.0, 4.0, 150
        for angle in (0, 30, 45, 77):
            data = {
                "materials": [{"name": "m", "E": E, "G": E / 2.6}],
                "sections": [{"name": "s", "A": 1.0, "Iy": I, "Iz": I, "It": I}],
                "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [0, 0, h]}],
                "members": [{"name": "c", "start": "a", "end": "b", "section": "s", "material": "m", "role": "column"}],
                "supports": [{"node": "a", "fixed": FIXED}],
                "units": "N, m",
                "node_loads": [
                    {"case": "P", "node": "b", "force": [F * cos(radians(angle)), F * sin(radians(angle)), 0]}
                ],
            }
            found = outcomes(data, eaves_sway_ratio=ratio)["c", "sway"].utilisation
            self.assertAlmostEqual(found / (F * h**3 / (3 * E * I) * ratio / h), 1, delta=1e-6)

    def test_a_raked_column_drifts_too(self):
        # a cantilever of length L leaning by θ, its tip pushed level: across it F cos θ L³/3EI, of which cos θ is level
        F, L, ratio = 7000.0, 5.0, 150
        for lean in (2, 8, 20):
            c = cos(radians(lean))
            data = {
                "units": "N, m",
                "materials": [{"name": "m", "E": E, "G": E / 2.6}],
                "sections": [{"name": "s", "A": 10.0, "Iy": I, "Iz": I, "It": I}],
                "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [L * sin(radians(lean)), 0, L * c]}],
                "members": [{"name": "c", "start": "a", "end": "b", "section": "s", "material": "m"}],
                "supports": [{"node": "a", "fixed": FIXED}],
                "node_loads": [{"case": "P", "node": "b", "force": [F, 0, 0]}],
            }
            for role in ("column", "member"):
                data["members"][0]["role"] = role
                found = outcomes(data, eaves_sway_ratio=ratio)["c", "sway"].utilisation
                self.assertAlmostEqual(found / (F * c**2 * L**3 / (3 * E * I) * ratio / (L * c)), 1, delta=1e-5)


class RolledOver(unittest.TestCase):
    """A section upside down, drawn from either end, is the same; so is a post, whichever side it is pushed from."""

    def beam(self, roll=0.0, sizes=None, section="IPE 300", standing=False, push=1.0, back=False):
        at = (0, 0, 6) if standing else (6, 0, 0)
        ends = ("b", "a") if back else ("a", "b")
        value = [push * 9, 0, 0] if standing else [0, 0, -push * 9]
        held = ["x", "y", "rz"] if standing else ["y", "z", "rx"]
        return verdicts(
            {
                "units": "kN, m",
                "built_sections": [{"name": "g", "shape": "welded I", **sizes}] if sizes else [],
                "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": at}],
                "members": [
                    {
                        "name": "m",
                        "start": ends[0],
                        "end": ends[1],
                        "section": "g" if sizes else section,
                        "material": "S355",
                        "roll": roll,
                    }
                ],
                "supports": [{"node": "a", "fixed": sorted({*held, "x", "z"})}, {"node": "b", "fixed": held}],
                "cases": [{"name": "Q", "nature": "imposed"}],
                "member_loads": [{"case": "Q", "member": "m", "value": value}],
            }
        )

    def same(self, one, other):
        self.assertEqual(one.keys(), other.keys())
        for key, value in one.items():
            self.assertAlmostEqual(
                other[key] / value if value > 1e-9 else other[key], 1 if value > 1e-9 else 0, delta=1e-6
            )

    def test_what_lies(self):
        for section in ("IPE 300", "UPE 200", "RECT 20x200"):
            plain = self.beam(section=section)
            self.same(plain, self.beam(180, section=section))
            self.same(plain, self.beam(180, section=section, back=True))

    def test_unequal_flanges(self):
        sizes = {"h": 400, "b": 220, "tf": 16, "tw": 9, "b2": 120, "tf2": 10}
        turned = sizes | {"b": 120, "tf": 10, "b2": 220, "tf2": 16}
        self.same(self.beam(sizes=sizes), self.beam(180, sizes=turned))
        self.same(self.beam(sizes=turned), self.beam(180, sizes=sizes))

    def test_what_stands(self):
        lies = self.beam()
        for roll in (0, 180):
            for push in (1, -1):
                stands = self.beam(roll, standing=True, push=push)
                self.assertAlmostEqual(stands["m", "lateral"] / lies["m", "lateral"], 1, delta=1e-6)


class Leaning(unittest.TestCase):
    def test_along_the_building(self):
        for turned in (0, 37, -41, 90):
            chain = respond(read_document(frame(turned)))
            phi = sway(5.0, 2)
            # along the portal there are two columns, across it one
            which = 1 if turned == 90 else 0
            self.assertAlmostEqual(slopes(chain.structure, along=ways(chain.structure))[which], phi)
            along = chain.loading.leans[0][which]
            push = chain.loading.expected[along]
            # 8 kN/m on 8 m
            self.assertAlmostEqual(hypot(push[0], push[1]) / (phi * 64e3), 1, delta=1e-9)
            way = abs(push[0] * cos(radians(turned)) + push[1] * sin(radians(turned)))
            self.assertAlmostEqual(way / (phi * 64e3), 1, delta=1e-9)
            self.assertEqual(chain.loading.cases[along].exclusive, "X′" if turned % 90 else "XY"[which])

    def test_where_beams_run_in_many_directions_it_leans_more(self):
        # a hexagon on six posts of 4 m
        places = [(4 * cos(k * np.pi / 3), 4 * sin(k * np.pi / 3)) for k in range(6)]
        data = {
            "nodes": [
                {"name": f"{n}{k}", "at": [*p, z]} for k, p in enumerate(places) for n, z in (("f", 0), ("h", 4))
            ],
            "members": [
                {"name": f"c{k}", "start": f"f{k}", "end": f"h{k}", "section": "HEA 200", "material": "S355"}
                for k in range(6)
            ]
            + [
                {"name": f"b{k}", "start": f"h{k}", "end": f"h{(k + 1) % 6}", "section": "IPE 200", "material": "S355"}
                for k in range(6)
            ],
            "supports": [{"node": f"f{k}", "fixed": FIXED} for k in range(6)],
        }
        structure = expand(read_document(data))
        found = ways(structure)
        self.assertTrue(found.mixed)
        phi = slopes(structure, along=found)
        self.assertAlmostEqual(phi[0], sqrt(2) * sway(4.0, 1))
        # pushed along X or Y it is φ at least along every side
        for k in range(6):
            side = np.subtract(places[(k + 1) % 6], places[k]) / 4
            self.assertGreaterEqual(max(abs(phi[0] * side[0]), abs(phi[1] * side[1])), sway(4.0, 1) - 1e-12)

    def test_both_ways_where_it_is_pushed_askew(self):
        data = frame()
        data["node_loads"][0]["force"] = [1.5, 1.0, 0]
        names = [
            c.formula for c in respond(read_document(data)).combinations if "W" in c.formula and c.use == "strength"
        ]
        for way in ("Φ(+X)", "Φ(+Y)"):
            self.assertTrue(any(name.endswith(way) for name in names), names)
        data["node_loads"][0]["force"] = [2.5, 1.0, 0]
        names = [
            c.formula for c in respond(read_document(data)).combinations if "W" in c.formula and c.use == "strength"
        ]
        self.assertFalse(any("Y)" in name for name in names), names)


if __name__ == "__main__":
    unittest.main()
