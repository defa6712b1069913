"""Reactions of what is hinged to the face of a column act beside its axis: by hand."""

import unittest

from engine.chain import fingerprints, run
from engine.document import Document, read_document
from engine.editing.apply import operate
from engine.editing.operations import ChangeMembers, Copy, MemberChange
from engine.expand import expand
from engine.standards.en.checks.faces import moments
from tests.engine.test_storeys import building

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


def bearing(document, beyond, **of_beams):
    """The same document with its beams hinged in front of the column's face."""
    stated = document.model_dump(mode="json")
    stated["analysis"]["bears_at"] = beyond
    for m in stated["members"]:
        if m["name"] in of_beams:
            m["bears_at"] = of_beams[m["name"]]
    return read_document(stated | {"analysis": stated["analysis"] | {"order": "first"}})


def moment_at_joint(document, member="c0"):
    """The largest moments about y and z of a column, in kNm."""
    chain = run(document)
    f, rows = chain.verification.checks.grounds.analysed, chain.combined.elements.rows(chain.structure.index[member])
    return tuple(float(abs(M[rows]).max()) / 1e3 for M in (f.My, f.Mz))


class Bearings(unittest.TestCase):
    """A beam of 6 m under 40 kN/m hands over 120 kN; a HEA 200 is 190 mm deep, its web 6.5 mm thick."""

    def test_the_reaction_of_a_beam_bends_the_column_by_its_distance(self):
        for beyond in (0.0, 0.1):
            document = bearing(storey([(6.0, 40.0)]), beyond)
            My, Mz = moment_at_joint(document)
            self.assertAlmostEqual(My, 120 * (0.095 + beyond), places=6)
            self.assertAlmostEqual(Mz, 0.0, places=6)
            self.assertEqual(told(document), ({}, []))

    def test_a_column_held_at_its_head_bears_half_above_and_half_below(self):
        stated = storey([(6.0, 40.0)]).model_dump(mode="json")
        stated["supports"][0]["fixed"] = ["x", "y", "z", "rz"]
        stated["supports"].append({"node": "head", "fixed": ["x", "y"]})
        document = bearing(read_document(stated), 0.1)
        # the joint of a hinged column of 8 m in two halves of one stiffness, under M: M/2 on either side, M/8 as the reaction
        for column in ("c0", "c1"):
            self.assertAlmostEqual(moment_at_joint(document, column)[0], 120 * 0.195 / 2, delta=0.01)

    def test_beams_on_both_faces_bend_it_by_what_they_differ(self):
        My, _ = moment_at_joint(bearing(storey([(6.0, 40.0), (-4.0, 40.0)]), 0.1))
        self.assertAlmostEqual(My, (120 - 80) * 0.195, places=6)

    def test_at_the_web_it_is_counted_from_the_web(self):
        My, Mz = moment_at_joint(bearing(storey([(6.0, 40.0)], roll=90.0), 0.1))
        self.assertAlmostEqual(Mz, 120 * (0.00325 + 0.1), places=6)

    def test_a_member_says_otherwise(self):
        for own, lever in ((0.05, 0.145), ("axis", 0.0)):
            document = bearing(storey([(6.0, 40.0)]), 0.1, b0=own)
            self.assertAlmostEqual(moment_at_joint(document)[0], 120 * lever, places=6)
        self.assertIn("up to 5.7 kNm about y", told(document)[1][0])

    def test_a_beam_that_is_clamped_to_it_bears_in_the_axis(self):
        stated = storey([(6.0, 40.0)]).model_dump(mode="json")
        stated["members"][2]["releases"] = {"start": ["ry", "rz"]}
        rigid = read_document(stated)
        self.assertEqual(moment_at_joint(bearing(rigid, 0.1)), moment_at_joint(bearing(rigid, None)))

    def test_a_column_hinged_to_the_beam_bears_no_moment_of_it(self):
        stated = storey([(6.0, 40.0)], height=4.0).model_dump(mode="json")
        stated["members"][0]["releases"] = {"end": ["ry", "rz"]}
        stated["members"][1]["releases"] = {"start": ["ry", "rz"]}
        chain = run(bearing(read_document(stated), 0.1))
        self.assertEqual([m.joints for m in chain.structure.members], [(0.0, 0.0)] * 2)

    def test_where_the_next_node_is_too_near_it_stays_in_the_axis_and_says_so(self):
        document = bearing(storey([(0.3, 2000.0)]), 0.1)
        found, words = told(document)
        self.assertAlmostEqual(found["c0"][0], 2000 * 0.15 * 0.095 / 2, places=3)
        self.assertEqual(len(words), 1)

    def test_it_is_written_with_the_structure(self):
        self.assertNotEqual(*(fingerprints(bearing(storey([(6.0, 40.0)]), d))["structure"] for d in (0.0, 0.1)))

    def test_chords_meet_the_webs_in_the_axis(self):
        stated = storey([(6.0, 40.0)]).model_dump(mode="json")
        stated["members"][2]["role"] = "top chord"
        self.assertEqual(moment_at_joint(bearing(read_document(stated), 0.1)), (0.0, 0.0))
        stated["members"][2]["bears_at"] = 0.1
        self.assertAlmostEqual(moment_at_joint(bearing(read_document(stated), None))[0], 120 * 0.195, places=6)

    def test_a_beam_of_a_storey_keeps_what_it_says_released_and_copied(self):
        office = Document(jigs=[building()])
        name = "office/beam-1-1"
        edited = operate(office, ChangeMembers(members=[name], change=MemberChange(bears_at=0.1)))
        self.assertEqual([m.joints for m in expand(office).members if m.name == name], [(0.0, 0.0)])
        joints = next(m.joints for m in expand(edited).members if m.name == name)
        # the columns are HEA 220, 210 mm deep
        self.assertAlmostEqual(max(joints), 0.205)
        copied = operate(edited, Copy(members=[name], step=(0.0, 0.0, 3.0)))
        self.assertEqual([m.bears_at for m in copied.members], [0.1])
