"""Three buildings worked by hand in docs/verification.md: the resultants of their snow and wind, in kN."""

import unittest

from engine.document import Document
from engine.document.jigs import HallJig, RoofBay
from engine.document.rules import Eaves, Site, SnowOptions, WindOptions
from tests.engine.helpers import by_case


def totals(document):
    """(x, z) resultants in kN by the case's name; positive z upwards."""
    loading = by_case(document).loading
    return {c.name: (e[0] / 1000, e[2] / 1000) for c, e in zip(loading.cases, loading.expected, strict=True)}


class Worked(unittest.TestCase):
    def test_flat_roofed_shed(self):
        found = totals(
            Document(
                hall=HallJig(bays=[RoofBay(shape="flat", span=15)], eaves_height=5.0, spacings=[6.0] * 5),
                site=Site(ground_snow=1.0, wind_speed=26.0, terrain="III"),
                snow=SnowOptions(parapet=0.5),
                wind=WindOptions(eaves=Eaves(kind="parapet", size=0.5)),
            )
        )
        self.assertAlmostEqual(found["Snow, undrifted"][1], -360.0, delta=0.1)
        self.assertAlmostEqual(found["Snow, drifted against the left parapet"][1], -375.0, delta=0.1)
        across, up = found["Wind from left, inside +, roof suction"]
        self.assertAlmostEqual(up, 146.9, delta=0.1)
        self.assertAlmostEqual(across, 108.9, delta=0.1)

    def test_duopitch_hall(self):
        found = totals(Document(hall=HallJig(bays=[RoofBay(span=24, pitch=10)], spacings=[6.0] * 7)))
        self.assertAlmostEqual(found["Snow, undrifted"][1], -645.1, delta=0.1)
        self.assertAlmostEqual(found["Snow, drifted to the right"][1], -483.8, delta=0.1)
        across, up = found["Wind from left, inside +, roof suction/suction"]
        self.assertAlmostEqual(up, 593.6, delta=0.1)
        self.assertAlmostEqual(across, 209.2, delta=0.1)

    def test_two_bay_hall(self):
        found = totals(
            Document(
                hall=HallJig(bays=[RoofBay(span=15, pitch=12)] * 2, spacings=[6.0] * 6),
                site=Site(ground_snow=0.9, wind_speed=25.0, terrain="II"),
            )
        )
        self.assertAlmostEqual(found["Snow, undrifted"][1], -777.6, delta=0.1)
        self.assertAlmostEqual(found["Snow, drifted in the valleys"][1], -855.4, delta=0.1)
        across, up = found["Wind from left, inside +, roof suction/suction"]
        self.assertAlmostEqual(up, 788.9, delta=0.2)
        self.assertAlmostEqual(across, 208.7, delta=0.2)
