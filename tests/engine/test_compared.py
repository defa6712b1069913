"""Two revisions side by side: what is verified and taken up differently, and nothing else."""

import unittest

from engine.chain import run
from engine.document import read_document
from engine.report.compared import compared

#: 6 m between pins with q along it, and a post beside that bears nothing of it
BEAM = {
    "nodes": [{"name": n, "at": at} for n, at in (("a", [0, 0, 0]), ("b", [6, 0, 0]), ("c", [0, 9, 0]), ("d", [0, 9, 4]))],
    "members": [
        {"name": "beam", "start": "a", "end": "b", "section": "IPE 300"},
        {"name": "post", "start": "c", "end": "d", "section": "HEA 200", "role": "column"},
    ],
    "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx"]}, {"node": "b", "fixed": ["y", "z", "rx"]}, {"node": "c", "fixed": ["x", "y", "z", "rx", "ry", "rz"]}],
    "cases": [{"name": "Q", "nature": "imposed", "category": "B"}],
    "member_loads": [{"case": "Q", "member": "beam", "value": [0, 0, -10]}],
    "node_loads": [{"case": "Q", "node": "d", "force": [0, 0, -50]}],
}  # fmt: skip


def chain(q=-10, **members):
    data = {**BEAM, "member_loads": [{"case": "Q", "member": "beam", "value": [0, 0, q]}]}
    data["members"] = [{**m, **members.get(m["name"], {})} for m in BEAM["members"]]
    return run(read_document(data))


class Beside(unittest.TestCase):
    def test_the_same_twice(self):
        one = chain()
        found = compared(one, chain())
        self.assertEqual((found.members, found.members_alike, found.reactions), ((), 2, ()))
        # three, two and six directions are held
        self.assertEqual(found.reactions_alike, 4 + 3 + 6)
        self.assertEqual(found.before, found.after)

    def test_a_load_that_grows_by_a_fifth(self):
        found = compared(chain(-10), chain(-12))
        [beam] = found.members
        self.assertEqual((beam.member, beam.before.section, beam.after.section), ("beam", "IPE 300", "IPE 300"))
        self.assertAlmostEqual(beam.after.utilisation / beam.before.utilisation, 1.2, places=6)
        self.assertAlmostEqual(beam.by, 0.2 * beam.before.utilisation, places=6)
        # 1.5 q l / 2 at each end; what leans along the beam, 0.54 kN, lies some 11 mm below its ends as it bends: 1 N
        self.assertEqual({(r.node, r.freedom) for r in found.reactions}, {("a", "z"), ("b", "z")})
        for r in found.reactions:
            self.assertAlmostEqual(r.before[1], 45_000, delta=1.5)
            self.assertAlmostEqual(r.after[1], 54_000, delta=1.5)
        self.assertEqual((found.members_alike, found.reactions_alike), (1, 11))

    def test_what_differs_by_nothing_worth_telling_is_left_out(self):
        found = compared(chain(-10), chain(-10.05))
        self.assertEqual((found.members, found.reactions), ((), ()))

    def test_what_a_turned_support_takes_along_the_other_axis(self):
        def pushed(force):
            # held along its own x alone, which lies along Y
            supports = [
                {"node": "a", "fixed": ["x", "z"], "turn": 90},
                {"node": "b", "fixed": ["x", "y", "z", "rx"]},
                BEAM["supports"][2],
            ]
            loads = [*BEAM["node_loads"], {"case": "Q", "node": "a", "force": [0, force, 0]}]
            return run(read_document({**BEAM, "supports": supports, "node_loads": loads}))

        found = compared(pushed(-20), pushed(-30))
        along = {(r.node, r.freedom): r for r in found.reactions}
        self.assertAlmostEqual(along["a", "y"].before[1], 1.5 * 20e3, delta=5)
        self.assertAlmostEqual(along["a", "y"].after[1], 1.5 * 30e3, delta=5)

    def test_sections_and_verdicts(self):
        found = compared(chain(), chain(beam={"section": "IPE 160"}))
        [beam] = found.members
        self.assertEqual((beam.before.status, beam.after.status), ("passes", "fails"))
        self.assertEqual((found.before.failing, found.after.failing), (0, 1))
        self.assertLess(found.after.tonnage, found.before.tonnage)
        self.assertEqual(found.after.governs, "beam")

    def test_what_is_there_in_one_alone(self):
        one = chain()
        data = {
            **BEAM,
            "members": BEAM["members"][:1],
            "supports": BEAM["supports"][:2],
            "nodes": BEAM["nodes"][:2],
            "node_loads": [],
        }
        found = compared(one, run(read_document(data)))
        by = {m.member: m for m in found.members}
        self.assertIsNone(by["post"].after)
        self.assertEqual({(r.node, r.after) for r in found.reactions}, {("c", None)})
        back = compared(run(read_document(data)), one)
        self.assertIsNone({m.member: m for m in back.members}["post"].before)
