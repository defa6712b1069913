"""Channels that bend: by hand, against the published buckling load, and structures that must not pass."""

import unittest
from dataclasses import replace
from math import inf, pi, sqrt

import numpy as np

from engine.catalogue.sections import section
from engine.catalogue.steels import E, G, material
from engine.chain import run
from engine.document import read_document
from engine.standards.en.channels import channel_buckling, channel_of, channel_section
from engine.verification.proof import prove
from engine.verification.single import everything
from tests.engine.helpers import FIXED, published

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
        p = channel_of(section(UPE), material("S355"))
        self.assertAlmostEqual(p.web, 152 / 6, delta=1e-9)
        self.assertAlmostEqual(p.flange, 61 / 11, delta=1e-9)
        self.assertEqual(p.cls, 1)

    def test_a_section_by_hand(self):
        s = section(UPE)
        p = channel_of(s, material("S355"))
        v = channel_section(p, one(-100e3), one(0), one(50e3), one(30e3), one(2e3), 1.0)
        A, W_y, W_z = s.A, s.Wpl_y, s.Wel_z
        by_hand = 100e3 / (A * 355e6) + 30e3 / (W_y * 355e6) + 2e3 / (W_z * 355e6)
        self.assertAlmostEqual(float(v["u_sum"][0, 0]), by_hand, delta=1e-12)
        self.assertAlmostEqual(float(v["u_Vz"][0, 0]), 50e3 * sqrt(3) / (s.Av_z * 355e6), delta=1e-12)
        # beyond half the resistance to shear
        V = 0.8 * s.Av_z * 355e6 / sqrt(3)
        v = channel_section(p, one(0), one(0), one(V), one(30e3), one(0), 1.0)
        self.assertAlmostEqual(float(v["u_NM"][0, 0]), 30e3 / ((1 - 0.36) * W_y * 355e6), delta=1e-9)

    def test_pressed_it_buckles_as_published(self):
        case = {c["id"]: c for c in published("steel-deep.json")["cases"]}["F02"]
        given, allow = case["inputs"]["section"], case["allow"]
        s = replace(section(UPE), It=given["It_mm4"] * 1e-12, Iw=given["Iw_mm6"] * 1e-18)
        p, L = channel_of(s, material("S275")), case["inputs"]["Lcr_mm"] / 1e3
        v = channel_buckling(p, one(-120e3), one(0), one(0), one(1), one(0), (L, L, L), one(L), 1.0)
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
        p, L = channel_of(section(UPE), material("S355")), 4.0
        s = section(UPE)
        N_cr = pi**2 * E * s.Iz / L**2
        v = [
            channel_buckling(p, one(-share * N_cr), one(0), one(1e3), one(1), one(0), (L, L, L), one(L), 1.0)
            for share in (0.0, 0.5, 0.9)
        ]
        for found, k in zip(v, (1, 2, 10), strict=True):
            self.assertAlmostEqual(float(found["k_z"][0, 0]), k, delta=1e-6)
        beyond = channel_buckling(p, one(-1.1 * N_cr), one(0), one(1e3), one(1), one(0), (L, L, L), one(L), 1.0)
        self.assertEqual(float(beyond["u_single"][0, 0]), inf)


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
