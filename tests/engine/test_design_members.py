"""Design members: what is one piece of steel, found by line, role, section and joints."""

import unittest
from math import cos, pi, sin

from engine.chain import run
from engine.document import Document, read_document
from engine.document.jigs import TrussJig
from engine.dossier.ledgers import designed
from engine.expand import expand
from engine.structure.lines import design_members
from tests.engine.helpers import FIXED


def line(places, roles=None, sections=None, releases=None, turned=(), behaviour="beam"):
    """Members from place to place, (x, z), each drawn the other way round where `turned` says so."""
    count = len(places) - 1
    members = []
    for k in range(count):
        ends = (f"n{k + 1}", f"n{k}") if k in turned else (f"n{k}", f"n{k + 1}")
        members.append(
            {
                "name": f"m{k}",
                "start": ends[0],
                "end": ends[1],
                "section": (sections or {}).get(k, "IPE 300"),
                "role": (roles or {}).get(k, "main beam"),
                "behaviour": behaviour,
                **({"releases": {(releases or {})[k]: ["ry"]}} if k in (releases or {}) else {}),
            }
        )
    return read_document(
        {
            "nodes": [{"name": f"n{k}", "at": [x, 0, z]} for k, (x, z) in enumerate(places)],
            "members": members,
            "supports": [{"node": "n0", "fixed": FIXED}],
        }
    )


STRAIGHT = [(0, 0), (3, 0), (7, 0), (12, 0)]


class Lines(unittest.TestCase):
    def found(self, document):
        structure = expand(document)
        return [[structure.members[i].name for i in own] for own in design_members(structure)]

    def test_pieces_of_one_line_in_order_however_they_are_drawn(self):
        for turned in ((), (1,), (0, 2), (0, 1, 2)):
            self.assertEqual(self.found(line(STRAIGHT, turned=turned)), [["m0", "m1", "m2"]], turned)

    def test_a_hinge_another_role_section_or_direction_ends_them(self):
        for more, wanted in (
            ({"releases": {1: "start"}}, [["m1", "m2"]]),
            ({"releases": {1: "end"}}, [["m0", "m1"]]),
            ({"roles": {2: "joist"}}, [["m0", "m1"]]),
            ({"sections": {0: "IPE 330"}}, [["m1", "m2"]]),
            ({"behaviour": "bar"}, []),
        ):
            self.assertEqual(self.found(line(STRAIGHT, **more)), wanted, more)
        # a ridge of 10° ends them, a curve of a few degrees does not
        self.assertEqual(self.found(line([(0, 0), (5, 0.88), (10, 0)])), [])
        self.assertEqual(self.found(line([(0, 0), (5, 0.2), (10, 0)])), [["m0", "m1"]])

    def test_where_lines_cross_each_goes_on_in_its_own(self):
        document = line(STRAIGHT[:3]).model_dump(mode="json")
        document["nodes"] += [{"name": "a", "at": [3, -4, 0]}, {"name": "b", "at": [3, 4, 0]}]
        across = {"section": "IPE 300", "role": "main beam"}
        document["members"] += [
            {"name": "p", "start": "a", "end": "n1", **across},
            {"name": "q", "start": "n1", "end": "b", **across},
        ]
        self.assertEqual(self.found(read_document(document)), [["m0", "m1"], ["p", "q"]])

    def test_what_jigs_set_out_is_one_already(self):
        structure = expand(Document(jigs=[TrussJig(name="t", panels=4)]))
        self.assertEqual(len(structure.member("t/1/bottom-1").nodes), 9)
        self.assertEqual(design_members(structure), [])

    def test_in_the_dossier_with_the_worst_of_its_pieces(self):
        # a cantilever of three pieces under its tip: the first bears most
        document = line(STRAIGHT).model_dump(mode="json")
        document["cases"] = [{"name": "Q", "nature": "imposed"}]
        document["node_loads"] = [{"case": "Q", "node": "n3", "force": [0, 0, -3]}]
        chain = run(read_document(document))
        [row] = designed(chain).rows
        self.assertEqual((row[0], row[2], row[3], row[5]), ("m0 … m2", 3, 12.0, "m0"))
        most = max(v.governing.utilisation for v in chain.verification.verdicts)
        self.assertAlmostEqual(row[8], most, delta=1e-9)

    def test_a_ring_is_found_once(self):
        # an octagon turns by 45° at every corner, a polygon of 120 sides by 3°
        for sides, wanted in ((8, 0), (120, 1)):
            places = [(20 * cos(2 * pi * k / sides), 20 * sin(2 * pi * k / sides)) for k in range(sides)]
            document = line(places).model_dump(mode="json")
            closing = {"name": "last", "start": f"n{sides - 1}", "end": "n0", "section": "IPE 300", "role": "main beam"}
            document["members"].append(closing)
            lines = self.found(read_document(document))
            self.assertEqual(len(lines), wanted)
            self.assertTrue(all(len(own) == len(set(own)) == sides for own in lines))
