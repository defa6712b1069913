"""Purlins that are members stand at right angles to the roof, rails lie on their sides with the outer flange outside; what they bend by, by hand."""

import unittest
from math import cos, radians, sin

import numpy as np

from engine.analysis.diagrams import diagrams
from engine.document import Document
from engine.document.jigs import HallJig, Purlins, Repeat, RoofBay, TrussJig
from engine.expand import expand
from engine.structure.axes import local_axes
from tests.engine.helpers import by_case

OWN = Purlins(modelled=True)


def facing(structure, m):
    """Local z of a member."""
    ends = structure.xyz[[m.nodes[0], m.nodes[-1]]]
    return local_axes(ends[:1], ends[1:], np.array([m.roll]))[0, 2]


class Halls(unittest.TestCase):
    def test_at_right_angles_to_their_slope_whatever_way_it_falls(self):
        hall = HallJig(
            bays=[RoofBay(span=16, pitch=12), RoofBay(span=12, shape="single pitch", pitch=7)], purlins=OWN, rails=OWN
        )
        structure = expand(Document(hall=hall))
        seen = set()
        for m in structure.members:
            if m.role == "purlin":
                rafter = structure.member(f"frame-1/rafter-{m.name.split('purlin-')[1].rsplit('-', 1)[0]}")
                along = structure.xyz[rafter.nodes[-1]] - structure.xyz[rafter.nodes[0]]
                z = facing(structure, m)
                self.assertAlmostEqual(float(z @ along), 0.0, places=9)
                self.assertGreater(z[2], 0.9)
                seen.add(round(float(z[0]), 3))
            if m.role == "side rail":
                out = np.sign(structure.xyz[m.nodes[0], 0] - 14.0)
                np.testing.assert_allclose(facing(structure, m), [out, 0, 0], atol=1e-9)
        self.assertEqual(len(seen), 3)

    def test_weight_bends_a_purlin_both_ways_and_wind_a_rail_about_y(self):
        document = Document(hall=HallJig(bays=[RoofBay(span=16, pitch=12)], spacings=[6.0] * 3, purlins=OWN, rails=OWN))
        found = by_case(document)
        structure, elements = found.structure, found.response.system.elements
        every = diagrams(found.response)
        cases = [c.symbol for c in found.loading.cases]
        i = structure.index["bay-2/purlin-AB-left-3"]
        own = elements.rows(i)
        weight = every.of(own)
        # cladding on the slope between its neighbours, in the case that holds it
        c = next(k for k, case in enumerate(found.loading.cases) if "ladding" in case.name)
        My, Mz = (np.abs(v[..., c]).max() for v in (weight.My, weight.Mz))
        self.assertAlmostEqual(Mz / My, sin(radians(12)) / cos(radians(12)), delta=1e-6)
        self.assertGreater(My, 100.0)
        rail = every.of(elements.rows(structure.index["bay-2/rail-A-2"]))
        W = [k for k, s in enumerate(cases) if s.startswith("W")]
        self.assertGreater(np.abs(rail.My[..., W]).max(), 1000.0)
        self.assertLess(np.abs(rail.Mz[..., W]).max(), 1e-3 * np.abs(rail.My[..., W]).max())


class Trusses(unittest.TestCase):
    def test_at_right_angles_to_the_chord(self):
        for end, step in (((18.0, 0.0, 0.0), (0, 5, 0)), ((0.0, 18.0, 0.0), (5, 0, 0)), ((18.0, 0.0, 0.0), (0, -5, 0))):
            jig = TrussJig(
                name="t",
                start=(0.0, 0.0, 5.0),
                end=(*end[:2], 5.0),
                height_support=1.0,
                height_apex=2.0,
                purlins=True,
                repeat=Repeat(count=2, step=step),
            )
            structure = expand(Document(jigs=[jig]))
            leans = []
            for m in structure.members:
                if m.role != "purlin":
                    continue
                z, node = facing(structure, m), m.nodes[0]
                chords = [
                    structure.members[j] for j in structure.meeting[node] if structure.members[j].role == "top chord"
                ]
                ways = [structure.xyz[n] - structure.xyz[node] for c in chords for n in c.nodes if n != node]
                if len({round(float(w[2] / np.hypot(w[0], w[1]) * np.sign(w @ np.array(end))), 6) for w in ways}) == 1:
                    self.assertAlmostEqual(float(z @ ways[0]), 0.0, places=9)
                leans.append(round(float(z @ np.array(end) / 18), 6))
            self.assertGreater(len(set(leans)), 2)
            self.assertAlmostEqual(sum(leans), 0.0, places=6)


if __name__ == "__main__":
    unittest.main()
