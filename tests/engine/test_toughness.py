"""Subgrades of thick steel: printed values of EN 1993-1-10 table 2.1, and what the verdict says of them."""

from __future__ import annotations

import unittest

from engine.chain import run
from engine.document import Document, read_document
from engine.standards.en.toughness import subgrade
from tests.engine.helpers import FIXED

#: f_y, thickness in mm, wanted: EN 1993-1-10 table 2.1, columns of −30 °C under 0.75 f_y(t)
PRINTED = (
    (235, 30, ""), (235, 31, "J0"), (235, 40, "J0"), (235, 60, "J2"), (235, 61, None),
    (275, 25, ""), (275, 35, "J0"), (275, 36, "J2"), (275, 65, "M or N"), (275, 95, "ML or NL"),
    (355, 15, ""), (355, 15.5, "J0"), (355, 25, "J0"), (355, 40, "J2"), (355, 50, "K2, M or N"),
    (355, 75, "ML or NL"), (355, 76, None),
    (420, 45, ""), (420, 65, "ML or NL"), (440, 16, None), (440, 15, ""),
    (460, 30, ""), (460, 40, "M or N"), (460, 50, "QL"), (460, 60, "ML or NL"), (460, 70, "QL1"),
    # between two grades the stronger one counts, and what is stronger than all is in no table
    (300, 16, "J0"), (500, 16, None),
)  # fmt: skip


def cantilever(*sections: tuple[str, str]) -> Document:
    nodes = [
        {"name": f"{k}{end}", "at": [x, 5.0 * k, 0.0]} for k in range(len(sections)) for end, x in (("a", 0), ("b", 2))
    ]
    members = [
        {
            "name": f"beam-{k}",
            "start": f"{k}a",
            "end": f"{k}b",
            "section": section,
            "material": steel,
            "role": "main beam",
        }
        for k, (section, steel) in enumerate(sections)
    ]
    supports = [{"node": f"{k}a", "fixed": FIXED} for k in range(len(sections))]
    return read_document({"name": "Cold", "nodes": nodes, "members": members, "supports": supports})


def said(document: Document) -> list[list[str]]:
    return [[words for words in v.left_out if "subgrade" in words] for v in run(document).verification.verdicts]


class Subgrades(unittest.TestCase):
    def test_thickness_at_thirty_below_as_printed(self) -> None:
        for fy, thickness, wanted in PRINTED:
            with self.subTest(fy=fy, thickness=thickness):
                self.assertEqual(subgrade(fy * 1e6, thickness / 1e3), wanted)

    def test_verdicts_on_thick_members_say_it_and_those_on_thin_ones_are_silent(self) -> None:
        # flanges: IPE 300 10.7 mm, HEB 200 15, HEB 300 19, HEM 300 39
        thin = cantilever(("IPE 300", "S355"), ("HEB 200", "S355"), ("HEB 300", "S235"))
        self.assertEqual(said(thin), [[], [], []])
        (first,), (second,), (third,) = said(cantilever(("HEB 300", "S355"), ("HEM 300", "S355"), ("HEM 300", "S235")))
        self.assertIn("S355 of 19 mm wants subgrade J0 at least (EN 1993-1-10", first)
        self.assertIn("S355 of 39 mm wants subgrade J2 at least", second)
        self.assertIn("S235 of 39 mm wants subgrade J0 at least", third)


if __name__ == "__main__":
    unittest.main()
