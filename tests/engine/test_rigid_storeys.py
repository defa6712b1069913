"""Storeys whose beams are joined rigidly to columns: the sway of a portal, and what verdicts no longer leave out."""

from __future__ import annotations

import unittest

import numpy as np

from engine.chain import run
from engine.document import read_document
from engine.document.floors import BracedField
from engine.editing.apply import operate
from engine.editing.operations import Restrain
from engine.errors import ModelError
from engine.expand import expand
from engine.standards.family import family
from engine.structure.audit import audit

E_STEEL, G_STEEL = 210e9, 81e9
#: second moments of the tables of sections, m4, and areas that shear takes, m2: webs between the middles of flanges, 5/6 of two flanges
COLUMN, BEAM = (14920e-8, 0.2425 * 0.010), (23130e-8, 0.3865 * 0.0086)
WEAK, JOIST = (5135e-8, 5 / 6 * 2 * 0.260 * 0.0175), (5790e-8, 0.2598 * 0.0066)
H, SPAN, DEPTH = 4.0, 6.0, 5.0


def portals(**more):
    """One field of 6 by 5 m on four columns HEB 260 of 4 m, 40 kN sideways at their heads along each axis as a case of its own."""
    sides = {"sway X": [10.0, 0.0, 0.0], "sway Y": [0.0, 10.0, 0.0]}
    jig = {
        "kind": "floor",
        "name": "house",
        "level": H,
        "grid": {"across": [SPAN], "along": [DEPTH]},
        "sections": {"columns": "HEB 260", "main_beams": "IPE 400", "joists": "IPE 270", "bracing": "CHS 139.7x6.3"},
        "frames": "all",
    }
    return read_document(
        {
            "jigs": [jig | more],
            "cases": [{"name": name, "nature": "wind"} for name in sides],
            "node_loads": [
                {"case": name, "node": f"house/{i}-{j}", "force": force}
                for name, force in sides.items()
                for i in (1, 2)
                for j in (1, 2)
            ],
            "rules": {"imperfections": False},
        }
    )


def sway(chain, axis: int) -> float:
    """Of the head of a corner under the case along X or Y, m."""
    number = next(i for i, c in enumerate(chain.loading.cases) if c.name == f"sway {'XY'[axis]}")
    node = chain.structure.nodes.index("house/1-1")
    return float(chain.response.displacement[node, axis, number])


def portal(column, beam, span: float, fixed: bool = False) -> float:
    """Sway of a portal under 20 kN at its head, m: slope deflection, with what shear adds by unit loads."""
    P = 20e3
    k = beam[0] * H / (column[0] * span)
    if fixed:
        head = P * H / 2 * 3 * k / (6 * k + 1)
        bent = P * H**3 / (12 * E_STEEL * column[0]) * (3 * k + 2) / (6 * k + 1)
    else:
        head = P * H / 2
        bent = P * (H**3 / (6 * E_STEEL * column[0]) + H**2 * span / (12 * E_STEEL * beam[0]))
    return bent + (P * H / 2 / column[1] + 4 * head**2 / (P * span * beam[1])) / G_STEEL


class RigidStoreys(unittest.TestCase):
    def test_they_sway_as_portals_in_both_directions(self):
        for bases in ("pinned", "fixed"):
            chain = run(portals(bases=bases))
            fixed = bases == "fixed"
            for axis, parts in enumerate(((COLUMN, BEAM, SPAN), (WEAK, JOIST, DEPTH))):
                with self.subTest(bases=bases, axis=axis):
                    self.assertAlmostEqual(sway(chain, axis) / portal(*parts, fixed), 1.0, delta=0.01)

    def test_the_columns_stand_with_their_webs_along_the_main_beams(self):
        along = run(portals(main="along"))
        for axis, parts in enumerate(((WEAK, JOIST, SPAN), (COLUMN, BEAM, DEPTH))):
            with self.subTest(axis=axis):
                self.assertAlmostEqual(sway(along, axis) / portal(*parts), 1.0, delta=0.01)
        hinged = expand(portals(frames="none", main="along"))
        self.assertEqual({m.roll for m in hinged.members if m.role == "column"}, {0.0})

    def test_main_beams_alone_leave_the_other_direction_to_bracing(self):
        with self.assertRaisesRegex(ModelError, "move along Y freely"):
            run(portals(frames="main beams"))
        self.assertEqual({s.kind for s in audit(expand(portals(frames="main beams")))}, {"unbraced"})
        braced = [BracedField(line=line, bay=1).model_dump() for line in ("A", "B")]
        chain = run(portals(frames="main beams", braced=braced))
        self.assertAlmostEqual(sway(chain, 0) / portal(COLUMN, BEAM, SPAN), 1.0, delta=0.01)
        self.assertLess(sway(chain, 1), 1e-3)
        self.assertEqual(audit(chain.structure), [])

    def test_moments_of_beams_between_rigid_columns(self):
        chain = run(portals(storeys=[{"height": 4.0}], frames="all", permanent=0.0, joists=0))
        f = chain.response.end_force
        number = next(i for i, c in enumerate(chain.loading.cases) if c.name == "sway X")
        base = [chain.structure.nodes.index(f"house/base-{i}-{j}") for i in (1, 2) for j in (1, 2)]
        # of the storey that is pushed alone all four feet bear a quarter each, and lift by the moment about them
        reaction = chain.response.reaction[base][:, :, number]
        np.testing.assert_allclose(reaction[:, 0], -10e3, rtol=0.02)
        np.testing.assert_allclose(np.abs(reaction[:, 2]), 40e3 * H / SPAN / 2, rtol=1e-6)
        self.assertTrue(np.isfinite(f).all())

    def test_verdicts_leave_out_nothing_of_beams_that_a_stiff_deck_holds(self):
        told = self._left_out(storeys=[{"height": 4.0}])
        self.assertFalse([words for words in told if "5.3.3" in words or "6.1(2)b" in words], told)
        # without a deck that is stiff nothing carries the forces of what joists hold
        loose = self._left_out(storeys=[{"height": 4.0}], diaphragm="none")
        self.assertTrue([words for words in loose if "5.3.3" in words])

    def test_stays_that_nothing_meets_are_told_beside_a_stiff_deck_too(self):
        document = portals()
        document.rules.imperfections = True
        # the deck meets the beam at its joists; a metre from its end nothing does
        stated = operate(document, Restrain(members=["house/beam-1-1"], flange="inner", at=1.0))
        for of, told in ((document, False), (stated, True)):
            chain = run(of)
            verdict = chain.verification.verdicts[chain.structure.index["house/beam-1-1"]]
            self.assertEqual(any("5.3.3" in words for words in verdict.left_out), told)

    def _left_out(self, **more) -> set[str]:
        document = portals(**more)
        document.rules.imperfections = True
        chain = run(document)
        return {words for v in chain.verification.verdicts for words in v.left_out}

    def test_what_is_simplified_says_how_beams_are_joined(self):
        for frames, words in (
            ("none", "hinged on the axes"),
            ("main beams", "hinged, or joined"),
            ("all", "joined rigidly"),
        ):
            braced = [{"line": line, "bay": 1} for line in "AB12"]
            document = portals(frames=frames, braced=braced)
            said = family(document).simplifications(document, expand(document))
            with self.subTest(frames):
                self.assertTrue(any(s.startswith(f"Beams of floors are {words}") for s in said), said)


if __name__ == "__main__":
    unittest.main()
