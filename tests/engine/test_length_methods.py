"""Ways to effective lengths: published factors, closed forms, portals and stepped columns through the whole chain."""

import unittest
from math import cos, inf, pi, sin, tan

from engine.chain import run
from engine.document import read_document
from engine.editing.apply import operate
from engine.editing.operations import ChangeMembers, MemberChange
from engine.standards.en.checks.length_methods import STANDARD, methods, non_sway, stability_functions, sway
from tests.engine.helpers import published

CASES = {case["id"]: case for case in published("steel-deep.json")["cases"]}
#: held as a plane frame in X and Z; its foot hinged or clamped about Y
HINGED, CLAMPED, PLANE = ["x", "y", "z", "rx", "rz"], ["x", "y", "z", "rx", "ry", "rz"], ["y", "rx", "rz"]


def portal(foot, beam="IPE 300", **more):
    """Columns IPE 300 of 5 m, a beam of 15 m, 100 kN on each head."""
    members = [
        {"name": "left", "start": "a", "end": "b", "section": "IPE 300"},
        {"name": "right", "start": "d", "end": "c", "section": "IPE 300"},
        {"name": "beam", "start": "b", "end": "c", "section": beam, **more},
    ]
    return read_document(
        {
            "nodes": [
                {"name": n, "at": at}
                for n, at in (("a", [0, 0, 0]), ("b", [0, 0, 5]), ("c", [15, 0, 5]), ("d", [15, 0, 0]))
            ],
            "members": members,
            "supports": [{"node": n, "fixed": foot} for n in "ad"] + [{"node": n, "fixed": PLANE} for n in "bc"],
            "cases": [{"name": "Q", "nature": "imposed"}],
            "node_loads": [{"case": "Q", "node": n, "force": [0, 0, -100]} for n in "bc"],
            "analysis": {"shear_deformation": False},
        }
    )


def ways(chain, name, axis="y", column=0):
    """Methods by their key and name."""
    found = methods(chain.verification.grounds, chain.structure.index[name], axis, column)
    return {(m.key if m.key != "standard" else m.name): m for m in found}


class Equations(unittest.TestCase):
    def test_published_factors(self):
        K01, K02 = (CASES[key]["expect"] for key in ("K01", "K02"))
        # the portal's beam in double curvature: G = (I/5)/(I/15)
        self.assertAlmostEqual(sway(inf, 3.0), K01["K"], delta=1e-4 * K01["K"])
        self.assertAlmostEqual(non_sway(1.0, 2.0), K02["K"], delta=1e-4 * K02["K"])

    def test_limits(self):
        for function, G, factor in (
            (non_sway, (0, 0), 0.5),
            (non_sway, (inf, inf), 1.0),
            (non_sway, (0, inf), pi / 4.49340946),
            (sway, (0, 0), 1.0),
            (sway, (0, inf), 2.0),
        ):
            self.assertAlmostEqual(function(*G), factor, delta=2e-5)
            self.assertEqual(function(*G), function(*reversed(G)))
        self.assertEqual(sway(inf, inf), inf)
        self.assertAlmostEqual(dict(STANDARD)["fixed and pinned"], 0.699, delta=2e-4)

    def test_the_roots_solve_their_equations(self):
        for a in (0.05, 0.7, 3.0, 40.0):
            for b in (0.1, 1.0, 9.0):
                u = pi / non_sway(a, b)
                self.assertAlmostEqual(
                    a * b / 4 * u**2 + (a + b) / 2 * (1 - u / tan(u)) + 2 * tan(u / 2) / u, 1, delta=1e-6
                )
                u = pi / sway(a, b)
                self.assertAlmostEqual((a * b * u**2 - 36) / (6 * (a + b)), u / tan(u), delta=1e-6)
                self.assertGreater(sway(a, b), 1.0)
                self.assertLess(non_sway(a, b), 1.0)

    def test_stability_functions(self):
        self.assertEqual(stability_functions(0.0, 1.0, 1.0), (4.0, 2.0))
        for k in (0.5, 1.5, 3.0):
            s, sc = stability_functions(-(k**2), 1.0, 1.0)
            below = 2 - 2 * cos(k) - k * sin(k)
            self.assertAlmostEqual(s, k * (sin(k) - k * cos(k)) / below, delta=1e-12)
            # bent alike at both ends: s − sc = 2 (k/2)/tan(k/2)
            self.assertAlmostEqual(s - sc, k / tan(k / 2), delta=1e-9)
        # at Euler's load a beam in single curvature holds nothing
        s, sc = stability_functions(-(pi**2), 1.0, 1.0)
        self.assertAlmostEqual(s - sc, 0.0, delta=1e-9)
        self.assertGreater(stability_functions(5.0, 1.0, 1.0)[0], 4.0)


class OfFrames(unittest.TestCase):
    def test_a_portal_on_hinges(self):
        found = ways(run(portal(HINGED)), "left")
        expected = CASES["K01"]["expect"]["K"]
        self.assertAlmostEqual(found["sway"].factor, expected, delta=2e-3 * expected)
        # the buckling of the whole finds the same frame, with its columns' shortening and the sway imperfections' small forces
        self.assertAlmostEqual(found["buckling"].factor, expected, delta=2e-3 * expected)
        self.assertIn("swaying", found["buckling"].words)
        self.assertEqual(found["buckling"].note, "")
        # not swaying: hinged, and a beam in single curvature, G = 3
        self.assertAlmostEqual(found["non-sway"].factor, non_sway(inf, 3.0), delta=2e-3)

    def test_a_portal_clamped_and_one_with_a_hinged_beam(self):
        self.assertAlmostEqual(ways(run(portal(CLAMPED)), "left")["sway"].factor, sway(0, 3.0), delta=2e-3)
        loose = {"releases": {"end": ["ry", "rz"]}}
        found = ways(run(portal(CLAMPED, **loose)), "left")
        # far end hinged: 3 EI/L instead of 6, half as stiff
        self.assertAlmostEqual(found["sway"].factor, sway(0, 6.0), delta=2e-3)
        right = ways(run(portal(CLAMPED, **loose)), "right")
        self.assertAlmostEqual(right["sway"].factor, 2.0, delta=1e-3)

    def test_what_falls_by_itself_leads_to_no_factor(self):
        found = ways(run(portal(HINGED, releases={"end": ["ry", "rz"]})), "right")
        self.assertIsNone(found["sway"].factor)
        self.assertIn("falls", found["sway"].note)

    def test_a_stepped_column(self):
        case = CASES["K03"]
        upper, lower = (case["inputs"][key] for key in ("upper", "lower"))
        document = read_document(
            {
                "materials": [{"name": "steel", "E": case["inputs"]["E_MPa"] * 1e3, "fy": 355000}],
                "sections": [
                    {"name": n, "A": 0.05, "Iy": s["I_mm4"] * 1e-12, "Iz": s["I_mm4"] * 1e-12, "It": 1e-6}
                    for n, s in (("u", upper), ("l", lower))
                ],
                "nodes": [{"name": n, "at": [0, 0, z]} for n, z in (("a", 0), ("b", 6), ("c", 9))],
                "members": [
                    {"name": "lower", "start": "a", "end": "b", "section": "l", "material": "steel"},
                    {"name": "upper", "start": "b", "end": "c", "section": "u", "material": "steel"},
                ],
                "supports": [
                    {"node": "a", "fixed": CLAMPED},
                    {"node": "b", "fixed": PLANE},
                    {"node": "c", "fixed": PLANE},
                ],
                "cases": [{"name": "Q", "nature": "imposed"}],
                "combinations": [{"name": "C1", "use": "strength", "factors": {"Q": 1.0}}],
                "node_loads": [
                    {"case": "Q", "node": "c", "force": [0, 0, -upper["P_top_kN"]]},
                    {"case": "Q", "node": "b", "force": [0, 0, -lower["P_added_at_step_kN"]]},
                ],
                "rules": {"imperfections": False},
                "analysis": {"shear_deformation": False},
            }
        )
        chain = run(document)
        expect = case["expect"]
        self.assertAlmostEqual(chain.combined.alpha[0], expect["alpha_cr"], delta=2e-3 * expect["alpha_cr"])
        for name, key in (("upper", "K_upper_of_own_length"), ("lower", "K_lower_of_own_length")):
            found = ways(chain, name)["buckling"].factor
            self.assertAlmostEqual(found, expect[key], delta=2e-3 * expect[key])

    def test_a_mode_of_another_member_is_told(self):
        document = portal(HINGED)
        data = document.model_dump(mode="json")
        data["nodes"] += [{"name": "e", "at": [20, 0, 0]}, {"name": "f", "at": [20, 0, 5]}]
        data["members"].append({"name": "thin", "start": "e", "end": "f", "section": "SHS 60x5", "material": "S355"})
        data["supports"] += [
            {"node": "e", "fixed": HINGED},
            {"node": "f", "fixed": ["x", *PLANE]},
        ]
        data["node_loads"].append({"case": "Q", "node": "f", "force": [0, 0, -10]})
        chain = run(read_document(data))
        self.assertIn("“thin” buckles first", ways(chain, "left")["buckling"].note)
        thin = ways(chain, "thin")["buckling"]
        self.assertAlmostEqual(thin.factor, 1.0, delta=2e-3)
        self.assertEqual(thin.note, "")

    def test_axial_force_in_the_beam_softens_it(self):
        data = portal(CLAMPED).model_dump(mode="json")
        data["node_loads"] += [
            {"case": "Q", "node": "b", "force": [60, 0, 0]},
            {"case": "Q", "node": "c", "force": [-60, 0, 0]},
        ]
        chain = run(read_document(data))
        beam = chain.structure.index["beam"]
        own = chain.verification.grounds.forces.N[chain.combined.elements.member == beam][..., 0].min()
        m = chain.structure.members[beam]
        s, sc = stability_functions(float(own), m.material.E * m.section.Iy, 15.0)
        self.assertLess(own, -50e3)
        self.assertAlmostEqual(ways(chain, "left")["non-sway"].factor, non_sway(0, 3 * 2 / (s - sc)), delta=1e-6)

    def test_a_factor_that_is_taken_says_where_it_comes_from(self):
        document = portal(HINGED)
        chain = run(document)
        way = ways(chain, "left")["sway"]
        change = MemberChange(checks={"buckling_y": way.factor, "from_y": way.words})
        after = run(operate(document, ChangeMembers(members=["left"], change=change)))
        lengths = after.verification.grounds.lengths[after.structure.index["left"]]
        self.assertAlmostEqual(lengths.y, way.factor * 5, delta=1e-9)
        self.assertIn("2.917 × own length, stiffness of the frame at its ends, swaying", lengths.why_y)
