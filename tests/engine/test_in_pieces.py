"""Members that bend as one however they are cut: their buckling, their moment factors, their deflection; what holds them and what does not."""

import unittest
from math import cos, radians, sin

import numpy as np

from engine.chain import run
from engine.document import read_document
from engine.expand import expand
from engine.structure.together import held_at, together
from tests.engine.helpers import FIXED

HELD = ["x", "y", "rz"]


def post(pieces, push=150.0, wind=6.0, height=9.0, section="HEA 200", rails=True, rail="SHS 80x5", stays=0, **more):
    """A post between pins, pressed (kN) and bent (kN/m) about y; whole, or in pieces where rails meet it. stays: parts that both its flanges
    are held between."""
    heights = [height * k / pieces for k in range(pieces + 1)]
    inner = range(1, pieces) if rails else ()
    nodes = [{"name": f"p{k}", "at": [0, 0, z]} for k, z in enumerate(heights)]
    nodes += [{"name": f"r{k}", "at": [0, 5, heights[k]]} for k in inner]
    held = [height * k / stays for k in range(1, stays)]
    like = {
        "section": section,
        "material": "S355",
        "role": "member",
        "restraints_outer": held,
        "restraints_inner": held,
    }
    members = [{"name": f"c{k}", "start": f"p{k}", "end": f"p{k + 1}"} | like for k in range(pieces)]
    rest = {"section": rail, "material": "S355", "role": "side rail", "behaviour": "bar"}
    members += [{"name": f"rail{k}", "start": f"p{k}", "end": f"r{k}"} | rest for k in inner]
    supports = [{"node": "p0", "fixed": [*HELD, "z"]}, {"node": f"p{pieces}", "fixed": HELD}]
    data = {
        "units": "kN, m",
        "nodes": nodes,
        "members": members,
        "supports": supports + [{"node": f"r{k}", "fixed": FIXED} for k in inner],
        "cases": [{"name": "G", "nature": "permanent"}, {"name": "W", "nature": "wind"}],
        "node_loads": [{"case": "G", "node": f"p{pieces}", "force": [0, 0, -push]}],
        "member_loads": [{"case": "W", "member": f"c{k}", "value": [wind, 0, 0]} for k in range(pieces)],
        "rules": {"imperfections": False},
    }
    return data | more


def most(data):
    """The largest utilisation of each criterion of the post's pieces, and how they buckle about y."""
    chain = run(read_document(data))
    found = {}
    for verdict in chain.verification.verdicts:
        if chain.structure.members[verdict.member].name.startswith("c"):
            for o in verdict.outcomes:
                found[o.criterion] = max(found.get(o.criterion, 0.0), o.utilisation)
    every = zip(chain.structure.members, chain.verification.checks.grounds.lengths, strict=True)
    every = zip(chain.structure.members, chain.verification.checks.grounds.lengths, strict=True)
    lengths = [own.y for m, own in every if m.name.startswith("c")]
    return found, lengths


class Pieces(unittest.TestCase):
    def test_a_post_cut_where_rails_meet_it(self):
        # EN 1993-1-1 6.3.3: the whole with its stays at the rails; the pieces count C_my as 1 in place of 0.95, and may not be below
        for push, wind in ((150, 6), (500, 2), (80, 6)):
            for pieces in (2, 3, 5):
                whole, (length,) = most(post(1, push, wind, stays=pieces))
                cut, lengths = most(post(pieces, push, wind))
                self.assertAlmostEqual(length, 9.0)
                np.testing.assert_allclose(lengths, 9.0)
                self.assertAlmostEqual(cut["flexural"] / whole["flexural"], 1, delta=2e-3)
                self.assertGreaterEqual(cut["interaction"], whole["interaction"])
                self.assertLess(cut["interaction"], 1.06 * whole["interaction"])

    def test_a_hollow_section_cut_in_three(self):
        for annex in ("annex A", "annex B"):
            national = {"steel": {"interaction": annex}}
            whole, _ = most(post(1, 15, 0.5, section="SHS 100x5", national=national))
            cut, lengths = most(post(3, 15, 0.5, section="SHS 100x5", rails=False, national=national))
            np.testing.assert_allclose(lengths, 9.0)
            self.assertGreaterEqual(cut["interaction"], whole["interaction"] * (1 - 1e-3))
            self.assertLess(cut["interaction"], 1.1 * whole["interaction"])

    def test_what_is_largest_anywhere_in_it_counts(self):
        # M_y largest in the middle, M_z under a force at three quarters of the height: 6.3.3 adds them
        for section in ("HEA 200", "SHS 150x5"):
            found = []
            for pieces in (1, 4):
                data = post(pieces, 100, 3, section=section, rails=False)
                if pieces == 1:
                    side = {"case": "W", "member": "c0", "kind": "force", "value": [0, 4, 0], "start": 6.75}
                    data["member_loads"].append(side)
                else:
                    data["node_loads"].append({"case": "W", "node": "p3", "force": [0, 4, 0]})
                found.append(most(data)[0]["interaction"])
            self.assertGreaterEqual(found[1], found[0] * (1 - 1e-3))
            self.assertLess(found[1], 1.25 * found[0])

    def test_its_critical_force(self):
        # N_cr = π² E I_y/9² of HEA 200, I_y = 3692 cm4, for all pieces
        chain = run(read_document(post(3, 500, 0.01)))
        limits = chain.verification.checks.grounds.limits[0]
        own = [i for i, m in enumerate(chain.structure.members) if m.name[0] == "c"]
        critical = np.pi**2 * 210e9 * 3692e-8 / 9**2
        np.testing.assert_allclose(limits[own].min(axis=1) / critical, 1, atol=0.01)

    def test_its_deflection_and_its_drift(self):
        # between pins 5 q h⁴/384 E I of the whole, however it is cut; its head does not move beside its foot
        w = 5 * 6e3 * 9**4 / (384 * 210e9 * 3692e-8)
        for pieces, rails in ((1, False), (2, False), (3, False), (3, True), (5, True)):
            data = post(pieces, rails=rails)
            data |= {"analysis": {"shear_deformation": False, "order": "first"}}
            data["combinations"] = [{"name": "D", "use": "deflection", "factors": {"W": 1.0}}]
            data["rules"] |= {"deflections": {"gable post": 200}}
            for m in data["members"]:
                m["role"] = "gable post" if m["name"].startswith("c") else m["role"]
            found, _ = most(data)
            self.assertAlmostEqual(found["deflection"] / (w * 200 / 9), 1, delta=1e-3)
            for role in ("member", "column"):
                for m in data["members"]:
                    m["role"] = role if m["name"].startswith("c") else m["role"]
                self.assertLess(most(data)[0]["sway"], 1e-6)

    def test_a_cantilever_in_pieces_drifts_as_a_whole(self):
        # q h⁴/8 E I
        w = 6e3 * 9**4 / (8 * 210e9 * 3692e-8)
        for pieces in (1, 2, 4):
            data = post(pieces, push=10, rails=False)
            data |= {"analysis": {"shear_deformation": False, "order": "first"}}
            data["combinations"] = [{"name": "D", "use": "deflection", "factors": {"W": 1.0}}]
            data["supports"] = [{"node": "p0", "fixed": FIXED}]
            for m in data["members"]:
                m["role"] = "column"
            chain = run(read_document(data))
            every = [o.utilisation for v in chain.verification.verdicts for o in v.outcomes if o.criterion == "sway"]
            self.assertEqual(len(every), pieces)
            np.testing.assert_allclose(every, w * 150 / 9, rtol=2e-4)


class Holds(unittest.TestCase):
    def joined(self, data):
        """By plane, sideways and along z, how far the first piece goes on beyond its end."""
        found = together(expand(read_document(data)))
        return [own.get(0, (0.0, 0.0))[1] for own in found.beyond]

    def test_rails_hold_one_way(self):
        self.assertEqual(self.joined(post(2)), [0.0, 4.5])
        self.assertEqual(self.joined(post(2, rails=False)), [4.5, 4.5])
        self.assertEqual(self.joined(post(3)), [0.0, 6.0])

    def test_a_beam_across_holds_and_a_bracket_does_not(self):
        data = post(2, rails=False)
        data["nodes"].append({"name": "e", "at": [3, 0, 4.5]})
        data["members"].append({"name": "b", "start": "p1", "end": "e", "section": "IPE 200", "material": "S355"})
        self.assertEqual(self.joined(data), [4.5, 4.5])
        data["supports"].append({"node": "e", "fixed": ["x", "y", "z"]})
        self.assertEqual(self.joined(data), [4.5, 0.0])

    def test_a_support_holds(self):
        data = post(2, rails=False)
        data["supports"].append({"node": "p1", "fixed": ["x"]})
        self.assertEqual(self.joined(data), [4.5, 0.0])

    def test_a_hinge_and_an_odd_turn_part_them(self):
        data = post(2, rails=False)
        data["members"][0]["releases"] = {"end": ["ry"]}
        self.assertEqual(self.joined(data), [4.5, 0.0])
        data = post(2, rails=False)
        data["members"][1]["roll"] = 90.0
        self.assertEqual(self.joined(data), [4.5, 4.5])
        data["members"][1]["roll"] = 45.0
        self.assertEqual(self.joined(data), [0.0, 0.0])

    def test_what_is_stiff_enough_holds_by_bending(self):
        # a strut of 2 × 6 m over a rafter of 12 m: 48 E I/L³ beside 4 π² E I/l³
        def strut(rafter):
            places = {"s": (0, 0, 0), "m": (0, 6, 0), "e": (0, 12, 0), "a": (-6, 6, 0), "b": (6, 6, 0)}
            pairs = [("s", "m", "IPE 160"), ("m", "e", "IPE 160"), ("a", "m", rafter), ("m", "b", rafter)]
            return {
                "nodes": [{"name": n, "at": at} for n, at in places.items()],
                "members": [
                    {"name": a + b, "start": a, "end": b, "section": s, "material": "S355"} for a, b, s in pairs
                ],
                "supports": [{"node": n, "fixed": FIXED} for n in "seab"],
            }

        need = 4 * np.pi**2 * 869.3 / 6**3
        for rafter, second in (("IPE 450", 33740.0), ("IPE 160", 869.3)):
            stiff = 48 * second / 12**3 > need
            self.assertEqual(self.joined(strut(rafter)), [0.0, 0.0 if stiff else 6.0])
            self.assertEqual(stiff, rafter == "IPE 450")

    def test_nearly_straight_on(self):
        # the second piece turned by 4° goes on, by 10° it does not
        for degrees, on in ((4, 4.5), (10, 0.0)):
            data = post(2, rails=False)
            data["nodes"][2]["at"] = [4.5 * sin(radians(degrees)), 0, 4.5 + 4.5 * cos(radians(degrees))]
            self.assertAlmostEqual(self.joined(data)[1], on)

    def test_where_a_chord_is_held(self):
        data = post(1)
        structure = expand(read_document(data))
        self.assertEqual(held_at(structure, structure.members[0]), [0.0, 9.0])


if __name__ == "__main__":
    unittest.main()
