"""Crane rails: EN 1993-6 tables 7.1 and 7.2, on cantilevering columns whose movements have closed forms."""

import math
import unittest
from typing import Any

from engine.catalogue.sections import section
from engine.chain import Chain, run
from engine.document import Document, read_document
from engine.document.references import drop
from engine.verification.proof import prove
from engine.verification.single import everything
from engine.verification.verify import of_one
from tests.engine.helpers import FIXED

E = 210e9
#: height of the rails, length of the brackets, distance of the frames and of the columns, m
A, REACH, BAY, SPAN = 5.0, 0.5, 7.5, 12.0
COLUMN, BRACKET = section("HEB 300"), section("HEB 260")
RAILS = {"name": "Crane 1", "members": ["b1L", "b1R", "b2L", "b2R"]}


def at(x: float, y: float, z: float, turn: float) -> list[float]:
    c, s = math.cos(math.radians(turn)), math.sin(math.radians(turn))
    return [c * x - s * y, s * x + c * y, z]


def craneway(turn: float = 0.0, loads: list[dict[str, Any]] | None = None, **more: Any) -> dict[str, Any]:
    """Two frames of two clamped columns with brackets between them, nothing joining them; H pulls on one rail, V presses on it."""
    nodes, members, supports = [], [], []
    for f, y in (("1", 0.0), ("2", BAY)):
        for side, x, way in (("L", 0.0, 1), ("R", SPAN, -1)):
            own = f + side
            for name, place in (
                (f"foot{own}", (x, y, 0)),
                (f"root{own}", (x, y, A)),
                (f"tip{own}", (x + way * REACH, y, A)),
                (f"head{own}", (x, y, 8)),
            ):
                nodes.append({"name": name, "at": at(*place, turn)})
            members += [
                {"name": f"c{own}", "start": f"foot{own}", "end": f"head{own}", "section": "HEB 300", "role": "column"}
                | {"roll": turn},
                {"name": f"b{own}", "start": f"root{own}", "end": f"tip{own}", "section": "HEB 260"},
            ]
            supports.append({"node": f"foot{own}", "fixed": FIXED})
    return {
        "nodes": nodes,
        "members": members,
        "supports": supports,
        "cases": [{"name": "Crane", "nature": "crane"}, {"name": "Wind", "nature": "wind"}],
        "node_loads": loads or [],
        "crane_rails": [RAILS],
        "analysis": {"shear_deformation": False},
    } | more


def pulled(turn: float = 0.0, case: str = "Crane", force: float = 8.0) -> list[dict[str, Any]]:
    return [{"case": case, "node": "tip1L", "force": at(force, 0, 0, turn)}]


def pressed() -> list[dict[str, Any]]:
    return [{"case": "Crane", "node": "tip1L", "force": [0, 0, -40.0]}]


def reached(chain: Chain, member: str) -> dict[str, float]:
    verdict = chain.verification.verdicts[chain.structure.index[member]]
    return {o.criterion: o.utilisation for o in verdict.outcomes}


#: what 8 kN across moves the rail by: the column as a cantilever of 5 m, and the bracket that grows longer
PULLED = 8e3 * A**3 / (3 * E * COLUMN.Iy) + 8e3 * REACH / (E * BRACKET.A)


class RailsMove(unittest.TestCase):
    def test_across_beside_and_apart(self) -> None:
        # where the column turns, the bracket dips
        tilted = 8e3 * A**2 / (2 * E * COLUMN.Iy) * REACH
        for turn in (0.0, 30.0, 90.0, 210.0):
            chain = run(read_document(craneway(turn, pulled(turn))))
            for member in ("b1L", "c1L"):
                found = reached(chain, member)
                self.assertAlmostEqual(found["rail_sway"], PULLED / (A / 400), delta=2e-6)
                self.assertAlmostEqual(found["rail_beside"], PULLED / (BAY / 600), delta=2e-6)
                self.assertAlmostEqual(found["rail_spread"], PULLED / 0.010, delta=2e-6)
                self.assertAlmostEqual(found["rail_level"], tilted / ((SPAN - 2 * REACH) / 600), delta=2e-6)
            # the other rail stands still, but what is apart is apart for both; the next frame is beside this one
            self.assertAlmostEqual(reached(chain, "c1R")["rail_spread"], PULLED / 0.010, delta=2e-6)
            self.assertAlmostEqual(reached(chain, "c1R")["rail_sway"], 0.0, delta=1e-6)
            self.assertAlmostEqual(reached(chain, "c2L")["rail_beside"], PULLED / (BAY / 600), delta=2e-6)
            self.assertAlmostEqual(reached(chain, "c2L")["rail_spread"], 0.0, delta=1e-6)

    def test_level(self) -> None:
        chain = run(read_document(craneway(0.0, pressed())))
        V, turned = 40e3, 40e3 * REACH * A / (E * COLUMN.Iy)
        down = turned * REACH + V * REACH**3 / (3 * E * BRACKET.Iy) + V * A / (E * COLUMN.A)
        inwards = V * REACH * A**2 / (2 * E * COLUMN.Iy)
        found = reached(chain, "c1L")
        gauge = SPAN - 2 * REACH
        self.assertAlmostEqual(found["rail_level"], down / (gauge / 600), delta=2e-5)
        self.assertAlmostEqual(found["rail_spread"], inwards / 0.010, delta=2e-5)

    def test_limits_are_stated_with_the_rails(self) -> None:
        own = {"sway_ratio": 800, "beside_ratio": 0, "spread_mm": 5, "level_ratio": 0}
        found = reached(run(read_document(craneway(loads=pulled(), crane_rails=[RAILS | own]))), "c1L")
        self.assertAlmostEqual(found["rail_sway"], PULLED / (A / 800), delta=2e-6)
        self.assertAlmostEqual(found["rail_spread"], PULLED / 0.005, delta=2e-6)
        self.assertFalse({"rail_beside", "rail_level"} & found.keys())

    def test_what_moves_too_far_fails(self) -> None:
        chain = run(read_document(craneway(loads=pulled(force=20.0))))
        index = chain.structure.index["c1L"]
        verdict = chain.verification.verdicts[index]
        self.assertEqual(verdict.status, "fails")
        self.assertEqual(verdict.governing.criterion, "rail_spread")
        proof = prove(chain.verification, chain.combinations, index, verdict.governing)
        self.assertAlmostEqual(proof.utilisation, verdict.governing.utilisation, delta=1e-9)
        self.assertEqual(proof.clause, "EN 1993-6 table 7.1(e)")
        own = {r.criterion: float(r.utilisation[r.worst]) for r in everything(chain.verification, index)}
        self.assertAlmostEqual(own["rail_spread"], verdict.governing.utilisation, delta=1e-9)
        number = next(i for i, c in enumerate(chain.combinations) if c.name == proof.combination)
        self.assertEqual(chain.combinations[number].use, "variable")
        self.assertAlmostEqual(
            float(of_one(chain.verification, number).max()), verdict.governing.utilisation, delta=1e-9
        )

    def test_only_what_cranes_do_counts(self) -> None:
        loads = pulled() + pulled(case="Wind", force=100.0)
        chain = run(read_document(craneway(loads=loads)))
        self.assertAlmostEqual(reached(chain, "c1L")["rail_spread"], PULLED / 0.010, delta=2e-6)
        self.assertTrue(chain.verification.crane)
        for number in chain.verification.crane:
            self.assertEqual([bool(f) for f in chain.combinations[number].factors[:2]], [True, False])

    def test_temperature_acts_beside_cranes(self) -> None:
        cases = [{"name": "Crane", "nature": "crane"}, {"name": "Summer", "nature": "temperature"}]
        loads = pulled() + pulled(case="Summer", force=4.0)
        chain = run(read_document(craneway(loads=loads, cases=cases)))
        # the temperature leads and the crane goes along, ψ0 = 1.0 (EN 1991-3 table A.2)
        self.assertAlmostEqual(reached(chain, "c1L")["rail_spread"], PULLED * (1 + 0.5) / 0.010, delta=2e-6)


class WhatIsSaid(unittest.TestCase):
    def left_out(self, **more: Any) -> str:
        chain = run(read_document(craneway(loads=pulled(), **more)))
        return " | ".join(words for words, _ in chain.verification.whole.left_out)

    def test_cranes_without_rails(self) -> None:
        self.assertIn("no crane rails are stated", self.left_out(crane_rails=[]))
        self.assertIn("fatigue", self.left_out())
        self.assertNotIn("no crane rails are stated", self.left_out())

    def test_rails_without_cranes(self) -> None:
        data = craneway(loads=pulled(case="Wind"), cases=[{"name": "Wind", "nature": "wind"}])
        chain = run(read_document(data))
        verdict = chain.verification.verdicts[chain.structure.index["c1L"]]
        self.assertIn("movement of crane rails not checked: there is no combination for it", verdict.left_out)
        self.assertFalse([c for c in reached(chain, "c1L") if c.startswith("rail")])

    def test_what_does_not_make_two_rails(self) -> None:
        one = {"name": "Crane 1", "members": ["b1L", "b2L"]}
        self.assertIn("do not bear two rails", self.left_out(crane_rails=[one]))
        three = {"name": "Crane 1", "members": ["b1L", "b1R", "b2L"]}
        self.assertIn("1 of 3 places have none opposite", self.left_out(crane_rails=[three]))
        gone = {"name": "Crane 1", "members": [*RAILS["members"], "b9L"]}
        self.assertIn("crane rails “Crane 1”: “b9L” is not there", self.left_out(crane_rails=[gone]))
        self.assertIn("none of its members is there", self.left_out(crane_rails=[{"name": "x", "members": ["gone"]}]))

    def test_brackets_in_pieces(self) -> None:
        whole = reached(run(read_document(craneway(loads=pulled()))), "c1L")
        for turned in (False, True):
            data = craneway(loads=pulled(), crane_rails=[RAILS | {"members": ["o1L", "b1R", "b2L", "b2R"]}])
            data["nodes"].append({"name": "half", "at": [REACH / 2, 0, A]})
            own = next(m for m in data["members"] if m["name"] == "b1L")
            ends = ("tip1L", "half") if turned else ("half", "tip1L")
            data["members"].append(own | {"name": "o1L", "start": ends[0], "end": ends[1]})
            own["end"] = "half"
            chain = run(read_document(data))
            for member in ("c1L", "b1L", "o1L"):
                for criterion in ("rail_sway", "rail_beside", "rail_spread", "rail_level"):
                    self.assertAlmostEqual(reached(chain, member)[criterion], whole[criterion], delta=1e-6)

    def test_rails_that_hang_from_beams(self) -> None:
        data = craneway(loads=pulled(), crane_rails=[{"name": "Hoist", "members": ["h1", "h2"]}])
        data["nodes"] += [{"name": f"n{k}{f}", "at": [k, 0, z]} for k in (4, 8) for f, z in (("high", 8), ("low", 7.5))]
        data["members"] += [
            {"name": "tie", "start": "head1L", "end": "head1R", "section": "HEB 300"},
            *(
                {"name": f"h{i}", "start": f"n{k}high", "end": f"n{k}low", "section": "HEB 200"}
                for i, k in ((1, 4), (2, 8))
            ),
        ]
        left_out = " | ".join(words for words, _ in run(read_document(data)).verification.whole.left_out)
        self.assertIn("crane rails “Hoist”: nothing stands below 2 of 2 places", left_out)

    def test_rails_on_heads_of_columns(self) -> None:
        loads = [{"case": "Crane", "node": "head1L", "force": [8, 0, 0]}]
        heads = {"name": "High", "members": ["c1L", "c1R", "c2L", "c2R"]}
        chain = run(read_document(craneway(loads=loads, crane_rails=[heads])))
        moved = 8e3 * 8**3 / (3 * E * COLUMN.Iy)
        self.assertAlmostEqual(reached(chain, "c1L")["rail_sway"], moved / (8 / 400), delta=2e-6)
        self.assertAlmostEqual(reached(chain, "c1L")["rail_spread"], moved / 0.010, delta=2e-6)

    def test_a_member_that_goes_leaves_the_rails(self) -> None:
        document = read_document(craneway(loads=pulled()))
        drop(document, "member", {"b1R"})
        self.assertEqual(document.crane_rails[0].members, ["b1L", "b2L", "b2R"])
        self.assertEqual(Document.model_validate(document.model_dump(mode="json")), document)
