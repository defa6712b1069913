"""Reactions of what is hinged to the face of a column act beside its axis: by hand."""

import unittest

from engine.chain import run
from engine.document import read_document
from engine.standards.en.checks.faces import moments

HINGES = {"start": ["ry", "rz"], "end": ["ry", "rz"]}


def storey(beams, height=8.0, **column):
    """A HEA 200 with beams hinged to it 4 m above its foot, each (x of its far end, line load in kN/m)."""
    nodes = [
        {"name": n, "at": [0, 0, z]}
        for n, z in (("foot", 0), ("joint", 4), *([("head", height)] if height > 4 else []))
    ]
    columns = ["foot", "joint", *(["head"] if height > 4 else [])]
    supports = [{"node": "foot", "fixed": ["x", "y", "z", "rx", "ry", "rz"]}]
    members = [
        {"name": f"c{k}", "start": a, "end": b, "section": "HEA 200", "material": "S355", "role": "column"} | column
        for k, (a, b) in enumerate(zip(columns, columns[1:], strict=False))
    ]
    loads = []
    for k, (x, q) in enumerate(beams):
        nodes.append({"name": f"far{k}", "at": [x, 0, 4]})
        supports.append({"node": f"far{k}", "fixed": ["y", "z", "rx"]})
        # drawn from either end
        ends = ("joint", f"far{k}") if k % 2 else (f"far{k}", "joint")
        members.append(
            {"name": f"b{k}", "start": ends[0], "end": ends[1], "section": "IPE 400", "role": "main beam"}
            | {"releases": HINGES}
        )
        loads.append({"case": "Q", "member": f"b{k}", "value": [0, 0, -q]})
    return read_document(
        {
            "nodes": nodes,
            "members": members,
            "supports": supports,
            "cases": [{"name": "Q", "nature": "imposed"}],
            "combinations": [{"name": "C", "use": "strength", "factors": {"Q": 1.0}}],
            "rules": {"imperfections": False},
            "member_loads": loads,
        }
    )


def told(document):
    chain = run(document)
    found = moments(chain.verification.checks.grounds)
    words = [w for w in chain.verification.verdicts[0].left_out if "hinged to its face" in w]
    return {chain.structure.members[i].name: (M / 1e3, about) for i, (M, about) in found.items()}, words


class Faces(unittest.TestCase):
    # half the depth of a HEA 200 is 95 mm; its W_el,y 388.6 cm³
    def test_one_beam_in_the_middle_of_a_column_bends_both_halves(self):
        found, words = told(storey([(6.0, 40.0)]))
        self.assertAlmostEqual(found["c0"][0], 40 * 3 * 0.095 / 2, places=3)
        self.assertEqual((found["c0"][1], found["c1"][0]), ("y", found["c0"][0]))
        self.assertIn("up to 5.7 kNm about y, 4 %", words[0])

    def test_at_its_head_it_bends_all_of_it(self):
        found, words = told(storey([(6.0, 40.0)], height=4.0))
        self.assertAlmostEqual(found["c0"][0], 40 * 3 * 0.095, places=3)
        self.assertIn("8 %", words[0])

    def test_beams_on_both_faces_bend_it_by_what_they_differ(self):
        found, words = told(storey([(6.0, 40.0), (-6.0, 40.0)]))
        self.assertAlmostEqual(found.get("c0", (0.0,))[0], 0.0, places=6)
        self.assertEqual(words, [])
        found, _ = told(storey([(6.0, 40.0), (-4.0, 40.0)]))
        self.assertAlmostEqual(found["c0"][0], (120 - 80) * 0.095 / 2, places=3)

    def test_a_beam_at_the_web_is_near_the_axis(self):
        found, words = told(storey([(6.0, 40.0)], roll=90.0))
        # half of 6.5 mm
        self.assertAlmostEqual(found["c0"][0], 120 * 0.00325 / 2, places=4)
        self.assertEqual((found["c0"][1], words), ("z", []))


if __name__ == "__main__":
    unittest.main()
