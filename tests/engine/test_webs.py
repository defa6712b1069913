"""Webs under concentrated forces (EN 1993-1-5 6 and 7.2): a published case, figures by hand, and beams that must not pass."""

import math
import unittest
from typing import Any

import numpy as np

from engine.chain import Chain, run
from engine.document import read_document
from engine.standards.en.steel import steel_arrays
from engine.standards.en.transverse import transverse_check
from engine.verification.single import everything
from tests.engine.helpers import published

CASES = {case["id"]: case for case in published("steel-deep.json")["cases"]}


def girder(load: float, at: float | None = 4.0, checks: dict[str, Any] | None = None, **member: Any) -> dict[str, Any]:
    """A welded beam of 8 m with a thin web, h 724, t_w 6, flanges 220x12, S275, its compressed flange held closely, with a force in
    kN. at: None puts it on a node between two pieces of the grid."""
    held = [i * 0.5 for i in range(1, 16)]
    names = ["a", "m", "b"]
    return {
        "built_sections": [{"name": "G", "shape": "welded I", "h": 724, "b": 220, "tw": 6, "tf": 12}],
        "nodes": [{"name": n, "at": [4.0 * i, 0, 0]} for i, n in enumerate(names)],
        "members": [
            {
                "name": "beam",
                "start": "a",
                "end": "b",
                "section": "G",
                "material": "S275",
                "role": "main beam",
                "restraints_outer": held,
                "restraints_inner": held,
                **({"checks": checks} if checks else {}),
                **member,
            }
        ],
        "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx"]}, {"node": "b", "fixed": ["y", "z", "rx"]}],
        "cases": [{"name": "Q", "nature": "imposed"}],
        **(
            {"node_loads": [{"case": "Q", "node": "m", "force": [0, 0, -load]}]}
            if at is None
            else {
                "member_loads": [{"case": "Q", "member": "beam", "kind": "force", "value": [0, 0, -load], "start": at}]
            }
        ),
        "combinations": [{"name": "S", "use": "strength", "factors": {"Q": 1.0}}],
        "rules": {"imperfections": False},
    }


def chain_of(data: dict[str, Any]) -> Chain:
    return run(read_document(data))


def web(chain: Chain, name: str = "beam") -> float:
    verdict = chain.verification.verdicts[chain.structure.index[name]]
    return next((o.utilisation for o in verdict.outcomes if o.criterion == "web"), math.nan)


def by_hand(F: float, My: float, ss: float = 0.0) -> tuple[float, float]:
    """(F_Rd in kN, utilisation) of that girder between its ends: kN, kNm, m; with plain arithmetic in N and mm."""
    hw, tw, tf, b, fy = 700.0, 6.0, 12.0, 220.0, 275.0
    F_cr = 0.9 * 6 * 210000 * tw**3 / hw
    m1, m2 = b / tw, 0.02 * (hw / tf) ** 2
    ly = 1000 * ss + 2 * tf * (1 + math.sqrt(m1 + m2))
    slenderness = math.sqrt(ly * tw * fy / F_cr)
    assert slenderness > 0.5
    F_Rd = fy * min(0.5 / slenderness, 1) * ly * tw / 1000
    I = (220 * 724**3 - 214 * 700**3) / 12  # noqa: E741
    eta_1 = My * 1e6 / (fy * I / 362)
    return F_Rd, max(F / F_Rd, (F / F_Rd + 0.8 * eta_1) / 1.4)


class Formula(unittest.TestCase):
    def check(self, ss: float, end: bool = False, a: float = math.inf) -> dict[str, float]:
        section = read_document(girder(1.0))
        chain = run(section)
        m = chain.structure.members[0]
        p = steel_arrays([(m.section, m.material, False)])
        zero = np.zeros(1)
        v = transverse_check(p, zero + 150e3, zero, zero, zero + ss, np.array([end]), 1.0, 1.0, a)
        return {name: float(np.ravel(value)[0]) for name, value in v.items()}

    def test_published_girder_with_stiffeners_three_metres_apart(self) -> None:
        case = CASES["E05"]
        given, expected = case["inputs"], case["expect"]
        self.assertEqual((given["F_kN"], given["ss_mm"], given["a_mm"]), (150.0, 120.0, 3000.0))
        v = self.check(0.120, a=3.0)
        names = {"k_F": ("kF", 1), "F_cr": ("Fcr_kN", 1e3), "m_1": ("m1", 1), "m_2": ("m2", 1), "l_y": ("ly_mm", 1e-3)}
        names |= {"lambda_F": ("lambda_F", 1), "chi_F": ("chi_F", 1), "F_Rd": ("FRd_kN", 1e3), "eta_2": ("eta2", 1)}
        for own, (name, unit) in names.items():
            with self.subTest(name):
                self.assertAlmostEqual(v[own], expected[name] * unit, delta=1e-5 * expected[name] * unit)

    def test_at_an_end_with_its_least_length(self) -> None:
        v = self.check(0.050, end=True)
        k = 2 + 6 * 50 / 700
        le = min(k * 210000 * 36 / (2 * 275 * 700), 50)
        m1, m2 = 220 / 6, 0.02 * (700 / 12) ** 2
        ly = min(
            le + 12 * math.sqrt(m1 / 2 + (le / 12) ** 2 + m2),
            le + 12 * math.sqrt(m1 + m2),
            50 + 24 * (1 + math.sqrt(m1 + m2)),
        )
        F_cr = 0.9 * k * 210000 * 216 / 700
        slenderness = math.sqrt(ly * 6 * 275 / F_cr)
        self.assertAlmostEqual(v["F_Rd"], 275 * 0.5 / slenderness * ly * 6, delta=1)

    def test_at_an_end_the_buckling_factor_stays_that_of_a_load_inside(self) -> None:
        # 2 + 6 · 0.95 is above 6
        self.assertAlmostEqual(self.check(0.665, end=True)["k_F"], 6.0)
        self.assertAlmostEqual(self.check(0.350, end=True)["k_F"], 5.0)

    def test_a_stocky_web_yields(self) -> None:
        section = run(read_document(girder(1.0, section="HEB 200"))).structure.members[0]
        p = steel_arrays([(section.section, section.material, False)])
        zero = np.zeros(1)
        v = transverse_check(p, zero + 100e3, zero, zero, zero, np.array([False]), 1.0, 1.25)
        ly = 2 * 15 * (1 + math.sqrt(200 / 9))
        self.assertLess(float(v["lambda_F"][0]), 0.5)
        self.assertAlmostEqual(float(v["F_Rd"][0]), 275 * ly * 9 / 1.25, delta=1)

    def test_axial_force_and_moment_count_in_the_interaction(self) -> None:
        section = run(read_document(girder(1.0, section="HEB 200"))).structure.members[0]
        p = steel_arrays([(section.section, section.material, False)])
        one = np.ones(1)
        for N in (300e3, -300e3):
            v = transverse_check(p, one * 100e3, N * one, one * 40e3, 0 * one, np.array([False]), 1.1, 1.0)
            A, W = section.section.A, section.section.Wel_y
            eta_1 = 1.1 * (300e3 / (275e6 * A) + 40e3 / (275e6 * W))
            eta_2 = 100e3 / float(v["F_Rd"][0])
            self.assertAlmostEqual(float(v["eta_1"][0]), eta_1, places=9)
            self.assertAlmostEqual(float(v["u_web"][0]), max(eta_2, (eta_2 + 0.8 * eta_1) / 1.4), places=9)

    def test_a_bearing_longer_than_the_web_is_deep_counts_as_that(self) -> None:
        self.assertEqual(self.check(2.0)["F_Rd"], self.check(0.7)["F_Rd"])

    def test_longer_bearing_never_takes_less(self) -> None:
        for end in (False, True):
            found = [self.check(ss, end)["F_Rd"] for ss in np.linspace(0, 0.7, 15)]
            self.assertTrue((np.diff(found) >= -1e-6).all(), found)


class Beams(unittest.TestCase):
    def test_load_between_the_ends_by_hand(self) -> None:
        F_Rd, u = by_hand(120.0, 120.0 * 8 / 4)
        # its web is of class 4: the effective section has a little less
        self.assertAlmostEqual(web(chain_of(girder(120.0))), u, delta=0.004 * u)
        self.assertGreater(F_Rd, 120.0)

    def test_load_that_the_web_alone_does_not_bear(self) -> None:
        # shear and bending are well below their resistance
        chain = chain_of(girder(210.0, at=2.0))
        verdict = chain.verification.verdicts[0]
        others = [o.utilisation for o in verdict.outcomes if o.criterion != "web"]
        self.assertLess(max(others), 1.0)
        self.assertGreater(web(chain), 1.0)
        self.assertEqual(verdict.status, "fails")
        self.assertLess(web(chain_of(girder(210.0, at=2.0, checks={"bearing": 300}))), web(chain))

    def test_the_same_load_on_a_node_of_the_member(self) -> None:
        on_member, on_node = chain_of(girder(120.0)), chain_of(girder(120.0, at=None))
        self.assertAlmostEqual(web(on_member), web(on_node), delta=1e-4)

    def test_the_beam_cut_where_the_load_is_keeps_its_check(self) -> None:
        data = girder(120.0, at=None)
        beam = data["members"][0]
        data["members"] = [beam | {"name": n, "start": s, "end": e} for n, s, e in (("l", "a", "m"), ("r", "m", "b"))]
        for m in data["members"]:
            m["restraints_outer"] = m["restraints_inner"] = [0.5 * i for i in range(1, 8)]
        chain = chain_of(data)
        _, u = by_hand(120.0, 240.0)
        self.assertAlmostEqual(max(web(chain, "l"), web(chain, "r")), u, delta=0.004 * u)

    def test_its_second_half_drawn_the_other_way_round(self) -> None:
        data = girder(120.0, at=None)
        beam = data["members"][0]
        data["members"] = [beam | {"name": n, "start": s, "end": e} for n, s, e in (("l", "a", "m"), ("r", "b", "m"))]
        for m in data["members"]:
            m["restraints_outer"] = m["restraints_inner"] = [0.5 * i for i in range(1, 8)]
        _, u = by_hand(120.0, 240.0)
        chain = chain_of(data)
        for name in ("l", "r"):
            self.assertAlmostEqual(web(chain, name), u, delta=0.004 * u)

    def test_halves_that_are_hinged_to_one_another_or_meet_at_an_angle_are_joined_by_plates(self) -> None:
        for bend, releases in ((0.0, {"end": ["ry"]}), (1.5, {})):
            data = girder(40.0, at=None)
            data["nodes"][1]["at"] = [4.0, 0, bend]
            beam = data["members"][0]
            data["members"] = [
                beam | {"name": "l", "start": "a", "end": "m", "releases": releases},
                beam | {"name": "r", "start": "m", "end": "b"},
            ]
            for m in data["members"]:
                m["restraints_outer"] = m["restraints_inner"] = [0.5 * i for i in range(1, 8)]
            data["supports"].append({"node": "m", "fixed": ["y", "z"]})
            chain = chain_of(data)
            with self.subTest(bend=bend):
                self.assertTrue(math.isnan(web(chain, "l")) and math.isnan(web(chain, "r")))

    def test_a_post_on_a_beam_presses_as_its_load_does(self) -> None:
        data = girder(0.0, at=None)
        data["nodes"].append({"name": "top", "at": [4.0, 0, 3.0]})
        data["members"].append(
            {"name": "post", "start": "m", "end": "top", "section": "HEA 160", "material": "S275", "role": "column"}
        )
        data["supports"].append({"node": "top", "fixed": ["x", "y", "rz"]})
        data["node_loads"] = [{"case": "Q", "node": "top", "force": [0, 0, -120.0]}]
        _, u = by_hand(120.0, 240.0)
        self.assertAlmostEqual(web(chain_of(data)), u, delta=2e-3)

    def test_columns_above_and_below_press_through_the_web_which_is_said(self) -> None:
        data = girder(0.0, at=None)
        data["nodes"] += [{"name": "top", "at": [4.0, 0, 3.0]}, {"name": "low", "at": [4.0, 0, -3.0]}]
        column = {"section": "HEA 160", "material": "S275", "role": "column"}
        data["members"] += [
            {"name": "upper", "start": "m", "end": "top", **column},
            {"name": "lower", "start": "low", "end": "m", **column},
        ]
        data["supports"] += [
            {"node": "top", "fixed": ["x", "y", "rz"]},
            {"node": "low", "fixed": ["x", "y", "z", "rz"]},
        ]
        data["node_loads"] = [{"case": "Q", "node": "top", "force": [0, 0, -600.0]}]
        verdict = chain_of(data).verification.verdicts[0]
        self.assertTrue(any("through its web" in words for words in verdict.left_out), verdict.left_out)
        # one column that runs past the beam leaves it its own forces
        data["members"][1:] = [{"name": "through", "start": "low", "end": "top", **column}]
        verdict = chain_of(data).verification.verdicts[0]
        self.assertFalse(any("through its web" in words for words in verdict.left_out), verdict.left_out)

    def test_what_hangs_from_bars_meets_it_by_plates(self) -> None:
        data = girder(0.0, at=None)
        data["nodes"].append({"name": "low", "at": [4.0, 0, -3.0]})
        data["members"].append(
            {"name": "hanger", "start": "m", "end": "low", "section": "HEA 160", "material": "S275", "behaviour": "bar"}
        )
        data["supports"].append({"node": "low", "fixed": ["x", "y", "z"]})
        data["member_loads"] = [{"case": "Q", "member": "beam", "value": [0, 0, -1.0]}]
        self.assertTrue(math.isnan(web(chain_of(data))))

    def test_stiffeners_and_bearing_at_the_ends(self) -> None:
        plain = chain_of(girder(120.0)).verification.verdicts[0]
        self.assertTrue(any("bearing on supports" in words for words in plain.left_out), plain.left_out)
        stated = chain_of(girder(120.0, checks={"bearing": 100}))
        self.assertFalse(any("bearing on supports" in words for words in stated.verification.verdicts[0].left_out))
        ends = [r for r in everything(stated.verification, 0) if r.criterion == "web"]
        self.assertEqual(len(ends), 1)
        self.assertTrue(math.isnan(web(chain_of(girder(120.0, checks={"stiffened": True})))))

    def test_support_between_the_ends_and_upright_columns(self) -> None:
        data = girder(120.0, at=2.0)
        data["supports"].append({"node": "m", "fixed": ["z"]})
        found = everything(chain_of(data).verification, 0)
        places = {round(float(x), 3) for r in found if r.criterion == "web" for x in r.position}
        self.assertTrue(places <= {2.0, 4.0}, places)
        column = girder(120.0)
        column["nodes"] = [{"name": n, "at": [0, 0, 4.0 * i]} for i, n in enumerate("amb")]
        column["supports"] = [{"node": "a", "fixed": ["x", "y", "z", "rz"]}, {"node": "b", "fixed": ["x", "y"]}]
        column["member_loads"][0]["value"] = [0, 0, -100.0]
        self.assertEqual([w for w in chain_of(column).verification.verdicts[0].left_out if "bearing" in w], [])

    def test_other_shapes_say_that_it_is_not_checked(self) -> None:
        data = girder(20.0)
        data["members"][0]["section"] = "SHS 200x8"
        verdict = chain_of(data).verification.verdicts[0]
        self.assertTrue(any("webs of I sections" in words for words in verdict.left_out), verdict.left_out)


if __name__ == "__main__":
    unittest.main()
