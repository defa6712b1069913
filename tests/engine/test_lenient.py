"""What a document states more leniently than is usual is told: combinations without partial factors, first order where α_cr is low."""

import unittest
from typing import Any

from engine.chain import run
from engine.document import read_document
from engine.standards.en.checks.uncovered import HELD
from engine.templates import TEMPLATES

SHORT = "every combination for strength counts with less than the partial factors of EN 1990 table A1.2(B): {}"
LIFTED = "no combination for strength counts wind where weights help against it (EN 1990 table A1.2(B)): {}"


def said(*combinations: dict[str, float], wind: bool = False, **rules: Any) -> list[str]:
    """What the verdict on a beam leaves out of its combinations, under weight, an imposed load and wind."""
    cases = [("G", "permanent", -4.0), ("Q", "imposed", -6.0)] + ([("W", "wind", 5.0)] if wind else [])
    data = {
        "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [6, 0, 0]}],
        "members": [{"name": "beam", "start": "a", "end": "b", "section": "IPE 300", "role": "main beam"}],
        "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx"]}, {"node": "b", "fixed": ["y", "z", "rx"]}],
        "cases": [{"name": name, "nature": nature} for name, nature, _ in cases],
        "member_loads": [{"case": name, "member": "beam", "kind": "line", "value": [0, 0, q]} for name, _, q in cases],
        "combinations": [
            {"name": f"S{k}", "use": "strength", "factors": factors} for k, factors in enumerate(combinations)
        ],
        "rules": {"imperfections": False, **rules},
    }
    left_out = run(read_document(data)).verification.left_out
    return [words for words in left_out if "table A1.2(B)" in words]


class OwnCombinations(unittest.TestCase):
    def test_without_partial_factors(self) -> None:
        self.assertEqual(said({"G": 1.0, "Q": 1.0}), [SHORT.format("“G” with 1, not 1.35; “Q” with 1, not 1.5")])
        self.assertEqual(said({"G": 1.35, "Q": 1.05}), [SHORT.format("“Q” with 1.05, not 1.5")])

    def test_with_them_somewhere(self) -> None:
        self.assertEqual(said({"G": 1.35, "Q": 1.05}, {"G": 1.0, "Q": 1.5}), [])
        # what acts in no combination is told elsewhere
        self.assertEqual(said({"G": 1.35}), [])

    def test_by_the_factors_of_the_document(self) -> None:
        self.assertEqual(said({"G": 1.2, "Q": 1.4}, gamma_G_unfavourable=1.2, gamma_Q=1.4), [])
        # by (6.10a) and (6.10b) the variable action leads beside 0.85 × 1.35
        own = {"G": 1.1475, "Q": 1.5}
        self.assertEqual(said(own, strength_rule="6.10a/b", xi=0.85), [])
        self.assertEqual(said(own), [SHORT.format("“G” with 1.147, not 1.35")])

    def test_wind_that_lifts(self) -> None:
        pressed = {"G": 1.35, "Q": 1.5, "W": 1.5}
        self.assertEqual(said(pressed, wind=True), [LIFTED.format("“G” with 1.35, not 1")])
        self.assertEqual(said(pressed, {"G": 1.0, "W": 1.5}, wind=True), [])

    def test_generated_ones_have_them(self) -> None:
        left_out = run(TEMPLATES["mezzanine"].make()).verification.left_out
        self.assertEqual([words for words in left_out if "table A1.2(B)" in words], [])


class FirstOrder(unittest.TestCase):
    def test_below_the_usual_limit(self) -> None:
        """A cantilevered column of 4 m, HEA 200: π² E I/(2 L)² = 1195.6 kN over 1.5 × 200 kN makes α_cr = 3.99."""
        words = "second order is left out down to α_cr = {}, as stated, not 10 (5.2.1(3)): α_cr = 3.9"
        for order, below, said in (
            ("by alpha_cr", 10.0, False),
            ("by alpha_cr", 1.0, True),
            ("first", 3.0, True),
            ("by alpha_cr", 5.0, False),
            ("second", 1.0, False),
        ):
            data = {
                "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [0, 0, 4]}],
                "members": [{"name": "m", "start": "a", "end": "b", "section": "HEA 200", "role": "column"}],
                "supports": [
                    {"node": "a", "fixed": ["x", "y", "z", "rx", "ry", "rz"]},
                    {"node": "b", "fixed": ["y"]},
                ],
                "cases": [{"name": "Q", "nature": "imposed"}],
                "node_loads": [{"case": "Q", "node": "b", "force": [0, 0, -200]}],
                "combinations": [{"name": "S", "use": "strength", "factors": {"Q": 1.5}}],
                "analysis": {"order": order, "second_order_below": below, "shear_deformation": False},
            }
            left_out = run(read_document(data)).verification.left_out
            told = any(w.startswith(words.format(f"{below:g}")) for w in left_out)
            self.assertEqual(told, said, (order, below, left_out))


class Movements(unittest.TestCase):
    WORDS = "every combination for deflection counts with less than characteristic loads (EN 1990 (6.14b)): {}"

    def said(self, *combinations: dict[str, float]) -> list[str]:
        data = {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [6, 0, 0]}],
            "members": [{"name": "beam", "start": "a", "end": "b", "section": "IPE 300", "role": "main beam"}],
            "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx"]}, {"node": "b", "fixed": ["y", "z", "rx"]}],
            "cases": [{"name": "G", "nature": "permanent"}, {"name": "Q", "nature": "imposed"}, {"name": "E", "nature": "accidental"}],
            "member_loads": [
                {"case": case, "member": "beam", "kind": "line", "value": [0, 0, -q]}
                for case, q in (("G", 4.0), ("Q", 6.0), ("E", 5.0))
            ],
            "combinations": [{"name": "S", "use": "strength", "factors": {"G": 1.35, "Q": 1.5}}]
            + [{"name": f"D{k}", "use": "deflection", "factors": own} for k, own in enumerate(combinations)],
        }  # fmt: skip
        return [words for words in run(read_document(data)).verification.left_out if "(6.14b)" in words]

    def test_less_than_characteristic_loads(self) -> None:
        self.assertEqual(self.said({"G": 1.0, "Q": 0.5}), [self.WORDS.format("“Q” with 0.5")])
        self.assertEqual(self.said({"G": 1.0}), [self.WORDS.format("“Q” with 0")])
        self.assertEqual(self.said({"G": 1.0, "Q": 0.5}, {"Q": 1.0}), [])
        self.assertEqual(self.said(), [])


class Equilibrium(unittest.TestCase):
    def told(self, push: float, weight: float, *uses: str) -> bool:
        """Whether it is said of a table of 4 × 4 m and 3 m high, pushed along X and weighed down, in kN at each head."""
        corners = [(0, 0), (4, 0), (4, 4), (0, 4)]
        nodes = [
            {"name": f"{end}{k}", "at": [x, y, z]}
            for k, (x, y) in enumerate(corners)
            for end, z in (("f", 0), ("h", 3))
        ]
        members = [
            {"name": f"c{k}", "start": f"f{k}", "end": f"h{k}", "section": "HEA 200", "role": "column"}
            for k in range(4)
        ]
        members += [
            {"name": f"b{k}", "start": f"h{k}", "end": f"h{(k + 1) % 4}", "section": "IPE 300", "role": "main beam"}
            for k in range(4)
        ]
        data = {
            "nodes": nodes,
            "members": members,
            "supports": [{"node": f"f{k}", "fixed": ["x", "y", "z"]} for k in range(4)],
            "cases": [{"name": "G", "nature": "permanent"}, {"name": "W", "nature": "wind"}],
            "node_loads": [
                {"case": case, "node": f"h{k}", "force": force}
                for k in range(4)
                for case, force in (("G", [0, 0, -weight]), ("W", [push, 0, 0]))
            ],
            "combinations": [
                {"name": f"U{k}", "use": use, "factors": {"G": 1.0, "W": 1.5}} for k, use in enumerate(("strength", *uses))
            ],
        }  # fmt: skip
        left_out = run(read_document(data)).verification.left_out
        return any(words.startswith("overturning and uplift are not checked") for words in left_out)

    def test_what_comes_near_to_tipping(self) -> None:
        """1.5 × 4 W × 3 m over 4 G × 2 m: 2.25 W/G."""
        self.assertTrue(self.told(3.0, 10.0))
        self.assertFalse(self.told(1.0, 10.0))
        self.assertFalse(self.told(3.0, 10.0, "uplift"))


class Steels(unittest.TestCase):
    def verdict(
        self, fy: float, fu: float, E: float = 2.1e8, **member: str
    ) -> tuple[str, tuple[str, ...], tuple[str, ...]]:
        """Of a beam of a steel of one's own, N/mm²."""
        data = {
            "materials": [{"name": "own", "E": E, "G": 8.1e7, "density": 7850, "fy": fy * 1e3, "fu": fu * 1e3}],
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [6, 0, 0]}],
            "members": [{"name": "m", "start": "a", "end": "b", "section": "IPE 300", "material": "own", **member}],
            "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx"]}, {"node": "b", "fixed": ["y", "z", "rx"]}],
            "cases": [{"name": "Q", "nature": "imposed"}],
            "member_loads": [{"case": "Q", "member": "m", "kind": "line", "value": [0, 0, -1]}],
            "combinations": [{"name": "S", "use": "strength", "factors": {"Q": 1.5}}],
        }
        found = run(read_document(data)).verification.verdicts[0]
        return found.status, found.not_covered, found.left_out

    def test_beyond_what_the_standard_is_for(self) -> None:
        strong = ("its steel yields at 690 N/mm²: EN 1993-1-1 is for steels up to S460 (3.1, 3.2.1)",)
        brittle = ("its steel breaks at 1.08 times the stress at which it yields: 1.10 is needed (3.2.2)",)
        self.assertEqual(self.verdict(690, 770)[:2], ("not covered", strong))
        self.assertEqual(self.verdict(400, 432)[:2], ("not covered", brittle))
        self.assertEqual(self.verdict(460, 540)[:2], ("passes", ()))
        for E, status in ((2.1e9, "not covered"), (0.7e8, "not covered"), (2.0e8, "passes")):
            self.assertEqual(self.verdict(355, 490, E)[0], status)
        soft = ("its modulus of elasticity is 70 kN/mm²: EN 1993-1-1 is for steel, with 210 (3.2.6)",)
        self.assertEqual(self.verdict(200, 260, 0.7e8)[1], soft)

    def test_what_weighs_nothing_is_told(self) -> None:
        for density, said in ((0, True), (7850, False)):
            data = {
                "materials": [{"name": "own", "E": 2.1e8, "density": density, "fy": 355e3, "fu": 490e3}],
                "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [6, 0, 0]}],
                "members": [{"name": "m", "start": "a", "end": "b", "section": "IPE 300", "material": "own"}],
                "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx"]}, {"node": "b", "fixed": ["y", "z", "rx"]}],
                "cases": [{"name": "G", "nature": "permanent", "self_weight": True}],
                "node_loads": [{"case": "G", "node": "a", "force": [0, 0, -1]}],
                "combinations": [{"name": "S", "use": "strength", "factors": {"G": 1.35}}],
            }
            left_out = run(read_document(data)).verification.left_out
            self.assertEqual("what is of “own” weighs nothing: its density is not stated" in left_out, said)

    def test_rigid_links_are_told(self) -> None:
        words = "it counts as rigid in every analysis, whatever its section"
        self.assertIn(words, self.verdict(355, 490, behaviour="rigid link")[2])
        self.assertNotIn(words, self.verdict(355, 490)[2])


class HeldByNothing(unittest.TestCase):
    """A hinged beam of 8 m between two columns, its upper flange stated as held at its quarters."""

    def told(self, joists: tuple[float, ...] = (), deck: str = "", hinged: bool = True, held: bool = True) -> bool:
        nodes = [("a", (0, 0, 0)), ("b", (0, 0, 4)), ("c", (8, 0, 4)), ("d", (8, 0, 0))]
        nodes += [(f"{side}{k}", (x, y, 4)) for k, x in enumerate(joists) for side, y in (("i", 0), ("j", 3))]
        both = {"start": ["ry", "rz"], "end": ["ry", "rz"]}
        beam = {"name": "r", "start": "b", "end": "c", "section": "IPE 300", "role": "main beam"}
        beam |= {"restraints_outer": [2, 4, 6]} if held else {}
        members = [
            {"name": "c1", "start": "a", "end": "b", "section": "HEA 200", "role": "column"},
            {"name": "c2", "start": "d", "end": "c", "section": "HEA 200", "role": "column"},
            beam | ({"releases": both} if hinged else {}),
        ]
        members += [
            {
                "name": f"n{k}",
                "start": f"i{k}",
                "end": f"j{k}",
                "section": "IPE 160",
                "role": "joist",
                "releases": {"start": ["ry"], "end": []},
            }
            for k in range(len(joists))
        ]
        ground = [{"node": n, "fixed": ["x", "y", "z", "rx", "ry", "rz"]} for n in "ad"]
        aside = [{"node": n, "fixed": ["y"]} for n in "bc"]
        ends = [{"node": f"j{k}", "fixed": ["x", "y", "z", "rx", "ry", "rz"]} for k in range(len(joists))]
        data = {
            "nodes": [{"name": name, "at": at} for name, at in nodes],
            "members": members,
            "supports": ground + aside + ends,
            "cases": [{"name": "Q", "nature": "imposed", "category": "E"}],
            "member_loads": [{"case": "Q", "member": "r", "kind": "line", "value": [0, 0, -8]}],
            "combinations": [{"name": "S", "use": "strength", "factors": {"Q": 1.5}}],
        }  # fmt: skip
        if deck:
            corners = [[0, 0, 4], [8, 0, 4], [8, 3, 4], [0, 3, 4]]
            data["panels"] = [{"name": "p", "corners": corners, "carriers": ["r"], "kind": deck}]
        chain = run(read_document(data))
        verdict = chain.verification.verdicts[chain.structure.index["r"]]
        return HELD in verdict.left_out

    def test_where_nothing_of_the_model_is(self) -> None:
        self.assertTrue(self.told())
        self.assertTrue(self.told(joists=(4.0,)))
        self.assertFalse(self.told(joists=(2.0, 4.0, 6.0)))
        self.assertFalse(self.told(deck="floor"))
        self.assertTrue(self.told(deck="surface"))
        self.assertFalse(self.told(held=False))
        # of what is joined rigidly it is said that no bracing carries its forces
        self.assertFalse(self.told(hinged=False))
