"""Channels that bend: by hand, against the published buckling load, and structures that must not pass."""

import unittest
from dataclasses import replace
from math import inf, pi, sqrt

import numpy as np

from engine.catalogue.sections import section
from engine.catalogue.steels import E, G, material
from engine.chain import run
from engine.document import read_document
from engine.standards.en.checks.evaluated import evaluated
from engine.standards.en.summed import summed_buckling, summed_of, summed_section
from engine.verification.proof import prove
from engine.verification.single import everything
from tests.engine.helpers import FIXED, published
from tests.engine.test_unequal_flanges import found as found_in
from tests.engine.test_unequal_flanges import girder

UPE = "UPE 200"


def one(value):
    return np.array([[float(value)]])


def beam(load=(0, 0, -10), at="UPE 200", length=4.0, axial=0.0, **more):
    """A channel between forks under a line load in kN/m, with an axial force at its end."""
    return read_document(
        {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [length, 0, 0]}],
            "members": [{"name": "m", "start": "a", "end": "b", "section": at, "role": "main beam", **more}],
            "supports": [{"node": "a", "fixed": FIXED[:4]}, {"node": "b", "fixed": ["y", "z"]}],
            "cases": [{"name": "Q", "nature": "imposed"}],
            "combinations": [
                {"name": "C1", "use": "strength", "factors": {"Q": 1.0}},
                {"name": "D1", "use": "deflection", "factors": {"Q": 1.0}},
            ],
            "member_loads": [{"case": "Q", "member": "m", "value": list(load)}],
            "node_loads": [{"case": "Q", "node": "b", "force": [axial, 0, 0]}],
            "rules": {"loads_at": "shear centre", "imperfections": False},
        }
    )


def verdict(document):
    chain = run(document)
    return chain, chain.verification.verdicts[0]


def of(found, criterion):
    return next((o.utilisation for o in found.outcomes if o.criterion == criterion), None)


class Checks(unittest.TestCase):
    def test_classes_of_rolled_channels(self):
        # UPE 200: c/t_w = (200 − 22 − 26)/6 = 25.3, c/t_f = (80 − 6 − 13)/11 = 5.5
        p = summed_of(section(UPE), material("S355"))
        self.assertAlmostEqual(p.web, 152 / 6, delta=1e-9)
        self.assertAlmostEqual(p.flange, 61 / 11, delta=1e-9)
        self.assertEqual(p.cls, 1)

    def test_a_section_by_hand(self):
        s = section(UPE)
        p = summed_of(s, material("S355"))
        v = summed_section(p, one(-100e3), one(0), one(50e3), one(30e3), one(2e3), 1.0)
        A, W_y, W_z = s.A, s.Wpl_y, s.Wel_z
        by_hand = 100e3 / (A * 355e6) + 30e3 / (W_y * 355e6) + 2e3 / (W_z * 355e6)
        self.assertAlmostEqual(float(v["u_sum"][0, 0]), by_hand, delta=1e-12)
        self.assertAlmostEqual(float(v["u_Vz"][0, 0]), 50e3 * sqrt(3) / (s.Av_z * 355e6), delta=1e-12)
        # beyond half the resistance to shear
        V = 0.8 * s.Av_z * 355e6 / sqrt(3)
        v = summed_section(p, one(0), one(0), one(V), one(30e3), one(0), 1.0)
        self.assertAlmostEqual(float(v["u_NM"][0, 0]), 30e3 / ((1 - 0.36) * W_y * 355e6), delta=1e-9)

    def test_pressed_it_buckles_as_published(self):
        case = {c["id"]: c for c in published("steel-deep.json")["cases"]}["F02"]
        given, allow = case["inputs"]["section"], case["allow"]
        s = replace(section(UPE), It=given["It_mm4"] * 1e-12, Iw=given["Iw_mm6"] * 1e-18)
        p, L = summed_of(s, material("S275")), case["inputs"]["Lcr_mm"] / 1e3
        v = summed_buckling(p, one(-120e3), one(0), one(0), one(1), one(0), (L, L, L), one(L), 1.0)
        for name, key in (("Ncr_TF", "Ncr_lowest_kN"), ("Nb_Rd", "Nb_kN")):
            low, high = allow[key]
            self.assertTrue(low <= float(v[name][0, 0]) / 1e3 <= high, key)

    def test_a_beam_by_hand(self):
        s, L, q = section(UPE), 4.0, 10e3
        M = q * L**2 / 8
        N_z = pi**2 * E * s.Iz / L**2
        uniform = N_z * sqrt(s.Iw / s.Iz + G * s.It / N_z)
        slender = sqrt(s.Wpl_y * 355e6 / (1.13 * uniform))
        phi = 0.5 * (1 + 0.76 * (slender - 0.2) + slender**2)
        chi = 1 / (phi + sqrt(phi**2 - slender**2))
        _, found = verdict(beam())
        self.assertAlmostEqual(of(found, "single"), M / (chi * s.Wpl_y * 355e6), delta=0.01)
        self.assertAlmostEqual(of(found, "sum"), M / (s.Wpl_y * 355e6), delta=1e-6)
        self.assertIsNotNone(of(found, "deflection"))
        self.assertTrue(any("shear centre" in words for words in found.left_out))
        # the same held at its middle bears more
        _, held = verdict(beam(restraints_outer=[2.0]))
        self.assertLess(of(held, "single"), 0.8 * of(found, "single"))

    def test_moments_grow_near_the_critical_force(self):
        p, L = summed_of(section(UPE), material("S355")), 4.0
        s = section(UPE)
        N_cr = pi**2 * E * s.Iz / L**2
        v = [
            summed_buckling(p, one(-share * N_cr), one(0), one(1e3), one(1), one(0), (L, L, L), one(L), 1.0)
            for share in (0.0, 0.5, 0.9)
        ]
        for found, k in zip(v, (1, 2, 10), strict=True):
            self.assertAlmostEqual(float(found["k_z"][0, 0]), k, delta=1e-6)
        beyond = summed_buckling(p, one(-1.1 * N_cr), one(0), one(1e3), one(1), one(0), (L, L, L), one(L), 1.0)
        self.assertEqual(float(beyond["u_single"][0, 0]), inf)


class Solid(unittest.TestCase):
    def test_a_flat_on_edge_by_hand(self):
        # 200 × 20: W_pl = b h²/4, I_z = h b³/12, I_t ≈ h b³/3 (1 − 0.63 b/h); M_cr = π/L √(E I_z G I_t); table 6.4: curve d
        h, b, L, q, fy = 0.2, 0.02, 3.0, 4e3, 355e6
        M, W = q * L**2 / 8, b * h**2 / 4
        uniform = pi / L * sqrt(E * h * b**3 / 12 * G * h * b**3 / 3 * (1 - 0.63 * b / h))
        slender = sqrt(W * fy / (1.13 * uniform))
        phi = 0.5 * (1 + 0.76 * (slender - 0.2) + slender**2)
        chi = 1 / (phi + sqrt(phi**2 - slender**2))
        _, found = verdict(beam((0, 0, -4), "RECT 20x200", L))
        self.assertAlmostEqual(of(found, "single") / (M / (chi * W * fy)), 1, delta=0.012)
        self.assertAlmostEqual(of(found, "sum"), M / (W * fy), delta=1e-6)
        self.assertFalse(any("shear centre" in words for words in found.left_out))
        # its load on top of it harms, and laid flat it does not buckle sideways
        data = beam((0, 0, -4), "RECT 20x200", L).model_dump(mode="json")
        above = verdict(read_document(data | {"rules": {"imperfections": False}}))[1]
        self.assertGreater(of(above, "single"), 1.02 * of(found, "single"))
        _, flat = verdict(beam((0, 0, -0.4), "RECT 200x20", L))
        self.assertAlmostEqual(of(flat, "single"), 400 * L**2 / 8 / (h * b**2 / 4 * fy), delta=1e-6)

    def test_a_round_by_hand(self):
        # W_pl = d³/6; pressed: curve c, moments grown by 1/(1 − N/N_cr)
        d, L, fy = 0.06, 2.0, 335e6
        A, second, W = pi * d**2 / 4, pi * d**4 / 64, d**3 / 6
        N, M = 60e3, 1.5e3 * L**2 / 8
        N_cr = pi**2 * E * second / L**2
        slender = sqrt(A * fy / N_cr)
        phi = 0.5 * (1 + 0.49 * (slender - 0.2) + slender**2)
        chi = 1 / (phi + sqrt(phi**2 - slender**2))
        used = N / (chi * A * fy) + M / (1 - N / N_cr) / (W * fy)
        data = beam((0, 0, -1.5), "RD 60", L, -60).model_dump(mode="json")
        found = verdict(read_document(data | {"analysis": {"order": "first", "shear_deformation": False}}))[1]
        self.assertAlmostEqual(of(found, "single") / used, 1, delta=2e-3)
        self.assertAlmostEqual(of(found, "sum"), N / (A * fy) + M / (W * fy), delta=1e-3)

    def test_bent_both_ways(self):
        for name, W in (("RECT 20x200", (0.02 * 0.2**2 / 4, 0.2 * 0.02**2 / 4)), ("RD 60", (0.06**3 / 6,) * 2)):
            p = summed_of(section(name), material("S355"))
            v = summed_section(p, one(20e3), one(0), one(0), one(2e3), one(500), 1.0)
            by_hand = 20e3 / (p.section.A * p.fy) + 2e3 / (W[0] * p.fy) + 500 / (W[1] * p.fy)
            self.assertAlmostEqual(float(v["u_sum"][0, 0]) / by_hand, 1, delta=1e-3)

    def test_what_falls_does_not_pass(self):
        for name, (h, b) in {"RECT 20x200": (0.2, 0.02), "RECT 200x20": (0.02, 0.2)}.items():
            yields = b * h**2 / 4 * 355e6 * 8 / 9 / 1e3
            for document in (
                beam((0, 0, -1.02 * yields), name, 3.0),
                beam((0, 0, -0.01), name, 3.0, axial=-1.02 * pi**2 * E * 0.2 * 0.02**3 / 12 / 9 / 1e3),
            ):
                self.assertEqual(verdict(document)[1].status, "fails")

    def test_the_proof_is_the_verdict(self):
        for name in ("RECT 20x200", "RECT 200x20", "RD 80"):
            chain, found = verdict(beam((0, 0.2, -0.5), name, 3.0, axial=-1))
            for o in found.outcomes:
                proof = prove(chain.verification, chain.combinations, 0, o)
                self.assertAlmostEqual(proof.utilisation / o.utilisation, 1, delta=1e-9)
                buckles = any("M_{cr}" in step.symbol for step in proof.steps)
                self.assertEqual(buckles, o.criterion == "single" and name == "RECT 20x200")


class Tees(unittest.TestCase):
    def test_sideways_as_an_eigenvalue(self):
        # a welded I section whose lower flange is the end of the stem, by the eigenvalue of the member: both ways, 2 and 4 m
        for b, h, tf, tw in ((120, 120, 12, 12), (200, 150, 15, 10), (150, 150, 6, 5)):
            p = summed_of(section(f"TEE {b}x{h}x{tf}x{tw}"), material("S235"))
            sizes = {"h": h, "b": b, "tf": tf, "tw": tw, "b2": tw + 0.1, "tf2": tw}
            for L in (2.0, 4.0):
                for side in (1, -1):
                    chain, _, outcomes = found_in(girder(moment=side * 5.0, sizes=sizes, length=L))
                    exact = (
                        5e3 * evaluated(chain.verification.checks.grounds, 0, outcomes["general"]).values["alpha_op"]
                    )
                    v = summed_buckling(
                        p, one(0), one(1e3), one(0), one(1), one(0), (L, L, L), one(L), 1.0, side=one(side)
                    )
                    self.assertAlmostEqual(float(v["Mcr"][0, 0]) / exact, 1, delta=0.02)

    def test_a_beam_by_hand(self):
        # TEE 120 × 120 × 12 × 12: by parts; elastic, its flange up: A, z_f, I_y, β_y by hand
        b = h = 120.0
        t, L, q = 12.0, 3.0, 6e3
        A = b * t + (h - t) * t
        top = (b * t * t / 2 + (h - t) * t * (t + (h - t) / 2)) / A
        Iy = b * t**3 / 12 + b * t * (top - 6) ** 2 + t * (h - t) ** 3 / 12 + (h - t) * t * (t + (h - t) / 2 - top) ** 2
        W = Iy / (h - top)
        M = q * L**2 / 8
        data = beam((0, 0, -6), "TEE 120x120x12x12", L).model_dump(mode="json")
        data["members"][0]["material"] = "S235"
        found = verdict(read_document(data))[1]
        self.assertAlmostEqual(of(found, "sum") / (M / (W * 1e-9 * 235e6)), 1, delta=1e-3)
        Iz = t * b**3 / 12 + (h - t) * t**3 / 12
        N_z = pi**2 * E * Iz * 1e-12 / L**2
        s = section("TEE 120x120x12x12")
        cubes = b * ((top) ** 4 - (top - t) ** 4) / 4 + t * ((top - t) ** 4 - (top - h) ** 4) / 4
        cubes += (top - 6) * t * b**3 / 12 + (top - t - (h - t) / 2) * (h - t) * t**3 / 12
        skew = ((top - 6) - cubes / (2 * Iy)) * 1e-3
        uniform = N_z * sqrt(s.Iw / s.Iz + G * s.It / N_z)
        for turned, sign in ((0, 1), (180, -1)):
            data["members"][0]["roll"] = turned
            critical = N_z * sign * skew + sqrt((N_z * skew) ** 2 + uniform**2)
            slender = sqrt(W * 1e-9 * 235e6 / critical)
            phi = 0.5 * (1 + 0.76 * (slender - 0.2) + slender**2)
            chi = min(1 / (phi + sqrt(phi**2 - slender**2)), 1)
            chain, found = verdict(read_document(data))
            self.assertAlmostEqual(of(found, "single") / (M / (chi * W * 1e-9 * 235e6)), 1, delta=2e-3)
            for o in found.outcomes:
                proof = prove(chain.verification, chain.combinations, 0, o)
                self.assertAlmostEqual(proof.utilisation / o.utilisation, 1, delta=1e-9)
        self.assertTrue(any("loads sideways" in words for words in found.left_out))
        # a load on the end of its stem, which points up, harms it
        data["rules"]["loads_at"] = "upper flange"
        stem = of(verdict(read_document(data))[1], "single")
        self.assertGreater(stem, 1.01 * of(found, "single"))

    def test_slender_ones_are_not_covered(self):
        # half an IPE 300: (150 − 10.7 − 15)/7.1 = 17.5 > 13.9 ε
        found = verdict(beam((0, 0, -1), "T IPE 300", 3.0))[1]
        self.assertEqual(found.status, "not covered")
        self.assertTrue(any("class 4" in words for words in found.not_covered))

    def test_what_falls_does_not_pass(self):
        s = section("T HEA 200")
        yields = s.Wel_y * 355e6 * 8 / 9 / 1e3
        N_cr = float(
            summed_buckling(summed_of(s, material("S355")), *map(one, (-1, 0, 0, 1, 0)), (3, 3, 3), one(3), 1.0)[
                "Ncr_TF"
            ][0, 0]
        )
        for document in (
            beam((0, 0, -1.02 * yields), "T HEA 200", 3.0),
            beam((0, 0, 1.02 * yields), "T HEA 200", 3.0),
            beam((0, 0, -0.01), "T HEA 200", 3.0, axial=-1.02 * N_cr / 1e3),
        ):
            self.assertEqual(verdict(document)[1].status, "fails")


class Verdicts(unittest.TestCase):
    def test_what_falls_does_not_pass(self):
        s = section(UPE)
        yields = s.Wpl_y * 355e6 * 8 / 16
        # bent beyond its section, pressed beyond its buckling load, sheared
        for document in (
            beam((0, 0, -1.05 * yields / 1e3)),
            beam((0, 0, -0.01), axial=-1.02 * pi**2 * E * s.Iz / 16 / 1e3),
            beam((0, -1.05 * s.Wel_z * 355e6 * 8 / 16 / 1e3, 0)),
            beam((0, 0, -0.45 * yields / 1e3), axial=-0.45 * pi**2 * E * s.Iz / 16 / 1e3),
        ):
            self.assertEqual(verdict(document)[1].status, "fails")

    def test_drawn_in_pieces_it_bears_no_more(self):
        whole = of(verdict(beam())[1], "single")
        data = beam().model_dump(mode="json")
        data["nodes"].insert(1, {"name": "c", "at": [2, 0, 0]})
        first = data["members"][0] | {"end": "c"}
        data["members"] = [first, first | {"name": "n", "start": "c", "end": "b"}]
        data["member_loads"].append(data["member_loads"][0] | {"member": "n"})
        chain = run(read_document(data))
        cut = max(of(v, "single") for v in chain.verification.verdicts)
        self.assertGreaterEqual(cut, whole - 1e-9)

    def test_torsion_and_class_4_are_not_covered(self):
        data = beam().model_dump(mode="json")
        data["node_loads"] = [{"case": "Q", "node": "b", "moment": [3, 0, 0]}]
        _, found = verdict(read_document(data))
        self.assertIn("torsion", " ".join(found.not_covered))

    def test_proofs_and_every_combination(self):
        for document in (beam(), beam((0, -1, -6), axial=-40.0), beam(axial=50.0)):
            chain, found = verdict(document)
            for outcome in found.outcomes:
                proof = prove(chain.verification, chain.combinations, 0, outcome)
                self.assertAlmostEqual(proof.utilisation, outcome.utilisation, delta=1e-9)
                self.assertNotIn("–", [step.value for step in proof.steps])
            own = {r.criterion: float(r.utilisation[r.worst]) for r in everything(chain.verification, 0)}
            self.assertEqual(set(own), {o.criterion for o in found.outcomes})
            for outcome in found.outcomes:
                self.assertAlmostEqual(own[outcome.criterion], outcome.utilisation, delta=1e-9)
