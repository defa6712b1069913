"""Combinations of one's own that count cases with less than their partial factors say so (EN 1990 table A1.2(B))."""

import unittest
from typing import Any

from engine.chain import run
from engine.document import read_document
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
